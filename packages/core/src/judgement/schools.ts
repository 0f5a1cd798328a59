import { aciAcceptance, EN_CONTINUOUS, enAcceptance, IS_GROUP, isAcceptance } from '../methods/acceptance/acceptance.js';
import { evaluate, type Evaluation } from '../methods/evaluate.js';
import type { AnyInputs, AnyMethod } from '../methods/definition.js';
import type { PracticeId } from '../methods/practices.js';
import { exact, fixed, fixedUp, type Exact } from '../numbers/exact.js';
import { convert, type System, type UnitId } from '../units/units.js';
import type { Keyed } from '../units/reading.js';

export type SchoolId = 'aci' | 'en' | 'is';

interface SchoolWords {
  readonly title: string;
  readonly short: string;
  /** So many tests before one are all that its rules read; absent: those of its standard deviation too. */
  readonly reads?: number;
  /** Into the means of so many later tests one enters. */
  readonly enters: number;
}

/** By whose rules concrete is accepted, as a specification may say; `short`: what it is called when the mean that a test enters falls short. */
export const SCHOOLS: Readonly<Record<SchoolId, SchoolWords>> = {
  aci: { title: 'ACI 318', short: 'the mean of three falls below f’c', reads: 2, enters: 2 },
  en: { title: 'EN 206', short: 'the mean that it enters falls short', enters: 14 },
  is: { title: 'IS 456', short: 'the mean of its group of four falls short', enters: 3 },
};

export const SCHOOL_IDS = Object.keys(SCHOOLS) as [SchoolId, ...SchoolId[]];

/** The school that decides where the specification says nothing, by what a project works to. */
export const schoolOf = (practice: PracticeId): SchoolId => (practice === 'en' ? 'en' : practice === 'is' ? 'is' : 'aci');

/** One of the rules of a school, and how near the series comes to it. */
export interface Rule {
  readonly label: string;
  readonly least: string | null;
  readonly limit: string | null;
  readonly holds: boolean | null;
}

export interface School {
  readonly id: SchoolId;
  readonly title: string;
  readonly how: string;
  /** Null while there are too few tests for it. */
  readonly passes: boolean | null;
  readonly rules: readonly Rule[];
  /** What a single test must reach at the least; null where that cannot be said. */
  readonly floor: string | null;
  /** What the next test must reach at the least, so that the mean holds too that it enters. */
  readonly next: string | null;
  /** How many tests it needs before it says anything. */
  readonly needs: number;
}

export type Strengths = readonly { readonly strength: Keyed }[];

export const run = (m: AnyMethod, variant: string, system: System, inputs: AnyInputs, progress?: (taken: number) => void): Evaluation =>
  evaluate(m, inputs, { variant, system, offers: false, ...(progress && { progress }) });

/** A series under one school. */
export interface UnderSchool {
  readonly tests: Strengths;
  /** So many count before those: groups go on from them. */
  readonly earlier?: number;
  readonly specified: Keyed;
  /** Standard deviation of the series; null while there are too few. */
  readonly deviation: Keyed | null;
  readonly system: System;
}

const isInitial = ({ tests }: UnderSchool): boolean => tests.length < EN_CONTINUOUS;

function judged(id: SchoolId, under: UnderSchool): Evaluation {
  const { tests, earlier = 0, specified, deviation, system } = under;
  if (id === 'aci') return run(aciAcceptance, 'aci318', system, { specified, tests });
  if (id === 'is') {
    const begun = (IS_GROUP - (earlier % IS_GROUP)) % IS_GROUP;
    return run(isAcceptance, 'is456', 'si', { specified, deviation, results: begun === 0 ? tests : tests.slice(begun) });
  }
  const results = isInitial(under) ? tests : tests.slice(-EN_CONTINUOUS);
  return run(enAcceptance, isInitial(under) ? 'initial' : 'continuous', 'si', { specified, sigma: deviation, results });
}

const unitOf = (system: System): UnitId => (system === 'us' ? 'psi' : 'MPa');

/** Of what a method gave, in the unit of the system: it may count in another. */
function given(e: Evaluation, id: string, unit: UnitId): Exact | null {
  const r = e.results.find((one) => one.id === id && one.state === 'given');
  return r === undefined || r.exact === null ? null : convert(exact(r.exact), r.unit, unit);
}

function leastGroup(e: Evaluation, id: string, unit: UnitId): Exact | null {
  const r = e.results.find((one) => one.id === id);
  const least = (r?.series ?? []).reduce<string | null>(
    (so, f) => (so === null || Number(f.unrounded) < Number(so) ? f.unrounded : so),
    null,
  );
  return least === null ? null : convert(exact(least), r!.unit, unit);
}

const words = (e: Evaluation, id: string): readonly string[] | null => e.results.find((r) => r.id === id)?.words ?? null;

/** Too few for a deviation are too few for a mean: then its own floor is all that is asked. */
function asked(e: Evaluation, unit: UnitId): { readonly floor: Exact | null; readonly least: Exact | null } {
  const floor = given(e, 'floor', unit);
  return { floor, least: given(e, 'least', unit) ?? floor };
}

/** What the school that decides asks of the next test, unrounded and in the unit of the system: of itself, and so that the mean holds that it enters. */
export function askedNext(id: SchoolId, under: UnderSchool): { readonly floor: Exact | null; readonly least: Exact | null } {
  return asked(judged(id, under), unitOf(under.system));
}

/**
 * A series under each of the schools.
 * @param aci of the same series, where it was worked out already
 */
export function bySchools(under: UnderSchool, aci: Evaluation | null = null): School[] {
  const unit = unitOf(under.system);
  const decimals = unit === 'psi' ? 0 : 1;
  const of = { aci: aci ?? judged('aci', under), en: judged('en', under), is: judged('is', under) };
  const single = leastSingle(under.tests, unit);
  const rule = (label: string, least: Exact | null, limit: Exact | null, holds: boolean | null): Rule => ({
    label,
    least: least && fixed(least, decimals),
    // Rounded up: what is at least that passes.
    limit: limit && fixedUp(limit, decimals),
    holds: least === null ? null : holds,
  });
  const none = (id: SchoolId, result: string): boolean | null => {
    const fails = words(of[id], result);
    return fails === null ? null : fails.length === 0;
  };
  const school = (id: SchoolId, how: string, needs: number, mean: Rule): School => {
    const { floor, least } = asked(of[id], unit);
    const accepted = words(of[id], 'acceptable')?.[0];
    return {
      id,
      title: SCHOOLS[id].title,
      how,
      // Too few for its means are enough to fail by a single one, and never to pass.
      passes: accepted === undefined || (accepted === 'yes' && under.tests.length < needs) ? null : accepted === 'yes',
      rules: [mean, rule('lowest single test', single, floor, none(id, id === 'aci' ? 'ruleB' : 'singles'))],
      floor: floor && fixedUp(floor, decimals),
      next: least && fixedUp(least, decimals),
      needs,
    };
  };
  const initial = isInitial(under);
  const enOk = words(of.en, 'meanOk')?.[0];
  const specified = convert(exact(under.specified.text), under.specified.unit, unit);
  return [
    school(
      'aci',
      'means of three that follow each other',
      3,
      rule('lowest mean of three', leastGroup(of.aci, 'runs', unit), specified, none('aci', 'ruleA')),
    ),
    school(
      'en',
      initial ? 'initial, groups of three' : 'continuous, last fifteen',
      3,
      rule(
        initial ? 'lowest mean of three' : 'mean of fifteen',
        leastGroup(of.en, 'groups', unit) ?? given(of.en, 'mean', unit),
        given(of.en, 'meanLimit', unit),
        enOk === undefined ? null : enOk === 'yes',
      ),
    ),
    school(
      'is',
      'groups of four, one after the other',
      4,
      rule('lowest mean of four', leastGroup(of.is, 'groups', unit), given(of.is, 'meanLimit', unit), none('is', 'groupFails')),
    ),
  ];
}

function leastSingle(tests: Strengths, unit: UnitId): Exact | null {
  const least = new Map<UnitId, Keyed>();
  // Of each unit the least, and of these few the least: a long series is not converted one by one.
  for (const { strength } of tests) {
    const so = least.get(strength.unit);
    if (!so || Number(strength.text) < Number(so.text)) least.set(strength.unit, strength);
  }
  const all = [...least.values()].map((k) => convert(exact(k.text), k.unit, unit));
  return all.reduce<Exact | null>((so, x) => (so === null || x.compare(so) < 0 ? x : so), null);
}
