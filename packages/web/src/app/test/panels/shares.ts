import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { bandOf, type RowsField } from '@keen-mortar/core';
import { ButtonDirective } from 'primeng/button';
import { Slider } from 'primeng/slider';
import { ChartBox, type Drawing } from '../../ui/chart';
import { ComputationStore } from '../computation.store';
import { columnOf, fieldOf, pairsOf, seriesOf, wordsOf } from '../drawn';
import { rowsAt, valueAt } from '../form/inputs';
import { gradingDrawing } from './grading-chart';

const COLUMNS = ['first', 'second', 'third', 'fourth'] as const;

/** Aggregates together in their band: the shares are moved until the curve lies in it, or taken as they lie best. */
@Component({
  selector: 'km-shares',
  imports: [FormsModule, Slider, ButtonDirective, ChartBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (p of parts(); track $index) {
      <div class="part">
        <span [id]="'share-' + $index">{{ p.name }}</span>
        <p-slider
          [ariaLabelledBy]="'share-' + $index"
          [min]="0"
          [max]="100"
          [step]="1"
          [ngModel]="p.share"
          (ngModelChange)="move($index, $event)"
        />
        <b class="fig">{{ p.share }} %</b>
      </div>
    }
    @if (against(); as a) {
      <p>
        <b data-testid="against" [class.out]="a.out">{{ a.out ? 'outside the band' : 'within the band' }}</b>
      </p>
    }
    @if (best(); as b) {
      <p class="best">
        {{ b.possible ? 'Lies best with' : 'Nothing lies in the band; nearest with' }} <b class="fig">{{ b.words }}</b>
        @if (!b.taken) {
          <button type="button" pButton severity="secondary" data-testid="take-best" (click)="take(b.shares)">Take these</button>
        }
      </p>
    }
    <km-chart [drawing]="drawing()" [says]="says()" [height]="290" />
  `,
  styleUrl: './panel.css',
  styles: `
    .part {
      display: grid;
      grid-template-columns: minmax(90px, 160px) minmax(80px, 1fr) 62px;
      gap: 4px 18px;
      align-items: center;
      min-height: 44px;
    }
    .part b {
      text-align: right;
    }
    .best {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 14px;
    }
  `,
})
export class Shares {
  private readonly store = inject(ComputationStore);
  private readonly rows = computed(() => rowsAt(this.store.inputs(), 'parts'));
  protected readonly parts = computed(() => {
    const shares = columnOf(this.store.inputs(), 'parts', fieldOf<RowsField>(this.store.method(), 'parts'), 'share', '%');
    return this.rows().map((row, i) => ({
      name: (valueAt(row, 'name') as string | null) || `Aggregate ${i + 1}`,
      share: shares[i] ?? 0,
    }));
  });
  protected readonly against = computed(() => {
    const inside = wordsOf(this.store.working(), 'inside')[0];
    return inside === undefined ? null : { out: inside === 'no' };
  });
  protected readonly best = computed(() => {
    const e = this.store.working();
    const shares = seriesOf(e, 'best').map((share) => share ?? 0);
    if (shares.length === 0) return null;
    return {
      shares,
      possible: wordsOf(e, 'possible')[0] === 'yes',
      words: shares.map((share) => `${share} %`).join(' · '),
      taken: shares.every((share, i) => share === this.parts()[i]?.share),
    };
  });

  /** One is moved, and the others give way or take its room as they stand to each other. */
  protected move(at: number, share: number): void {
    const before = this.parts().map((p) => p.share);
    const others = before.reduce((sum, one, i) => (i === at ? sum : sum + one), 0);
    const room = 100 - share;
    const moved = before.map((one, i) => (i === at ? share : others > 0 ? Math.round((one * room) / others) : room / (before.length - 1)));
    // What rounding leaves goes to one of them.
    const rest = 100 - moved.reduce((sum, one) => sum + one, 0);
    const last = moved.findLastIndex((one, i) => i !== at && one + rest >= 0);
    this.take(moved.map((one, i) => (i === last ? one + rest : one)));
  }

  protected take(shares: readonly number[]): void {
    shares.forEach((share, i) => this.store.key(`parts.${i}.share`, String(share), '%'));
  }

  private readonly table = computed(() => {
    const field = fieldOf<RowsField>(this.store.method(), 'sieves');
    const of = (id: string) => columnOf(this.store.still(), 'sieves', field, id, id === 'opening' ? 'mm' : '%');
    return { openings: of('opening'), each: COLUMNS.slice(0, Math.max(this.rows().length, 2)).map(of) };
  });
  protected readonly drawing = computed((): Drawing => {
    const { openings, each } = this.table();
    return gradingDrawing(
      [
        { points: pairsOf(openings, seriesOf(this.store.working(), 'passing')), strong: true },
        ...each.map((part) => ({ points: pairsOf(openings, part), strong: false })),
      ],
      bandOf(this.store.working()?.params, valueAt(this.store.still(), 'band') as string | null),
    );
  });
  protected readonly says = computed(
    () =>
      `Per cent passing of all together: ${wordsOf(this.store.working(), 'reported')
        .map((text, i) => `${this.table().openings[i]} mm ${text} %`)
        .join(', ')}`,
  );
}
