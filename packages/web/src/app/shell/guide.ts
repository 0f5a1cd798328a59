import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { session, SessionActions } from '../state/session';
import { Pictogram } from '../ui/pictogram';

/** A first pour, step by step, by the address that somebody is at. */
const STEPS: readonly { readonly at: RegExp; readonly says: string }[] = [
  { at: /^\/who/, says: 'Say who you are: press a name. Every reading will carry it.' },
  { at: /^\/pours$/, says: 'Open today’s pour, the one in the warm band.' },
  {
    at: /^\/pours\/[^/]+\/loads\/new/,
    says: 'Key the ticket: a number, a truck, when it was batched, and for each material about what the design column says. Exchange cement and water once, and see what it says.',
  },
  {
    at: /^\/pours\/[^/]+$/,
    says: 'Each load has a line. Press “First portion: start sample” for a load that has none, or “New load” to key a ticket first.',
  },
  {
    at: /^\/samples\//,
    says: 'Press “Another portion”, then “Combined and turned”: the clocks burn from now. Open Slump: choose True, key 4.8, 1:52 and 95, and keep it. The verdict stands below while you type; try 950, or 3 3/4 in.',
  },
];

/** A short guided first pour on the demonstration, dismissed for good. */
@Component({
  selector: 'km-guide',
  imports: [ButtonDirective, Pictogram],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (step(); as s) {
      <div class="bar" role="note" aria-label="First pour">
        <km-pic name="trainee" [size]="26" />
        <p>
          <b>First pour, {{ s.number }} of {{ steps }}.</b> {{ s.says }}
        </p>
        <button pButton severity="secondary" type="button" (click)="end()">End the guide</button>
      </div>
    }
  `,
  styles: `
    .bar {
      display: flex;
      align-items: center;
      gap: 14px;
      padding: 6px 16px;
      background: var(--deep-wash);
      border-top: 1px solid var(--deep);
    }
    p {
      flex: 1;
      font-size: 15px;
    }
    @media (max-width: 640px) {
      .bar {
        padding: 4px 10px;
        gap: 8px;
      }
      p {
        font-size: 13.5px;
      }
    }
  `,
})
export class Guide {
  private readonly store = inject(Store);
  readonly url = input.required<string>();
  private readonly on = this.store.selectSignal(session.selectGuide);
  protected readonly steps = STEPS.length;
  protected readonly step = computed(() => {
    if (!this.on()) return null;
    const path = this.url().split(/[?#]/)[0]!;
    const i = STEPS.findIndex(({ at }) => at.test(path));
    // Numbered as they are walked: the pour before its ticket.
    const order = [0, 1, 3, 2, 4];
    return i < 0 ? null : { number: order.indexOf(i) + 1, says: STEPS[i]!.says };
  });

  protected end(): void {
    this.store.dispatch(SessionActions.guideEnded());
  }
}
