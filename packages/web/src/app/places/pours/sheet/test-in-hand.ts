import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChildren,
  viewChild,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { inForce, type Reading, type Sample } from '@keen-mortar/contract';
import {
  asksForAnother,
  keyedFields,
  nextStep,
  offerWords,
  pairWords,
  say,
  unitLabel,
  unitsFor,
  type Exchange,
  type Field,
  type Issue,
  type PickField,
  type QtyField,
  type UnitId,
  type Variant,
  type Parameters,
} from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import type { Draft, DraftEntry } from '../../../device/device-db';
import { afterKey, Keypad, type Key } from '../../../parts/keypad';
import { ReadingField } from '../../../parts/reading-field';
import { SlumpShape } from '../../../parts/slump-shape';
import { SpecBand } from '../../../parts/spec-band';
import { elapsed, zonedTime } from '../../../parts/when';
import { nameOf, session } from '../../../state/session';
import { keepCommands } from './keep';
import { SheetActions } from './sheet.state';
import { ToldList } from '../../../parts/told';
import { blankDraft, consolidation, next, toldOf, type Row } from './sheet.view';

interface Shown {
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

/** The test in hand: its readings large, the answer moving while they are keyed, what is next and why. */
@Component({
  selector: 'km-test-in-hand',
  imports: [FormsModule, ReadingField, SpecBand, Keypad, SlumpShape, ToldList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './test-in-hand.html',
  styleUrl: './test-in-hand.css',
})
export class TestInHand {
  private readonly store = inject(Store);
  readonly row = input.required<Row>();
  readonly sample = input.required<Sample>();
  readonly now = input.required<number>();
  readonly keyedBy = input<string | null>(null);

  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly offset = this.store.selectSignal(session.selectOffset);
  protected readonly nameOf = this.store.selectSignal(nameOf);
  protected readonly consolidation = this.store.selectSignal(consolidation);
  protected readonly then = this.store.selectSignal(next);
  protected readonly asideOpen = signal(false);
  protected readonly keypad = signal(false);
  protected readonly inHand = signal<string | null>(null);
  private readonly boxes = viewChildren(ReadingField);
  private readonly keepButton = viewChild<ElementRef<HTMLButtonElement>>('keepButton');

  protected readonly draft = computed(() => this.row().draft);
  protected readonly locked = computed(() => this.draft()?.state === 'keeping');
  protected readonly setup = computed(() => this.draft() ?? this.row().test ?? this.blank());
  private readonly blank = computed(() =>
    blankDraft(this.sample(), this.row().method, () => crypto.randomUUID(), new Date(untracked(this.now)).toISOString()),
  );

  protected readonly variants = computed(() =>
    Object.entries(this.row().method.variants as Readonly<Record<string, Variant<Parameters>>>).map(([id, v]) => ({ id, label: v.label })),
  );
  protected readonly kit = computed(() => {
    const { kit: kind } = this.row().method;
    return kind === undefined ? [] : this.sample().kit.filter((k) => k.kind === kind);
  });
  private readonly hints = computed((): Readonly<Record<string, string>> => {
    const { method, evaluation } = this.row();
    return (method.hints?.(evaluation.params, evaluation.system) ?? {}) as Record<string, string>;
  });

  protected readonly fields = computed((): Shown[] => {
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
  protected readonly main = computed(() => [
    ...this.usualFields().filter((f) => !f.field.minor),
    ...this.usualFields().filter((f) => f.field.minor),
  ]);
  protected readonly aside = computed(() => this.fields().filter((f) => isAside(f.field)));
  protected readonly asideSet = computed(() =>
    this.aside().some((f) => (f.entry?.text ?? f.kept?.text ?? asPick(f.field).usual) !== asPick(f.field).usual),
  );
  protected readonly bands = computed(() => {
    const { verdicts, evaluation, method } = this.row();
    return verdicts
      .filter((v) => v.limit !== undefined || method.results[v.result]?.main)
      .flatMap((verdict) => {
        const result = evaluation.results.find((r) => r.id === verdict.result);
        return result ? [{ verdict, result }] : [];
      });
  });
  protected readonly others = computed(() => {
    const shown = new Set(this.bands().map((b) => b.result.id));
    return this.row()
      .evaluation.results.filter((r) => !shown.has(r.id) && r.reported !== null)
      .map((r) => ({ label: r.label, value: `${r.reported} ${unitLabel(r.unit)}`.trim() }));
  });

  /** Why and what next, from the core: what is void or marked, what is out, with the specification's own words first. */
  protected readonly told = computed(() => {
    const fields = new Set(this.fields().map((f) => f.id));
    return toldOf(this.row()).filter((t) => t.kind !== 'note' && t.code !== 'edge' && !(t.path !== undefined && fields.has(t.path)));
  });
  protected readonly pair = computed(() => {
    const { pair, apart } = this.row();
    return pair ? pairWords(pair, apart) : null;
  });
  protected readonly title = computed(() => titleOf(this.row()));

  protected readonly changed = computed(() => {
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
  protected readonly blocked = computed((): string | null => {
    const draft = this.draft();
    if (!draft || this.changed().length === 0) return 'Nothing to keep yet';
    if (draft.startedAt === null && !draft.exists) return 'Nothing was keyed yet';
    const impossible = this.row().evaluation.issues.find((i) => i.severity === 'impossible');
    if (impossible) return 'A reading is impossible: see the field';
    const silent = this.fields().find((f) => f.entry && this.needsReason(f) && (f.entry.reason ?? '').trim().length < 3);
    if (silent) return `${silent.field.label} needs a reason`;
    return null;
  });
  protected readonly keepLabel = computed(() => {
    const head = this.row().evaluation.results.find((r) => this.row().method.results[r.id]?.main && r.reported !== null);
    if (this.row().test?.kept) return 'Keep the correction';
    if (this.row().evaluation.validity.state === 'void') return 'Keep as void';
    return head?.reported ? `Keep ${head.reported} ${unitLabel(head.unit)}`.trim() : 'Keep what is here';
  });
  protected readonly canRepeat = computed(
    () =>
      this.row().test?.kept !== null &&
      this.row().test !== null &&
      !this.row().hasRepeat &&
      this.draft() === null &&
      asksForAnother(this.row()),
  );

  constructor() {
    // Another test comes into hand: its first empty reading takes the focus.
    let last = '';
    effect(() => {
      const key = this.row().key;
      const boxes = this.boxes();
      untracked(() => {
        if (key === last || boxes.length === 0) return;
        // A row that turns from blank to draft to kept is the same test still in hand.
        const sameTest = last.startsWith('new:') && this.draft() !== null;
        last = key;
        this.asideOpen.set(this.asideSet());
        if (!sameTest) this.inHand.set(null);
      });
    });
  }

  protected hint(id: string): string | undefined {
    const hint = this.hints()[id];
    return hint ?? this.fields().find((f) => f.id === id)?.field.hint;
  }

  protected text(f: Shown): string {
    const watch = this.draft()?.watches[f.id];
    if (watch !== undefined) return elapsed(this.now() - watch);
    return f.entry?.text ?? f.kept?.text ?? '';
  }

  protected unit(f: Shown): UnitId {
    return f.entry?.unit ?? f.kept?.unit ?? asQty(f.field).units[this.setup().system];
  }

  protected readonly asQty = asQty;
  protected readonly asPick = asPick;
  protected options(field: Field): { id: string; label: string }[] {
    return Object.entries(asPick(field).options).map(([id, label]) => ({ id, label }));
  }

  protected editable(f: Shown): boolean {
    return !this.locked() && (f.kept === null || f.entry !== null);
  }

  protected needsReason(f: Shown): boolean {
    if (!f.entry || f.entry.text.trim() === '') return false;
    const corrects = f.kept !== null && (f.entry.text.trim() !== f.kept.text || f.entry.unit !== f.kept.unit);
    return corrects || (f.kept === null && f.issues.some((i) => i.severity === 'implausible'));
  }

  protected unitText = (unit: UnitId | null): string => (unit === null ? '' : unitLabel(unit));
  protected time = (iso: string): string => zonedTime(iso, this.sample().project.timezone);
  protected sentence = (issue: Issue): string =>
    [say(issue.code, issue.params), nextStep(issue.code, issue.params)].filter(Boolean).join(' ');

  protected exchangeWords = (issues: readonly Issue[]): string =>
    issues.flatMap((issue) => (issue.exchange ? [offerWords(this.row().method, { exchange: issue.exchange }) ?? ''] : []))[0] ?? '';

  /** Two readings in each other’s place: both are keyed anew. */
  protected exchange([one, other]: Exchange): void {
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

  protected key(f: Shown, text: string, unit: UnitId | null): void {
    if (this.locked()) return;
    const { testId } = this.ensureDraft();
    this.store.dispatch(SheetActions.keyed({ testId, field: f.id, text, unit, at: this.nowIso(), reading: crypto.randomUUID() }));
  }

  protected reason(f: Shown, reason: string): void {
    this.store.dispatch(SheetActions.reasoned({ testId: this.ensureDraft().testId, field: f.id, reason }));
  }

  protected set(change: Partial<Pick<Draft, 'variant' | 'variantReason' | 'equipmentId'>>): void {
    if (this.row().test) return;
    this.store.dispatch(SheetActions.draftSet({ testId: this.ensureDraft().testId, change }));
  }

  /** `hh:mm:ss` of today, in the device's zone: for a test that is keyed after it was made. */
  protected startedText(): string {
    const at = this.setup().startedAt;
    return at ? new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', second: '2-digit' }).format(new Date(at)) : '';
  }

  protected setStarted(text: string): void {
    const match = /^(\d{2}):(\d{2})(?::(\d{2}))?$/.exec(text);
    if (!match || this.row().test) return;
    const at = new Date(Date.now() + this.offset());
    at.setHours(Number(match[1]), Number(match[2]), Number(match[3] ?? 0), 0);
    this.store.dispatch(SheetActions.draftSet({ testId: this.ensureDraft().testId, change: { startedAt: at.toISOString() } }));
  }

  protected timed(f: Shown): void {
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

  protected pressed(key: Key): void {
    const f =
      this.main().find((shown) => shown.id === this.inHand()) ??
      this.main().find((shown) => shown.field.kind === 'qty' && this.editable(shown));
    if (!f || f.field.kind !== 'qty' || !this.editable(f)) return;
    if (this.inHand() !== f.id) this.inHand.set(f.id);
    if (key === 'next') this.goOn(f.id);
    else if (key === 'unit') {
      const units = unitsFor(f.field);
      this.key(f, this.text(f), units[(units.indexOf(this.unit(f)) + 1) % units.length] ?? this.unit(f));
    } else this.key(f, afterKey(f.entry?.text ?? '', key), this.unit(f));
  }

  /** Enter: on to the next reading that is empty, then to the keep. */
  protected goOn(id: string): void {
    const order = this.main().filter((f) => f.field.kind === 'qty' && this.editable(f));
    const after = order.slice(order.findIndex((f) => f.id === id) + 1);
    const target = after.find((f) => this.text(f) === '' && !f.field.minor);
    const box = target && this.boxes().find((b) => b.inputId() === this.inputId(target.id));
    if (box) box.focus();
    else this.keepButton()?.nativeElement.focus();
  }

  protected inputId(field: string): string {
    return `reading-${field}`;
  }

  protected keep(): void {
    const [draft, by] = [this.draft(), this.person()];
    if (!draft || by === null || this.blocked() !== null || this.locked()) return;
    const changes = this.changed().flatMap(({ id: field, entry, kept }) => (entry ? [{ field, entry, kept }] : []));
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

  protected correct(f: Shown): void {
    const { test } = this.row();
    if (!f.kept || !test) return;
    const draft = this.ensureDraft();
    const entry: DraftEntry = { text: f.kept.text, unit: f.kept.unit, at: this.nowIso(), reading: crypto.randomUUID() };
    this.store.dispatch(SheetActions.correctionBegun({ draft, field: f.id, entry }));
    this.inHand.set(f.id);
    setTimeout(() =>
      this.boxes()
        .find((b) => b.inputId() === this.inputId(f.id))
        ?.focus(),
    );
  }

  protected drop(): void {
    const draft = this.draft();
    if (draft) this.store.dispatch(SheetActions.draftDropped({ testId: draft.testId }));
  }

  protected repeat(): void {
    const { test, method } = this.row();
    if (!test) return;
    const draft = blankDraft(this.sample(), method, () => crypto.randomUUID(), this.nowIso(), test);
    this.store.dispatch(SheetActions.draftBegun({ draft }));
  }

  /** What the consolidation method says for the measure, before it is filled. */
  protected readonly consolidateWords = computed(() => {
    const c = this.consolidation();
    const order = this.row().method.work?.order;
    if (!c || this.row().test || order === undefined || order < 3) return null;
    return c.words;
  });
}

const TURNS = { repeat: 'repeat', check: 'check test', third: 'third test' } as const;

/** A repeat of a void test, or a check of one that is out: not the same. */
export const titleOf = (row: Row): string => {
  if (row.retestOf === null) return row.method.title;
  return `${row.method.title}, ${TURNS[row.as ?? 'check']}`;
};

const asQty = (field: Field): QtyField => field as QtyField;
const asPick = (field: Field): PickField => field as PickField;
