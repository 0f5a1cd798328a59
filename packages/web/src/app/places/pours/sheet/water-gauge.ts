import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { unitLabel, type Evaluation } from '@keen-mortar/core';

/** Below it nothing is worth drawing: of the bar, %. */
const FROM = 0.7;

/** Water in the load, what may be added, and where the w/cm ends, as one bar: the room is what people look for. */
@Component({
  selector: 'km-water-gauge',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (bar(); as b) {
      <div class="bar" role="img" [attr.aria-label]="b.said">
        <span class="in" [style.width.%]="b.stands"></span>
        <span class="add" [style.left.%]="b.stands" [style.width.%]="b.room"></span>
        <span class="limit" [style.left.%]="b.ceiling"></span>
      </div>
      <p class="small">
        <span class="fig">{{ b.standsText }}</span> in the load
        @if (b.amount) {
          <b class="may">+ {{ b.amount }}</b>
        }
        <span class="most"
          >&ngsp;most <span class="fig">{{ b.ceilingText }}</span></span
        >
      </p>
    }
  `,
  styles: `
    .bar {
      position: relative;
      height: 34px;
      background: var(--out-wash);
      border: 1px solid var(--rule);
    }
    .bar span {
      position: absolute;
      inset-block: 0;
    }
    .in {
      left: 0;
      background: var(--water, var(--steel-d));
    }
    .add {
      background: var(--deep);
    }
    .limit {
      border-left: 4px solid var(--ink);
      margin-left: -2px;
      inset-block: -5px !important;
    }
    p {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 10px;
      padding-top: 6px;
    }
    .may {
      color: var(--deep);
    }
    .most {
      margin-left: auto;
    }
  `,
})
export class WaterGauge {
  readonly evaluation = input.required<Evaluation>();

  protected readonly bar = computed(() => {
    const of = (id: string) => this.evaluation().results.find((r) => r.id === id && r.state === 'given' && r.reported !== null);
    const [stands, ceiling, amount] = [of('stands'), of('ceiling'), of('amount')];
    if (!stands || !ceiling) return null;
    const text = (r: NonNullable<typeof stands>): string => `${r.reported} ${unitLabel(r.unit)}`;
    const [now, most, add] = [stands, ceiling, amount].map((r) => Number(r?.reported ?? 0)) as [number, number, number];
    // Drawn from where it matters, and a little past whichever is more.
    const [from, to] = [Math.min(now, most) * FROM, Math.max(now, most) * 1.06];
    const at = (value: number): number => (100 * (value - from)) / (to - from);
    return {
      stands: at(now),
      room: at(now + add) - at(now),
      ceiling: at(most),
      standsText: text(stands),
      ceilingText: text(ceiling),
      amount: amount ? text(amount) : '',
      said: `Water in the load ${text(stands)}, at most ${text(ceiling)}`,
    };
  });
}
