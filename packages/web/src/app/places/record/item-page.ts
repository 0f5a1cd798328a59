import { Findings } from '../../parts/findings';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input, signal, untracked } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { askedOf, dayIn, eventsOf, inForce, type GivenTo, type Kept, type Test } from '@keen-mortar/contract';
import {
  isTold,
  byOwnCopy,
  againstHistory,
  faultMap,
  answerText,
  duplicatesApart,
  nextStep,
  say,
  type ItemKind,
  causeWords,
  evaluate,
  knownForm,
  guidance,
  isNote,
  NOTES,
  rowIdAt,
  ITEM_KIND_IDS,
  ITEM_KINDS,
  mayLieIn,
  methodById,
  pictureOf,
  propertyOf,
  AGAIN_WORDS,
  testsFor,
  testsOn,
  unitLabel,
  USUAL_USES,
  stateOfTest,
  USUAL_VOIDINGS,
  usualInputs,
  usualVariant,
  type AnyInputs,
  type AnyMethod,
  type Fuse,
  type MethodWindow,
  type Sources,
  type Told,
  type VerdictState,
} from '@keen-mortar/core';
import { Actions, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { newId } from '../../device/ids';
import { Clock } from '../../device/clock';
import { Device } from '../../device/device';
import { HandActions, type Hand } from '../../state/hand';
import { longDay, zonedTime } from '../../parts/when';
import { History } from '../../parts/history';
import { nameOf, session } from '../../state/session';
import { ToldList } from '../../test/told';
import { Reason } from '../../test/reason';
import { clocksOf } from '../../test/clocks';
import { Paper } from '../../test/paper';
import { WithKit } from '../../test/with-kit';
import { Working } from '../../test/working';
import { Choice } from '../../ui/choice';
import { FuseBar } from '../../ui/fuse';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { VerdictShape } from '../../ui/verdict-shape';
import { BegunWith, type InHandTest } from './begun-with';
import { InHand, type Keeping } from './in-hand';
import { keepWrites } from './keep-writes';
import { kitTaken } from '../../test/sound-kit';
import { CarriedBar } from './carried-bar';
import { FaultChart } from '../../test/fault-chart';
import { HeapTree } from './heap';
import { fileCommands, Files } from './files';
import { Notes, type Note } from './notes';
import { calledOf, linkOf, lower, pictureOfKind } from './kinds';
import { RecordStore } from './record.store';
import { Unanswered } from './unanswered';

/** What is taken of it is tested twice where it matters. */
const DUPLICATED: readonly ItemKind[] = ['field-sample', 'portion'];
/** Not a method: opens the list of all that can be tested on such an item. */
const OTHERS = 'others';
const TICK = 1000;

/** The sheet of any item: what is known of it, where it came from and what was made of it, its tests, and the one in hand. */
@Component({
  selector: 'km-item-page',
  imports: [
    FaultChart,
    HeapTree,
    CarriedBar,
    RouterLink,
    ButtonDirective,
    History,
    ToldList,
    Working,
    Choice,
    WithKit,
    Notice,
    Reason,
    Paper,
    Pictogram,
    VerdictShape,
    InHand,
    FuseBar,
    Notes,
    Files,
    Findings,
    Unanswered,
  ],
  providers: [RecordStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './item-page.html',
  styleUrl: './item-page.css',
})
export class ItemPage {
  protected readonly record = inject(RecordStore);
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly actions = inject(Actions);
  private readonly device = inject(Device);
  readonly itemId = input.required<string>();
  /** The test that is looked at first, where a link named it. */
  readonly test = input<string>();
  /** The method of which a link begins a test. */
  readonly begins = input<string>();
  protected readonly sheet = this.record.sheet;
  private readonly person = this.store.selectSignal(session.selectPersonId);
  protected readonly nameOf = this.store.selectSignal(nameOf);
  private readonly clock = inject(Clock);
  protected readonly now = this.clock.now;

  protected readonly item = computed(() => this.sheet()?.item ?? null);
  protected readonly kind = computed(() => ITEM_KINDS[this.item()?.kind ?? 'structure']);
  protected readonly picture = computed(() => pictureOfKind(this.item()?.kind ?? 'structure'));
  protected readonly called = calledOf;
  protected readonly link = linkOf;
  protected readonly lower = lower;
  protected readonly longDay = longDay;
  protected readonly pictureOf = pictureOf;
  protected readonly pictureOfKind = pictureOfKind;
  protected readonly above = computed(() => this.sheet()?.line.slice(0, -1) ?? []);
  protected readonly facts = computed(() => knownForm(this.item()?.kind ?? 'structure'));
  /** Why what is in hand was refused; what else was refused stands above. */
  protected readonly refusedHere = computed(() => {
    const refused = this.record.refused();
    return refused && refused.kind !== 'voiding' ? refused.problem : null;
  });
  protected readonly allWorking = signal(false);
  protected readonly busy = computed(() => this.record.waits() > 0);

  protected readonly chosen = signal<string | null>(null);
  protected readonly begunWith = new BegunWith(this.sheet, this.chosen, this.clock);
  protected readonly uses = USUAL_USES;
  /** Whether somebody is taking it back, and why. */
  protected readonly taking = signal(false);
  protected readonly why = signal('');
  protected readonly voidReasons = USUAL_VOIDINGS;
  protected readonly beginning = signal<string | null>(null);
  /** Tests that were begun here and are not on record yet, by their ids. */
  private readonly begun = signal<Readonly<Record<string, string>>>({});

  /** The tests in the order in which they were made, those just begun last. */
  protected readonly tests = computed((): InHandTest[] => {
    const made = (this.sheet()?.tests ?? []).flatMap((test): InHandTest[] => {
      const method = methodById(test.method);
      return method ? [{ key: test.id, method, test }] : [];
    });
    const here = new Set(made.map((t) => t.key));
    const open = Object.entries(this.begun()).flatMap(([key, id]): InHandTest[] => {
      const method = methodById(id);
      return here.has(key) || !method ? [] : [{ key, method, test: null }];
    });
    return [...made, ...open];
  });
  protected readonly inHand = computed(() => this.tests().find((t) => t.key === this.chosen()) ?? null);
  protected readonly histories = computed(() =>
    Object.entries(this.sheet()?.history ?? {}).map(([property, points]) => ({
      property,
      points,
      label: propertyOf(property)?.label ?? property,
    })),
  );
  protected readonly kitNames = computed((): readonly string[] => {
    const [t, s] = [this.inHand(), this.sheet()];
    return t && s ? kitTaken(s.kit, this.begunWith.takenOf(t)).map((k) => k.name) : [];
  });
  /** Another test of the same, on the same sample of an aggregate, that it does not agree with. */
  protected readonly apart = computed((): Told[] => {
    const [t, s] = [this.inHand(), this.sheet()];
    const now = t?.test?.kept?.evaluation;
    if (!t || !now || !s || !DUPLICATED.includes(s.item.kind)) return [];
    const before = s.tests.filter((o) => o.method === t.method.id && o.id !== t.key && o.kept).map((o) => o.kept!.evaluation);
    const found = duplicatesApart(t.method, before, now);
    const next = found && nextStep(found.code, found.params);
    return found ? [{ kind: 'mark', code: found.code, says: say(found.code, found.params), next: next === null ? [] : [next] }] : [];
  });
  /** What the source gave before, beside what a gravity test gives: and which slip would look like it. */
  protected readonly beside = computed(() => {
    const [t, s] = [this.inHand(), this.sheet()];
    const kept = t?.test?.kept;
    const e = kept && s ? againstHistory(kept.evaluation, s.history) : null;
    if (!e || !kept) return null;
    const usual = (id: string, mean: string, label: string) => {
      const [now, was] = [kept.evaluation.results.find((r) => r.id === id), e.results.find((r) => r.id === mean)];
      return { label, now: now?.reported ?? '', was: was?.reported ?? '', unit: unitLabel(was?.unit ?? '1') };
    };
    return {
      figures: [
        usual('od', 'meanOd', 'Gravity, dry'),
        usual('apparent', 'meanApparent', 'apparent'),
        usual('absorption', 'meanAbsorption', 'absorption'),
      ],
      shift: answerText(
        methodById(e.method)!.results['shift']!,
        e.results.find((r) => r.id === 'shift')!,
      ),
      told: guidance(methodById(e.method)!, e),
      map: faultMap(kept.evaluation, e, s!.history),
    };
  });
  /** What its mix, its source and their specifications ask for; the others once somebody wants them. */
  protected readonly offers = computed(() => {
    const s = this.sheet();
    if (!s) return [];
    const [all, asked] = [testsOn(s.item.kind), testsFor(s.item.kind, askedOf(s))];
    const offers = (this.others() ? all : asked).map((m) => ({ id: m.id, label: m.title }));
    return this.others() || asked.length === all.length ? offers : [...offers, { id: OTHERS, label: 'Other tests …' }];
  });
  private readonly others = signal(false);
  /** Specimens are molded of it, in sets: by a form of their own. */
  private readonly isMolded = computed(() => ['sample', 'trial-batch'].includes(this.item()?.kind ?? ''));
  /** Of a void sample nothing is molded. */
  protected readonly molds = computed(() => this.isMolded() && !this.item()!.voided && !this.isVoidSample());
  private readonly isVoidSample = computed(() => {
    const s = this.sheet();
    return s !== null && s !== undefined && s.findings.some((f) => f.subjectId === s.item.id && f.grade === 'void');
  });
  /** What may be made of it. */
  protected readonly makes = computed(() =>
    ITEM_KIND_IDS.filter((kind) => mayLieIn(kind, this.item()?.kind ?? null) && !(kind === 'specimen-set' && this.isMolded())),
  );

  private readonly tick = this.clock.ticking(TICK);
  /** What several things mean together: all of it of the item itself, of what it lies in what is not as asked. */
  protected readonly found = computed(() => {
    const s = this.sheet();
    return (s?.findings ?? []).filter((f) => f.subjectId === s?.item.id || isTold(f));
  });
  /** The clocks that run for it: of its sample, and of the methods’ windows that a test was not read in yet. */
  protected readonly fuses = computed((): Fuse[] => {
    const s = this.sheet();
    if (!s || s.item.voided || s.events.length === 0) return [];
    const begun = this.tests().map(({ method, test }) => ({
      method,
      doneAt: (must: MethodWindow['must']) => (test && eventsOf(s, test)[must]) ?? null,
    }));
    return clocksOf(eventsOf(s), begun, s.specifications, this.tick()).filter((f) => f.state === 'burning' || f.state === 'last');
  });

  constructor() {
    effect(() => {
      const id = this.itemId();
      untracked(() => {
        this.record.open(id);
        this.chosen.set(this.test() ?? null);
        this.begun.set({});
        void this.takeUp(id);
      });
    });
    effect(() => {
      const [s, method] = [this.sheet(), this.begins()];
      if (!s || method === undefined || s.item.id !== this.itemId() || this.chosen() !== null) return;
      untracked(() => {
        // One that was begun here and not sent yet is that one.
        const open = this.tests().find((t) => t.method.id === method && t.test === null);
        if (open) this.chosen.set(open.key);
        else if (testsOn(s.item.kind).some((m) => m.id === method)) this.begin(method);
      });
    });
    // What Scratch opens with over the sheet, and what it may be put into.
    effect(() => {
      const [item, made] = [this.item(), this.offers()];
      const m = this.inHand()?.method ?? methodById(made[0]?.id ?? '');
      const sheet = this.sheet();
      if (!item || !m || !sheet) return;
      const { system, practice } = sheet.project;
      const variant = usualVariant(practice, m);
      const shown = {
        method: m.id,
        variant,
        system,
        inputs: usualInputs(m, variant, system),
        where: calledOf(item),
        keeps: testsOn(item.kind).map((o) => o.id),
      };
      untracked(() => this.store.dispatch(HandActions.shown({ hand: shown })));
    });
    this.actions.pipe(ofType(HandActions.kept), takeUntilDestroyed()).subscribe(({ hand }) => void this.takeFromScratch(hand));
    inject(DestroyRef).onDestroy(() => this.store.dispatch(HandActions.gone()));
  }

  /** What was begun here before the page was closed. */
  private async takeUp(itemId: string): Promise<void> {
    const left = await this.device.inHandOf(itemId).catch(() => []);
    if (this.itemId() === itemId)
      this.begun.update((all) => ({ ...Object.fromEntries(left.map((hand) => [hand.id, hand.method])), ...all }));
  }

  /** Readings out of Scratch are a test in hand here, for the person to look at and keep: nothing is keyed again. */
  protected async takeFromScratch({ method, variant, system, inputs }: Hand): Promise<void> {
    const key = newId();
    await this.device.putInHand({ id: key, itemId: this.itemId(), method, variant, system, inputs });
    this.begun.update((all) => ({ ...all, [key]: method }));
    this.chosen.set(key);
  }

  protected stateOf(m: AnyMethod, { kept }: Test): VerdictState {
    return kept ? stateOfTest(m, kept.evaluation, kept.judged) : 'open';
  }

  /** The main results in words. */
  protected says({ method, test }: InHandTest): string {
    const results = test?.kept?.evaluation.results ?? [];
    const texts = results.flatMap((r) => {
      const field = method.results[r.id];
      return field?.main && !r.series ? [answerText(field, r)] : [];
    });
    return texts.filter((t) => t !== '').join(' · ');
  }

  /** What the record says of a test beside what its readings say by themselves: that stands with the answers. */
  protected toldOf(m: AnyMethod, { inputs, evaluation, guidance: told }: Kept, own: Test['own']): Told[] {
    const { variant, system, params } = evaluation;
    const notes = byOwnCopy(m, variant, own?.figures ?? null).notes ?? [];
    const plain = guidance(m, evaluate(m, inputs as AnyInputs, { variant, system, params, notes }));
    return told.filter((one) => !plain.some((other) => other.says === one.says));
  }

  protected readonly againWords = AGAIN_WORDS;
  protected causeOf = (test: Test): string | null => causeWords(test.kept?.cause ?? null);

  protected when(iso: string): string {
    const zone = this.sheet()!.project.timezone;
    return `${longDay(dayIn(zone, iso))}, ${zonedTime(iso, zone)}`;
  }

  protected variantOf(t: InHandTest): string {
    return t.test?.variant ?? usualVariant(this.sheet()!.project.practice, t.method);
  }

  /** All that the record gives to a test: what it lies in, its equipment, other tests. */
  protected sourcesOf(t: InHandTest): Sources {
    const s = this.sheet()!;
    return { ...s.sources, ...this.begunWith.kitSources(t), ...this.givenTo(t)?.sources };
  }

  protected givenTo = ({ method, test }: InHandTest): GivenTo | undefined => test?.given ?? this.sheet()!.given[method.id];

  protected begin(method: string): void {
    // The list is for the next one at once.
    this.beginning.set(method);
    setTimeout(() => this.beginning.set(null));
    if (method === OTHERS) return this.others.set(true);
    const key = newId();
    this.begun.update((all) => ({ ...all, [key]: method }));
    this.chosen.set(key);
  }

  protected keep(t: InHandTest, keeping: Keeping): void {
    const [item, by] = [this.item(), this.person()];
    if (!item || by === null) return;
    this.record.write(keepWrites(t, keeping, { itemId: item.id, by, opens: this.router.url, start: this.begunWith.startOf(t) }));
  }

  protected readonly notes = computed((): Note[] =>
    [...inForce(this.sheet()?.entries ?? []).values()]
      .filter((e) => isNote(e.field))
      .map((e) => ({ id: e.id, text: e.text, told: `${this.nameOf()(e.by)}, ${this.when(e.at)}` })),
  );

  protected note(text: string): void {
    const at = this.clock.now();
    const row = rowIdAt(at, newId());
    this.amend({ sent: [{ id: newId(), field: `${NOTES}.${row}.text`, text, unit: null, at: new Date(at).toISOString() }] });
  }

  protected readonly sending = computed(() => this.record.filesOnTheWay());

  protected attach(files: readonly File[]): void {
    const [item, by] = [this.item(), this.person()];
    if (!item || by === null) return;
    this.record.write(fileCommands(item.id, by, this.router.url, files));
  }

  /** Nothing is deleted: it counts for nothing, and stays with the reason. */
  protected setVoided(voided: boolean): void {
    const [item, by] = [this.item(), this.person()];
    if (!item || by === null) return;
    const id = newId();
    const body = { id, by, voided, reason: this.why().trim(), at: this.clock.iso() };
    this.record.write([{ id, itemId: item.id, opens: this.router.url, kind: 'voiding', path: `/items/${item.id}/voiding`, body }]);
    this.taking.set(false);
    this.why.set('');
  }

  protected amend({ sent }: Pick<Keeping, 'sent'>): void {
    const [item, by] = [this.item(), this.person()];
    if (!item || by === null) return;
    const id = newId();
    const body = { id, by, readings: sent, known: this.sheet()?.readAt };
    this.record.write([{ id, itemId: item.id, opens: this.router.url, kind: 'entries', path: `/items/${item.id}/entries`, body }]);
  }
}
