import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { TableModule } from 'primeng/table';
import { answerText, askedAs, type Evaluation } from '@keen-mortar/core';
import { momentText } from '../../parts/when';
import { ComputationStore } from '../../test/computation.store';

const MOST_COLUMNS = 4;

interface Row {
  readonly variant: string;
  readonly label: string;
  readonly cells: readonly string[];
  readonly needs: string;
  readonly here: boolean;
  readonly differs: readonly boolean[];
}

/** The same readings under every variant, side by side: where they differ, and what one would need to be done otherwise. */
@Component({
  selector: 'km-variant-table',
  imports: [TableModule, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-table [value]="rows()" [rowTrackBy]="byVariant" [scrollable]="true" tableStyleClass="plain">
      <ng-template #header>
        <tr>
          <th scope="col">Variant</th>
          @for (c of columns(); track c.id) {
            <th scope="col">{{ c.field.label }}</th>
          }
        </tr>
      </ng-template>
      <ng-template #body let-r>
        <tr [class.here]="r.here" [attr.data-variant]="r.variant">
          <th scope="row">
            <button
              pButton
              [text]="true"
              type="button"
              class="link"
              [attr.aria-pressed]="r.here"
              (click)="store.choose({ variant: r.variant })"
            >
              {{ r.label }}
            </button>
          </th>
          @if (r.needs) {
            <td class="soft" [attr.colspan]="columns().length">{{ r.needs }}</td>
          } @else {
            @for (cell of r.cells; track $index) {
              <td [class.fig]="figures()[$index]" [class.differs]="r.differs[$index]">{{ cell || '–' }}</td>
            }
          }
        </tr>
      </ng-template>
    </p-table>
  `,
  styles: `
    :host {
      display: block;
      font-size: 14.5px;
    }
    th,
    td {
      text-align: left;
      padding: 2px 10px 2px 0;
      border-bottom: 1px solid var(--hair);
      font-weight: 400;
      background: none;
    }
    button {
      text-align: left;
      justify-content: flex-start;
    }
    .here button {
      font-weight: 700;
      text-decoration: none;
    }
    .differs {
      font-weight: 700;
    }
    .differs::after {
      content: ' ≠';
      color: var(--deep);
    }
  `,
})
export class VariantTable {
  protected readonly store = inject(ComputationStore);

  protected readonly columns = computed(() => {
    const results = Object.entries(this.store.method()?.results ?? {});
    const single = results.filter(([, field]) => field.along === undefined);
    const main = single.filter(([, field]) => field.main);
    return (main.length > 0 ? main : single).slice(0, MOST_COLUMNS).map(([id, field]) => ({ id, field }));
  });

  /** Columns of figures; the others hold words. */
  protected readonly figures = computed(() => this.columns().map(({ field }) => field.words === undefined && field.moments !== true));

  protected readonly rows = computed((): Row[] => {
    const [m, e] = [this.store.method(), this.store.working()];
    if (!m || !e) return [];
    const here = this.cells(e);
    const others = new Map(this.store.others().map((o) => [o.variant, o]));
    return this.store.variants().map(({ id, label }) => {
      const evaluation = others.get(id)?.evaluation ?? e;
      const cells = this.cells(evaluation);
      const [otherwise, first] = [others.get(id)?.needs, evaluation.missing[0]];
      return {
        variant: id,
        label,
        cells,
        needs:
          otherwise ??
          (evaluation.validity.state === 'void'
            ? 'Void.'
            : cells.some((c) => c !== '') || first === undefined
              ? ''
              : `Would need: ${askedAs(m, first)}.`),
        here: id === e.variant,
        differs: cells.map((cell, i) => cell !== '' && here[i] !== '' && cell !== here[i]),
      };
    });
  });

  protected readonly byVariant = (_at: number, row: Row): string => row.variant;

  private cells(e: Evaluation): string[] {
    return this.columns().map(({ id, field }) => {
      const r = e.results.find((result) => result.id === id);
      return r ? answerText(field, r, momentText) : '';
    });
  }
}
