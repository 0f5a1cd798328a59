import { exact, shown } from '../numbers/exact.js';
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
  /** Days since the specific gravities behind the air-free density were found. */
  readonly theoreticalAge: number | null;
  readonly correction: boolean;
}

/** Pressure and gravimetric air of one concrete agree within this, in points. */
const AIR_WITHIN = '1.0';

/**
 * Pressure air against gravimetric air: more than 1.0 point apart is a fault of test or data, and
 * its causes are ranked by what else is known. Null when they agree.
 */
export function crossCheckAir(e: AirEvidence): CrossCheck | null {
  const apart = exact(e.pressure).sub(exact(e.gravimetric));
  if (apart.abs().compare(exact(AIR_WITHIN)) <= 0) return null;
  const high = apart.compare(0) > 0;
  const days = (age: number | null): Params => ({ days: age === null ? '?' : String(age) });
  const causes: Cause[] = [
    // Older than a year weighs most; unknown in between.
    { code: 'cause-stale-theoretical', params: days(e.theoreticalAge), weight: 2 + (e.theoreticalAge ?? 180) / 180 },
    { code: 'cause-no-correction', params: {}, weight: e.correction ? 0 : high ? 6 : 3 },
    { code: 'cause-measure-volume', params: days(e.measureAge), weight: 1 + (e.measureAge ?? 180) / 365 },
    // A leaking meter reads too high.
    { code: 'cause-meter', params: days(e.meterAge), weight: (high ? 1.5 : 0.5) + (e.meterAge ?? 60) / 60 },
  ];
  return {
    code: 'airs-disagree',
    params: { apart: shown(apart.abs(), 2), within: AIR_WITHIN },
    causes: causes.filter((cause) => cause.weight > 0).sort((a, b) => b.weight - a.weight),
  };
}

/**
 * The three gravities of one sample: 1/G_OD − 1/G_A = absorption/100, exact for unrounded values.
 * A result typed from elsewhere that breaks it by more than its rounding is mistyped.
 */
export function gravitiesFit(od: string, apparent: string, absorptionPercent: string, within = '0.002'): boolean {
  const left = exact(od).inverse().sub(exact(apparent).inverse());
  return left.sub(exact(absorptionPercent).div(100)).abs().compare(exact(within)) <= 0;
}
