import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { RowsField } from '@keen-mortar/core';
import { axis, ChartBox, type Drawing } from '../../ui/chart';
import { ComputationStore } from '../computation.store';
import { columnOf, figureOf, pairsOf, wordsOf, fieldOf } from '../drawn';

/** The sample in the oven: its mass over the minutes, when to weigh next, and when it should be constant. */
@Component({
  selector: 'km-drying',
  imports: [ChartBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<km-chart [drawing]="drawing()" [says]="says()" [height]="280" />`,
  styleUrl: './panel.css',
})
export class Drying {
  private readonly store = inject(ComputationStore);
  private readonly points = computed(() => {
    const rows = fieldOf<RowsField>(this.store.method(), 'track');
    const inputs = this.store.still();
    return pairsOf(columnOf(inputs, 'track', rows, 'minute', 'min'), columnOf(inputs, 'track', rows, 'mass', 'g'));
  });
  protected readonly says = computed(
    () =>
      `Mass in the oven: ${this.points()
        .map(({ x, y }) => `${x} min ${y} g`)
        .join(', ')}`,
  );

  protected readonly drawing = computed((): Drawing => {
    const [points, e] = [this.points(), this.store.working()];
    const last = points.at(-1);
    const ahead = [
      { at: figureOf(e, 'next'), label: 'next weighing' },
      { at: figureOf(e, 'estimate'), label: 'constant at about' },
    ].flatMap(({ at, label }) => (at !== null && last ? [{ x: at, y: last.y, label }] : []));
    const wrong = wordsOf(e, 'state')[0] === 'wrong';
    return (inks) => ({
      type: 'scatter',
      data: {
        datasets: [
          {
            data: points,
            showLine: true,
            borderColor: inks.ink,
            borderWidth: 2,
            pointRadius: 5,
            backgroundColor: points.map((_p, i) => (wrong && i === points.length - 1 ? inks.now : inks.ink)),
          },
          { data: ahead, pointRadius: 7, pointStyle: 'rectRot', backgroundColor: inks.well, borderColor: inks.deep, borderWidth: 2 },
        ],
      },
      options: {
        scales: { x: axis('Minutes in the oven', { beginAtZero: true }), y: axis('Mass, g') },
        plugins: {
          tooltip: {
            callbacks: {
              label: ({ raw }) => {
                const point = raw as { x: number; y: number; label?: string };
                return point.label ? `${point.label} ${point.x} min` : `${point.y} g at ${point.x} min`;
              },
            },
          },
        },
      },
    });
  });
}
