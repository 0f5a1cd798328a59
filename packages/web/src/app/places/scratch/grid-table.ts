import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, signal } from '@angular/core';
import { offeredUnits, say, unitLabel, type AnyInputs, type QtyField, type RowsField, type UnitId } from '@keen-mortar/core';
import { TableModule } from 'primeng/table';
import { Choice } from '../../ui/choice';
import { answersAlong } from './along';
import { keyedAt, rowsAt } from './inputs';
import { ScratchStore } from './scratch.store';

const LEAST_COLUMNS = 3;
const MOST_CELLS = 3000;

/** A grid of one quantity: lines of cells, or tests with their companions. Takes a block from a spreadsheet. */
@Component({
  selector: 'km-grid-table',
  imports: [TableModule, Choice],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head-line">
      <h3 [id]="'rows-' + path()">{{ field().label }}</h3>
      @if (units().length > 1) {
        <km-choice
          [label]="'Unit of ' + leaf().field.label"
          [quiet]="true"
          [options]="units()"
          [value]="unit()"
          (chosen)="choose($any($event))"
        />
      } @else {
        <span class="soft">{{ label(unit()) }}</span>
      }
      <span class="soft small end">paste a block into any cell</span>
    </div>
    <p-table
      class="wide"
      [value]="lines()"
      [rowTrackBy]="byPlace"
      [scrollable]="true"
      scrollHeight="460px"
      [tableStyle]="{ width: 'auto' }"
    >
      <ng-template #header>
        <tr>
          <th scope="col" class="no"><span class="unseen">Row</span></th>
          @for (k of across(); track k) {
            <th scope="col" class="fig">{{ k + 1 }}</th>
          }
          @for (a of answers(); track a.id) {
            <th scope="col" class="along">{{ a.head }}</th>
          }
        </tr>
      </ng-template>
      <ng-template #body let-line let-i="rowIndex">
        <tr>
          <th scope="row" class="no fig soft">{{ i + 1 }}</th>
          @for (k of across(); track k) {
            <td class="cell" [class.bad]="faults().get(i + '.' + k)" [attr.title]="faults().get(i + '.' + k) ?? null">
              <input
                #box
                type="text"
                class="fig"
                autocomplete="off"
                inputmode="text"
                maxlength="40"
                [attr.aria-label]="leaf().field.label + ', row ' + (i + 1) + ', column ' + (k + 1)"
                [attr.aria-invalid]="faults().has(i + '.' + k) ? true : null"
                [attr.aria-describedby]="faults().has(i + '.' + k) ? path() + '-why' : null"
                [attr.data-cell]="i + '.' + k"
                [value]="line[k] ?? ''"
                (input)="key(i, k, box.value)"
                (paste)="paste($event, i, k)"
                (keydown)="move($event, i, k)"
              />
            </td>
          }
          @for (a of answers(); track a.id) {
            <td class="along" [class.fig]="!a.words" [attr.data-answer]="a.id">{{ a.texts[i] ?? '' }}</td>
          }
        </tr>
      </ng-template>
    </p-table>
    <div [id]="path() + '-why'">
      @for (f of said(); track f) {
        <p class="fault">{{ f }}</p>
      }
    </div>
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
export class GridTable {
  protected readonly store = inject(ScratchStore);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly path = input.required<string>();
  readonly field = input.required<RowsField>();
  private readonly chosen = signal<UnitId | null>(null);
  protected readonly label = unitLabel;

  /** Ids of the inner list and of its one quantity. */
  protected readonly leaf = computed(() => {
    const [inner, list] = Object.entries(this.field().of)[0]!;
    const [id, field] = Object.entries((list as RowsField).of)[0]!;
    return { inner, id, field: field as QtyField };
  });
  private readonly rows = computed(() => rowsAt(this.store.inputs(), this.path()));
  private readonly cells = computed(() => this.rows().map((row) => rowsAt(row, this.leaf().inner)));
  protected readonly unit = computed(() => {
    const { id, field } = this.leaf();
    const keyed = this.cells()
      .flat()
      .map((cell) => keyedAt(cell, id))
      .find((k) => k !== null);
    return keyed?.unit ?? this.chosen() ?? field.units[this.store.system()];
  });
  protected readonly units = computed(() =>
    offeredUnits(this.leaf().field.dimension, Object.values(this.leaf().field.units)).map((id) => ({ id, label: unitLabel(id) })),
  );
  protected readonly byPlace = (place: number): number => place;
  protected readonly across = computed(() =>
    Array.from({ length: Math.max(LEAST_COLUMNS, ...this.cells().map((line) => line.length + 1)) }, (_c, k) => k),
  );
  /** Texts of the cells, with an empty line to key on; a grid too large to show keeps its first lines in view. */
  protected readonly lines = computed(() => {
    const shown = this.cells().slice(0, Math.max(1, Math.floor(MOST_CELLS / this.across().length)));
    return [...shown.map((line) => line.map((cell) => keyedAt(cell, this.leaf().id)?.text ?? '')), [] as string[]];
  });

  protected readonly answers = computed(() => answersAlong(this.store.method(), this.store.evaluation(), this.path()));

  protected readonly faults = computed(() => {
    const prefix = `${this.path()}.`;
    const found = new Map<string, string>();
    for (const issue of this.store.evaluation()?.issues ?? []) {
      const [line, , cell] = issue.path.startsWith(prefix) ? issue.path.slice(prefix.length).split('.') : [];
      if (line !== undefined && cell !== undefined) found.set(`${line}.${cell}`, say(issue.code, issue.params));
    }
    return found;
  });
  protected readonly said = computed(() =>
    [...this.faults()].slice(0, 8).map(([at, text]) => {
      const [line, cell] = at.split('.').map((n) => Number(n) + 1);
      return `Row ${line}, column ${cell}: ${text}`;
    }),
  );

  protected key(line: number, cell: number, text: string): void {
    this.store.key(`${this.path()}.${line}.${this.leaf().inner}.${cell}.${this.leaf().id}`, text, this.unit());
  }

  protected choose(unit: UnitId): void {
    this.chosen.set(unit);
    const { inner, id } = this.leaf();
    const rows = this.cells().map((line) => ({
      [inner]: line.map((cell) => {
        const keyed = keyedAt(cell, id);
        return keyed ? { [id]: { text: keyed.text, unit } } : cell;
      }),
    }));
    this.store.fill({ ...this.store.inputs(), [this.path()]: rows } as AnyInputs, '');
  }

  protected paste(event: ClipboardEvent, line: number, cell: number): void {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!/[\t\n;]/.test(text.trim())) return;
    event.preventDefault();
    this.store.paste(this.path(), text, { [this.leaf().id]: this.unit() }, line, cell);
  }

  /** The arrows and Enter go from cell to cell where the caret has nowhere else to go. */
  protected move(event: KeyboardEvent, line: number, cell: number): void {
    const by = { ArrowUp: [-1, 0], ArrowDown: [1, 0], Enter: [1, 0] }[event.key];
    if (!by) return;
    const next = this.host.nativeElement.querySelector<HTMLInputElement>(`[data-cell="${line + by[0]!}.${cell + by[1]!}"]`);
    if (!next) return;
    event.preventDefault();
    next.focus();
    next.select();
  }
}
