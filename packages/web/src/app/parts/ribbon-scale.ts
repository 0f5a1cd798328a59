import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Ribbon } from './ribbon';

/** The scale of a ribbon of time: its stretches, its ticks, and now; with the hatching of hours in which nobody is there. */
@Component({
  selector: 'km-ribbon-scale',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (s of axis().stretches; track s.x) {
      <span class="soft stretch" [style.left.%]="s.x * 100" [style.width.%]="(s.to - s.x) * 100">{{ s.label }}</span>
    }
    @for (t of axis().ticks; track t.x) {
      <span class="fig tick" [class.ends]="t.ends" [style.left.%]="t.x * 100">{{ t.text }}</span>
    }
    <span class="fig nowtick" [style.left.%]="axis().x(now()) * 100">{{ says() }}</span>
    <svg class="unseen" aria-hidden="true">
      <defs>
        <pattern id="shut" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V9" stroke="var(--hair)" stroke-width="3" />
        </pattern>
      </defs>
    </svg>
  `,
  styles: `
    :host {
      position: relative;
      height: 44px;
    }
    span {
      position: absolute;
      white-space: nowrap;
      font-size: 13px;
    }
    .stretch {
      top: 2px;
      text-align: center;
      overflow: hidden;
    }
    .tick {
      bottom: 3px;
      transform: translateX(-50%);
    }
    .tick.ends {
      transform: translateX(-100%);
    }
    .nowtick {
      bottom: 2px;
      transform: translateX(-50%);
      background: var(--now);
      color: var(--on-now);
      padding: 0 5px;
      font-weight: 700;
    }
  `,
})
export class RibbonScale {
  readonly axis = input.required<Ribbon>();
  /** ms */
  readonly now = input.required<number>();
  readonly says = input.required<string>();
}
