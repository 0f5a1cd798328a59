import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, type Signal } from '@angular/core';
import { unitLabel, type AnyInputs, type Issue, type PickField } from '@keen-mortar/core';
import { Choice, type Option } from '../../ui/choice';
import { Moment } from '../../ui/moment';
import { Remove } from '../../ui/remove';
import type { Along } from './along';
import { heard } from './cells';
import { keyboardOf, type Column } from './columns';
import { keyedAt, valueAt } from './inputs';

/** A cell as it is drawn: the same words are the same cell. */
interface Cell {
  readonly text: string;
  /** Beside it only where it is not the column's. */
  readonly unit: string;
  readonly bad: boolean;
}

/** What a row asks of the table that it stands in. */
export interface TableOfRows {
  /** Its field among those of the form. */
  readonly path: Signal<string>;
  readonly rows: Signal<readonly AnyInputs[]>;
  readonly columns: Signal<readonly Column[]>;
  readonly along: Along;
  rowOf(at: number): AnyInputs;
  issuesOf(at: number): readonly Issue[];
  key(at: number, c: Column, text: string): void;
  paste(event: ClipboardEvent, at: number, column: number): void;
  move(event: KeyboardEvent, at: number, column: number): void;
  tell(event: Event, answer: string, at: number): void;
  removeRow(at: number): void;
}

const sameCells = (a: readonly Cell[], b: readonly Cell[]): boolean =>
  a.length === b.length && a.every((c, i) => c.text === b[i]!.text && c.unit === b[i]!.unit && c.bad === b[i]!.bad);

/** One row of readings. It is drawn again when its own readings, faults or answers change, not with each key in the table. */
@Component({
  // eslint-disable-next-line @angular-eslint/component-selector -- a row of a table can be no other element
  selector: 'tr[kmRow]',
  imports: [Choice, Moment, Remove],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './row.html',
  styleUrl: './tables.css',
  styles: `
    .last {
      width: 44px;
    }
    @media print {
      .out-with {
        display: none;
      }
    }
  `,
})
export class RowOfReadings {
  readonly at = input.required<number>();
  /** It looks up what is its own: so a key draws one row, and not the table around it. */
  readonly table = input.required<TableOfRows>();
  private readonly row = computed(() => this.table().rowOf(this.at()));
  protected readonly answers = computed(() => this.table().along.of(this.at()));
  /** The row that is keyed on next is not there yet. */
  protected readonly exists = computed(() => this.at() < this.table().rows().length);

  constructor() {
    // Heard beside the framework: a listener of a template draws every view up to the page again.
    heard(inject<ElementRef<HTMLElement>>(ElementRef).nativeElement, {
      input: (box, k) => {
        const c = this.table().columns()[k];
        if (c) this.table().key(this.at(), c, box.value);
      },
      paste: (_box, k, event) => this.table().paste(event, this.at(), k),
      keydown: (_box, k, event) => this.table().move(event, this.at(), k),
    });
  }

  protected readonly keyboard = keyboardOf;
  protected readonly cells = computed(
    (): Cell[] =>
      this.table()
        .columns()
        .map((c) => {
          const row = this.row();
          const value = valueAt(row, c.id);
          const keyed = c.field.kind === 'qty' ? keyedAt(row, c.id) : null;
          return {
            text: typeof value === 'string' ? value : (keyed?.text ?? ''),
            unit: keyed && keyed.unit !== c.unit && keyed.text !== '' ? unitLabel(keyed.unit) : '',
            bad: this.table()
              .issuesOf(this.at())
              .some((issue) => issue.path.endsWith(`.${this.at()}.${c.id}`)),
          };
        }),
    { equal: sameCells },
  );

  private readonly lists = new Map<string, Option[]>();
  protected options(c: Column): Option[] {
    const list = this.lists.get(c.id) ?? Object.entries((c.field as PickField).options).map(([id, label]) => ({ id, label }));
    this.lists.set(c.id, list);
    return list;
  }
}
