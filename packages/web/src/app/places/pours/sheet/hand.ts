import { LEAST_REASON } from '../../../test/reason';
import { computed, untracked, type Signal } from '@angular/core';
import { dayIn, inForce, type InForce, type Sample } from '@keen-mortar/contract';
import { asksForAnother, keyedFields, kitMarks, unitLabel, type Exchange, type Field, type Kit, type UnitId } from '@keen-mortar/core';
import type { Store } from '@ngrx/store';
import { newId } from '../../../device/ids';
import type { Clock } from '../../../device/clock';
import type { Draft, DraftEntry } from '../../../device/device-db';
import { elapsed, zonedTime } from '../../../parts/when';
import { nameOf, session } from '../../../state/session';
import { issuesAt } from '../../../test/form/columns';
import type { Kept, ShownField, TestForm } from '../../../test/form/test-form';
import { paperFault, type PaperTimes } from '../../../test/paper';
import { kitTaken, type TakenKit } from '../../../test/sound-kit';
import { keepCommands } from './keep';
import { SheetActions } from './sheet.state';
import { blankDraft, type Row } from './sheet.view';

/** A field of the test in hand: what is on record of it, and what is being keyed. */
export interface Shown extends ShownField {
  readonly reading: InForce | null;
  readonly entry: DraftEntry | null;
}

/** Fields that describe what went wrong or what was done to the sample: out of the way until wanted. */
const isAside = (field: Field): boolean => field.kind === 'pick' && field.optional === true;

/** Whether two say the same: as they are, or in what they hold. */
const alike = <T extends object>(before: T | undefined, now: T): boolean =>
  before !== undefined &&
  (Object.keys(now) as (keyof T)[]).every((key) => before[key] === now[key] || JSON.stringify(before[key]) === JSON.stringify(now[key]));

/** What was kept was explained when it was kept. */
const NONE: Shown['issues'] = [];

/** The test in hand: what it asks for, what was keyed, what stands in the way of keeping it, and what is done to it. */
export class Hand implements TestForm {
  readonly prefix = 'reading';
  readonly seenFirst = true;
  private readonly nameOf: Signal<(id: string) => string>;
  private readonly person: Signal<string | null>;

  constructor(
    private readonly store: Store,
    private readonly row: Signal<Row>,
    private readonly sample: Signal<Sample>,
    private readonly now: Signal<number>,
    private readonly clock: Clock,
  ) {
    this.nameOf = store.selectSignal(nameOf);
    this.person = store.selectSignal(session.selectPersonId);
  }

  readonly draft = computed(() => this.row().draft);
  readonly locked = computed(() => this.draft()?.state === 'keeping');
  readonly setup = computed(() => this.draft() ?? this.row().test ?? this.blank());
  private readonly blank = computed(() => blankDraft(this.sample(), this.row().method, newId, new Date(untracked(this.now)).toISOString()));
  private drawn: ReadonlyMap<string, Shown> = new Map();
  readonly fields = computed((): Shown[] => {
    const { method, test, evaluation } = this.row();
    const current = inForce(test?.readings ?? []);
    const entries = (this.draft() ?? (test ? null : this.blank()))?.entries ?? {};
    const hints = (method.hints?.(evaluation.params, evaluation.system) ?? {}) as Readonly<Record<string, string>>;
    const fields = keyedFields(method, this.setup().variant).map(([id, field]) => {
      const [reading, entry, watch] = [current.get(id) ?? null, entries[id] ?? null, this.draft()?.watches[id]];
      const usual = field.kind === 'pick' ? (field.usual ?? '') : '';
      return {
        id,
        field,
        hint: hints[id] ?? field.hint,
        issues: test && !this.draft() ? NONE : issuesAt(evaluation.issues, id),
        text: watch === undefined ? (entry?.text ?? reading?.text ?? usual) : elapsed(this.now() - watch),
        unit: entry?.unit ?? reading?.unit ?? (field.kind === 'qty' ? field.units[this.setup().system] : '1'),
        running: watch !== undefined,
        editable: !this.locked() && (reading === null || entry !== null),
        kept: reading && this.keptOf(field, reading),
        before: (test?.readings ?? [])
          .filter((r): r is InForce => r.field === id && r.id !== reading?.id && r.text !== null)
          .map((r) => this.keptOf(field, r)),
        reading,
        entry,
      };
    });
    // What a key into another field leaves as it was is not drawn again.
    const same = fields.map((f) => (alike(this.drawn.get(f.id), f) ? this.drawn.get(f.id)! : f));
    this.drawn = new Map(same.map((f) => [f.id, f]));
    return same;
  });
  /** A field that was never needed is not asked for again once the test is kept. */
  private readonly usualFields = computed(() =>
    this.fields().filter(
      (f) =>
        !isAside(f.field) &&
        !(this.row().test?.kept && f.reading === null && f.entry === null && !this.row().evaluation.missing.includes(f.id)),
    ),
  );
  /** In the order in which they are keyed: the seldom ones last. */
  readonly main = computed(() => [...this.usualFields().filter((f) => !f.field.minor), ...this.usualFields().filter((f) => f.field.minor)]);
  readonly aside = computed(() => this.fields().filter((f) => isAside(f.field)));
  /** Fields of this draft that are not kept without a reason. */
  readonly unexplained = computed(() => this.fields().filter((f) => this.needsReason(f)));
  /** The one reason that stands for all of them. */
  readonly why = computed(
    () =>
      this.unexplained()
        .map((f) => f.entry?.reason ?? '')
        .find((reason) => reason !== '') ?? '',
  );
  readonly changed = computed(() => {
    const draft = this.draft();
    if (!draft) return [];
    return this.fields().filter(
      (f) =>
        f.entry !== null &&
        f.entry.text.trim() !== '' &&
        (f.reading === null || f.entry.text.trim() !== f.reading.text || f.entry.unit !== f.reading.unit),
    );
  });
  /** What stands in the way of keeping, in words; null when nothing does. */
  readonly blocked = computed((): string | null => {
    const draft = this.draft();
    if (!draft || this.changed().length === 0) return 'Nothing to keep yet';
    if (draft.startedAt === null && !draft.exists) return 'Nothing was keyed yet';
    const impossible = this.row().evaluation.issues.find((i) => i.severity === 'impossible');
    if (impossible) return 'A reading is impossible: see the field';
    const [silent] = this.why().trim().length < LEAST_REASON ? this.unexplained() : [];
    if (silent) return `${silent.field.label} needs a reason`;
    if (paperFault(this.paper()) !== '') return 'Read before it was started';
    if (this.doubtful() && draft.kitReason.trim().length < LEAST_REASON) return `Say why ${this.doubtful()!.name} is used`;
    return null;
  });
  /** What it is made with. */
  readonly taken = computed(
    (): TakenKit => {
      const setup = this.row().test ?? this.setup();
      return { equipmentId: setup.equipmentId, alsoIds: 'also' in setup ? setup.also.map((k) => k.id) : setup.alsoIds };
    },
    { equal: alike },
  );
  /** Equipment that something speaks against, of a test that is not begun on record yet. */
  readonly doubtful = computed((): Kit | null => {
    if (this.row().test) return null;
    const day = dayIn(this.sample().project.timezone, this.setup().startedAt ?? this.nowIso());
    return kitTaken(this.sample().kit, this.taken()).find((k) => kitMarks(k, day).length > 0) ?? null;
  });
  /** The times of a field sheet that is keyed afterwards. */
  readonly paper = computed((): PaperTimes | null => {
    const draft = this.draft();
    return draft?.readAt ? { started: draft.startedAt ?? draft.readAt, read: draft.readAt } : null;
  });
  onPaper(times: PaperTimes | null): void {
    if (this.locked()) return;
    const { testId, exists } = this.ensureDraft();
    const change = { readAt: times?.read ?? null, ...(times && !exists ? { startedAt: times.started } : {}) };
    this.store.dispatch(SheetActions.draftSet({ testId, change }));
  }
  readonly keepLabel = computed(() => {
    const head = this.row().evaluation.results.find((r) => this.row().method.results[r.id]?.main && r.reported !== null);
    if (this.row().test?.kept) return 'Keep the correction';
    if (this.row().evaluation.validity.state === 'void') return 'Keep as void';
    return head?.reported ? `Keep ${head.reported} ${unitLabel(head.unit)}`.trim() : 'Keep what is here';
  });
  readonly canRepeat = computed(
    () =>
      this.row().test?.kept !== null &&
      this.row().test !== null &&
      !this.row().hasRepeat &&
      this.draft() === null &&
      asksForAnother(this.row()),
  );

  private keptOf(field: Field, r: InForce): Kept {
    const says = field.kind === 'pick' ? (field.options[r.text] ?? r.text) : `${r.text} ${r.unit === null ? '' : unitLabel(r.unit)}`.trim();
    const from = r.device === 'hand' ? '' : `, from ${r.device}`;
    const told = `${this.nameOf()(r.by)}, ${zonedTime(r.at, this.sample().project.timezone)}${from}${r.reason ? `: ${r.reason}` : ''}`;
    return { id: r.id, says, told };
  }

  fieldOf(id: string): Shown | undefined {
    return this.fields().find((f) => f.id === id);
  }

  needsReason(f: Shown): boolean {
    if (!f.entry || f.entry.text.trim() === '') return false;
    const corrects = f.reading !== null && (f.entry.text.trim() !== f.reading.text || f.entry.unit !== f.reading.unit);
    return corrects || (f.reading === null && f.issues.some((i) => i.severity === 'implausible'));
  }

  /** Two readings in each other’s place: both are keyed anew. */
  exchange([one, other]: Exchange): void {
    const [a, b] = [this.fieldOf(one), this.fieldOf(other)];
    if (!a || !b) return;
    this.key(one, b.text, b.unit);
    this.key(other, a.text, a.unit);
  }

  private nowIso(): string {
    return this.clock.iso();
  }

  /** The draft of the row: made when the first thing is keyed. */
  private ensureDraft(): Draft {
    const have = this.draft();
    if (have) return have;
    const { test } = this.row();
    const draft: Draft = test
      ? {
          testId: test.id,
          sampleId: this.sample().id,
          method: test.method,
          variant: test.variant,
          variantReason: test.variantReason,
          system: test.system,
          equipmentId: test.equipmentId,
          alsoIds: test.also.map((k) => k.id),
          kitReason: test.kitReason ?? '',
          retestOf: test.retestOf,
          startedAt: test.startedAt,
          readAt: null,
          exists: true,
          entries: {},
          watches: {},
          state: 'open',
          problem: null,
        }
      : { ...this.blank(), testId: newId() };
    this.store.dispatch(SheetActions.draftBegun({ draft }));
    return draft;
  }

  /** @param device the instrument that shows it; keyed by hand without one */
  key(field: string, text: string, unit: UnitId | null, device?: string): void {
    if (this.locked()) return;
    const { testId } = this.ensureDraft();
    this.store.dispatch(
      SheetActions.keyed({ testId, field, text, unit, at: this.nowIso(), reading: newId(), ...(device ? { device } : {}) }),
    );
  }

  /** One reason stands for everything in this draft that needs one. */
  reason(reason: string): void {
    const { testId } = this.ensureDraft();
    for (const { id } of this.unexplained()) this.store.dispatch(SheetActions.reasoned({ testId, field: id, reason }));
  }

  set(change: Partial<Pick<Draft, 'variant' | 'variantReason' | 'equipmentId' | 'alsoIds' | 'kitReason'>>): void {
    if (this.row().test) return;
    this.store.dispatch(SheetActions.draftSet({ testId: this.ensureDraft().testId, change }));
  }

  /** When it was started, for a test that is keyed after it was made. */
  setStarted(startedAt: string | null): void {
    if (startedAt === null || this.row().test) return;
    this.store.dispatch(SheetActions.draftSet({ testId: this.ensureDraft().testId, change: { startedAt } }));
  }

  timed(field: string): void {
    const { testId, watches } = this.ensureDraft();
    const started = watches[field];
    const now = this.clock.now();
    if (started === undefined) {
      this.store.dispatch(SheetActions.watchStarted({ testId, field, at: now }));
      return;
    }
    this.store.dispatch(SheetActions.watchStopped({ testId, field }));
    this.key(field, elapsed(now - started), 's');
  }

  keep(): void {
    const [draft, by] = [this.draft(), this.person()];
    if (!draft || by === null || this.blocked() !== null || this.locked()) return;
    const changes = this.changed().flatMap((f) => {
      if (!f.entry) return [];
      const entry = this.needsReason(f) ? { ...f.entry, reason: this.why() } : f.entry;
      return [{ field: f.id, entry, kept: f.reading }];
    });
    const commands = keepCommands({
      draft,
      changes,
      evaluation: this.row().evaluation,
      by,
      startedAt: draft.startedAt ?? this.nowIso(),
      order: Date.now(),
      id: newId(),
    });
    this.store.dispatch(SheetActions.queued({ commands, keeping: draft.testId }));
  }

  /** What was kept comes back into the field that it was read from. */
  correct(field: string): void {
    const [test, kept] = [this.row().test, this.fieldOf(field)?.reading];
    if (!kept || !test) return;
    const draft = this.ensureDraft();
    const entry: DraftEntry = { text: kept.text, unit: kept.unit, at: this.nowIso(), reading: newId() };
    this.store.dispatch(SheetActions.correctionBegun({ draft, field, entry }));
  }

  drop(): void {
    const draft = this.draft();
    if (draft) this.store.dispatch(SheetActions.draftDropped({ testId: draft.testId }));
  }

  repeat(): void {
    const { test, method } = this.row();
    if (!test) return;
    const draft = blankDraft(this.sample(), method, newId, this.nowIso(), test);
    this.store.dispatch(SheetActions.draftBegun({ draft }));
  }
}

const TURNS = { repeat: 'repeat', check: 'check test', third: 'third test' } as const;

/** A repeat of a void test, or a check of one that is out: not the same. */
export const titleOf = (row: Row): string => {
  if (row.retestOf === null) return row.method.title;
  return `${row.method.title}, ${TURNS[row.as ?? 'check']}`;
};
