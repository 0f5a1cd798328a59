import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { RowsField } from '@keen-mortar/core';
import { Switch } from '../../ui/switch';
import { axis, ChartBox, type Drawing } from '../../ui/chart';
import { ComputationStore } from '../computation.store';
import { columnOf, pairsOf, textsOf, seriesOf, fieldOf } from '../drawn';

const PRISMS = ['a', 'b', 'c'] as const;
const DASHES = [[], [6, 4], [2, 3]];

/** Length change of each prism and their mean, against age or its root. */
@Component({
  selector: 'km-prisms',
  imports: [ChartBox, Switch],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="pick">
      <km-switch
        label="Against"
        data-testid="age-scale"
        [options]="scales"
        [value]="root() ? 'root' : 'age'"
        (chosen)="root.set($event === 'root')"
      />
      <span class="soft small">mean in clay; A solid, B dashed, C dotted</span>
    </div>
    <km-chart [drawing]="drawing()" [says]="says()" [height]="300" />
  `,
  styleUrl: './panel.css',
})
export class Prisms {
  private readonly store = inject(ComputationStore);
  protected readonly scales = [
    { id: 'age', label: 'age' },
    { id: 'root', label: 'square root of age' },
  ];
  protected readonly root = signal(false);
  private readonly ages = computed(() =>
    columnOf(this.store.still(), 'readings', fieldOf<RowsField>(this.store.method(), 'readings'), 'age', 'd'),
  );
  private readonly mean = computed(() => pairsOf(this.ages(), seriesOf(this.store.working(), 'mean')));
  protected readonly says = computed(
    () =>
      `Mean length change: ${textsOf(this.store.method(), this.store.working(), 'mean')
        .map((text, i) => `${this.ages()[i]} d ${text} %`)
        .join(', ')}`,
  );

  protected readonly drawing = computed((): Drawing => {
    const at = (x: number): number => (this.root() ? Math.sqrt(x) : x);
    const along = (values: readonly number[]) => pairsOf(this.ages().map(at), values);
    const each = PRISMS.map((id) => along(seriesOf(this.store.working(), id)));
    const mean = this.mean().map(({ x, y }) => ({ x: at(x), y }));
    return (inks) => ({
      type: 'scatter',
      data: {
        datasets: [
          { data: mean, showLine: true, borderColor: inks.now, backgroundColor: inks.now, borderWidth: 3, pointRadius: 4 },
          ...each.map((data, i) => ({
            data,
            showLine: true,
            borderColor: inks.soft,
            borderWidth: 1.5,
            borderDash: DASHES[i]!,
            pointRadius: 2,
            backgroundColor: inks.soft,
          })),
        ],
      },
      options: { scales: { x: axis(this.root() ? '√ of age in days' : 'Age, d', { beginAtZero: true }), y: axis('Length change, %') } },
    });
  });
}
