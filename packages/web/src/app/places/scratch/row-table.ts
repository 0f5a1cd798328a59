import { ButtonDirective } from 'primeng/button';
import { TableModule } from 'primeng/table';
import { ChangeDetectionStrategy, ChangeDetectorRef, Component, computed, ElementRef, inject, input, signal } from '@angular/core';
import {
  nextStep,
  offerWords,
  say,
  unitLabel,
  type AnyInputs,
  type Issue,
  type PickField,
  type RowsField,
  type UnitId,
} from '@keen-mortar/core';
import { Choice, type Option } from '../../ui/choice';
import { Moment } from '../../ui/moment';
import { Remove } from '../../ui/remove';
import { answersAlong } from './along';
import { columnsOf, keyboardOf, type Column } from './columns';
import { keyedAt, rowsAt, valueAt } from './inputs';
import { ScratchStore } from './scratch.store';

/** From here on the rows scroll in a window of their own. */
const VIRTUAL_FROM = 60;
/** Paper has no window: all rows, unless they are a book. */
const MOST_PRINTED = 1000;
const ROW_HEIGHT = 46;

/** Always the same: rows that nothing is wrong with are not drawn again with each key. */
const NO_ISSUES: ReadonlyMap<number, Issue[]> = new Map();

interface Line {
  readonly index: number;
  readonly row: AnyInputs;
  readonly issues: readonly Issue[];
}

/** Rows of readings as a table that takes a paste from a spreadsheet; what comes of each row stands beside it. */
@Component({
  selector: 'km-row-table',
  host: { '(window:beforeprint)': 'print(true)', '(window:afterprint)': 'print(false)' },
  imports: [TableModule, Remove, Choice, Moment, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './row-table.html',
  styleUrls: ['./tables.css', './row-table.css'],
})
export class RowTable {
  protected readonly store = inject(ScratchStore);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly changes = inject(ChangeDetectorRef);
  readonly path = input.required<string>();
  readonly field = input.required<RowsField>();

  private readonly chosen = signal<Readonly<Record<string, UnitId>>>({});
  protected readonly rowHeight = ROW_HEIGHT;
  protected readonly label = unitLabel;
  protected readonly keyboard = keyboardOf;
  protected readonly rows = computed(() => rowsAt(this.store.inputs(), this.path()));
  private readonly printing = signal(false);
  protected readonly virtual = computed(() => this.rows().length > (this.printing() ? MOST_PRINTED : VIRTUAL_FROM));
  protected readonly columns = computed(() => columnsOf(this.field().of, this.rows(), this.store.system(), this.chosen()));
  protected readonly units = computed(() => Object.fromEntries(this.columns().map((c) => [c.id, c.unit])));

  private readonly issues = computed(() => {
    const prefix = `${this.path()}.`;
    const here = (this.store.evaluation()?.issues ?? []).filter((issue) => issue.path.startsWith(prefix));
    if (here.length === 0) return NO_ISSUES;
    const byRow = new Map<number, Issue[]>();
    for (const issue of here) {
      const index = Number(issue.path.slice(prefix.length).split('.')[0]);
      byRow.set(index, [...(byRow.get(index) ?? []), issue]);
    }
    return byRow;
  });
  /** Where rows scroll in a window, what is wrong is said above them. */
  protected readonly issueList = computed(() =>
    [...this.issues().values()]
      .flat()
      .slice(0, 20)
      .map((issue) => ({ path: issue.path, text: `Row ${Number(issue.path.split('.')[1]) + 1}: ${say(issue.code, issue.params)}` })),
  );

  /** The rows, and an empty one to key on. */
  protected readonly lines = computed((): Line[] =>
    [...this.rows(), {} as AnyInputs].map((row, index) => ({ index, row, issues: this.issues().get(index) ?? [] })),
  );

  protected readonly answers = computed(() => answersAlong(this.store.method(), this.store.evaluation(), this.path()));

  protected print(on: boolean): void {
    this.printing.set(on);
    // What is printed is what stands there when this returns.
    this.changes.detectChanges();
  }

  protected cell(row: AnyInputs, id: string): string {
    const value = valueAt(row, id);
    return typeof value === 'string' ? value : (keyedAt(row, id)?.text ?? '');
  }

  /** Beside a cell only where it is not the column's. */
  protected otherUnit(row: AnyInputs, c: Column): string {
    const keyed = c.field.kind === 'qty' ? keyedAt(row, c.id) : null;
    return keyed && keyed.unit !== c.unit && keyed.text !== '' ? unitLabel(keyed.unit) : '';
  }

  protected at(index: number, id: string): string {
    return `${this.path()}.${index}.${id}`;
  }

  protected bad(line: Line, id: string): boolean {
    return line.issues.some((issue) => issue.path === this.at(line.index, id));
  }

  protected readonly sentence = (issue: Issue): string =>
    [say(issue.code, issue.params), nextStep(issue.code, issue.params)].filter(Boolean).join(' ');
  protected exchangeWords(issue: Issue): string {
    const m = this.store.method();
    return (m && offerWords(m, { exchange: issue.exchange! })) ?? '';
  }

  private readonly lists = new Map<string, Option[]>();

  /** The same list each time: what is the same is not drawn again. */
  private listOf(key: string, make: () => Option[]): Option[] {
    const list = this.lists.get(key) ?? make();
    this.lists.set(key, list);
    return list;
  }

  protected options(c: Column): Option[] {
    return this.listOf(c.id, () => Object.entries((c.field as PickField).options).map(([id, text]) => ({ id, label: text })));
  }

  protected unitOptions(c: Column): Option[] {
    return this.listOf(`unit ${c.units.join()}`, () => c.units.map((id) => ({ id, label: unitLabel(id) })));
  }

  /** Of the narrowest column that what is keyed into it still fits, px. */
  protected widthOf(c: Column): number {
    return c.field.kind === 'instant' ? 310 : c.field.kind === 'qty' ? 96 : 170;
  }

  protected key(line: Line, c: Column, text: string): void {
    const path = this.at(line.index, c.id);
    if (c.field.kind === 'qty') this.store.key(path, text, keyedAt(line.row, c.id)?.unit ?? c.unit);
    else this.store.set(path, text === '' ? null : text);
  }

  protected take(issue: Issue): void {
    if (issue.offer) this.store.key(issue.path, issue.offer.text, issue.offer.unit);
  }

  protected choose(c: Column, unit: UnitId): void {
    this.chosen.update((all) => ({ ...all, [c.id]: unit }));
    this.store.unitOfColumn(this.path(), c.id, unit);
  }

  protected paste(event: ClipboardEvent, line: Line, column: number): void {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!/[\t\n;]/.test(text.trim())) return;
    event.preventDefault();
    this.store.paste(this.path(), text, this.units(), line.index, column);
  }

  /** Up, down and Enter go along a column, as in a spreadsheet. */
  protected move(event: KeyboardEvent, index: number, column: number): void {
    const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' || event.key === 'Enter' ? 1 : 0;
    if (by === 0 || index + by < 0) return;
    event.preventDefault();
    const next = this.host.nativeElement.querySelector<HTMLInputElement>(`[data-cell="${index + by}.${column}"]`);
    next?.focus();
    next?.select?.();
  }

  /** The whole figure, worked out when somebody points at it: not at each key. */
  protected tell(event: Event, whole: string): void {
    (event.target as HTMLElement).title = whole;
  }

  protected remove(index: number): void {
    this.store.removeRow(this.path(), index);
  }

  protected readonly trackLine = (_at: number, line: Line): number => line.index;
}
