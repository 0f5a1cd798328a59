import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { RowsField } from '@keen-mortar/core';
import { axis, ChartBox, type Drawing } from '../../ui/chart';
import { ComputationStore } from '../computation.store';
import { columnOf, figureOf, pairsOf, seriesOf, fieldOf } from '../drawn';

/** Water that came through against time: the steady part is the one that counts. */
@Component({
  selector: 'km-flow',
  imports: [ChartBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<km-chart [drawing]="drawing()" [says]="says()" [height]="280" />`,
  styleUrl: './panel.css',
})
export class Flow {
  private readonly store = inject(ComputationStore);
  private readonly points = computed(() => {
    const rows = fieldOf<RowsField>(this.store.method(), 'series');
    const inputs = this.store.still();
    return pairsOf(columnOf(inputs, 'series', rows, 'time', 's'), columnOf(inputs, 'series', rows, 'total', 'mL'));
  });
  private readonly from = computed(() => figureOf(this.store.working(), 'steadyFrom'));
  protected readonly says = computed(() => {
    const steady = this.from();
    return `Water collected: ${this.points()
      .map(({ x, y }) => `${x} s ${y} mL`)
      .join(', ')}${steady === null ? '; not steady yet' : `; steady from ${steady} s`}`;
  });

  protected readonly drawing = computed((): Drawing => {
    const [points, from, e] = [this.points(), this.from(), this.store.working()];
    const fitted = pairsOf(seriesOf(e, 'fittedAt'), seriesOf(e, 'fitted'));
    return (inks) => ({
      type: 'scatter',
      data: {
        datasets: [
          { data: fitted, showLine: true, borderColor: inks.within, borderWidth: 3, pointRadius: 0 },
          {
            data: points,
            pointRadius: 5,
            backgroundColor: points.map(({ x }) => (from !== null && x >= from ? inks.ink : inks.well)),
            borderColor: inks.ink,
            borderWidth: 2,
          },
        ],
      },
      options: { scales: { x: axis('Time, s', { beginAtZero: true }), y: axis('Collected, mL', { beginAtZero: true }) } },
    });
  });
}
