import { boundsOf, limitWords, type Limit } from '../limits/verdict.js';
import { compare, type Comparison } from '../limits/compare.js';
import { METHODS } from '../methods/register.js';
import { exact } from '../numbers/exact.js';
import { convert, dimensionOf, type UnitId } from '../units/units.js';
import type { Keyed } from '../units/reading.js';
import { ACCEPTED_AT_DAYS, COMPRESSIVE, foundBy } from './strength-test.js';

/** What is found by breaking specimens: limits of it hold at an age. */
export const FOUND_BY_BREAKING: readonly string[] = [...new Set(METHODS.filter((m) => m.breaks).flatMap((m) => foundBy(m) ?? []))];

/** At which age a limit holds, d: 28 where it does not say. */
export const ageOfLimit = (l: Pick<Limit, 'atDays'>): number => l.atDays ?? ACCEPTED_AT_DAYS;

/** The limit that gives the specified strength: of those on compressive strength the highest that is asked at the least. */
export function strengthLimit<L extends Limit>(limits: readonly L[]): L | null {
  const inMpa = (l: L) => convert(exact(l.lower!), l.unit, 'MPa');
  const asked = limits.filter((l) => COMPRESSIVE.includes(l.property) && l.lower !== undefined);
  return asked.reduce<L | null>((so, l) => (so === null || inMpa(l).compare(inMpa(so)) > 0 ? l : so), null);
}

/** From this age on a limit of compressive strength is one that concrete is accepted by; before it, one for a step of the work. */
const ACCEPTED_FROM_DAYS = ACCEPTED_AT_DAYS;

/** What concrete is accepted by at an age: the highest strength that is asked there. */
export interface AcceptedAt {
  readonly specified: Keyed;
  readonly ageDays: number;
}

/**
 * The ages at which compressive strength is accepted, the youngest first: each is a series of its own. What is asked earlier only lets
 * a step of the work go on, unless nothing is asked later.
 */
export function acceptedAges(limits: readonly Limit[]): AcceptedAt[] {
  const asked = limits.filter((l) => COMPRESSIVE.includes(l.property) && l.lower !== undefined);
  const ages = [...new Set(asked.map(ageOfLimit))].sort((a, b) => a - b);
  const late = ages.filter((age) => age >= ACCEPTED_FROM_DAYS);
  return (late.length > 0 ? late : ages.slice(-1)).map((ageDays) => {
    const limit = strengthLimit(asked.filter((l) => ageOfLimit(l) === ageDays))!;
    return { specified: { text: limit.lower!, unit: limit.unit }, ageDays };
  });
}

/** A strength test that is compared with what is asked of it. */
export interface ComparedTest {
  readonly property: string;
  readonly ageDays: number;
  /** Unrounded, and as it is reported, in its unit. */
  readonly mean: string;
  readonly reported: string;
  readonly unit: UnitId;
}

export interface MeanVerdict {
  readonly limit: string;
  /** In words: `at least 4.5 MPa at 56 d`. */
  readonly says: string;
  readonly inside: boolean;
}

/** How the mean of a strength test meets what is asked at its age, limit by limit; what concrete is accepted by is left to its school. */
export function judgeMean(
  test: ComparedTest,
  specifications: readonly { readonly comparison: Comparison; readonly limits: readonly Limit[] }[],
): MeanVerdict[] {
  const accepted = acceptedAges(specifications.flatMap((s) => s.limits)).map((a) => a.ageDays);
  return specifications.flatMap(({ comparison, limits }) =>
    limits
      .filter((l) => l.property === test.property && ageOfLimit(l) === test.ageDays && dimensionOf(l.unit) === 'stress')
      .filter((l) => !accepted.includes(test.ageDays) || !COMPRESSIVE.includes(l.property))
      .map((l): MeanVerdict => {
        const value = convert(exact(test.mean), test.unit, l.unit);
        const figure = { value, asReported: convert(exact(test.reported), test.unit, l.unit) };
        const { lower, upper } = boundsOf(l);
        const inside =
          (lower === undefined || compare(figure, lower, 'lower', comparison).inside) &&
          (upper === undefined || compare(figure, upper, 'upper', comparison).inside);
        return { limit: l.id, says: limitWords(l), inside };
      }),
  );
}
