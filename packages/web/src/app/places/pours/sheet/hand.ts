import { computed, untracked, type Signal } from '@angular/core';
import { inForce, type Reading, type Sample } from '@keen-mortar/contract';
import {
  asksForAnother,
  keyedFields,
  offerWords,
  unitLabel,
  type Exchange,
  type Field,
  type Issue,
  type PickField,
  type QtyField,
  type UnitId,
} from '@keen-mortar/core';
import type { Store } from '@ngrx/store';
import type { Draft, DraftEntry } from '../../../device/device-db';
import { elapsed } from '../../../parts/when';
import { session } from '../../../state/session';
import { keepCommands } from './keep';
import { SheetActions } from './sheet.state';
import { blankDraft, type Row } from './sheet.view';

/** A field as the test in hand shows it. */
export interface Shown {
  readonly id: string;
  readonly field: Field;
  readonly kept: Reading | null;
  readonly entry: DraftEntry | null;
  /** Earlier readings of the field, oldest first: a correction keeps what it corrects. */
  readonly before: readonly Reading[];
  readonly issues: readonly Issue[];
}

/** Fields that describe what went wrong or what was done to the sample: out of the way until wanted. */
const isAside = (field: Field): boolean => field.kind === 'pick' && field.optional === true;

/** Shorter is no reason. */
const SHORTEST_REASON = 3;

/** The test in hand: what it asks for, what was keyed, what stands in the way of keeping it, and what is done to it. */
export class Hand {
  private readonly person: Signal<string | null>;
  private readonly offset: Signal<number>;

  constructor(
    private readonly store: Store,
    private readonly row: Signal<Row>,
    private readonly sample: Signal<Sample>,
    private readonly now: Signal<number>,
  ) {
    this.person = store.selectSignal(session.selectPersonId);
    this.offset = store.selectSignal(session.selectOffset);
  }

  readonly draft = computed(() => this.row().draft);
  readonly locked = computed(() => this.draft()?.state === 'keeping');
  readonly setup = computed(() => this.draft() ?? this.row().test ?? this.blank());
  private readonly blank = computed(() =>
    blankDraft(this.sample(), this.row().method, () => crypto.randomUUID(), new Date(untracked(this.now)).toISOString()),
  );
  readonly fields = computed((): Shown[] => {
    const { method, test, evaluation } = this.row();
    const current = inForce(test?.readings ?? []);
    const entries = (this.draft() ?? (test ? null : this.blank()))?.entries ?? {};
    return keyedFields(method, this.setup().variant).map(([id, field]) => ({
      id,
      field,
      kept: current.get(id) ?? null,
      entry: entries[id] ?? null,
      before: (test?.readings ?? []).filter((r) => r.field === id && r.id !== current.get(id)?.id),
      issues: evaluation.issues.filter((issue) => issue.path === id),
    }));
  });
  /** A field that was never needed is not asked for again once the test is kept. */
  private readonly usualFields = computed(() =>
    this.fields().filter(
      (f) =>
        !isAside(f.field) &&
        !(this.row().test?.kept && f.kept === null && f.entry === null && !this.row().evaluation.missing.includes(f.id)),
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
        (f.kept === null || f.entry.text.trim() !== f.kept.text || f.entry.unit !== f.kept.unit),
    );
  });
  /** What stands in the way of keeping, in words; null when nothing does. */
  readonly blocked = computed((): string | null => {
    const draft = this.draft();
    if (!draft || this.changed().length === 0) return 'Nothing to keep yet';
    if (draft.startedAt === null && !draft.exists) return 'Nothing was keyed yet';
    const impossible = this.row().evaluation.issues.find((i) => i.severity === 'impossible');
    if (impossible) return 'A reading is impossible: see the field';
    const [silent] = this.why().trim().length < SHORTEST_REASON ? this.unexplained() : [];
    if (silent) return `${silent.field.label} needs a reason`;
    return null;
  });
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

  /** Whether its stopwatch runs. */
  times(f: Shown): boolean {
    return this.draft()?.watches[f.id] !== undefined;
  }

  text(f: Shown): string {
    const watch = this.draft()?.watches[f.id];
    if (watch !== undefined) return elapsed(this.now() - watch);
    return f.entry?.text ?? f.kept?.text ?? '';
  }

  unit(f: Shown): UnitId {
    return f.entry?.unit ?? f.kept?.unit ?? asQty(f.field).units[this.setup().system];
  }

  editable(f: Shown): boolean {
    return !this.locked() && (f.kept === null || f.entry !== null);
  }

  needsReason(f: Shown): boolean {
    if (!f.entry || f.entry.text.trim() === '') return false;
    const corrects = f.kept !== null && (f.entry.text.trim() !== f.kept.text || f.entry.unit !== f.kept.unit);
    return corrects || (f.kept === null && f.issues.some((i) => i.severity === 'implausible'));
  }

  exchangeWords = (issues: readonly Issue[]): string =>
    issues.flatMap((issue) => (issue.exchange ? [offerWords(this.row().method, { exchange: issue.exchange }) ?? ''] : []))[0] ?? '';

  /** Two readings in each other’s place: both are keyed anew. */
  exchange([one, other]: Exchange): void {
    const [a, b] = [one, other].map((id) => this.fields().find((f) => f.id === id));
    if (!a || !b) return;
    const [first, second] = [a, b].map((f) => ({ text: this.text(f), unit: this.unit(f) })) as [
      { text: string; unit: UnitId },
      { text: string; unit: UnitId },
    ];
    this.key(a, second.text, second.unit);
    this.key(b, first.text, first.unit);
  }

  private nowIso(): string {
    return new Date(Date.now() + this.offset()).toISOString();
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
          retestOf: test.retestOf,
          startedAt: test.startedAt,
          exists: true,
          entries: {},
          watches: {},
          state: 'open',
          problem: null,
        }
      : { ...this.blank(), testId: crypto.randomUUID() };
    this.store.dispatch(SheetActions.draftBegun({ draft }));
    return draft;
  }

  key(f: Shown, text: string, unit: UnitId | null): void {
    if (this.locked()) return;
    const { testId } = this.ensureDraft();
    this.store.dispatch(SheetActions.keyed({ testId, field: f.id, text, unit, at: this.nowIso(), reading: crypto.randomUUID() }));
  }

  /** One reason stands for everything in this draft that needs one. */
  reason(reason: string): void {
    const { testId } = this.ensureDraft();
    for (const { id } of this.unexplained()) this.store.dispatch(SheetActions.reasoned({ testId, field: id, reason }));
  }

  set(change: Partial<Pick<Draft, 'variant' | 'variantReason' | 'equipmentId'>>): void {
    if (this.row().test) return;
    this.store.dispatch(SheetActions.draftSet({ testId: this.ensureDraft().testId, change }));
  }

  /** When it was started, for a test that is keyed after it was made. */
  setStarted(startedAt: string | null): void {
    if (startedAt === null || this.row().test) return;
    this.store.dispatch(SheetActions.draftSet({ testId: this.ensureDraft().testId, change: { startedAt } }));
  }

  timed(f: Shown): void {
    const { testId, watches } = this.ensureDraft();
    const started = watches[f.id];
    const now = Date.now() + this.offset();
    if (started === undefined) {
      this.store.dispatch(SheetActions.watchStarted({ testId, field: f.id, at: now }));
      return;
    }
    this.store.dispatch(SheetActions.watchStopped({ testId, field: f.id }));
    this.store.dispatch(
      SheetActions.keyed({ testId, field: f.id, text: elapsed(now - started), unit: 's', at: this.nowIso(), reading: crypto.randomUUID() }),
    );
  }

  keep(): void {
    const [draft, by] = [this.draft(), this.person()];
    if (!draft || by === null || this.blocked() !== null || this.locked()) return;
    const changes = this.changed().flatMap((f) => {
      if (!f.entry) return [];
      const entry = this.needsReason(f) ? { ...f.entry, reason: this.why() } : f.entry;
      return [{ field: f.id, entry, kept: f.kept }];
    });
    const commands = keepCommands({
      draft,
      changes,
      evaluation: this.row().evaluation,
      by,
      startedAt: draft.startedAt ?? this.nowIso(),
      order: Date.now(),
      id: crypto.randomUUID(),
    });
    this.store.dispatch(SheetActions.queued({ commands, keeping: draft.testId }));
  }

  correct(f: Shown): void {
    const { test } = this.row();
    if (!f.kept || !test) return;
    const draft = this.ensureDraft();
    const entry: DraftEntry = { text: f.kept.text, unit: f.kept.unit, at: this.nowIso(), reading: crypto.randomUUID() };
    this.store.dispatch(SheetActions.correctionBegun({ draft, field: f.id, entry }));
  }

  drop(): void {
    const draft = this.draft();
    if (draft) this.store.dispatch(SheetActions.draftDropped({ testId: draft.testId }));
  }

  repeat(): void {
    const { test, method } = this.row();
    if (!test) return;
    const draft = blankDraft(this.sample(), method, () => crypto.randomUUID(), this.nowIso(), test);
    this.store.dispatch(SheetActions.draftBegun({ draft }));
  }
}

const TURNS = { repeat: 'repeat', check: 'check test', third: 'third test' } as const;

/** A repeat of a void test, or a check of one that is out: not the same. */
export const titleOf = (row: Row): string => {
  if (row.retestOf === null) return row.method.title;
  return `${row.method.title}, ${TURNS[row.as ?? 'check']}`;
};

export const asQty = (field: Field): QtyField => field as QtyField;
export const asPick = (field: Field): PickField => field as PickField;
