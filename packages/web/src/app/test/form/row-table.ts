import { TableModule } from 'primeng/table';
import { ChangeDetectionStrategy, ChangeDetectorRef, Component, computed, ElementRef, inject, input, signal } from '@angular/core';
import { say, unitLabel, type AnyInputs, type Issue, type RowsField, type UnitId } from '@keen-mortar/core';
import { Choice, type Option } from '../../ui/choice';
import { Along, placesOf, same } from './along';
import { columnsOf, type Column } from './columns';
import { keyedAt, rowsAt } from './inputs';
import { RowOfReadings } from './row';
import { RowIssues } from './row-issues';
import type { RowsForm } from './test-form';

/** From here on the rows scroll in a window of their own. */
const VIRTUAL_FROM = 60;
/** Paper has no window: all rows, unless they are a book. */
const MOST_PRINTED = 1000;
const ROW_HEIGHT = 46;

/** Always the same: rows that nothing is wrong with are not drawn again with each key. */
const NO_ISSUES: ReadonlyMap<number, Issue[]> = new Map();
const EMPTY: AnyInputs = {};
const NONE: readonly Issue[] = [];

/** Rows of readings as a table that takes a paste from a spreadsheet; what comes of each row stands beside it. */
@Component({
  selector: 'km-row-table',
  host: { '(window:beforeprint)': 'print(true)', '(window:afterprint)': 'print(false)' },
  imports: [TableModule, Choice, RowOfReadings, RowIssues],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './row-table.html',
  styleUrls: ['./tables.css', './row-table.css'],
})
export class RowTable {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly changes = inject(ChangeDetectorRef);
  readonly form = input.required<RowsForm>();
  readonly path = input.required<string>();
  readonly field = input.required<RowsField>();

  private readonly chosen = signal<Readonly<Record<string, UnitId>>>({});
  protected readonly rowHeight = ROW_HEIGHT;
  protected readonly tableStyle = { width: 'auto' };
  protected readonly label = unitLabel;
  readonly rows = computed(() => rowsAt(this.form().inputs(), this.path()));
  private readonly printing = signal(false);
  protected readonly virtual = computed(() => this.rows().length > (this.printing() ? MOST_PRINTED : VIRTUAL_FROM));
  readonly columns = computed(() => columnsOf(this.field().of, this.rows(), this.form().system(), this.chosen()), {
    equal: (a, b) =>
      same(
        a.map((c) => c.field),
        b.map((c) => c.field),
      ) &&
      same(
        a.map((c) => c.unit),
        b.map((c) => c.unit),
      ),
  });
  private readonly units = computed(() => Object.fromEntries(this.columns().map((c) => [c.id, c.unit])));

  private readonly issues = computed(() => {
    const prefix = `${this.path()}.`;
    const here = (this.form().evaluation()?.issues ?? []).filter((issue) => issue.path.startsWith(prefix));
    if (here.length === 0) return NO_ISSUES;
    const byRow = new Map<number, Issue[]>();
    for (const issue of here) {
      const index = Number(issue.path.slice(prefix.length).split('.')[0]);
      byRow.set(index, [...(byRow.get(index) ?? []), issue]);
    }
    return byRow;
  });
  /** Rows in which something is wrong: the table is drawn again when one joins or leaves them, not with each key. */
  protected readonly faulty = computed(() => new Set(this.issues().keys()), { equal: (a, b) => same([...a], [...b]) });

  issuesOf(at: number): readonly Issue[] {
    return this.issues().get(at) ?? NONE;
  }

  /** Where rows scroll in a window, what is wrong is said above them. */
  protected readonly issueList = computed(() =>
    [...this.issues().values()]
      .flat()
      .slice(0, 20)
      .map((issue) => ({ path: issue.path, text: `Row ${Number(issue.path.split('.')[1]) + 1}: ${say(issue.code, issue.params)}` })),
  );

  /** The rows, and an empty one to key on, by their places alone: a key moves none of them. */
  private readonly count = computed(() => this.rows().length + 1);
  protected readonly places = computed(() => placesOf(this.count()));
  protected readonly byPlace = (place: number): number => place;

  readonly along = new Along(this.form, this.path);

  protected print(on: boolean): void {
    this.printing.set(on);
    // What is printed is what stands there when this returns.
    this.changes.detectChanges();
  }

  private readonly lists = new Map<string, Option[]>();
  /** The same list each time: what is the same is not drawn again. */
  protected unitOptions(c: Column): Option[] {
    const key = c.units.join();
    const list = this.lists.get(key) ?? c.units.map((id) => ({ id, label: unitLabel(id) }));
    this.lists.set(key, list);
    return list;
  }

  /** Of the narrowest column that what is keyed into it still fits, px. */
  protected widthOf(c: Column): number {
    return c.field.kind === 'instant' ? 310 : c.field.kind === 'qty' ? 96 : 170;
  }

  key(at: number, c: Column, text: string): void {
    const path = `${this.path()}.${at}.${c.id}`;
    if (c.field.kind === 'qty') this.form().key(path, text, keyedAt(this.rowOf(at), c.id)?.unit ?? c.unit);
    else this.form().set(path, text === '' ? null : text);
  }

  protected choose(c: Column, unit: UnitId): void {
    this.chosen.update((all) => ({ ...all, [c.id]: unit }));
    this.form().unitOfColumn(this.path(), c.id, unit);
  }

  paste(event: ClipboardEvent, at: number, column: number): void {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!/[\t\n;]/.test(text.trim())) return;
    event.preventDefault();
    this.form().paste(this.path(), text, this.units(), at, column);
  }

  rowOf(at: number): AnyInputs {
    return this.rows()[at] ?? EMPTY;
  }

  removeRow(at: number): void {
    this.form().removeRow(this.path(), at);
  }

  /** Up, down and Enter go along a column, as in a spreadsheet. */
  move(event: KeyboardEvent, index: number, column: number): void {
    const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' || event.key === 'Enter' ? 1 : 0;
    if (by === 0 || index + by < 0) return;
    event.preventDefault();
    const next = this.host.nativeElement.querySelector<HTMLInputElement>(`[data-cell="${index + by}.${column}"]`);
    next?.focus();
    next?.select?.();
  }

  /** The whole figure, worked out when somebody points at it: not at each key. */
  tell(event: Event, id: string, at: number): void {
    (event.target as HTMLElement).title = this.along.whole(id, at);
  }
}
