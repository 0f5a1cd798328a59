import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, signal } from '@angular/core';
import { offeredUnits, say, unitLabel, type AnyInputs, type QtyField, type RowsField, type UnitId } from '@keen-mortar/core';
import { TableModule } from 'primeng/table';
import { Choice } from '../../ui/choice';
import { Along, placesOf, same, steady } from './along';
import { GridRow } from './grid-row';
import { keyedAt, rowsAt } from './inputs';
import type { RowsForm } from './test-form';

const LEAST_COLUMNS = 3;
const MOST_CELLS = 3000;
const MOST_SAID = 8;
const NONE: readonly string[] = [];
/** Always the same: lines that nothing is wrong with are not drawn again with each key. */
const SOUND: Readonly<Record<number, string>> = {};

/** A grid of one quantity: lines of cells, or tests with their companions. Takes a block from a spreadsheet. */
@Component({
  selector: 'km-grid-table',
  imports: [TableModule, Choice, GridRow],
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
    <p-table class="wide" [value]="places()" [rowTrackBy]="byPlace" [scrollable]="true" scrollHeight="460px" [tableStyle]="tableStyle">
      <ng-template #header>
        <tr>
          <th scope="col" class="no"><span class="unseen">Row</span></th>
          @for (k of across(); track k) {
            <th scope="col" class="fig">{{ k + 1 }}</th>
          }
          @for (head of along.heads().heads; track head) {
            <th scope="col" class="along">{{ head }}</th>
          }
        </tr>
      </ng-template>
      <ng-template #body let-place>
        <tr kmGridRow [at]="place.at" [table]="this"></tr>
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
    :host {
      display: block;
      min-width: 0;
    }
  `,
})
export class GridTable {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly form = input.required<RowsForm>();
  readonly path = input.required<string>();
  readonly field = input.required<RowsField>();
  private readonly chosen = signal<UnitId | null>(null);
  protected readonly label = unitLabel;

  /** Ids of the inner list and of its one quantity. */
  readonly leaf = computed(() => {
    const [inner, list] = Object.entries(this.field().of)[0]!;
    const [id, field] = Object.entries((list as RowsField).of)[0]!;
    return { inner, id, field: field as QtyField };
  });
  private readonly rows = computed(() => rowsAt(this.form().inputs(), this.path()));
  private readonly cells = computed(() => this.rows().map((row) => rowsAt(row, this.leaf().inner)));
  protected readonly unit = computed(() => {
    const { id, field } = this.leaf();
    const keyed = this.cells()
      .flat()
      .map((cell) => keyedAt(cell, id))
      .find((k) => k !== null);
    return keyed?.unit ?? this.chosen() ?? field.units[this.form().system()];
  });
  protected readonly units = computed(() =>
    offeredUnits(this.leaf().field.dimension, Object.values(this.leaf().field.units)).map((id) => ({ id, label: unitLabel(id) })),
  );
  protected readonly byPlace = (place: number): number => place;
  protected readonly tableStyle = { width: 'auto' };
  readonly across = computed(
    () => Array.from({ length: Math.max(LEAST_COLUMNS, ...this.cells().map((line) => line.length + 1)) }, (_c, k) => k),
    { equal: same },
  );
  /** Texts of the cells; a grid too large to show keeps its first lines in view. */
  readonly lines = steady(() =>
    this.cells()
      .slice(0, Math.max(1, Math.floor(MOST_CELLS / this.across().length)))
      .map((line) => line.map((cell) => keyedAt(cell, this.leaf().id)?.text ?? '')),
  );
  /** The lines by their places, and an empty one to key on. */
  private readonly count = computed(() => this.lines().length + 1);
  protected readonly places = computed(() => placesOf(this.count()));

  readonly along = new Along(this.form, this.path);

  /** What is wrong, by line and cell. */
  private readonly faults = computed(() => {
    const prefix = `${this.path()}.`;
    const found = new Map<number, Record<number, string>>();
    for (const issue of this.form().evaluation()?.issues ?? []) {
      const [line, , cell] = issue.path.startsWith(prefix) ? issue.path.slice(prefix.length).split('.') : [];
      if (line === undefined || cell === undefined) continue;
      found.set(Number(line), { ...found.get(Number(line)), [cell]: say(issue.code, issue.params) });
    }
    return found;
  });
  faultsOf(line: number): Readonly<Record<number, string>> {
    return this.faults().get(line) ?? SOUND;
  }

  textsOf(line: number): readonly string[] {
    return this.lines()[line] ?? NONE;
  }

  protected readonly said = computed(() =>
    [...this.faults()]
      .flatMap(([line, cells]) => Object.entries(cells).map(([cell, text]) => `Row ${line + 1}, column ${Number(cell) + 1}: ${text}`))
      .slice(0, MOST_SAID),
  );

  key(line: number, cell: number, text: string): void {
    this.form().key(`${this.path()}.${line}.${this.leaf().inner}.${cell}.${this.leaf().id}`, text, this.unit());
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
    this.form().fill({ ...this.form().inputs(), [this.path()]: rows } as AnyInputs, '');
  }

  paste(event: ClipboardEvent, line: number, cell: number): void {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!/[\t\n;]/.test(text.trim())) return;
    event.preventDefault();
    this.form().paste(this.path(), text, { [this.leaf().id]: this.unit() }, line, cell);
  }

  /** The arrows and Enter go from cell to cell where the caret has nowhere else to go. */
  move(event: KeyboardEvent, line: number, cell: number): void {
    const by = { ArrowUp: [-1, 0], ArrowDown: [1, 0], Enter: [1, 0] }[event.key];
    if (!by) return;
    const next = this.host.nativeElement.querySelector<HTMLInputElement>(`[data-cell="${line + by[0]!}.${cell + by[1]!}"]`);
    if (!next) return;
    event.preventDefault();
    next.focus();
    next.select();
  }
}
