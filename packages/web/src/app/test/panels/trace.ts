import { ButtonDirective } from 'primeng/button';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { simulatedTrace, type AnyInputs, type RowsField, type UnitId } from '@keen-mortar/core';
import { axis, ChartBox, type Drawing } from '../../ui/chart';
import { ComputationStore } from '../computation.store';
import { columnOf, pairsOf, seriesOf, fieldOf } from '../drawn';

/** How the simulated machine is driven: as told, a little too fast, far too slow. */
const DRIVEN = [
  { id: 'right', label: 'at its rate', rate: 0.25 },
  { id: 'fast', label: 'too fast', rate: 0.38 },
  { id: 'slow', label: 'too slow', rate: 0.14 },
] as const;

/** Load against time, the latter half that counts, and a simulated machine to try it on. */
@Component({
  selector: 'km-trace',
  imports: [ChartBox, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="pick">
      <span>Simulated machine, driven</span>
      @for (d of driven; track d.id) {
        <button type="button" pButton severity="secondary" [attr.data-testid]="'simulate-' + d.id" (click)="simulate(d.rate)">
          {{ d.label }}
        </button>
      }
    </p>
    <km-chart [drawing]="drawing()" [says]="says()" [height]="290" />
  `,
  styleUrl: './panel.css',
})
export class Trace {
  private readonly store = inject(ComputationStore);
  protected readonly driven = DRIVEN;
  private readonly runs = signal(1);

  /** As the core gives the line. */
  private readonly unit = computed((): UnitId => (this.store.system() === 'us' ? 'lbf' : 'kN'));
  private readonly points = computed(() => {
    const rows = fieldOf<RowsField>(this.store.method(), 'trace');
    const inputs = this.store.still();
    return pairsOf(columnOf(inputs, 'trace', rows, 'time', 's'), columnOf(inputs, 'trace', rows, 'load', this.unit()));
  });
  protected readonly says = computed(() => {
    const most = Math.max(0, ...this.points().map(({ y }) => y));
    return `Load against time, ${this.points().length} points, largest ${most} ${this.unit()}`;
  });

  protected readonly drawing = computed((): Drawing => {
    const points = this.points();
    const e = this.store.working();
    const ends = seriesOf(e, 'fittedAt');
    const counts = (x: number): boolean => ends.length > 0 && x >= ends[0]! && x <= ends.at(-1)!;
    const fitted = pairsOf(seriesOf(e, 'fittedAt'), seriesOf(e, 'fitted'));
    return (inks) => ({
      type: 'scatter',
      data: {
        datasets: [
          { data: fitted, showLine: true, borderColor: inks.now, borderWidth: 3, pointRadius: 0 },
          {
            data: points,
            showLine: true,
            borderColor: inks.soft,
            borderWidth: 1,
            pointRadius: 3,
            backgroundColor: points.map(({ x }) => (counts(x) ? inks.ink : inks.hair)),
          },
        ],
      },
      options: { scales: { x: axis('Time, s', { beginAtZero: true }), y: axis(`Load, ${this.unit()}`, { beginAtZero: true }) } },
    });
  });

  protected simulate(rate: number): void {
    this.runs.update((n) => n + 1);
    const trace = simulatedTrace({ diameter: 150, strength: 38, rate, seed: this.runs() });
    const rows = trace.map(({ time, load }) => ({ time: { text: String(time), unit: 's' }, load: { text: String(load), unit: 'kN' } }));
    const inputs = { ...this.store.inputs(), diameter: { text: '150', unit: 'mm' }, trace: rows } as unknown as AnyInputs;
    this.store.fill(inputs, `A simulated break of a 150 mm cylinder, ${trace.length} readings.`);
  }
}
