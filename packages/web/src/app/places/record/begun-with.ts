import { computed, signal, type Signal } from '@angular/core';
import { dayIn, ownCopyAt, type SentTest, type Sheet, type Test } from '@keen-mortar/contract';
import { kitMarks, say, testsOn, type AnyMethod, type OwnFigures, type Sources } from '@keen-mortar/core';
import type { Clock } from '../../device/clock';
import type { OwnByVariant } from '../../test/computation.store';
import { paperFault, type PaperTimes } from '../../test/paper';
import { LEAST_REASON } from '../../test/reason';
import { kitTaken, usualKit, type TakenKit } from '../../test/sound-kit';

/** A test of the item, or one that is only begun. */
export interface InHandTest {
  readonly key: string;
  readonly method: AnyMethod;
  readonly test: Test | null;
}

/** How a test on a sheet is begun, or was: by whose figures, with which kit, and when. */
export class BegunWith {
  constructor(
    private readonly sheet: Signal<Sheet | null>,
    /** The test in hand, by its key. */
    private readonly inHand: Signal<string | null>,
    private readonly clock: Clock,
  ) {}

  /** The lab’s own figures by method and variant: as they are in force now, and as each test was started by. */
  private readonly ownNow = computed((): Readonly<Record<string, OwnByVariant>> => {
    const [copies, at] = [this.sheet()?.ownCopies ?? [], this.clock.iso()];
    const found: Record<string, Record<string, OwnFigures>> = {};
    for (const { method, variant } of copies) {
      const own = ownCopyAt(copies, { method, variant }, at);
      if (own) (found[method] ??= {})[variant] = own.figures;
    }
    return found;
  });
  private readonly ownThen = computed(
    () => new Map((this.sheet()?.tests ?? []).map((t) => [t.id, t.own ? { [t.variant]: t.own.figures } : AS_PRINTED])),
  );
  ownOf({ method, test }: InHandTest): OwnByVariant {
    return (test ? this.ownThen().get(test.id) : this.ownNow()[method.id]) ?? AS_PRINTED;
  }

  /** What a test is made with: as it was when it was started, or what is chosen for one that is begun. */
  private readonly chosenKit = signal<Readonly<Record<string, TakenKit>>>({});
  private readonly usualOf = computed((): Readonly<Record<string, TakenKit>> => {
    const s = this.sheet();
    const day = s ? dayIn(s.project.timezone, this.clock.iso()) : '';
    return Object.fromEntries(testsOn(s?.item.kind ?? 'sample').map((m) => [m.id, usualKit(s?.kit ?? [], m, day)]));
  });
  private readonly takenThen = computed(
    () => new Map((this.sheet()?.tests ?? []).map((t) => [t.id, { equipmentId: t.equipmentId, alsoIds: t.also.map((k) => k.id) }])),
  );
  takenOf({ key, method, test }: InHandTest): TakenKit {
    return (test ? this.takenThen().get(test.id) : (this.chosenKit()[key] ?? this.usualOf()[method.id])) ?? NO_KIT;
  }
  /** What the equipment gives to it: what is used beside it, and before that the one that enters the result. */
  kitSources(t: InHandTest): Sources {
    const s = this.sheet();
    const all = t.test ? [...t.test.also, ...(t.test.kit ? [t.test.kit] : [])] : kitTaken(s?.kit ?? [], this.takenOf(t)).reverse();
    return Object.assign({}, ...all.map((k) => k.sources)) as Sources;
  }
  takeKit({ key }: InHandTest, taken: TakenKit): void {
    this.chosenKit.update((all) => ({ ...all, [key]: taken }));
  }
  readonly kitReason = signal<Readonly<Record<string, string>>>({});
  giveKitReason({ key }: InHandTest, why: string): void {
    this.kitReason.update((all) => ({ ...all, [key]: why }));
  }
  /** What speaks against the equipment of a test that is not begun on record yet, in words. */
  kitTold(t: InHandTest): string {
    if (t.test) return '';
    const s = this.sheet()!;
    const day = dayIn(s.project.timezone, this.clock.iso());
    return kitTaken(s.kit, this.takenOf(t))
      .flatMap((k) => kitMarks(k, day))
      .map(({ code, params }) => say(code, params))
      .join(' ');
  }
  waitsFor(t: InHandTest): string {
    if (!t.test && paperFault(this.paperOf(t)) !== '') return paperFault(this.paperOf(t));
    const why = this.kitReason()[t.key]?.trim() ?? '';
    return this.kitTold(t) !== '' && why.length < LEAST_REASON ? 'Say why this equipment is used.' : '';
  }

  /** Times that were written on a field sheet, of what is keyed afterwards. */
  private readonly paper = signal<Readonly<Record<string, PaperTimes>>>({});
  paperOf = ({ key }: InHandTest): PaperTimes | null => this.paper()[key] ?? null;
  onPaper({ key }: InHandTest, times: PaperTimes | null): void {
    this.paper.update(({ [key]: _before, ...others }) => (times ? { ...others, [key]: times } : others));
  }
  readonly now = (): string => this.clock.iso();
  /** When what is in hand is read, ms: now, or when it was written. */
  readonly readNow = computed(() => {
    const read = this.paper()[this.inHand() ?? '']?.read;
    return read === undefined ? this.clock.now : () => Date.parse(read);
  });

  /** What a test is begun with, as its write says it. */
  startOf(t: InHandTest): Pick<SentTest, 'startedAt' | 'equipmentId' | 'alsoIds' | 'kitReason'> {
    const kitReason = this.kitReason()[t.key]?.trim() ?? '';
    const { equipmentId, alsoIds } = this.takenOf(t);
    return {
      startedAt: this.paperOf(t)?.started ?? this.clock.iso(),
      equipmentId,
      alsoIds: [...alsoIds],
      ...(kitReason === '' ? {} : { kitReason }),
    };
  }
}

const AS_PRINTED: OwnByVariant = {};
const NO_KIT: TakenKit = { equipmentId: null, alsoIds: [] };
