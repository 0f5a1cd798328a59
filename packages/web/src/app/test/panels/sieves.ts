import { ButtonDirective } from 'primeng/button';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { bandOf, STACKS, type AnyInputs, type RowsField } from '@keen-mortar/core';
import { ChartBox, type Drawing } from '../../ui/chart';
import { isBlank, rowsAt, setAt, valueAt } from '../form/inputs';
import { ComputationStore } from '../computation.store';
import { gradingDrawing } from './grading-chart';
import { columnOf, pairsOf, seriesOf, wordsOf, fieldOf } from '../drawn';

/** Passing against opening, with the band it has to lie in. */
@Component({
  selector: 'km-sieves',
  imports: [ChartBox, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (untouched()) {
      <p class="stacks">
        <span class="soft">Usual sieves:</span>
        @for (s of stacks; track s[0]) {
          <button type="button" pButton [text]="true" class="link" [attr.data-stack]="s[0]" (click)="stack(s[1].openings)">
            {{ s[1].label }}
          </button>
        }
      </p>
    }
    @if (against(); as a) {
      <p>
        <b data-testid="against" [class.out]="a.out">{{ a.says }}</b>
      </p>
    }
    <km-chart [drawing]="drawing()" [says]="says()" [height]="290" />
  `,
  styleUrl: './panel.css',
})
export class Sieves {
  private readonly store = inject(ComputationStore);
  protected readonly stacks = Object.entries(STACKS);
  /** Once an opening or a mass is keyed, the stack is the technician's own. */
  protected readonly untouched = computed(() => isBlank(rowsAt(this.store.inputs(), 'sieves') as unknown));

  protected stack(openings: readonly string[]): void {
    const rows = [...openings, 'Pan'].map((text) => ({ opening: { text, unit: 'mm' } })) as unknown as AnyInputs[];
    this.store.fill(setAt(this.store.inputs(), 'sieves', rows), 'The usual sieves are filled in: key the masses.');
  }

  private readonly openings = computed(() =>
    columnOf(this.store.still(), 'sieves', fieldOf<RowsField>(this.store.method(), 'sieves'), 'opening', 'mm'),
  );
  private readonly passing = computed(() => seriesOf(this.store.working(), 'passing'));

  /** How it lies in the band that is chosen. */
  protected readonly against = computed(() => {
    const [inside, above, below] = ['inside', 'above', 'below'].map((id) => wordsOf(this.store.working(), id));
    if (inside![0] === undefined) return null;
    const sides = [
      above!.length > 0 ? `above at ${above!.join(', ')} mm` : '',
      below!.length > 0 ? `below at ${below!.join(', ')} mm` : '',
    ];
    const out = inside![0] === 'no';
    return { out, says: out ? `outside the band${sides.some(Boolean) ? `: ${sides.filter(Boolean).join('; ')}` : ''}` : 'within the band' };
  });

  protected readonly says = computed(
    () =>
      `Per cent passing against opening: ${wordsOf(this.store.working(), 'reported')
        .map((text, i) => `${this.openings()[i]} mm ${text} %`)
        .join(', ')}`,
  );

  protected readonly drawing = computed((): Drawing =>
    gradingDrawing(
      [{ points: pairsOf(this.openings(), this.passing()), strong: true }],
      bandOf(this.store.working()?.params, valueAt(this.store.still(), 'band') as string | null),
    ),
  );
}
