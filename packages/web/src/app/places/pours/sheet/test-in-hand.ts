import { Api } from '../../../api/api';
import { Clock } from '../../../device/clock';
import { Notice } from '../../../ui/notice';
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
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import type { Instrument, Sample } from '@keen-mortar/contract';
import {
  AGAIN_WORDS,
  causeWords,
  boundsOf,
  kitOfMethod,
  marginWords,
  pairWords,
  pictureOf,
  READS,
  stateWord,
  unitLabel,
  unitsFor,
  USUAL_CORRECTIONS,
  USUAL_EXPLANATIONS,
  USUAL_USES,
  type Parameters,
  type Variant,
} from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { debounceTime } from 'rxjs';
import { ButtonDirective } from 'primeng/button';
import { History } from '../../../parts/history';
import { zonedTime } from '../../../parts/when';
import { Drawing } from '../../../test/drawing';
import { Path } from '../../../test/path';
import { Plate, type Taken } from '../../../test/plate';
import { Reason } from '../../../test/reason';
import { Paper } from '../../../test/paper';
import { WithKit } from '../../../test/with-kit';
import { SpecBand } from '../../../test/spec-band';
import { ToldList } from '../../../test/told';
import { Choice } from '../../../ui/choice';
import { afterKey, Keypad, type Key } from '../../../ui/keypad';
import { Moment } from '../../../ui/moment';
import { VERDICT_WORDS, VerdictShape } from '../../../ui/verdict-shape';
import { Fields } from '../../../test/form/fields';
import { Form } from '../../../test/form/form';
import { Hand, titleOf, type Shown } from './hand';
import { SheetActions } from './sheet.state';
import { runOf } from './run';
import { filling, next, nextRow, rows, toldOf, type Row } from './sheet.view';

const SPOKEN_AFTER = 900;

/** The test in hand: its readings large, the answer moving while they are keyed, what is next and why. */
@Component({
  selector: 'km-test-in-hand',
  imports: [
    Path,
    Notice,
    VerdictShape,
    SpecBand,
    Keypad,
    ToldList,
    ButtonDirective,
    Choice,
    Moment,
    Drawing,
    Fields,
    Form,
    Paper,
    Plate,
    Reason,
    History,
    WithKit,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './test-in-hand.html',
  styleUrl: './test-in-hand.css',
})
export class TestInHand {
  private readonly store = inject<Store>(Store);
  readonly row = input.required<Row>();
  readonly sample = input.required<Sample>();
  readonly now = input.required<number>();
  readonly keyedBy = input<string | null>(null);
  private readonly clock = inject(Clock);
  protected readonly clockIso = (): string => this.clock.iso();
  protected readonly hand = new Hand(this.store, this.row, this.sample, this.now, this.clock);

  private readonly rows = this.store.selectSignal(rows);
  private readonly filling = this.store.selectSignal(filling);
  protected readonly then = this.store.selectSignal(next);
  private readonly following = this.store.selectSignal(nextRow);
  /** Where one press goes on to, once the test in hand is kept. */
  protected readonly goesOn = computed(() => {
    const after = this.following();
    return this.hand.draft() === null && this.row().test?.kept && after ? after.method.title.toLowerCase() : null;
  });
  protected readonly asideOpen = signal(false);
  protected readonly keypad = signal(false);
  protected readonly inHand = signal<string | null>(null);
  private readonly api = inject(Api);
  private readonly instruments = signal<readonly Instrument[]>([]);
  /** The instrument that can show what is in hand: of the kit that it is made with, or of such a kind. */
  protected readonly plate = computed((): Instrument | null => {
    const id = this.inHand();
    const f = id === null ? undefined : this.hand.fieldOf(id);
    if (f?.field.kind !== 'qty' || !f.editable) return null;
    const { dimension } = f.field;
    const kinds = kitOfMethod(this.row().method).filter((kind) => READS[kind] === dimension);
    const able = this.instruments().filter((i) => kinds.some((kind) => kind === i.kind));
    const { equipmentId, alsoIds } = this.hand.taken();
    const names = this.sample()
      .kit.filter((k) => k.id === equipmentId || alsoIds.includes(k.id))
      .map((k) => k.name);
    return able.find((i) => names.includes(i.name)) ?? able[0] ?? null;
  });

  protected take({ text, unit, device }: Taken): void {
    const id = this.inHand();
    if (id !== null) this.hand.key(id, text, unit, device);
  }

  private readonly form = viewChild(Form);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
  /** The next test was asked for from here: its first reading takes the focus. */
  private followed = false;
  private readonly keepButton = viewChild<unknown, ElementRef<HTMLButtonElement>>('keepButton', { read: ElementRef });

  protected readonly picture = computed(() => pictureOf(this.row().method.id));
  protected readonly head = computed(
    () => this.row().evaluation.results.find((r) => this.row().method.results[r.id]?.main && r.reported !== null) ?? null,
  );
  private readonly method = computed(() => this.row().method);
  protected readonly variants = computed(() =>
    Object.entries(this.method().variants as Readonly<Record<string, Variant<Parameters>>>).map(([id, v]) => ({ id, label: v.label })),
  );
  /** What takes only a choice, and what is measured. */
  protected readonly picks = computed(() => this.hand.main().filter((f) => f.field.kind === 'pick'));
  protected readonly quantities = computed(() => this.hand.main().filter((f) => f.field.kind === 'qty'));
  /** Looks first: they say whether there is anything to measure. */
  protected readonly inOrder = computed(() => [...this.picks(), ...this.quantities()]);
  /** What it looks like, where the first choice is a look. */
  protected readonly shape = computed(() => this.picks()[0]?.text ?? null);
  private readonly asideSet = computed(() => this.hand.aside().some((f) => f.field.kind === 'pick' && f.text !== (f.field.usual ?? '')));
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
  /** The same thing in the last loads of the mix. */
  protected readonly history = computed(() => {
    const field = Object.values(this.row().method.results).find((r) => r.property !== undefined);
    const points = field?.property === undefined ? [] : (this.sample().history[field.property] ?? []);
    if (!field || points.length < 2) return null;
    const limit = this.sample()
      .specifications.flatMap((s) => s.limits)
      .find((l) => l.property === field.property);
    return { label: field.label.toLowerCase(), points, bounds: limit ? boundsOf(limit) : {} };
  });

  /** Why and what next, from the core: what is void or marked, what is out, with the specification's own words first. */
  protected readonly told = computed(() => {
    const fields = new Set(this.hand.fields().map((f) => f.id));
    return toldOf(this.row()).filter((t) => t.kind !== 'note' && t.code !== 'edge' && !(t.path !== undefined && fields.has(t.path)));
  });
  protected readonly pair = computed(() => {
    const { pair, apart } = this.row();
    return pair ? pairWords(pair, apart) : null;
  });
  /** Why what is kept was worked out again, where nobody kept a reading of it. */
  protected readonly cause = computed(() => (this.row().test?.again ? AGAIN_WORDS : causeWords(this.row().test?.kept?.cause ?? null)));
  /** The first test and what was made because of it. */
  protected readonly run = computed(() => runOf(this.rows(), this.row(), this.sample().project.timezone));
  protected readonly title = computed(() => titleOf(this.row()));
  /** What the consolidation method says for the measure, before it is filled. */
  protected readonly consolidateWords = computed(() =>
    this.row().test || this.row().method.work?.fills !== 'measure' ? null : (this.filling()?.words ?? null),
  );

  constructor() {
    // What is wired to the server; without any nothing is said of it.
    this.api.instruments().subscribe({ next: ({ items }) => this.instruments.set(items), error: () => undefined });
    let last = '';
    effect(() => {
      const key = this.row().key;
      const form = this.form();
      untracked(() => {
        if (key === last || !form) return;
        // A row that turns from blank to draft to kept is the same test still in hand.
        const sameTest = last.startsWith('new:') && this.hand.draft() !== null;
        last = key;
        this.asideOpen.set(this.asideSet());
        if (sameTest) return;
        this.inHand.set(null);
        if (this.followed) afterNextRender(() => this.goOn(''), { injector: this.injector });
        this.followed = false;
      });
    });
    // Where there is little room the reading in hand comes first: it is brought into sight.
    effect(() => {
      if (this.inHand() === null) return;
      afterNextRender(() => this.host.nativeElement.querySelector('.hold')?.scrollIntoView({ block: 'nearest' }), {
        injector: this.injector,
      });
    });
    // Kept: the focus is on what comes next, not nowhere.
    let keeping = false;
    effect(() => {
      const now = this.hand.locked();
      const done = keeping && !now && this.hand.draft() === null;
      keeping = now;
      if (done)
        setTimeout(() => this.host.nativeElement.querySelector<HTMLElement>('[data-testid="repeat"], [data-testid="go-on"]')?.focus());
    });
  }

  /** Said aloud once the fingers rest, not at each key. */
  protected readonly spoken = toSignal(
    toObservable(
      computed(() =>
        this.bands()
          .map(({ result, verdict }) => [result.label, result.reported, unitLabel(result.unit), stateWord(verdict.state)].join(' '))
          .join('. '),
      ),
    ).pipe(debounceTime(SPOKEN_AFTER)),
    { initialValue: '' },
  );

  protected goOnTo(): void {
    const after = this.following();
    if (!after) return;
    this.followed = true;
    this.store.dispatch(SheetActions.rowChosen({ key: after.key }));
  }

  protected readonly uses = USUAL_USES;
  protected readonly corrections = USUAL_CORRECTIONS;
  protected readonly explanations = USUAL_EXPLANATIONS;
  protected readonly verdictWords = VERDICT_WORDS;
  protected readonly marginOf = marginWords;
  protected pressed(key: Key): void {
    const f = this.hand.main().find((shown) => shown.id === this.inHand()) ?? this.quantities().find((shown) => shown.editable);
    if (!f || f.field.kind !== 'qty' || !f.editable) return;
    if (this.inHand() !== f.id) this.inHand.set(f.id);
    if (key === 'next') this.goOn(f.id);
    else if (key === 'unit') {
      const units = unitsFor(f.field);
      this.hand.key(f.id, f.text, units[(units.indexOf(f.unit) + 1) % units.length] ?? f.unit);
    } else this.hand.key(f.id, afterKey(f.entry?.text ?? '', key), f.unit);
  }

  /** The reading that "next" goes to; none where the keep is next. From a look, the first. */
  private after(id: string | null): Shown | undefined {
    const order = this.quantities().filter((f) => f.editable);
    const later = order.slice(order.findIndex((f) => f.id === id) + 1);
    return later.find((f) => f.text === '' && !f.field.minor);
  }
  protected readonly nextName = computed(() => {
    const f = this.after(this.inHand());
    return f ? f.field.label.toLowerCase() : 'keep';
  });

  /** Enter: on to the next reading that is empty, then to the keep. */
  protected goOn(id: string): void {
    const target = this.after(id);
    if (!target || !this.form()?.focus(target.id)) this.keepButton()?.nativeElement.focus();
  }

  protected correct(field: string): void {
    this.hand.correct(field);
    this.inHand.set(field);
    setTimeout(() => this.form()?.focus(field));
  }

  protected time(iso: string): string {
    return zonedTime(iso, this.sample().project.timezone);
  }
}
