import { aciAcceptance } from '../methods/acceptance/acceptance.js';
import { evaluate, type Evaluation } from '../methods/evaluate.js';
import { foretell, type EarlyLate, type Foretold } from './foretelling.js';
import { exact, fixed } from '../numbers/exact.js';
import { convert, type System, type UnitId } from '../units/units.js';
import type { Keyed } from '../units/reading.js';

/** What is known beside a specimen while it is broken. */
export interface AtThePress {
  readonly system: System;
  readonly specified: Keyed | null;
  /** Strength tests of its mix that count, before it, the oldest first. */
  readonly before: readonly Keyed[];
  /** Companions that count already, and how many there will be. */
  readonly companions: readonly Keyed[];
  readonly planned: number;
  /** Their mean so far, in the unit of the system. */
  readonly mean: string | null;
  /** Early and late strengths of the same concretes, and the early one of this. */
  readonly pairs: readonly EarlyLate[];
  readonly early: Keyed | null;
}

/** What the test that forms must reach, and what is to be expected of it. */
export interface PressAdvice {
  readonly unit: UnitId;
  /** The least that one test may be, and the least that this one must be to pass that and the mean of three. */
  readonly floor: string | null;
  readonly least: string | null;
  /** What each of the companions that are still to come must reach for that; null where none is. */
  readonly each: string | null;
  /** Below the least single test, too low for the mean of three, or below what is specified alone. */
  readonly below: 'floor' | 'run' | 'specified' | null;
  readonly expected: Foretold | null;
}

const given = (e: Evaluation | null, id: string): string | null =>
  e?.results.find((r) => r.id === id && r.state === 'given')?.unrounded ?? null;

/** Of so many tests before it, no more enter a mean of three. */
const ENTERING = 2;

export function adviseAtPress(about: AtThePress): PressAdvice {
  const { system, specified, before, companions, planned, mean, pairs, early } = about;
  const unit: UnitId = system === 'us' ? 'psi' : 'MPa';
  const tests = before.slice(-ENTERING).map((strength) => ({ strength }));
  const acceptance =
    specified === null ? null : evaluate(aciAcceptance, { specified, tests }, { variant: 'aci318', system, offers: false });
  const least = given(acceptance, 'least');
  const told = early === null ? null : foretell(pairs, early, specified, system);
  const decimals = unit === 'psi' ? 0 : 1;
  const shown = (figure: string | null): string | null => (figure === null ? null : fixed(exact(figure), decimals));
  return {
    unit,
    floor: shown(given(acceptance, 'floor')),
    least: shown(least),
    below: belowOf(mean, given(acceptance, 'floor'), least, specified, unit),
    each: least === null ? null : eachOfRest(least, companions, planned, unit, decimals),
    expected: told,
  };
}

function belowOf(
  mean: string | null,
  floor: string | null,
  least: string | null,
  specified: Keyed | null,
  unit: UnitId,
): PressAdvice['below'] {
  if (mean === null || floor === null || specified === null) return null;
  if (exact(mean).compare(exact(floor)) < 0) return 'floor';
  if (least !== null && exact(mean).compare(exact(least)) < 0) return 'run';
  return exact(mean).compare(convert(exact(specified.text), specified.unit, unit)) < 0 ? 'specified' : null;
}

function eachOfRest(least: string, companions: readonly Keyed[], planned: number, unit: UnitId, decimals: number): string | null {
  const rest = planned - companions.length;
  if (rest <= 0 || companions.length === 0) return null;
  const so = companions.reduce((sum, c) => sum.add(convert(exact(c.text), c.unit, unit)), exact('0'));
  const each = exact(least).mul(planned).sub(so).div(rest);
  return fixed(each.sign() < 0 ? exact('0') : each, decimals);
}
