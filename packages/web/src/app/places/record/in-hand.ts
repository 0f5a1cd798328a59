import { NgComponentOutlet } from '@angular/common';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  Injector,
  input,
  output,
  signal,
  untracked,
  viewChild,
  viewChildren,
  type Type,
} from '@angular/core';
import { entriesOf, type GivenTo, type Reading, type Specification, type TracePoint } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import {
  assemble,
  judgeAll,
  methodById,
  stepsFor,
  takenInputs,
  usualInputs,
  USUAL_CORRECTIONS,
  USUAL_EXPLANATIONS,
  type AnyInputs,
  type AnyMethod,
  type Shape,
  type Sources,
  type System,
} from '@keen-mortar/core';
import { RouterLink } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { newId } from '../../device/ids';
import { Device } from '../../device/device';
import { Form } from '../../test/form/form';
import { keyedAt } from '../../test/form/inputs';
import { FormKeypad } from '../../test/form/form-keypad';
import type { RowsForm, ShownField } from '../../test/form/test-form';
import { Plate, type Taken } from '../../test/plate';
import { LEAST_REASON, Reason } from '../../test/reason';
import { SpecBand } from '../../test/spec-band';
import { Choice } from '../../ui/choice';
import { keysElsewhere } from '../../ui/keyed-box';
import { Notice } from '../../ui/notice';
import { Answers } from '../../test/answers';
import { PANELS } from '../../test/panels';
import { ComputationStore, type OwnByVariant } from '../../test/computation.store';
import { changesOf, corrects, ROW, type Sent } from './changes';
import { HeldPlate } from './held-plate';
import { HeldForm } from './held-form';

/** What is to be kept, as it stands in hand. */
export interface Keeping {
  readonly sent: readonly Sent[];
  readonly variant: string;
  readonly system: System;
  readonly shown: Readonly<Record<string, string>>;
}

const NO_REASON: readonly string[] = [];

/** A test of an item in hand, or what is known of the item: keyed, corrected, struck out and kept, by its definition. */
@Component({
  selector: 'km-in-hand',
  imports: [FormKeypad, Plate, NgComponentOutlet, RouterLink, ButtonDirective, Form, Answers, SpecBand, Reason, Choice, Notice],
  providers: [ComputationStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './in-hand.html',
  styleUrl: './in-hand.css',
})
export class InHand {
  protected readonly store = inject(ComputationStore);
  private readonly device = inject(Device);
  private readonly injector = inject(Injector);
  readonly method = input.required<AnyMethod>();
  /** Under which this device keeps what is not sent yet, and of which item. */
  readonly draftId = input.required<string>();
  readonly itemId = input.required<string>();
  readonly kept = input.required<readonly Reading[]>();
  readonly sources = input<Sources>({});
  /** Tests that give something to it. */
  readonly from = input<GivenTo['from']>([]);
  readonly system = input.required<System>();
  readonly variant = input<string>();
  /** The lab’s own figures of each variant. */
  readonly own = input<OwnByVariant>(AS_PRINTED);
  readonly specifications = input<readonly Specification[]>([]);
  readonly zone = input('local');
  /** What it is made with, as it is called. */
  readonly kitNames = input<readonly string[]>([]);
  readonly busy = input(false);
  /** What has to be said before it can be kept. */
  readonly waitsFor = input('');
  readonly problem = input<Problem | null>(null);
  /** A table of many columns takes the whole width: what comes of it stands below. */
  protected readonly wide = computed(() => {
    const results = Object.values(this.method().results);
    return Object.entries(this.method().fields as Shape).some(
      ([id, f]) => f.kind === 'rows' && Object.keys(f.of as Shape).length + results.filter((r) => r.along === id).length > WIDE,
    );
  });
  /** What is known of an item, rather than a test of it. */
  readonly facts = input(false);
  /** One after the other, without the mouse: the first reading is in hand at once, and after the last that is asked comes the keep. */
  readonly quick = input(false);
  /** Whether the instrument of the reading in hand shows here; else it stands in what is put into this. */
  readonly withPlate = input(true);
  /** The server's moment, ms. */
  readonly now = input.required<() => number>();
  readonly done = output<Keeping>();

  protected readonly form = new HeldForm(this.store, this.sources, this.busy);
  protected readonly rows: RowsForm = Object.assign(Object.create(this.form) as HeldForm, { tables: this.form.keyedTables });
  protected readonly reason = signal('');
  private readonly panel = signal<{ where: string; type: Type<unknown> } | null>(null);
  protected readonly above = computed(() => (this.panel()?.where === 'above' ? this.panel()!.type : null));
  protected readonly beside = computed(() => (this.panel() && this.panel()!.where !== 'above' ? this.panel()!.type : null));

  /** As it was kept, with what the record gives. */
  private readonly asKept = computed((): AnyInputs => {
    const fields = this.method().fields as Shape;
    const { inputs, rows } = assemble(fields, entriesOf(this.kept()));
    const numbered = Object.fromEntries(
      Object.entries(inputs).map(([id, value]) => {
        const ids = rows.get(id);
        return [id, ids ? (value as AnyInputs[]).map((row, i) => ({ ...row, [ROW]: ids[i]! })) : value];
      }),
    );
    const given = Object.fromEntries(
      Object.entries(fields).flatMap(([id, f]) =>
        f.from !== undefined && this.sources()[f.from] !== undefined ? [[id, this.sources()[f.from]]] : [],
      ),
    );
    return { ...numbered, ...given } as AnyInputs;
  });
  /** What was taken from other tests last: in hand as if it had been keyed, until somebody keys another. */
  private readonly fromOthers = signal<AnyInputs>({});
  private isTaken(id: string): boolean {
    const taken = (this.fromOthers() as Readonly<Record<string, unknown>>)[id];
    return taken !== undefined && JSON.stringify((this.store.inputs() as Readonly<Record<string, unknown>>)[id]) === JSON.stringify(taken);
  }
  private readonly keyed = computed(
    () =>
      new Set(
        this.store
          .fields()
          .filter(([id, f]) => (f.from === undefined || this.sources()[f.from] === undefined) && !this.isTaken(id))
          .map(([id]) => id),
      ),
  );

  protected readonly plate = new HeldPlate(this, this.form, (place, { text, unit }) => this.store.key(place, text, unit));

  protected readonly sent = computed(() =>
    changesOf(this.method().fields as Shape, this.keyed(), this.kept(), this.store.inputs(), {
      at: this.now()(),
      reason: this.reason(),
      newId: newId,
      taken: this.plate.taken(),
    }),
  );
  /** Changes with what was kept, and with nothing else of the sheet. */
  private readonly keptNow = computed(() =>
    this.kept()
      .map((r) => r.id)
      .join(),
  );
  /** What is in hand is what was taken up last. */
  private readonly untouched = computed(() => this.store.inputs() === this.taken());
  private readonly taken = signal<AnyInputs | null>(null);
  private readonly issues = computed(() => this.store.evaluation()?.issues ?? []);
  private readonly impossible = computed(() => this.issues().some((i) => i.severity === 'impossible'));
  private readonly unlikely = computed(() => this.issues().some((i) => i.severity !== 'impossible'));
  protected readonly wants = computed(() =>
    corrects(this.sent())
      ? 'Why is it corrected?'
      : this.sent().length > 0 && this.unlikely()
        ? 'Why is it kept although it is unlikely?'
        : this.problem()?.code === 'needs-reason'
          ? 'Why is it so?'
          : null,
  );
  protected readonly usual = computed(() =>
    this.wants() === null ? NO_REASON : corrects(this.sent()) ? USUAL_CORRECTIONS : USUAL_EXPLANATIONS,
  );
  private readonly missing = computed(() => (this.facts() ? (this.store.evaluation()?.missing ?? []) : []));
  /** The record gives all of it, and nothing of that is to be asked about: there is nothing to key. */
  private readonly givenWhole = computed(() => {
    const e = this.store.evaluation();
    return e !== null && e.missing.length === 0 && e.issues.length === 0 && e.results.some((r) => r.state === 'given');
  });
  protected readonly ready = computed(
    () =>
      !this.busy() &&
      this.waitsFor() === '' &&
      (this.sent().length > 0 || (this.kept().length === 0 && (this.facts() || this.givenWhole()))) &&
      !this.impossible() &&
      this.missing().length === 0 &&
      (this.wants() === null || this.reason().trim().length >= LEAST_REASON),
  );
  protected readonly says = computed(() => (this.kept().length > 0 ? 'Keep what was changed' : 'Keep'));
  protected readonly told = computed(() => {
    if (this.busy()) return 'On its way …';
    if (this.sent().length === 0) return this.kept().length > 0 ? 'Kept as it stands.' : '';
    if (this.waitsFor() !== '') return this.waitsFor();
    return this.impossible() ? 'Something is impossible: look at what is marked.' : '';
  });

  /** What gives something that stands in hand: each method once, and of each the items that it was made on. */
  protected readonly givers = computed(() => {
    if (this.from().length === 0) return [];
    const inHand = JSON.stringify(this.store.inputs());
    const used = this.from().filter((g) => inHand.includes(g.testId));
    return [...new Set(used.map((g) => g.method))].map((method) => {
      const items = new Map(used.flatMap((g) => (g.method === method ? [[g.itemId, { id: g.itemId, code: g.code }] as const] : [])));
      return { title: methodById(method)?.title ?? method, items: [...items.values()] };
    });
  });

  protected readonly bands = computed(() => {
    const [m, e] = [this.store.method(), this.store.evaluation()];
    if (!m || !e || this.facts()) return [];
    return judgeAll(m, e, this.specifications()).flatMap((j) =>
      j.verdicts.flatMap((verdict) => {
        const result = e.results.find((r) => r.id === verdict.result && r.state === 'given');
        return result && verdict.limit !== undefined ? [{ verdict, result }] : [];
      }),
    );
  });
  protected readonly steps = computed(() => {
    const [m, e] = [this.store.method(), this.store.evaluation()];
    return m && e ? stepsFor(m, e.params) : [];
  });

  constructor() {
    effect(() => {
      const own = this.own();
      untracked(() => this.store.doneBy(own));
    });
    effect(() => {
      const [id, m] = [this.draftId(), this.method()];
      untracked(() => void this.takeUp(id, m));
    });
    // What was sent from here has arrived, or somebody else kept something while nothing was in hand: the record stands.
    effect(() => {
      const now = `${this.draftId()} ${this.keptNow()}`;
      untracked(() => {
        const before = this.keptBefore;
        this.keptBefore = now;
        // What was just taken up stands as it is, with what is usual.
        if (before === null || before.split(' ')[0] !== this.draftId()) return;
        if (this.store.methodId() !== this.method().id || !(this.sending || this.untouched())) return;
        this.sending = false;
        this.back();
        void this.device.dropInHand(this.draftId());
      });
    });
    // What others give follows what it is asked by: the companions of another age.
    effect(() => {
      const [inputs, m, sources] = [this.store.inputs(), this.method(), this.sources()];
      untracked(() => {
        if (!takesAny(m) || this.store.methodId() !== m.id) return;
        // What is being keyed anew is empty for a moment, and is not filled in under the hand.
        const own = Object.fromEntries(Object.entries(inputs).filter(([id, value]) => !this.isTaken(id) && (value ?? null) !== null));
        const now = takenInputs(m, own, sources);
        if (JSON.stringify(now) === JSON.stringify(this.fromOthers()) && Object.keys(now).every((id) => this.isTaken(id))) return;
        this.fromOthers.set(now);
        const untouched = this.untouched();
        this.store.fill({ ...own, ...now }, '');
        if (untouched) this.taken.set(this.store.inputs());
      });
    });
    // What was refused is in hand still, and nobody else’s keep takes its place.
    effect(() => {
      if (this.problem()) this.sending = false;
    });
    effect(() => {
      const rested = this.store.rested();
      untracked(() => {
        // Before it was looked for nothing says that there is none.
        if (!rested || this.lookedFor !== this.draftId() || this.store.methodId() !== this.method().id) return;
        const { variant, system, inputs } = rested;
        const [id, itemId, method] = [this.draftId(), this.itemId(), this.method().id];
        if (this.sent().length > 0) void this.device.putInHand({ id, itemId, method, variant, system, inputs });
        else void this.device.dropInHand(this.draftId());
      });
    });
  }

  private keptBefore: string | null = null;
  /** What is in hand is on its way. */
  private sending = false;
  private lookedFor: string | null = null;
  private readonly readings = viewChild.required<ElementRef<HTMLElement>>('readings');

  private async takeUp(id: string, m: AnyMethod): Promise<void> {
    this.reason.set('');
    this.plate.forget();
    const variant = this.variant() ?? Object.keys(m.variants as object)[0]!;
    const given = takenInputs(m, {}, this.sources());
    const usual = this.kept().length === 0 ? usualInputs(m, variant, this.system()) : {};
    // What the record gives stands before what is usual.
    const first = Object.entries(usual).filter(([id]) => !(id in given));
    this.fromOthers.set({});
    this.store.open(m, { variant, system: this.system(), inputs: { ...Object.fromEntries(first), ...this.asKept() } as AnyInputs });
    this.taken.set(this.store.inputs());
    const name = m.panel ?? (m.scene && 'scene');
    const panel = name === undefined ? undefined : PANELS[name];
    this.panel.set(null);
    void panel?.load().then((type) => this.store.methodId() === m.id && this.panel.set({ where: panel.where, type }));
    const left = await this.device.inHand(id).catch(() => undefined);
    if (this.draftId() !== id) return;
    // Sent, and left before its answer came: it is on record, and nothing of it is in hand any more.
    if (left && withoutRows(left.inputs) !== withoutRows(this.asKept())) this.store.open(m, left);
    this.lookedFor = id;
    if (this.quick() && this.kept().length === 0 && this.waitsFor() === '')
      setTimeout(() => keysElsewhere(this.readings().nativeElement) || this.begin());
  }

  private readonly forms = viewChildren(Form);
  private readonly keepButton = viewChild.required<string, ElementRef<HTMLElement>>('keepButton', { read: ElementRef });
  /** What came of it so far, for what stands beside it. */
  readonly come = computed(() => this.store.evaluation());
  readonly inputs = computed(() => this.store.inputs());
  /** Its load is known: what is broken cannot be measured again. */
  readonly isLoaded = computed(() => (keyedAt(this.store.inputs(), 'load')?.text ?? '') !== '');

  /** What is measured, and what is seen afterwards: between the two stands what it is measured with. */
  private readonly asked = computed(() => (this.quick() ? this.form.singly() : this.form.held()));
  protected readonly firstAsked = computed(() => (this.quick() ? this.asked().filter(isMeasured) : this.asked()));
  protected readonly thenAsked = computed(() =>
    this.quick() ? this.asked().filter((f) => !isMeasured(f) && !(f.field.minor && f.kept?.given)) : NO_FIELDS,
  );

  /** On from a reading to what is asked after it, or to the keep. */
  onwards(field: string): void {
    const moved = this.quick() ? this.goToNext(field) : this.forms()[0]?.next(field);
    if (moved) return;
    // It may wait to be drawn: what was keyed last is what lets it be pressed.
    afterNextRender(() => this.keepButton().nativeElement.focus(), { injector: this.injector });
    this.keepButton().nativeElement.focus();
  }

  /** The first reading is in hand. */
  begin(): void {
    this.goTo(this.asked().find((f) => f.editable && !f.field.minor)?.id ?? '');
  }

  /** Over what has its usual answer, and what is seldom needed. */
  private goToNext(field: string): boolean {
    const asked = this.asked().filter((f) => f.editable && !f.field.minor);
    return asked.slice(asked.findIndex((f) => f.id === field) + 1).some((f) => this.goTo(f.id));
  }

  /** On to a reading, where there is such a one. */
  goTo(field: string): boolean {
    return this.forms().some((form) => form.goTo(field));
  }

  /** A load that a machine gave, with how it was loaded. */
  takeLoad(load: Taken, trace: readonly TracePoint[]): void {
    const rows = trace.map(({ time, load: text, unit }) => ({ time: { text: time, unit: 's' }, load: { text, unit } }));
    const { text, unit, device } = load;
    this.plate.tookAll({
      load,
      ...Object.fromEntries(
        trace.flatMap((p, i) => [
          [`trace.${i}.time`, { text: p.time, unit: 's' as const, device }],
          [`trace.${i}.load`, { text: p.load, unit: p.unit, device }],
        ]),
      ),
    });
    this.store.fill({ ...this.store.inputs(), load: { text, unit }, ...(rows.length > 0 ? { trace: rows } : {}) } as AnyInputs, '');
  }

  protected back(): void {
    this.reason.set('');
    this.store.fill(this.asKept(), '');
    this.taken.set(this.store.inputs());
  }

  protected keep(): void {
    if (!this.ready()) return;
    const shown = Object.fromEntries(
      (this.store.evaluation()?.results ?? []).flatMap((r) => (r.reported === null ? [] : [[r.id, r.reported]])),
    );
    this.sending = true;
    this.done.emit({ sent: this.sent(), variant: this.store.variant(), system: this.store.system(), shown });
  }
}

const takesAny = (m: AnyMethod): boolean =>
  Object.values(m.fields as Shape).some((f) => f.takes !== undefined || (f.kind === 'rows' && f.made !== undefined));

/** What is keyed, by whatever names its rows go on record. */
const withoutRows = (inputs: AnyInputs): string => JSON.stringify(inputs, (key, value: unknown) => (key === ROW ? undefined : value));

const NO_FIELDS: readonly ShownField[] = [];
/** Before it is broken, or by breaking it. */
const isMeasured = ({ field }: ShownField): boolean => field.kind === 'qty' && field.minor !== true && field.afterwards !== true;

const AS_PRINTED: OwnByVariant = {};
/** So many columns stand beside what comes of them. */
const WIDE = 5;
