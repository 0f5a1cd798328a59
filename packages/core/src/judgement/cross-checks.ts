import { brief, exact } from '../numbers/exact.js';
import type { UnitId } from '../units/units.js';
import { unitLabel } from '../units/units.js';
import { furtherThanD2s } from './precision.js';
import type { Code, Params } from '../problems.js';

/** A likely cause, with what speaks for and against it. Offered, never a verdict. */
export interface Cause {
  readonly code: Code;
  readonly params: Params;
  /** Higher first. */
  readonly weight: number;
}

export interface CrossCheck {
  readonly code: Code;
  readonly params: Params;
  readonly causes: readonly Cause[];
}

export interface AirEvidence {
  /** Both in %, decimal text or n/d. */
  readonly pressure: string;
  readonly gravimetric: string;
  /** Days since calibration; null: not known. */
  readonly meterAge: number | null;
  readonly measureAge: number | null;
  /** Days since the specific gravities behind the air-free density were found; null: not known. */
  readonly gravitiesAge: number | null;
  readonly correction: boolean;
  /** The air-free density is the design's, not of what was in the truck. */
  readonly fromDesign: boolean;
  /** Water added on site, as it was keyed; null: none. */
  readonly waterAdded: string | null;
}

/** Pressure and gravimetric air of one concrete agree within this, in points. */
const AIR_WITHIN = '1.0';

const sorted = (causes: readonly Cause[]): Cause[] => causes.filter((cause) => cause.weight > 0).sort((a, b) => b.weight - a.weight);

/**
 * Pressure air against gravimetric air: more than 1.0 point apart is a fault of test or data, and
 * its causes are ranked by what else is known. Null when they agree.
 */
export function crossCheckAir(e: AirEvidence): CrossCheck | null {
  const apart = exact(e.pressure).sub(exact(e.gravimetric));
  if (apart.abs().compare(exact(AIR_WITHIN)) <= 0) return null;
  const high = apart.compare(0) > 0;
  const days = (age: number | null): Params => (age === null ? {} : { days: String(age) });
  return {
    code: 'airs-disagree',
    params: { apart: brief(apart.abs(), 2, exact(AIR_WITHIN)), within: AIR_WITHIN },
    causes: sorted([
      // Water that the design does not know makes the concrete light, so that it seems to hold more air.
      {
        code: 'cause-water-added',
        params: { water: e.waterAdded ?? '' },
        weight: e.waterAdded !== null && e.fromDesign ? (high ? 2 : 9) : 0,
      },
      { code: 'cause-design-theoretical', params: {}, weight: e.fromDesign ? 4 : 0 },
      // Older than a year weighs most; unknown in between.
      { code: 'cause-stale-theoretical', params: days(e.gravitiesAge), weight: 2 + (e.gravitiesAge ?? 180) / 180 },
      { code: 'cause-no-correction', params: {}, weight: e.correction ? 0 : high ? 6 : 3 },
      { code: 'cause-measure-volume', params: days(e.measureAge), weight: 1 + (e.measureAge ?? 180) / 365 },
      // A leaking meter reads too high.
      { code: 'cause-meter', params: days(e.meterAge), weight: (high ? 1.5 : 0.5) + (e.meterAge ?? 60) / 60 },
    ]),
  };
}

/** Rounding of figures that were typed from elsewhere: two decimals of a gravity. */
const FIT_WITHIN = '0.002';

/**
 * The three gravities of one sample: 1/G_OD − 1/G_A = absorption/100, exact for unrounded values.
 * A result typed from elsewhere that breaks it by more than its rounding is mistyped. Null when they fit.
 */
export function crossCheckGravities(od: string, apparent: string, absorptionPercent: string): CrossCheck | null {
  const left = exact(od).inverse().sub(exact(apparent).inverse());
  const right = exact(absorptionPercent).div(100);
  if (left.sub(right).abs().compare(exact(FIT_WITHIN)) <= 0) return null;
  return { code: 'gravities-do-not-fit', params: { got: brief(left, 2), wanted: brief(right, 2) }, causes: [] };
}

/**
 * The density that a mix should have at its measured air, T·(1 − A/100), against the one that was
 * weighed: further apart than two results may be (d2s) is a fault of batch, air or data. Null when they agree.
 */
export function crossCheckDensity(e: { density: string; theoretical: string; airPercent: string; unit: UnitId }): CrossCheck | null {
  const expected = exact(e.theoretical).mul(exact('1').sub(exact(e.airPercent).div(100)));
  if (furtherThanD2s('density', exact(e.density), expected, e.unit) !== true) return null;
  const apart = exact(e.density).sub(expected);
  const light = apart.sign() < 0;
  const figure = (v: typeof apart): string => `${brief(v, 4)} ${unitLabel(e.unit)}`;
  return {
    code: 'density-off-mix',
    params: { air: brief(exact(e.airPercent), 2), expected: figure(expected), apart: figure(apart.abs()), side: light ? 'less' : 'more' },
    causes: sorted([
      { code: 'cause-extra-water', params: {}, weight: light ? 3 : 0 },
      { code: 'cause-air-wrong', params: {}, weight: 2 },
      { code: 'cause-batch-off', params: {}, weight: light ? 1 : 2 },
    ]),
  };
}

/** A load within this of its ticket is not worth a word; a lab's own figure, none is published. */
export const YIELD_WITHIN = '0.02';

/** Relative yield against the ticket: over 1 is leaner or more air, under 1 a short load. Null within 2 %. */
export function crossCheckYield(relative: string): CrossCheck | null {
  const off = exact(relative).sub(1);
  if (off.abs().compare(exact(YIELD_WITHIN)) <= 0) return null;
  const over = off.sign() > 0;
  return {
    code: 'yield-off-ticket',
    params: { ratio: brief(exact(relative), 3) },
    causes: [
      { code: over ? 'cause-more-air' : 'cause-less-air', params: {}, weight: 3 },
      { code: 'cause-short-weights', params: {}, weight: 2 },
      ...(over ? [{ code: 'cause-extra-water' as const, params: {}, weight: 1 }] : []),
    ],
  };
}

/** A hardened specimen this much lighter than the fresh concrete of its sample was poorly consolidated, %. */
const SPECIMEN_WITHIN = '2';

/** Density of a specimen against the fresh density of its sample, same unit. Null unless more than 2 % low. */
export function crossCheckSpecimen(fresh: string, specimen: string): CrossCheck | null {
  const low = exact(fresh).sub(exact(specimen)).div(exact(fresh)).mul(100);
  return low.compare(exact(SPECIMEN_WITHIN)) <= 0
    ? null
    : { code: 'specimen-light', params: { by: brief(low, 2, exact(SPECIMEN_WITHIN)) }, causes: [] };
}

/** Further than this many standard deviations from what a mix gives. */
const STRENGTH_WITHIN = '3';

export interface StrengthEvidence {
  readonly late: string;
  /** 7-day strength of the same set, if it was broken. */
  readonly early: string | null;
  /** What the mix gives: 28-day mean and scatter, and of the ratio 28 to 7 days. Same unit as the strengths. */
  readonly history: { readonly mean: string; readonly deviation: string; readonly ratio: string; readonly ratioDeviation: string };
}

/** A strength test against its set's 7-day and its mix's history; companions have their own check. */
export function crossCheckStrength(e: StrengthEvidence): CrossCheck[] {
  const found: CrossCheck[] = [];
  const off = (value: ReturnType<typeof exact>, mean: string, deviation: string) => value.sub(exact(mean)).div(exact(deviation));
  const { history } = e;
  if (e.early !== null) {
    const ratio = exact(e.late).div(exact(e.early));
    if (off(ratio, history.ratio, history.ratioDeviation).abs().compare(exact(STRENGTH_WITHIN)) > 0)
      found.push({
        code: 'strength-off-ratio',
        params: { ratio: brief(ratio, 3), usual: brief(exact(history.ratio), 3) },
        causes: [],
      });
  }
  const by = off(exact(e.late), history.mean, history.deviation);
  if (by.abs().compare(exact(STRENGTH_WITHIN)) > 0)
    found.push({
      code: 'strength-off-history',
      params: { by: brief(by.abs(), 2, exact(STRENGTH_WITHIN)), side: by.sign() < 0 ? 'below' : 'above' },
      causes: [],
    });
  return found;
}
