import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { unitLabel, type AnyInputs, type Issue, type PickField } from '@keen-mortar/core';
import { Choice, type Option } from '../../ui/choice';
import { Moment } from '../../ui/moment';
import { Remove } from '../../ui/remove';
import { keyboardOf, type Column } from './columns';
import { keyedAt, valueAt } from './inputs';

/** A cell as it is drawn: the same words are the same cell. */
interface Cell {
  readonly text: string;
  /** Beside it only where it is not the column's. */
  readonly unit: string;
  readonly bad: boolean;
}

const NONE: readonly Issue[] = [];

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
  readonly index = input.required<number>();
  readonly row = input.required<AnyInputs>();
  readonly columns = input.required<readonly Column[]>();
  readonly issues = input<readonly Issue[]>(NONE);
  /** What comes of it, one text for each column of answers. */
  readonly answers = input.required<readonly string[]>();
  /** Which of them are words. */
  readonly words = input.required<readonly boolean[]>();
  readonly ids = input.required<readonly string[]>();
  /** The row that is keyed on next is not there yet. */
  readonly exists = input(true);
  readonly keyed = output<{ column: Column; text: string }>();
  readonly pasted = output<{ event: ClipboardEvent; column: number }>();
  readonly moved = output<{ event: KeyboardEvent; column: number }>();
  readonly told = output<{ event: Event; id: string }>();
  readonly removed = output();

  protected readonly keyboard = keyboardOf;
  protected readonly cells = computed((): Cell[] =>
    this.columns().map((c) => {
      const row = this.row();
      const value = valueAt(row, c.id);
      const keyed = c.field.kind === 'qty' ? keyedAt(row, c.id) : null;
      return {
        text: typeof value === 'string' ? value : (keyed?.text ?? ''),
        unit: keyed && keyed.unit !== c.unit && keyed.text !== '' ? unitLabel(keyed.unit) : '',
        bad: this.issues().some((issue) => issue.path.endsWith(`.${this.index()}.${c.id}`)),
      };
    }),
  );

  private readonly lists = new Map<string, Option[]>();
  protected options(c: Column): Option[] {
    const list = this.lists.get(c.id) ?? Object.entries((c.field as PickField).options).map(([id, label]) => ({ id, label }));
    this.lists.set(c.id, list);
    return list;
  }
}
