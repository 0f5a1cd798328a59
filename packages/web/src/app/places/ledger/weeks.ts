import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import type { Week } from './ledger.store';

const SHOWN = 26;
const HEIGHT = 44;
const MONTH = new Intl.DateTimeFormat('en-GB', { month: 'short', timeZone: 'UTC' });
const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', timeZone: 'UTC' });

/** How many tests each week had, and in which something was out: a press takes the week. */
@Component({
  selector: 'km-weeks',
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="soft small">Tests by week</p>
    <ol>
      @for (w of bars(); track w.week) {
        <li>
          <button
            pButton
            [text]="true"
            type="button"
            [attr.aria-label]="w.says"
            [attr.aria-pressed]="w.chosen"
            [class.chosen]="w.chosen"
            (click)="taken.emit(w.week)"
          >
            @if (w.outs > 0) {
              <svg width="10" height="9" aria-hidden="true"><path d="M0 9H10L5 0Z" fill="var(--out)" /></svg>
            }
            <i [style.height.px]="w.height"></i>
          </button>
          <span class="small soft">{{ w.month }}</span>
        </li>
      }
    </ol>
  `,
  styles: `
    ol {
      display: flex;
      gap: 1px;
      align-items: flex-end;
    }
    li {
      flex: 1 1 0;
      min-width: 0;
      max-width: 34px;
      display: grid;
    }
    button {
      display: grid;
      justify-content: stretch;
      justify-items: center;
      align-content: end;
      gap: 1px;
      min-width: 0;
      height: 58px;
      padding: 0 1px;
      border: 0;
      border-radius: 0;
      border-bottom: 1px solid var(--rule);
      background: none;
      cursor: pointer;
    }
    i {
      width: 100%;
      min-height: 2px;
      background: var(--con);
    }
    button:hover i {
      background: var(--con-d);
    }
    button.chosen {
      background: var(--deep-wash);
      outline: 2px solid var(--deep);
    }
    button.chosen i {
      background: var(--deep);
    }
    span {
      height: 18px;
      overflow: visible;
      white-space: nowrap;
    }
  `,
})
export class Weeks {
  readonly weeks = input.required<readonly Week[]>();
  /** Its Monday, where one is chosen. */
  readonly chosen = input<string | null>(null);
  readonly taken = output<string>();

  protected readonly bars = computed(() => {
    const all = this.weeks().slice(-SHOWN);
    const most = Math.max(1, ...all.map((w) => w.count));
    return all.map((w, i) => {
      const at = new Date(`${w.week}T00:00:00Z`);
      const before = i === 0 ? null : new Date(`${all[i - 1]!.week}T00:00:00Z`);
      return {
        ...w,
        height: Math.round((w.count / most) * HEIGHT),
        chosen: w.week === this.chosen(),
        month: before?.getUTCMonth() === at.getUTCMonth() ? '' : MONTH.format(at),
        says: `Week of ${DAY.format(at)}: ${w.count} tests${w.outs > 0 ? `, ${w.outs} out` : ''}`,
      };
    });
  });
}
