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
  viewChildren,
} from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import type { Sample } from '@keen-mortar/contract';
import {
  boundsOf,
  marginWords,
  pairWords,
  pictureOf,
  stateWord,
  unitLabel,
  unitsFor,
  USUAL_CORRECTIONS,
  USUAL_EXPLANATIONS,
  type Field,
  type Parameters,
  type UnitId,
  type Variant,
} from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { debounceTime } from 'rxjs';
import { ButtonDirective } from 'primeng/button';
import { History } from '../../../parts/history';
import { zonedTime } from '../../../parts/when';
import { nameOf } from '../../../state/session';
import { Drawing } from '../../../test/drawing';
import { Faults, type Fault } from '../../../test/faults';
import { ReadingField } from '../../../test/reading-field';
import { Reason } from '../../../test/reason';
import { Shapes } from '../../../test/shapes';
import { SpecBand } from '../../../test/spec-band';
import { ToldList } from '../../../test/told';
import { Choice } from '../../../ui/choice';
import { afterKey, Keypad, type Key } from '../../../ui/keypad';
import { Moment } from '../../../ui/moment';
import { VERDICT_WORDS, VerdictShape } from '../../../ui/verdict-shape';
import { asPick, asQty, Hand, titleOf, type Shown } from './hand';
import { SheetActions } from './sheet.state';
import { consolidation, next, nextRow, toldOf, type Row } from './sheet.view';

const SPOKEN_AFTER = 900;

/** The test in hand: its readings large, the answer moving while they are keyed, what is next and why. */
@Component({
  selector: 'km-test-in-hand',
  imports: [
    VerdictShape,
    ReadingField,
    SpecBand,
    Keypad,
    Shapes,
    ToldList,
    ButtonDirective,
    Choice,
    Moment,
    Drawing,
    Faults,
    Reason,
    History,
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
  protected readonly hand = new Hand(this.store, this.row, this.sample, this.now);

  protected readonly nameOf = this.store.selectSignal(nameOf);
  private readonly consolidation = this.store.selectSignal(consolidation);
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
  private readonly boxes = viewChildren(ReadingField);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
  /** The next test was asked for from here: its first reading takes the focus. */
  private followed = false;
  private readonly keepButton = viewChild<unknown, ElementRef<HTMLButtonElement>>('keepButton', { read: ElementRef });

  protected readonly picture = computed(() => pictureOf(this.row().method.id));
  protected readonly head = computed(
    () => this.row().evaluation.results.find((r) => this.row().method.results[r.id]?.main && r.reported !== null) ?? null,
  );
  protected readonly variants = computed(() =>
    Object.entries(this.row().method.variants as Readonly<Record<string, Variant<Parameters>>>).map(([id, v]) => ({ id, label: v.label })),
  );
  protected readonly kit = computed(() => {
    const { kit: kind } = this.row().method;
    if (kind === undefined) return [];
    return this.sample()
      .kit.filter((k) => k.kind === kind)
      .map((k) => ({
        id: k.id,
        label: `${k.name}${k.until ? `, calibrated until ${k.until}` : k.calibratedOn ? '' : ', never calibrated'}`,
      }));
  });
  private readonly hints = computed((): Readonly<Record<string, string>> => {
    const { method, evaluation } = this.row();
    return (method.hints?.(evaluation.params, evaluation.system) ?? {}) as Record<string, string>;
  });
  /** What takes only a choice, and what is measured. */
  protected readonly picks = computed(() => this.hand.main().filter((f) => f.field.kind === 'pick'));
  protected readonly quantities = computed(() => this.hand.main().filter((f) => f.field.kind === 'qty'));
  protected readonly faults = computed((): Fault[] =>
    this.hand
      .fields()
      .filter((f) => f.issues.length > 0)
      .map((f) => ({
        id: f.id,
        inputId: this.inputId(f.id),
        label: f.field.label,
        issues: f.issues,
        exchangeWords: this.hand.exchangeWords(f.issues),
      })),
  );
  /** What it looks like, where the first choice is a look. */
  protected readonly shape = computed(() => {
    const [f] = this.picks();
    return f ? this.hand.text(f) : null;
  });
  private readonly asideSet = computed(() =>
    this.hand.aside().some((f) => (f.entry?.text ?? f.kept?.text ?? asPick(f.field).usual) !== asPick(f.field).usual),
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
  protected readonly title = computed(() => titleOf(this.row()));
  /** What the consolidation method says for the measure, before it is filled. */
  protected readonly consolidateWords = computed(() => {
    const c = this.consolidation();
    const order = this.row().method.work?.order;
    if (!c || this.row().test || order === undefined || order < 3) return null;
    return c.words;
  });

  constructor() {
    let last = '';
    effect(() => {
      const key = this.row().key;
      const boxes = this.boxes();
      untracked(() => {
        if (key === last || boxes.length === 0) return;
        // A row that turns from blank to draft to kept is the same test still in hand.
        const sameTest = last.startsWith('new:') && this.hand.draft() !== null;
        last = key;
        this.asideOpen.set(this.asideSet());
        if (sameTest) return;
        this.inHand.set(null);
        if (this.followed) this.goOn('');
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

  /** Enter on a shape goes on to the first reading. */
  protected fromShape(event: Event): void {
    event.preventDefault();
    this.goOn('');
  }

  protected hint(id: string): string | undefined {
    return this.hints()[id] ?? this.hand.fields().find((f) => f.id === id)?.field.hint;
  }

  protected readonly corrections = USUAL_CORRECTIONS;
  protected readonly explanations = USUAL_EXPLANATIONS;
  protected readonly verdictWords = VERDICT_WORDS;
  protected readonly marginOf = marginWords;
  protected readonly asQty = asQty;
  protected readonly asPick = asPick;
  protected options(field: Field): { id: string; label: string }[] {
    return Object.entries(asPick(field).options).map(([id, label]) => ({ id, label }));
  }

  protected unitText = (unit: UnitId | null): string => (unit === null ? '' : unitLabel(unit));
  protected time = (iso: string): string => zonedTime(iso, this.sample().project.timezone);

  protected offered({ id, text, unit }: { id: string; text: string; unit: UnitId }): void {
    const f = this.hand.fields().find((shown) => shown.id === id);
    if (f) this.hand.key(f, text, unit);
  }

  protected pressed(key: Key): void {
    const f =
      this.hand.main().find((shown) => shown.id === this.inHand()) ??
      this.hand.main().find((shown) => shown.field.kind === 'qty' && this.hand.editable(shown));
    if (!f || f.field.kind !== 'qty' || !this.hand.editable(f)) return;
    if (this.inHand() !== f.id) this.inHand.set(f.id);
    if (key === 'next') this.goOn(f.id);
    else if (key === 'unit') {
      const units = unitsFor(f.field);
      this.hand.key(f, this.hand.text(f), units[(units.indexOf(this.hand.unit(f)) + 1) % units.length] ?? this.hand.unit(f));
    } else this.hand.key(f, afterKey(f.entry?.text ?? '', key), this.hand.unit(f));
  }

  /** The reading that "next" goes to; none where the keep is next. */
  private after(id: string | null): Shown | undefined {
    const order = this.quantities().filter((f) => this.hand.editable(f));
    const later = order.slice(order.findIndex((f) => f.id === id) + 1);
    return later.find((f) => this.hand.text(f) === '' && !f.field.minor);
  }
  protected readonly nextName = computed(() => {
    const f = this.after(this.inHand());
    return f ? f.field.label.toLowerCase() : 'keep';
  });

  /** Enter: on to the next reading that is empty, then to the keep. */
  protected goOn(id: string): void {
    const target = this.after(id);
    const box = target && this.boxes().find((b) => b.inputId() === this.inputId(target.id));
    if (box) box.focus();
    else this.keepButton()?.nativeElement.focus();
  }

  protected inputId(field: string): string {
    return `reading-${field}`;
  }

  /** What was kept comes back into the field that it was read from. */
  protected correct(f: Shown): void {
    this.hand.correct(f);
    this.inHand.set(f.id);
    setTimeout(() =>
      this.boxes()
        .find((b) => b.inputId() === this.inputId(f.id))
        ?.focus(),
    );
  }
}
