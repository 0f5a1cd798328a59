import { exact } from '../numbers/exact.js';
import { convert, unitLabel, type System } from '../units/units.js';
import type { Keyed } from '../units/reading.js';

/** Something that the record says of a strength test: equipment, a person, a source as it was, a remark. */
export interface Trait {
  readonly id: string;
  readonly kind: TraitKind;
  readonly label: string;
}

export type TraitKind = 'source' | 'revision' | 'kit' | 'person' | 'plant' | 'truck' | 'season' | 'remark';

/** A strength test as the search for causes sees it, the oldest first. */
export interface Traced {
  readonly strength: number;
  /** When it was cast, ms. */
  readonly at: number;
  readonly traits: readonly string[];
}

/** What may have moved a series, with the evidence for it; each from 0 to 1. */
export interface ShiftCause {
  readonly trait: Trait;
  /** It began when the series moved. */
  readonly when: number;
  /** Tests with it are as far off as the series moved. */
  readonly size: number;
  /** It is in the tests after, and not in those before. */
  readonly which: number;
  /** Tests after and before that have it, and how many there are. */
  readonly after: number;
  readonly ofAfter: number;
  readonly before: number;
  readonly ofBefore: number;
  /** How much of the move it would explain, in the unit of the tests. */
  readonly explains: number;
}

/** What stands on a strength, in the words of a list. */
const REMARKS: Readonly<Record<string, string>> = {
  'initial-cure-cold': 'Cold in the first two days',
  'initial-cure-warm': 'Warm in the first two days',
  'initial-cure-long': 'Long initial curing',
  'moved-early': 'Moved early',
  'ride-long': 'Long on the road',
  'final-cure-late': 'Late into final curing',
  'mold-too-small': 'Mold too small for the stone',
  'pads-worn': 'Worn pads',
  'pads-hardness': 'Pads of another hardness',
  'rate-outside': 'Loaded at another rate',
  'specimen-too-long': 'Specimen too long',
  'outside-age-window': 'Broken outside its window',
  'out-of-calibration': 'Equipment past its calibration',
  'never-calibrated': 'Equipment never calibrated',
  'found-wrong': 'Equipment found wrong later',
};

/** A season is told by its air: in bands so wide, °C or °F. */
const BAND: Readonly<Record<System, number>> = { si: 10, us: 20 };

/** The season that concrete was placed in. @param air the temperature while it was placed */
export function seasonOf(air: Keyed, system: System): Trait {
  const unit = system === 'us' ? 'F' : 'C';
  const from = Math.floor(Number(convert(exact(air.text), air.unit, unit).valueOf()) / BAND[system]) * BAND[system];
  return { id: `air:${from}${unit}`, kind: 'season', label: `Air at ${from} to ${from + BAND[system]} ${unitLabel(unit)}` };
}

export const remarkWords = (code: string): string => REMARKS[code] ?? code.replaceAll('-', ' ');

const DAY = 86_400_000;
/** What began so long before or after says nothing of when. */
const FADES = 45 * DAY;
/** Weaker evidence is none. */
const LEAST = 0.3;
const MOST = 6;

const mean = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length;
const within01 = (x: number): number => Math.max(0, Math.min(1, x));

/**
 * What changed when a series moved, the strongest evidence first: what is new in the tests after it, began then, and whose tests are
 * as far off. Likely causes, never a verdict; plain doubles, for nothing is reported of it but an order.
 * @param at index of the first test after the move
 */
export function causesOf(tests: readonly Traced[], at: number, traits: readonly Trait[]): ShiftCause[] {
  const [before, after] = [tests.slice(0, at), tests.slice(at)];
  if (before.length === 0 || after.length === 0) return [];
  const moved = mean(after.map((t) => t.strength)) - mean(before.map((t) => t.strength));
  if (moved === 0) return [];
  const moment = after[0]!.at;
  const found = traits.flatMap((trait): ShiftCause[] => {
    const has = (t: Traced): boolean => t.traits.includes(trait.id);
    const [a, b] = [after.filter(has), before.filter(has)];
    const which = a.length / after.length - b.length / before.length;
    if (which <= 0) return [];
    const first = [...b, ...a][0]!.at;
    // Where it was there long before it cannot be new; of the first of several appearances the one nearest to the move counts.
    const nearest = Math.min(...[...a, ...b].map((t) => Math.abs(t.at - moment)), Math.abs(first - moment));
    const newly = b.length === 0 ? Math.abs(first - moment) : Math.max(nearest, (b.length / before.length) * FADES);
    const others = after.filter((t) => !has(t));
    const base = others.length > 0 ? others : before;
    const effect = mean(a.map((t) => t.strength)) - mean(base.map((t) => t.strength));
    const size = within01(effect / moved);
    return [
      {
        trait,
        when: within01(1 - newly / FADES),
        size,
        which: within01(which),
        after: a.length,
        ofAfter: after.length,
        before: b.length,
        ofBefore: before.length,
        explains: size * within01(which) * moved,
      },
    ];
  });
  const score = (c: ShiftCause): number => (c.when + c.size + 2 * c.which) / 4;
  return found
    .filter((c) => score(c) >= LEAST)
    .sort((x, y) => score(y) - score(x) || (x.trait.label < y.trait.label ? -1 : 1))
    .slice(0, MOST);
}
