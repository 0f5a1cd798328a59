import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, type Signal } from '@angular/core';
import type { Along } from './along';
import { heard } from './cells';

/** What a line asks of the grid that it stands in. */
export interface GridOfCells {
  readonly path: Signal<string>;
  readonly leaf: Signal<{ readonly field: { readonly label: string } }>;
  /** Places of the cells, and one to key on. */
  readonly across: Signal<readonly number[]>;
  readonly along: Along;
  textsOf(line: number): readonly string[];
  faultsOf(line: number): Readonly<Record<number, string>>;
  key(line: number, cell: number, text: string): void;
  paste(event: ClipboardEvent, line: number, cell: number): void;
  move(event: KeyboardEvent, line: number, cell: number): void;
}

/** One line of a grid. It is drawn again when its own cells change, not with each key in the grid. */
@Component({
  // eslint-disable-next-line @angular-eslint/component-selector -- a row of a table can be no other element
  selector: 'tr[kmGridRow]',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <th scope="row" class="no fig soft">{{ at() + 1 }}</th>
    @for (k of table().across(); track k) {
      @let fault = faults()[k] ?? '';
      <td class="cell" [class.bad]="fault !== ''" [attr.title]="fault || null">
        <input
          type="text"
          class="fig"
          autocomplete="off"
          inputmode="text"
          maxlength="40"
          [attr.aria-label]="table().leaf().field.label + ', row ' + (at() + 1) + ', column ' + (k + 1)"
          [attr.aria-invalid]="fault ? true : null"
          [attr.aria-describedby]="fault ? table().path() + '-why' : null"
          [attr.data-cell]="at() + '.' + k"
          [value]="texts()[k] ?? ''"
        />
      </td>
    }
    @for (id of table().along.heads().ids; track id; let k = $index) {
      <td class="along" [class.fig]="!table().along.heads().words[k]" [attr.data-answer]="id">{{ answers()[k] ?? '' }}</td>
    }
  `,
  styleUrl: './tables.css',
  styles: `
    .cell input {
      width: 76px;
      text-align: right;
      padding: 0 6px;
    }
  `,
})
export class GridRow {
  readonly at = input.required<number>();
  /** It looks up what is its own: so a key draws one line, and not the table around it. */
  readonly table = input.required<GridOfCells>();
  protected readonly texts = computed(() => this.table().textsOf(this.at()));
  protected readonly faults = computed(() => this.table().faultsOf(this.at()));
  protected readonly answers = computed(() => this.table().along.of(this.at()));

  constructor() {
    // Heard beside the framework: a listener of a template draws every view up to the page again.
    heard(inject<ElementRef<HTMLElement>>(ElementRef).nativeElement, {
      input: (box, k) => {
        this.table().key(this.at(), k, box.value);
      },
      paste: (_box, k, event) => this.table().paste(event, this.at(), k),
      keydown: (_box, k, event) => this.table().move(event, this.at(), k),
    });
  }
}
