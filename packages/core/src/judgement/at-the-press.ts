import { strengthStatistics } from '../methods/acceptance/statistics.js';
import { foretell, type EarlyLate, type Foretold } from './foretelling.js';
import { exact, fixedUp, type Exact } from '../numbers/exact.js';
import { convert, type System, type UnitId } from '../units/units.js';
import type { Keyed } from '../units/reading.js';
import { askedNext, run, type SchoolId } from './schools.js';

/** What is known beside a specimen while it is broken. */
export interface AtThePress {
  readonly system: System;
  readonly specified: Keyed | null;
  /** By whose rules it is accepted. */
  readonly school: SchoolId;
  /** Strength tests of its mix that count, before it, the oldest first. */
  readonly before: readonly Keyed[];
  /** So many count before those. */
  readonly earlier: number;
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
  /** The least that one test may be, and the least that this one must be so that the mean holds too that it enters; rounded up. */
  readonly floor: string | null;
  readonly least: string | null;
  /** What each of the companions that are still to come must reach for that; null where none is. */
  readonly each: string | null;
  /** Below the least single test, too low for the mean that it enters, or below what is specified alone. */
  readonly below: 'floor' | 'run' | 'specified' | null;
  readonly expected: Foretold | null;
}

export function adviseAtPress(about: AtThePress): PressAdvice {
  const { system, specified, school, before, earlier, companions, planned, mean, pairs, early } = about;
  const unit: UnitId = system === 'us' ? 'psi' : 'MPa';
  const tests = before.map((strength) => ({ strength }));
  const { floor, least } =
    specified === null ? NOTHING : askedNext(school, { tests, earlier, specified, deviation: deviationOf(before, school, system), system });
  const decimals = unit === 'psi' ? 0 : 1;
  return {
    unit,
    floor: floor && fixedUp(floor, decimals),
    least: least && fixedUp(least, decimals),
    below: belowOf(mean, floor, least, specified, unit),
    each: least === null ? null : eachOfRest(least, companions, planned, unit, decimals),
    expected: early === null ? null : foretell(pairs, early, specified, system),
  };
}

const NOTHING = { floor: null, least: null };

/** Of the series so far; only where the school asks for it. */
export function deviationOf(before: readonly Keyed[], school: SchoolId, system: System): Keyed | null {
  if (school === 'aci' || before.length < 2) return null;
  const tests = before.map((strength) => ({ companions: [{ strength }] }));
  const e = run(strengthStatistics, 'aci214', system, { tests });
  const r = e.results.find((one) => one.id === 'deviation' && one.state === 'given');
  return r === undefined || r.unrounded === null ? null : { text: r.unrounded, unit: r.unit };
}

function belowOf(
  mean: string | null,
  floor: Exact | null,
  least: Exact | null,
  specified: Keyed | null,
  unit: UnitId,
): PressAdvice['below'] {
  if (mean === null || floor === null || specified === null) return null;
  if (exact(mean).compare(floor) < 0) return 'floor';
  if (least !== null && exact(mean).compare(least) < 0) return 'run';
  return exact(mean).compare(convert(exact(specified.text), specified.unit, unit)) < 0 ? 'specified' : null;
}

function eachOfRest(least: Exact, companions: readonly Keyed[], planned: number, unit: UnitId, decimals: number): string | null {
  const rest = planned - companions.length;
  if (rest <= 0 || companions.length === 0) return null;
  const so = companions.reduce((sum, c) => sum.add(convert(exact(c.text), c.unit, unit)), exact('0'));
  const each = least.mul(planned).sub(so).div(rest);
  return fixedUp(each.sign() < 0 ? exact('0') : each, decimals);
}
