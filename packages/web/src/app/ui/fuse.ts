import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { left, type Fuse } from '@keen-mortar/core/fuses';

/** A window that burns down: solid is time left, dots are time gone, a bead at the end. */
@Component({
  selector: 'km-fuse',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="t" [class.hot]="hot()" [title]="'At its end: ' + fuse().then">
      <span>{{ fuse().label }}</span>
      <b class="fig">{{ time() }}</b>
    </div>
    <svg width="100%" height="12" aria-hidden="true">
      <line x1="0" x2="100%" y1="6" y2="6" stroke="var(--rule)" stroke-dasharray="2 3" />
      @if (fuse().left > 0) {
        <line x1="0" [attr.x2]="percent()" y1="6" y2="6" stroke-width="6" [attr.stroke]="colour()" />
        <circle [attr.cx]="percent()" cy="6" r="5.5" [attr.fill]="colour()" />
      }
    </svg>
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    .t {
      display: flex;
      justify-content: space-between;
      align-items: baseline;
      gap: 8px;
      font-size: 15px;
    }
    .t b {
      white-space: nowrap;
      font-size: 23px;
      line-height: 1.1;
      letter-spacing: -0.04em;
    }
    .hot,
    .hot b {
      color: var(--now);
    }
    .hot span {
      font-weight: 700;
    }
    svg {
      display: block;
      margin-top: 3px;
      overflow: visible;
    }
    @media (max-width: 760px) {
      .t {
        font-size: 12.5px;
        gap: 6px;
      }
      .t span {
        overflow: hidden;
        text-overflow: ellipsis;
        white-space: nowrap;
      }
      .t b {
        font-size: 15px;
      }
      :host(.first) .t {
        font-size: 15px;
      }
      :host(.first) .t span {
        font-weight: 720;
        white-space: normal;
      }
      :host(.first) .t b {
        font-size: 36px;
        font-weight: 750;
      }
    }
  `,
})
export class FuseBar {
  readonly fuse = input.required<Fuse>();
  protected readonly hot = computed(() => this.fuse().state === 'last');
  protected readonly colour = computed(() => (this.hot() ? 'var(--now)' : 'var(--deep)'));
  protected readonly percent = computed(() => `${Math.round(this.fuse().share * 1000) / 10}%`);
  protected readonly time = computed(() => left(this.fuse().left));
}
