import { CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import { NgTemplateOutlet } from '@angular/common';
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
import { answersAlong } from './along';
import { columnsOf, keyboardOf, type Column } from './columns';
import { keyedAt, rowsAt, valueAt } from './inputs';
import { Instant } from './instant';
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
  imports: [NgTemplateOutlet, CdkVirtualScrollViewport, CdkVirtualForOf, CdkFixedSizeVirtualScroll, Instant],
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

  protected readonly tracks = computed(
    () =>
      `34px ${this.columns()
        .map((c) => (c.field.kind === 'instant' ? '286px' : c.field.kind === 'qty' ? 'minmax(92px, 190px)' : 'minmax(168px, 260px)'))
        .join(' ')} ${this.answers()
        .map((a) => (a.words && a.texts.some((text) => text.length > 8) ? 'minmax(150px, 220px)' : 'minmax(76px, 120px)'))
        .join(' ')} 44px`,
  );

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

  protected options(c: Column): [string, string][] {
    return Object.entries((c.field as PickField).options);
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

  protected remove(index: number): void {
    this.store.removeRow(this.path(), index);
  }

  protected readonly trackLine = (_at: number, line: Line): number => line.index;
}
