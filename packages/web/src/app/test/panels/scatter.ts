import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, type OnDestroy } from '@angular/core';
import { type QtyField, type RowsField, type UnitId } from '@keen-mortar/core';
import { axis, ChartBox, type Drawing } from '../../ui/chart';
import { keyedAt } from '../form/inputs';
import { Asker } from '../long/background';
import type { CurveTask } from '../long/tasks';
import { ComputationStore } from '../computation.store';
import { columnOf, drawnIn, figureOf, pairsOf, textsOf, type Point, fieldOf } from '../drawn';

/** So many places along the line at which the core is asked for the interval. */
const PLACES = 24;

interface Axes {
  readonly x: string;
  readonly y: string;
  readonly middle: string;
  readonly xUnit: UnitId;
}

const AXES: Readonly<Record<string, (stress: UnitId) => Axes>> = {
  'early-warning': (stress) => ({ x: 'early', y: 'late', middle: 'expected', xUnit: stress }),
  'rebound-strength': () => ({ x: 'rebound', y: 'strength', middle: 'strength', xUnit: '1' }),
};

/** Pairs with their line and the interval in which nine of ten fall; the one asked about on it. */
@Component({
  selector: 'km-scatter',
  imports: [ChartBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<km-chart [drawing]="drawing()" [says]="says()" [height]="320" />`,
  styleUrl: './panel.css',
})
export class Scatter implements OnDestroy {
  private readonly store = inject(ComputationStore);
  private readonly stress = computed((): UnitId => (this.store.system() === 'us' ? 'psi' : 'MPa'));
  private readonly axes = computed(() => AXES[this.store.methodId()]!(this.stress()));
  private readonly rows = computed(() => fieldOf<RowsField>(this.store.method(), 'pairs'));
  private readonly pairs = computed(() => {
    const { x, y, xUnit } = this.axes();
    const inputs = this.store.still();
    return pairsOf(columnOf(inputs, 'pairs', this.rows(), x, xUnit), columnOf(inputs, 'pairs', this.rows(), y, this.stress()));
  });

  /** The core's own answers at places across the pairs: the curve is drawn through them, not reckoned again. */
  private readonly curve = signal<Record<'middle' | 'low' | 'high', Point[]>>({ middle: [], low: [], high: [] });
  private readonly asker = new Asker<CurveTask>((answer, task) => {
    const along = (id: string): Point[] =>
      (answer[id] ?? []).flatMap((y, i) => (y === null ? [] : [{ x: Number(task.places[i]!.text), y }]));
    this.curve.set({ middle: along(this.axes().middle), low: along('low'), high: along('high') });
  });

  constructor() {
    effect(() => {
      const [method, pairs, inputs] = [this.store.methodId(), this.pairs(), this.store.still()];
      const { middle, xUnit } = this.axes();
      const [from, to] = [Math.min(...pairs.map(({ x }) => x)), Math.max(...pairs.map(({ x }) => x))];
      if (pairs.length < 2 || !(to > from)) return this.curve.set({ middle: [], low: [], high: [] });
      const places = Array.from({ length: PLACES + 1 }, (_p, i) => ({
        text: (from + ((to - from) * i) / PLACES).toPrecision(6),
        unit: xUnit,
      }));
      const how = { variant: this.store.variant(), system: this.store.system() };
      this.asker.ask({ kind: 'curve', method, ...how, inputs, along: 'now', places, results: [middle, 'low', 'high'] });
    });
  }

  ngOnDestroy(): void {
    this.asker.end();
  }

  private readonly now = computed((): (Point & { low: number | null; high: number | null }) | null => {
    const { middle, xUnit } = this.axes();
    const e = this.store.working();
    const x = drawnIn(keyedAt(this.store.still(), 'now'), fieldOf<QtyField>(this.store.method(), 'now'), xUnit);
    const y = figureOf(e, middle);
    return y === null || !Number.isFinite(x) ? null : { x, y, low: figureOf(e, 'low'), high: figureOf(e, 'high') };
  });

  private readonly specified = computed(() => {
    const field = fieldOf<QtyField>(this.store.method(), 'specified');
    const value = field ? drawnIn(keyedAt(this.store.still(), 'specified'), field, this.stress()) : NaN;
    return Number.isFinite(value) ? value : null;
  });

  protected readonly says = computed(() => {
    const now = this.now();
    return `${this.pairs().length} pairs with their line${now ? `; at ${now.x} expect ${textsOf(this.store.method(), this.store.working(), this.axes().middle)[0]} ${this.stress()}` : ''}`;
  });

  protected readonly drawing = computed((): Drawing => {
    const [pairs, { middle, low, high }, now, specified] = [this.pairs(), this.curve(), this.now(), this.specified()];
    const ends = middle.length > 0 ? [middle[0]!.x, middle.at(-1)!.x] : [];
    const labels = this.rows().of as Record<string, { label: string }>;
    const { x, y, xUnit } = this.axes();
    return (inks) => {
      const line = (data: Point[], colour: string, more: object = {}) => ({
        data,
        showLine: true,
        pointRadius: 0,
        borderColor: colour,
        borderWidth: 1.5,
        ...more,
      });
      return {
        type: 'scatter',
        data: {
          datasets: [
            { data: now ? [{ x: now.x, y: now.y }] : [], pointRadius: 8, backgroundColor: inks.now },
            { data: pairs, pointRadius: 4, backgroundColor: inks.ink },
            line(
              now && now.low !== null && now.high !== null
                ? [
                    { x: now.x, y: now.low },
                    { x: now.x, y: now.high },
                  ]
                : [],
              inks.now,
              { borderWidth: 3 },
            ),
            line(middle, inks.ink, { borderWidth: 2 }),
            line(specified === null ? [] : ends.map((at) => ({ x: at, y: specified })), inks.out, { borderDash: [6, 4] }),
            line(high, inks.within, { fill: '+1', backgroundColor: inks.zone }),
            line(low, inks.within),
          ],
        },
        options: {
          scales: {
            x: axis(`${labels[x]!.label}${xUnit === '1' ? '' : `, ${xUnit}`}`),
            y: axis(`${labels[y]!.label}, ${this.stress()}`),
          },
        },
      };
    };
  });
}
