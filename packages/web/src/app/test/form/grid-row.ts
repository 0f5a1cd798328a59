import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** One line of a grid. It is drawn again when its own cells change, not with each key in the grid. */
@Component({
  // eslint-disable-next-line @angular-eslint/component-selector -- a row of a table can be no other element
  selector: 'tr[kmGridRow]',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <th scope="row" class="no fig soft">{{ index() + 1 }}</th>
    @for (k of across(); track k) {
      @let fault = faults()[k] ?? '';
      <td class="cell" [class.bad]="fault !== ''" [attr.title]="fault || null">
        <input
          #box
          type="text"
          class="fig"
          autocomplete="off"
          inputmode="text"
          maxlength="40"
          [attr.aria-label]="label() + ', row ' + (index() + 1) + ', column ' + (k + 1)"
          [attr.aria-invalid]="fault ? true : null"
          [attr.aria-describedby]="fault ? whyId() : null"
          [attr.data-cell]="index() + '.' + k"
          [value]="texts()[k] ?? ''"
          (input)="keyed.emit({ cell: k, text: box.value })"
          (paste)="pasted.emit({ event: $event, cell: k })"
          (keydown)="moved.emit({ event: $event, cell: k })"
        />
      </td>
    }
    @for (id of ids(); track id; let k = $index) {
      <td class="along" [class.fig]="!words()[k]" [attr.data-answer]="id">{{ answers()[k] ?? '' }}</td>
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
  readonly index = input.required<number>();
  readonly label = input.required<string>();
  /** Places of its cells, and one to key on. */
  readonly across = input.required<readonly number[]>();
  readonly texts = input.required<readonly string[]>();
  /** What is wrong with each cell, in words. */
  readonly faults = input.required<Readonly<Record<number, string>>>();
  /** Of the element that says what is wrong. */
  readonly whyId = input.required<string>();
  readonly answers = input.required<readonly string[]>();
  readonly words = input.required<readonly boolean[]>();
  readonly ids = input.required<readonly string[]>();
  readonly keyed = output<{ cell: number; text: string }>();
  readonly pasted = output<{ event: ClipboardEvent; cell: number }>();
  readonly moved = output<{ event: KeyboardEvent; cell: number }>();
}
