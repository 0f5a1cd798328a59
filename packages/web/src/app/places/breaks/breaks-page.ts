import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { BreakBeside, BreaksView, Instrument } from '@keen-mortar/contract';
import { askedOf, dayIn } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import {
  kitOfMethod,
  methodById,
  testsFor,
  unitLabel,
  USUAL_USES,
  usualVariant,
  type AnyMethod,
  type Shape,
  type Sources,
} from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { firstValueFrom, timeout } from 'rxjs';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api, problemOf } from '../../api/api';
import { Clock } from '../../device/clock';
import { Device } from '../../device/device';
import { newId } from '../../device/ids';
import { Outbox } from '../../device/outbox';
import { initialed, nameOf, project, session } from '../../state/session';
import { Reason } from '../../test/reason';
import { kitTaken, type TakenKit } from '../../test/sound-kit';
import { WithKit } from '../../test/with-kit';
import { Choice } from '../../ui/choice';
import { keyedBox, keysElsewhere } from '../../ui/keyed-box';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { longDay, zonedTime } from '../../parts/when';
import { BegunWith, type InHandTest } from '../record/begun-with';
import { fileCommands, Files } from '../record/files';
import { isKeyedSingly } from '../record/held-form';
import { InHand, type Keeping } from '../record/in-hand';
import { keepWrites } from '../record/keep-writes';
import { RecordStore } from '../record/record.store';
import { AskedAhead } from './asked-ahead';
import { BreakSide } from './break-side';
import { ByLabel } from './by-label';
import { Camera } from './camera';
import { brokenHow, inOrder, nextOf, notNow, voidWords, type Waiting } from './breaks.view';
import { PadsInPress } from './pads-in-press';
import { Press, type Broke } from './press';

const TICK = 1000;
/** Others break too: it is asked for again so often, ms. */
const AGAIN = 15_000;
/** Without an answer for so long the specimen is taken in hand all the same, ms. */
const ASKED_FOR = 2000;
/** As it is called in one word: there is little room beside the machine. */
const firstCalled = ({ names: [name = ''] }: AnyMethod): string => `${name.charAt(0).toUpperCase()}${name.slice(1)}`;

/** What is seen on a specimen that broke low. */
const CAUSES: readonly string[] = ['a cap came off', 'stood crooked', 'a void in it', 'damaged in demolding'];

/** The break station: what ends first, the specimen in hand with its machine, and what stands beside it. */
@Component({
  selector: 'km-breaks-page',
  imports: [
    BreakSide,
    Camera,
    Files,
    ButtonDirective,
    Choice,
    FormsModule,
    InHand,
    InputText,
    Notice,
    Pictogram,
    Press,
    Reason,
    RouterLink,
    WithKit,
  ],
  providers: [RecordStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './breaks-page.html',
  styleUrl: './breaks-page.css',
})
export class BreaksPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly device = inject(Device);
  private readonly outbox = inject(Outbox);
  private readonly clock = inject(Clock);
  private readonly store = inject(Store);
  protected readonly record = inject(RecordStore);
  readonly specimenId = input<string>();
  protected readonly project = this.store.selectSignal(project);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly nameOf = this.store.selectSignal(nameOf);
  readonly sheet = this.record.sheet;
  readonly view = signal<BreaksView | null>(null);
  readonly beside = signal<BreakBeside | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly now = this.clock.ticking(TICK);
  /** Broken on this device, and perhaps not known to the server yet. */
  private readonly gone = signal<ReadonlySet<string>>(new Set());

  protected readonly queue = computed((): Waiting[] => {
    const v = this.view();
    return v ? inOrder(v, this.now(), this.gone()) : [];
  });
  protected readonly dueToday = computed(() =>
    this.queue()
      .filter((w) => w.state === 'open')
      .reduce((n, w) => n + w.specimens.length, 0),
  );
  /** The one in hand: that which was asked for, or what ends first. */
  protected readonly chosen = computed(() => this.specimenId() ?? null);

  // ---- the specimen in hand
  private readonly key = signal<string | null>(null);
  private readonly began = signal<string | null>(null);
  /** Told that it is not due, and to be broken all the same. */
  protected readonly allowed = signal<string | null>(null);
  protected readonly breaking = computed((): readonly AnyMethod[] => {
    const s = this.sheet();
    return s ? testsFor(s.item.kind, askedOf(s)).filter((m) => m.breaks) : [];
  });
  protected readonly methods = computed(() => this.breaking().map((m) => ({ id: m.id, label: firstCalled(m) })));
  readonly inHand = computed((): InHandTest | null => {
    const [s, key] = [this.sheet(), this.key()];
    if (!s || key === null || s.item.id !== this.chosen()) return null;
    const made = s.tests.findLast((t) => methodById(t.method)?.breaks);
    if (made) return { key: made.id, method: methodById(made.method)!, test: made };
    const method = this.breaking().find((m) => m.id === this.began()) ?? this.breaking()[0];
    return method ? { key, method, test: null } : null;
  });
  readonly begunWith = new BegunWith(
    this.sheet,
    computed(() => this.inHand()?.key ?? null),
    this.clock,
  );
  protected readonly uses = USUAL_USES;
  protected readonly refused = computed(() => this.record.refused()?.problem ?? null);
  protected readonly busy = computed(() => this.record.waits() > 0);
  protected readonly held = viewChild(InHand);
  private readonly press = viewChild(Press);
  private readonly hand = viewChild.required<ElementRef<HTMLElement>>('hand');
  private readonly allowButton = viewChild<string, ElementRef<HTMLButtonElement>>('allowing', { read: ElementRef });

  protected readonly notNow = computed(() => {
    const [b, t, id] = [this.beside(), this.inHand(), this.chosen()];
    // Before the queue is known nothing is said to be early or late.
    return this.view() && b && t && id !== null && t.test === null && this.allowed() !== id ? notNow(this.queue(), b, id) : '';
  });
  /** What voids it: before it is loaded it can still be measured again, or another taken. */
  protected readonly never = computed(() => {
    const e = this.held()?.come();
    return e ? voidWords(e, this.held()?.isLoaded() ?? false) : '';
  });
  protected readonly machine = signal<Instrument | null>(null);
  protected readonly hasMachine = computed(() => {
    const t = this.inHand();
    return t !== null && kitOfMethod(t.method).includes('machine') && (t.test?.kept ?? null) === null;
  });

  protected readonly pads = new PadsInPress(this, (id) => this.record.refresh(id));
  /** The one that was broken last here, and how: the server may not know yet. */
  private readonly lastBroken = signal<{ readonly id: string; readonly method: string } | null>(null);
  /** What the one before was broken with: the next one is too. */
  private readonly lastKit = signal<TakenKit | null>(null);

  private readonly ahead = new AskedAhead();
  protected readonly label = new ByLabel(this, (id) => this.go(id));

  constructor() {
    effect((gone) => {
      const p = this.project();
      if (!p) return;
      untracked(() => this.ask());
      const timer = setInterval(() => this.ask(), AGAIN);
      gone(() => clearInterval(timer));
    });
    // Nothing was asked for: what ends first is in hand.
    effect(() => {
      const [all, id] = [this.queue(), this.chosen()];
      if (id !== null) this.onTheWay = false;
      if (id !== null || all.length === 0 || this.onTheWay) return;
      untracked(() => this.go(nextOf(all, null)));
    });
    effect(() => {
      const id = this.chosen();
      if (id === null) return;
      untracked(() => {
        this.record.open(id);
        this.began.set(null);
        this.press()?.next();
        void this.takeUp(id);
      });
    });
    this.outbox.answered.pipe(takeUntilDestroyed(inject(DestroyRef))).subscribe(() => {
      this.ask();
      const id = this.chosen();
      if (id !== null) void this.besideOf(id);
    });
    this.api.instruments().subscribe({
      next: ({ items }) => this.machine.set(items.find((i) => i.kind === 'machine') ?? null),
      error: () => undefined,
    });
    // Whoever put other pads in goes on with them.
    let given: string | null = null;
    effect(() => {
      const [t, s, last] = [this.inHand(), this.sheet(), this.lastKit()];
      if (!t || t.test || !s || !last || t.key === given) return;
      const there = [last.equipmentId, ...last.alsoIds].every((id) => id === null || s.kit.some((k) => k.id === id));
      const kinds = kitOfMethod(t.method);
      if (!there || kitTaken(s.kit, last).some((k) => !kinds.includes(k.kind))) return;
      given = t.key;
      untracked(() => this.begunWith.takeKit(t, last));
    });
    // What stops the work is answered with the next key, unless that belongs to what is being keyed.
    effect(() => {
      const button = this.allowButton()?.nativeElement;
      untracked(() => this.isKeying() || button?.focus());
    });
  }

  private ask(): void {
    const p = this.project();
    if (!p) return;
    this.api.breaks(p.id).subscribe({
      next: (view) => {
        this.view.set(view);
        this.problem.set(null);
        this.ahead.want(this.queue().flatMap((w) => (w.state === 'open' ? w.specimens.map((s) => s.id) : [])));
      },
      error: (e: unknown) => this.problem.set(problemOf(e)),
    });
  }

  /** What stands beside it; null where that cannot be asked now. */
  private async besideOf(id: string): Promise<BreakBeside | null> {
    const beside = await firstValueFrom(this.api.breakBeside(id).pipe(timeout(ASKED_FOR))).catch(() => null);
    if (beside && this.chosen() === id) this.beside.set(beside);
    return beside;
  }

  /** What was begun here before the page was closed, or a new one. */
  private async takeUp(id: string): Promise<void> {
    this.key.set(null);
    if (this.beside()?.companions.every((c) => c.id !== id)) this.beside.set(null);
    // Beside others of its set it is known already.
    const known = this.beside();
    const asked = this.besideOf(id);
    const [left, beside] = await Promise.all([this.device.inHandOf(id).catch(() => []), known ?? asked]);
    if (this.chosen() !== id) return;
    const found = left.find((hand) => methodById(hand.method)?.breaks);
    this.began.set(found?.method ?? (beside && brokenHow(beside, id, this.lastBroken())));
    this.key.set(found?.id ?? newId());
  }

  /** A specimen was asked for and is not in hand yet: what ends first does not come before it. */
  private onTheWay = false;

  protected go(id: string | null): void {
    this.label.notFound.set('');
    this.onTheWay ||= id !== null;
    if (id !== null) void this.router.navigate(['/breaks', id], { replaceUrl: this.chosen() === null });
  }

  protected take(w: Waiting): void {
    this.go(w.specimens[0]?.id ?? null);
  }

  protected choose(method: string): void {
    this.began.set(method);
    this.key.set(newId());
  }

  // ---- what stands in its head
  protected readonly letterOf = computed(() => {
    const b = this.beside();
    const own = b?.companions.find((c) => c.id === this.chosen());
    const same = b?.companions.filter((c) => c.ageDays === own?.ageDays) ?? [];
    return own ? `${same.indexOf(own) + 1} of ${same.length}` : '';
  });
  protected readonly cast = computed(() => {
    const s = this.sheet();
    const set = s?.line.find((i) => i.kind === 'specimen-set');
    if (!s || !set) return '';
    const where = s.line.find((i) => i.kind === 'pour' || i.kind === 'trial-batch' || i.kind === 'element');
    const at = `${longDay(dayIn(s.project.timezone, set.at))}, ${zonedTime(set.at, s.project.timezone)}`;
    return [`cast ${at}`, where?.name ?? where?.code].filter(Boolean).join(' · ');
  });
  protected readonly unitOf = unitLabel as (unit: string) => string;
  protected who = (id: string | null): string => (id === null ? '' : initialed(this.nameOf()(id)));

  protected sourcesOf(t: InHandTest): Sources {
    const s = this.sheet()!;
    return { ...s.sources, ...this.begunWith.kitSources(t), ...this.givenTo(t)?.sources };
  }
  protected givenTo = ({ method, test }: InHandTest) => test?.given ?? this.sheet()!.given[method.id];
  protected variantOf = (t: InHandTest): string => t.test?.variant ?? usualVariant(this.sheet()!.project.practice, t.method);
  protected readonly kitNames = computed((): readonly string[] => {
    const [t, s] = [this.inHand(), this.sheet()];
    return t && s ? kitTaken(s.kit, this.begunWith.takenOf(t)).map((k) => k.name) : [];
  });
  protected waitsFor(t: InHandTest): string {
    return this.notNow() !== '' ? 'Say first whether it is broken all the same.' : this.begunWith.waitsFor(t);
  }

  protected broke({ load, trace }: Broke): void {
    const held = this.held();
    if (!held) return;
    held.takeLoad(load, trace);
    setTimeout(() => keysElsewhere(this.hand().nativeElement) || held.onwards('load'));
  }

  /** A label, or a reading that is begun. */
  private isKeying(): boolean {
    return keysElsewhere(this.hand().nativeElement) || (keyedBox()?.value ?? '') !== '';
  }

  protected allow(): void {
    this.allowed.set(this.chosen());
    setTimeout(() => this.held()?.begin());
  }

  protected keep(t: InHandTest, keeping: Keeping): void {
    const [item, by] = [this.sheet()?.item, this.person()];
    if (!item || by === null) return;
    this.record.write(keepWrites(t, keeping, { itemId: item.id, by, opens: `/breaks/${item.id}`, start: this.begunWith.startOf(t) }));
    if (t.test) return;
    this.lastBroken.set({ id: item.id, method: t.method.id });
    this.lastKit.set(this.begunWith.takenOf(t));
    this.onwards(item.id);
  }

  /** How it broke, as a picture. */
  protected attach(files: readonly File[]): void {
    const [item, by] = [this.sheet()?.item, this.person()];
    if (item && by !== null) this.record.write(fileCommands(item.id, by, `/breaks/${item.id}`, files));
  }

  /** Whether it is measured without tables: then it is keyed one reading after the other. */
  protected quick = (m: AnyMethod): boolean => isKeyedSingly(m.fields as Shape);

  /** A fact of the specimen in hand. */
  private amend(readings: readonly object[]): void {
    const [item, by] = [this.sheet()?.item, this.person()];
    if (!item || by === null) return;
    const [id, opens, path] = [newId(), `/breaks/${item.id}`, `/items/${item.id}/entries`];
    this.record.write([{ id, itemId: item.id, opens, kind: 'entries', path, body: { id, by, readings } }]);
  }

  /** It was never broken: it is waited for no longer. */
  protected became(what: 'lost' | 'damaged'): void {
    const item = this.sheet()?.item;
    if (!item) return;
    this.amend([{ id: newId(), field: 'became', text: what, unit: null, at: this.clock.iso() }]);
    this.onwards(item.id);
  }

  /** On to the next, of the same set first: what was kept goes on its way meanwhile. */
  private onwards(itemId: string): void {
    this.gone.update((all) => new Set([...all, itemId]));
    const next = nextOf(this.queue(), itemId);
    if (next !== null && next !== itemId) this.go(next);
  }

  protected readonly sheetAge = computed(() => this.beside()?.companions.find((c) => c.id === this.chosen())?.ageDays ?? null);
  protected readonly causes = CAUSES;

  /** Why one that was broken is left out of its strength test; empty: it counts again. */
  protected readonly leaving = signal(false);
  protected readonly leftWhy = signal('');
  protected leave(): void {
    const [s, why] = [this.sheet(), this.leftWhy().trim()];
    if (!s || why.length < 3) return;
    const before = s.entries.findLast((e) => e.field === 'left');
    const reading = { id: newId(), field: 'left', text: why, unit: null, at: this.clock.iso(), reason: why };
    this.amend([{ ...reading, ...(before ? { supersedes: before.id } : {}) }]);
    this.leaving.set(false);
    this.leftWhy.set('');
  }
}
