import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { DayView, Sheet } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import {
  consolidation,
  CURING,
  daysOf,
  evaluate,
  ageWords,
  breaksOf,
  INSTEAD_WORDS,
  specimensOf,
  usualPlan,
  WAY_WORDS,
  type PlanLine,
  moldingsOf,
  MOLDS,
  stepsFor,
  curing,
  CURING_PARAMS,
  lettersOf,
  type AnyInputs,
  type Keyed,
  type Molding,
} from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { DateTime } from 'luxon';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api, problemOf } from '../../../api/api';
import { Clock } from '../../../device/clock';
import { Codes } from '../../../device/codes';
import { newId } from '../../../device/ids';
import { Write } from '../../../device/write';
import { WriteTold } from '../../../parts/write-told';
import { session } from '../../../state/session';
import { Choice } from '../../../ui/choice';
import { Field, FieldInput } from '../../../ui/field';
import { Moment } from '../../../ui/moment';
import { Notice } from '../../../ui/notice';
import { Pictogram } from '../../../ui/pictogram';
import { Switch } from '../../../ui/switch';
import { Molds } from './molds';

const PLAN = 'km.molds';
const MOST = 60;

/** What people molded last on this device is what they mold next. */
interface Remembered {
  readonly mold: string;
  readonly lines: readonly PlanLine[];
}

function remembered(): Remembered | null {
  try {
    return JSON.parse(localStorage.getItem(PLAN) ?? 'null') as Remembered | null;
  } catch {
    return null;
  }
}

/**
 * Molding a set: how many of what for which ages, with the windows in which they must be broken against opening hours; then
 * layer by layer, with strokes and taps as the method has them, and the labels.
 */
@Component({
  selector: 'km-mold-page',
  imports: [
    FormsModule,
    RouterLink,
    ButtonDirective,
    InputText,
    Choice,
    Field,
    FieldInput,
    Moment,
    Notice,
    Pictogram,
    Switch,
    WriteTold,
    Molds,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './mold-page.html',
  styleUrl: './mold-page.css',
})
export class MoldPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly clock = inject(Clock);
  /** What the set is molded of; or the set, once it is molded. */
  readonly itemId = input.required<string>();
  private readonly person = inject(Store).selectSignal(session.selectPersonId);
  protected readonly sheet = signal<Sheet | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  private readonly openings = signal<DayView['openings']>([]);
  protected readonly write = new Write<Sheet>();

  protected readonly zone = computed(() => this.sheet()?.project.timezone ?? 'local');
  protected readonly isSet = computed(() => this.sheet()?.item.kind === 'specimen-set');
  private readonly system = computed(() => this.sheet()?.project.system ?? 'si');

  // The plan of a set that is to be molded.
  protected readonly molds = MOLDS.map(({ id, label }) => ({ id, label }));
  protected readonly moldId = signal<string>(MOLDS[0]!.id);
  protected readonly mold = computed(() => MOLDS.find((m) => m.id === this.moldId()) ?? MOLDS[0]!);
  protected readonly lines = signal<readonly PlanLine[]>(usualPlan(MOLDS[0]!));
  protected readonly curingId = signal<keyof typeof CURING>('standard');
  protected readonly curings = Object.entries(CURING).map(([id, label]) => ({ id, label }));
  protected readonly place = signal('');
  protected readonly madeAt = signal<string | null>(null);
  private readonly minute = this.clock.ticking(30_000);
  private readonly made = computed(() => (this.madeAt() === null ? this.minute() : Date.parse(this.madeAt()!)));
  protected readonly fault = computed((): string | null => {
    const ages = specimensOf(this.lines());
    if (ages.length === 0) return 'Say how many are molded.';
    if (ages.length > MOST) return `At most ${MOST} at once: make two sets.`;
    if (this.lines().some((l) => !Number.isInteger(l.count) || l.count < 0)) return 'How many is a whole number.';
    return this.lines().some((l) => l.age !== null && !(l.age > 0 && l.age <= 1000)) ? 'An age is in days, above zero.' : null;
  });

  /** What there is to fill: as planned, or as molded. */
  protected readonly specimens = computed((): { name: string; age: string; days: number | null }[] => {
    const s = this.sheet();
    const say = (days: number | null): string => (days === null ? 'spare' : ageWords(days));
    if (s && this.isSet())
      return s.children
        .filter((c) => !c.voided)
        .map((c) => {
          const days = daysOf((c.facts as { age?: unknown }).age);
          return { name: c.code, age: say(days), days };
        });
    if (this.fault() !== null) return [];
    return specimensOf(this.lines()).map((days, i) => ({ name: lettersOf(i + 1), age: say(days), days }));
  });

  private readonly sizes = computed((): { shape: string; width: Keyed; length: Keyed } => {
    const [s, unit] = [this.sheet(), this.system() === 'us' ? ('in' as const) : ('mm' as const)];
    if (s && this.isSet()) return s.item.facts as unknown as { shape: string; width: Keyed; length: Keyed };
    const { shape, width, length } = this.mold();
    return { shape, width: { text: width[this.system()], unit }, length: { text: length[this.system()], unit } };
  });
  protected readonly shape = computed(() => this.sizes().shape);

  /** The slump of the sample says whether it is rodded or vibrated. */
  private readonly slump = computed((): Keyed | null => {
    const slumps = (this.sheet()?.tests ?? []).filter((t) => t.method === 'slump' && t.kept);
    const found = slumps.at(-1)?.kept?.evaluation.results.find((r) => r.id === 'slump' && r.state === 'given');
    return found?.reported ? { text: found.reported, unit: found.unit } : null;
  });
  protected readonly moldings = computed((): Molding[] => {
    const { shape, width, length } = this.sizes();
    const slump = this.slump();
    const said =
      slump &&
      evaluate(consolidation, { use: 'specimen', slump } as AnyInputs, { variant: 'astm', system: this.system() }).results.find(
        (r) => r.id === 'allowed',
      );
    return moldingsOf(shape, width, length ?? null, (said?.words as Molding['way'][] | undefined) ?? undefined);
  });
  protected readonly wayId = signal<Molding['way'] | null>(null);
  protected readonly molding = computed(() => this.moldings().find((m) => m.way === this.wayId()) ?? this.moldings()[0] ?? null);
  protected readonly ways = computed(() => this.moldings().map((m) => ({ id: m.way, label: WAY_WORDS[m.way] })));
  protected readonly layersDone = signal(0);
  private readonly layers = computed(() => this.specimens().length * (this.molding()?.layers ?? 0));
  protected readonly inHand = computed((): { name: string; says: string } | null => {
    const [m, done] = [this.molding(), this.layersDone()];
    if (!m?.layers || done >= this.layers()) return null;
    const layer = done % m.layers;
    return { name: this.specimens()[Math.floor(done / m.layers)]!.name, says: `layer ${layer + 1} of ${m.layers}: ${m.layer}` };
  });
  protected readonly insteadWords = INSTEAD_WORDS;
  protected readonly steps = stepsFor(curing, CURING_PARAMS);

  protected readonly windows = computed(() => {
    const s = this.sheet();
    const made = s && this.isSet() ? Date.parse(s.item.at) : this.made();
    return breaksOf(
      this.specimens().map((one) => one.days),
      made,
      this.openings(),
    );
  });

  private readonly id = newId();
  private ids: string[] = [];

  constructor() {
    inject(Codes).ready(this.person());
    const last = remembered();
    const known = MOLDS.find((m) => m.id === last?.mold);
    if (last && known && Array.isArray(last.lines)) {
      this.moldId.set(known.id);
      this.lines.set(last.lines);
    }
    effect((gone) => {
      const id = this.itemId();
      const asked = this.api.item(id).subscribe({
        next: (s) => untracked(() => this.opened(s)),
        error: (e: unknown) => this.problem.set(problemOf(e)),
      });
      gone(() => asked.unsubscribe());
    });
  }

  private opened(s: Sheet): void {
    this.sheet.set(s);
    this.layersDone.set(Number(localStorage.getItem(`${PLAN}.${s.item.id}`) ?? 0));
    this.api.hours(s.project.id).subscribe({ next: ({ openings }) => this.openings.set(openings), error: () => this.openings.set([]) });
  }

  protected when(ms: number): string {
    return DateTime.fromMillis(ms, { zone: this.zone() }).toFormat('ccc d LLL, HH:mm');
  }

  /** `Fri 4 Dec, 07:00 to 15:47`; the second day where it is another. */
  protected span(from: number, to: number): string {
    const [a, b] = [from, to].map((ms) => DateTime.fromMillis(ms, { zone: this.zone() })) as [DateTime, DateTime];
    return `${this.when(from)} to ${a.hasSame(b, 'day') ? b.toFormat('HH:mm') : this.when(to)}`;
  }

  protected day(ms: number): string {
    return DateTime.fromMillis(ms, { zone: this.zone() }).toISODate() ?? '';
  }

  protected chooseMold(id: string): void {
    const before = this.mold().companions;
    this.moldId.set(id);
    const { companions } = this.mold();
    // Of another size another number makes a strength test.
    this.lines.update((all) => all.map((l) => (l.age === 28 && l.count === before ? { ...l, count: companions } : l)));
  }

  protected change(i: number, to: Partial<PlanLine>): void {
    this.lines.update((all) => all.map((l, n) => (n === i ? { ...l, ...to } : l)));
  }

  protected number = (text: string): number => (text.trim() === '' ? NaN : Number(text));
  protected ageOf = (text: string): number | null => (text.trim() === '' ? null : Number(text));

  protected addLine(): void {
    this.lines.update((all) => [...all, { count: 1, age: 56 }]);
  }

  protected dropLine(i: number): void {
    this.lines.update((all) => all.filter((_l, n) => n !== i));
  }

  /** Another age, where the one that was meant falls on a closed day. */
  protected makeIt(age: number, instead: number): void {
    this.lines.update((all) => all.map((l) => (l.age === age ? { ...l, age: instead } : l)));
  }

  protected molded(): void {
    const [s, by] = [this.sheet(), this.person()];
    if (!s || by === null || this.fault() !== null) return;
    const ages = specimensOf(this.lines());
    // The same press again is the same set, and the same specimens.
    this.ids = ages.map((_a, i) => this.ids[i] ?? newId());
    const madeAt = this.madeAt() ?? this.clock.iso();
    this.madeAt.set(madeAt);
    const place = this.place().trim();
    const body = {
      id: this.id,
      by,
      facts: { ...this.sizes(), madeAt, curing: this.curingId(), ...(place === '' ? {} : { place }) },
      specimens: ages.map((age, i) => ({ id: this.ids[i]!, age: age === null ? null : { text: String(age), unit: 'd' } })),
    };
    localStorage.setItem(PLAN, JSON.stringify({ mold: this.moldId(), lines: this.lines() } satisfies Remembered));
    this.write.send(
      { id: this.id, itemId: s.item.id, opens: this.router.url, kind: 'specimens', path: `/items/${s.item.id}/specimens`, body },
      () => void this.router.navigate(['/record', this.id, 'mold']),
    );
  }

  protected layerDone(by: 1 | -1): void {
    const done = Math.min(this.layers(), Math.max(0, this.layersDone() + by));
    this.layersDone.set(done);
    localStorage.setItem(`${PLAN}.${this.sheet()!.item.id}`, String(done));
  }
}
