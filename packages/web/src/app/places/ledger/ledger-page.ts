import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, signal, untracked, type Signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import { dayIn, type LedgerRow, type LedgerView, type Mix, type SourceNow } from '@keen-mortar/contract';
import {
  methodById,
  pictureOf,
  propertyOf,
  speaksOf,
  unitLabel,
  type Picture,
  type ResultField,
  type Side,
  type VerdictState,
} from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { DateTime } from 'luxon';
import { ButtonDirective } from 'primeng/button';
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import { Popover } from 'primeng/popover';
import { TableModule } from 'primeng/table';
import { forkJoin } from 'rxjs';
import { Api } from '../../api/api';
import { newId } from '../../device/ids';
import { Write } from '../../device/write';
import { sideOf, TinyBand } from '../../parts/tiny-band';
import { longDay, zonedTime } from '../../parts/when';
import { initialed, nameOf, project, session } from '../../state/session';
import { Choice } from '../../ui/choice';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { Icon } from '../../ui/icon';
import { Moment } from '../../ui/moment';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { VERDICT_WORDS, VerdictShape } from '../../ui/verdict-shape';
import {
  ASKED,
  COLUMN_IDS,
  COLUMNS,
  manyOf,
  methodOptions,
  propertyOptions,
  rememberColumns,
  rememberedColumns,
  STATES,
  tidy,
  type Asked,
  type AskedFor,
  type Column,
} from './asked';
import { LedgerStore } from './ledger.store';
import { Thread } from './thread';
import { Weeks } from './weeks';

const ROW_HEIGHT = 44;
/** So many rows before the last one the next page is asked for. */
const AHEAD = 30;
const MS_A_DAY = 86_400_000;

/** A row of the table: a test, or the day that those below it were made on. */
type Line =
  | { readonly day: string; readonly count: number; readonly outs: number; readonly row?: undefined }
  | {
      readonly row: LedgerRow;
      readonly day?: undefined;
      readonly time: string;
      readonly title: string;
      /** Of which it is one result. */
      readonly method: string;
      /** Of what is shown: of one property that was asked for, else of the whole test. */
      readonly state: VerdictState;
      readonly side: Side;
      readonly picture: Picture;
      readonly result: string;
      readonly unit: string;
      /** The most pressing of what is found of it, but for what is still to be done: that stands on the Day and with its pour. */
      readonly told: LedgerRow['findings'][number] | null;
    };

/** Whether the window is so, as long as the page is open. */
function matching(query: string): Signal<boolean> {
  const media = matchMedia(query);
  const now = signal(media.matches);
  const hear = (): void => now.set(media.matches);
  media.addEventListener('change', hear);
  inject(DestroyRef).onDestroy(() => media.removeEventListener('change', hear));
  return now;
}

/** Every test: found, put in order, opened to what was read. */
@Component({
  selector: 'km-ledger-page',
  imports: [
    FormsModule,
    RouterLink,
    ButtonDirective,
    Checkbox,
    InputText,
    Popover,
    TableModule,
    Choice,
    Choices,
    Field,
    Icon,
    Moment,
    Notice,
    Pictogram,
    Thread,
    TinyBand,
    VerdictShape,
    Weeks,
  ],
  providers: [LedgerStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ledger-page.html',
  styleUrl: './ledger-page.css',
})
export class LedgerPlace {
  protected readonly ledger = inject(LedgerStore);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly route = inject(ActivatedRoute);
  private readonly state = inject(Store);
  private readonly project = this.state.selectSignal(project);
  private readonly person = this.state.selectSignal(session.selectPersonId);
  private readonly people = this.state.selectSignal(session.selectPeople);
  private readonly fullName = this.state.selectSignal(nameOf);
  protected readonly nameOf = computed(
    () =>
      (id: string): string =>
        initialed(this.fullName()(id)),
  );
  private readonly address = toSignal(this.route.queryParamMap);

  protected readonly words = VERDICT_WORDS;
  protected readonly states = STATES;
  protected readonly columnNames: Readonly<Record<string, string>> = COLUMNS;
  protected readonly rowHeight = ROW_HEIGHT;
  protected readonly methodOptions = methodOptions;
  protected readonly propertyOptions = propertyOptions;

  /** What is asked for stands in the address: it can be sent to somebody, and gone back to. */
  protected readonly asked = computed((): Asked => {
    const q = this.address();
    return Object.fromEntries(ASKED.flatMap((name) => (q?.get(name) ? [[name, q.get(name)!]] : [])));
  });
  /** One list as long as it is the same: a new one each time would be written into its box each time. */
  protected readonly methods = computed(() => manyOf(this.asked().method));
  protected readonly zone = computed(() => this.project()?.timezone ?? 'local');
  protected readonly typed = signal('');
  protected readonly columns = signal<readonly Column[]>(rememberedColumns());
  protected readonly open = signal<LedgerRow | null>(null);
  protected readonly tableStyle = { 'table-layout': 'fixed' };
  protected readonly narrow = matching('(max-width: 640px)');
  private readonly slim = matching('(max-width: 1200px)');
  /** What is found in as many words as there is room for: its first sentence, or what kind of finding it is; the thread has all. */
  protected readonly toldAs = computed(() => {
    const isShort = this.slim() || this.open() !== null;
    return ({ title, says }: LedgerRow['findings'][number]): string => (isShort ? title : says.split(/(?<=\.) /)[0]!);
  });
  /** Those that there is room for: beside an open thread, and on a phone, fewer. */
  protected readonly visible = computed(() => {
    const room: readonly Column[] = this.narrow()
      ? ['at', 'test', 'result']
      : this.open()
        ? COLUMN_IDS.filter((c) => c !== 'by')
        : COLUMN_IDS;
    const some = this.columns().filter((c) => room.includes(c));
    return some.length > 0 ? some : this.columns();
  });
  private readonly mixes = signal<readonly Mix[]>([]);
  private readonly sources = signal<readonly SourceNow[]>([]);
  protected readonly peopleOptions = computed(() => this.people().map((p) => ({ id: p.id, label: p.name })));
  protected readonly ofOptions = computed(() => [
    ...this.mixes().map((m) => ({ id: m.id, label: `${m.code} ${m.name}` })),
    ...this.sources().map((s) => ({ id: s.id, label: s.code })),
  ]);

  /** Days stand between their tests while the newest come first. */
  protected readonly lines = computed((): Line[] => {
    const rows = this.ledger.rows();
    const byDay = this.asked().sort !== 'value';
    let day = '';
    return rows.flatMap((row, i): Line[] => {
      const own = dayIn(this.zone(), row.at);
      const line = this.line(row);
      if (!byDay || own === day) return [line];
      day = own;
      const same = rows.slice(i).filter((r) => dayIn(this.zone(), r.at) === own);
      return [{ day: longDay(own), count: same.length, outs: same.filter((r) => this.stateOf(r) === 'out').length }, line];
    });
  });
  protected readonly byLine = (_i: number, l: Line): string => l.row?.testId ?? l.day ?? '';
  protected readonly scrolling = { onScrollIndexChange: ({ last }: { last: number }) => this.reached(last), trackBy: this.byLine };

  /** What is asked for beside states, each to be taken away by a press. */
  protected readonly chips = computed(() => {
    const a = this.asked();
    const day = (iso: string): string => longDay(dayIn(this.zone(), iso));
    const chip = (name: AskedFor, says: string) => ({ name, says });
    return [
      ...(a.method
        ? [
            chip(
              'method',
              manyOf(a.method)
                .map((m) => methodById(m)?.title ?? m)
                .join(', '),
            ),
          ]
        : []),
      ...(a.property ? [chip('property', propertyOf(a.property)?.label ?? a.property)] : []),
      ...(a.of ? [chip('of', this.ofOptions().find((o) => o.id === a.of)?.label ?? 'one mix or source')] : []),
      ...(a.in ? [chip('in', 'in one item')] : []),
      ...(a.kit ? [chip('kit', 'with one instrument')] : []),
      ...(a.by ? [chip('by', this.nameOf()(a.by))] : []),
      ...(a.from ? [chip('from', `from ${day(a.from)}`)] : []),
      ...(a.until ? [chip('until', `before ${day(a.until)}`)] : []),
    ];
  });
  protected readonly week = computed(() => {
    const { from, until } = this.asked();
    if (!from || !until) return null;
    const at = DateTime.fromISO(from, { zone: this.zone() });
    return at.weekday === 1 && Math.round((Date.parse(until) - Date.parse(from)) / MS_A_DAY) === 7 ? at.toISODate() : null;
  });
  protected readonly sorts = computed(() => [
    { id: 'at desc', label: 'newest first' },
    { id: 'at asc', label: 'oldest first' },
    ...(this.asked().property
      ? [
          { id: 'value desc', label: 'largest first' },
          { id: 'value asc', label: 'smallest first' },
        ]
      : []),
  ]);
  protected readonly sort = computed(() => `${this.asked().sort ?? 'at'} ${this.asked().order ?? 'desc'}`);
  protected readonly viewName = signal('');
  protected readonly write = new Write<LedgerView>();

  constructor() {
    effect(() => {
      const [p, asked] = [this.project(), this.asked()];
      if (!p) return;
      untracked(() => {
        this.typed.set(asked.text ?? '');
        this.open.set(null);
        this.ledger.open(null);
        this.ledger.ask({ project: p.id, asked });
        this.ledger.count({ project: p.id, asked });
      });
    });
    effect((gone) => {
      const p = this.project();
      if (!p) return;
      const asked = forkJoin([this.api.mixes(p.id), this.api.sources(p.id)]).subscribe(([mixes, sources]) => {
        this.mixes.set(mixes.items);
        this.sources.set(sources.items);
      });
      gone(() => asked.unsubscribe());
    });
    effect(() => {
      const [p, by] = [this.project(), this.person()];
      if (p && by !== null) untracked(() => this.ledger.loadViews({ project: p.id, by }));
    });
  }

  private stateOf(row: LedgerRow): VerdictState {
    return this.asked().property && row.state !== 'void' ? (row.result?.verdict ?? 'open') : row.state;
  }

  private line(row: LedgerRow): Line {
    const m = methodById(row.method);
    const results = Object.entries((m?.results ?? {}) as Readonly<Record<string, ResultField>>);
    const first = results.find(([, r]) => r.main)?.[0] ?? results[0]?.[0];
    // What stands for a test is said first where it is not what the test is usually made for.
    const aside = row.result !== null && row.result.id !== first ? m?.results[row.result.id]?.label : undefined;
    const title = `${m?.title ?? row.method}${row.retest ? ', again' : ''}`;
    return {
      row,
      state: this.stateOf(row),
      side: sideOf(row.result),
      time: zonedTime(row.at, this.project()?.timezone),
      title: aside ?? title,
      method: aside === undefined ? '' : title,
      picture: pictureOf(row.method),
      result: row.state === 'void' ? '' : (row.result?.reported ?? ''),
      unit: row.result && row.result.reported !== null && row.state !== 'void' ? unitLabel(row.result.unit) : '',
      told: row.findings.find((f) => f.grade !== 'open' && speaksOf(f, row.method)) ?? null,
    };
  }

  protected asking(changes: Asked): void {
    const next = tidy({ ...this.asked(), ...changes });
    void this.router.navigate([], { relativeTo: this.route, queryParams: next });
  }
  protected without(name: AskedFor): void {
    this.asking({ [name]: '' });
  }
  protected toggle(state: VerdictState): void {
    const now = manyOf(this.asked().state);
    this.asking({ state: (now.includes(state) ? now.filter((s) => s !== state) : [...now, state]).join(',') });
  }
  protected chosen(state: VerdictState): boolean {
    return manyOf(this.asked().state).includes(state);
  }
  protected sortBy(id: string): void {
    const [sort, order] = id.split(' ') as [string, string];
    this.asking({ sort: sort === 'at' ? '' : sort, order: order === 'desc' ? '' : order });
  }
  protected takeWeek(monday: string): void {
    if (this.week() === monday) return this.asking({ from: '', until: '' });
    const from = DateTime.fromISO(monday, { zone: this.zone() });
    this.asking({ from: from.toUTC().toISO() ?? '', until: from.plus({ days: 7 }).toUTC().toISO() ?? '' });
  }
  protected day(name: 'from' | 'until', day: string | null): void {
    const at = day === null ? null : DateTime.fromISO(day, { zone: this.zone() });
    this.asking({ [name]: (name === 'until' ? at?.plus({ days: 1 }) : at)?.toUTC().toISO() ?? '' });
  }
  /** The day that a moment of the address begins, or ends. */
  protected dayOf(name: 'from' | 'until'): string | null {
    const iso = this.asked()[name];
    if (!iso) return null;
    const at = DateTime.fromISO(iso, { zone: this.zone() });
    return (name === 'until' ? at.minus({ milliseconds: 1 }) : at).toISODate();
  }

  private timer: ReturnType<typeof setTimeout> | undefined;
  protected typing(text: string): void {
    this.typed.set(text);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.asking({ text: text.trim() }), 250);
  }

  protected readonly hidden = computed(() => COLUMN_IDS.filter((c) => !this.columns().includes(c)));
  protected but = (c: Column): readonly Column[] => this.columns().filter((one) => one !== c);
  protected choose(columns: readonly string[]): void {
    // In the order in which they stood; new ones come last.
    const kept = this.columns().filter((c) => columns.includes(c));
    this.arrange([...kept, ...columns.filter((c): c is Column => !kept.includes(c as Column))]);
  }
  protected arrange(columns: readonly Column[]): void {
    if (columns.length === 0) return;
    this.columns.set(columns);
    rememberColumns(columns);
  }
  protected move(c: Column, by: -1 | 1): void {
    const all = [...this.columns()];
    const i = all.indexOf(c);
    const j = i + by;
    if (j < 0 || j >= all.length) return;
    [all[i], all[j]] = [all[j]!, all[i]!];
    this.arrange(all);
  }

  protected readonly formats = [
    { id: 'csv', label: 'CSV', says: 'a line for each result, for any spreadsheet' },
    { id: 'xlsx', label: 'Workbook', says: 'the same, with figures as figures' },
    { id: 'json', label: 'JSON', says: 'each test with all that was read' },
  ];
  /** The same that is shown, all of it. */
  protected readonly wholeRecord = computed(() => `/api/v1/records?project=${this.project()?.id ?? ''}`);

  protected exportOf(format: string): string {
    const { sort: _s, order: _o, ...filter } = this.asked();
    return `/api/v1/ledger/export?${new URLSearchParams({ project: this.project()?.id ?? '', ...filter, format }).toString()}`;
  }

  protected look(row: LedgerRow): void {
    this.open.set(row);
    this.ledger.open(row.testId);
  }
  /** Up and down the tests, whatever stands between them. */
  protected walk(by: -1 | 1): void {
    const rows = this.ledger.rows();
    const at = rows.findIndex((r) => r.testId === this.open()?.testId);
    const next = rows[at + by];
    if (next) this.look(next);
  }
  private reached(last: number): void {
    if (last >= this.lines().length - AHEAD) this.ledger.more();
  }

  protected apply(id: string): void {
    const view = this.ledger.views().find((v) => v.id === id);
    if (!view) return;
    this.arrange(view.columns.filter((c): c is Column => Object.hasOwn(COLUMNS, c)));
    void this.router.navigate([], { relativeTo: this.route, queryParams: view.query });
  }
  protected keepView(): void {
    const [by, p, name] = [this.person(), this.project(), this.viewName().trim()];
    if (by === null || !p || name === '') return;
    const id = newId();
    const body = { id, by, projectId: p.id, name, query: this.asked(), columns: this.columns() };
    this.write.send({ id, itemId: p.id, opens: '/ledger', kind: 'view', path: '/ledger/views', body }, () => {
      this.write.busy.set(false);
      this.viewName.set('');
      this.ledger.loadViews({ project: p.id, by });
    });
  }
  protected dropView(viewId: string): void {
    const [by, p] = [this.person(), this.project()];
    if (by === null || !p) return;
    const id = newId();
    this.write.send(
      { id, itemId: p.id, opens: '/ledger', kind: 'view-removal', path: `/ledger/views/${viewId}/removal`, body: { id, by } },
      () => {
        this.write.busy.set(false);
        this.ledger.loadViews({ project: p.id, by });
      },
    );
  }
}
