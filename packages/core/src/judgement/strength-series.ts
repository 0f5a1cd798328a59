import { aciAcceptance, enAcceptance, isAcceptance } from '../methods/acceptance/acceptance.js';
import { controlGrade } from '../methods/acceptance/companions.js';
import { requiredAverage } from '../methods/acceptance/required-average.js';
import { strengthStatistics } from '../methods/acceptance/statistics.js';
import type { AnyInputs, AnyMethod } from '../methods/definition.js';
import { evaluate, type Evaluation } from '../methods/evaluate.js';
import type { PracticeId } from '../methods/practices.js';
import { exact, fixed } from '../numbers/exact.js';
import type { System, UnitId } from '../units/units.js';
import type { Keyed } from '../units/reading.js';
import { shiftOf, type Shift } from './shift.js';

/** A strength test of a series, with what its companions gave. */
export interface SeriesTest {
  readonly strength: Keyed;
  readonly companions: readonly Keyed[];
}

/** One of the rules of a school, and how near the series comes to it. */
export interface Rule {
  readonly label: string;
  readonly least: string | null;
  readonly limit: string | null;
  readonly holds: boolean | null;
}

export interface School {
  readonly id: 'aci' | 'en' | 'is';
  readonly title: string;
  readonly how: string;
  /** Null while there are too few tests for it. */
  readonly passes: boolean | null;
  readonly rules: readonly Rule[];
  /** What the next test must reach at the least; null where the school has no such rule. */
  readonly next: string | null;
  /** How many tests it needs before it says anything. */
  readonly needs: number;
}

/** What a series of strength tests says; figures with one decimal in MPa, none in psi. */
export interface SeriesView {
  readonly unit: UnitId;
  readonly count: number;
  readonly mean: string | null;
  readonly deviation: string | null;
  readonly variation: string | null;
  readonly within: string | null;
  readonly withinVariation: string | null;
  readonly overallGrade: string | null;
  readonly withinGrade: string | null;
  /** Mean that the mix needs, and by how much it has more. */
  readonly required: string | null;
  readonly over: string | null;
  readonly k: string | null;
  readonly share: string | null;
  /** Means of three, from the third test on; running sum of differences from the mean before it moved. */
  readonly runs: readonly number[];
  readonly cusum: readonly number[];
  readonly target: string | null;
  readonly floor: string | null;
  readonly shift: Shift | null;
  /** Of the tests since it moved: how far their mean is over what the mix needs. */
  readonly overSince: string | null;
  readonly schools: readonly School[];
}

/** The school that decides, by what a project works to. */
export const schoolOf = (practice: PracticeId): School['id'] => (practice === 'en' ? 'en' : practice === 'is' ? 'is' : 'aci');

const INITIAL = 15;

const given = (e: Evaluation | null, id: string): string | null =>
  e?.results.find((r) => r.id === id && r.state === 'given')?.unrounded ?? null;
const words = (e: Evaluation | null, id: string): readonly string[] => e?.results.find((r) => r.id === id)?.words ?? [];
const series = (e: Evaluation | null, id: string): number[] =>
  e?.results.find((r) => r.id === id)?.series?.map((f) => Number(f.unrounded)) ?? [];

const run = (m: AnyMethod, variant: string, system: System, inputs: AnyInputs, progress?: (taken: number) => void): Evaluation =>
  evaluate(m, inputs, { variant, system, offers: false, ...(progress && { progress }) });

/**
 * All that is read from a series of strength tests: statistics, what the mix needs, acceptance by three schools, and where it moved.
 * Every figure is that of the method that it is asked of.
 * @param tests the oldest first; each counts for acceptance
 */
export function seriesView(
  tests: readonly SeriesTest[],
  { specified, system }: { readonly specified: Keyed | null; readonly system: System },
  progress: (share: number) => void = () => undefined,
): SeriesView {
  const unit: UnitId = system === 'us' ? 'psi' : 'MPa';
  const decimals = unit === 'psi' ? 0 : 1;
  const shown = (figure: string | null, places = decimals): string | null => (figure === null ? null : fixed(exact(figure), places));
  const strengths = tests.map(({ strength }) => ({ strength }));
  const shift = shiftOf(
    tests.map((t) => t.strength.text),
    'evidence',
  );
  const target = shift ? { text: shift.before, unit } : null;
  // Only where every test has as many companions the scatter within tests can be had.
  const sizes = new Set(tests.map((t) => t.companions.length));
  const whole = sizes.size === 1 && !sizes.has(0) && !sizes.has(1);
  const rows = tests.map((t) => ({ companions: (whole ? t.companions : [t.strength]).map((strength) => ({ strength })) }));
  const statistics =
    tests.length === 0
      ? null
      : run(strengthStatistics, 'aci214', system, { tests: rows, target, specified }, (n) => progress((0.5 * n) / tests.length));
  progress(0.5);
  const [deviation, mean] = [given(statistics, 'deviation'), given(statistics, 'mean')];
  const s = deviation === null ? null : { text: deviation, unit };
  const required =
    specified === null || s === null
      ? null
      : run(requiredAverage, Object.keys(requiredAverage.variants)[0]!, system, {
          specified,
          deviation: s,
          tests: { text: String(tests.length), unit: '1' },
        } as unknown as AnyInputs);
  const needed = given(required, REQUIRED);
  const grade =
    specified === null || s === null
      ? null
      : run(controlGrade, 'aci214', system, {
          specified,
          deviation: s,
          variation: percent(given(statistics, 'variation')),
          within: percent(given(statistics, 'withinVariation')),
        });
  progress(0.6);
  const aci = specified === null || tests.length === 0 ? null : run(aciAcceptance, 'aci318', system, { specified, tests: strengths });
  progress(0.8);
  const since = shift ? strengths.slice(shift.at) : [];
  const sinceMean = shift?.after ?? null;
  return {
    unit,
    count: tests.length,
    mean: shown(mean),
    deviation: shown(deviation, decimals + 1),
    variation: shown(given(statistics, 'variation'), 1),
    within: shown(given(statistics, 'within'), decimals + 1),
    withinVariation: shown(given(statistics, 'withinVariation'), 1),
    overallGrade: words(grade, 'overall')[0] ?? null,
    withinGrade: words(grade, 'within')[0] ?? null,
    required: shown(needed),
    over: needed === null || mean === null ? null : fixed(exact(mean).sub(exact(needed)), decimals),
    k: shown(given(required, 'k'), 2),
    share: shown(given(statistics, 'below'), 1),
    runs: series(aci, 'runs'),
    cusum: series(statistics, 'cusum'),
    target: shown(target?.text ?? mean),
    floor: shown(given(aci, 'floor')),
    shift,
    overSince: needed === null || sinceMean === null || since.length === 0 ? null : fixed(exact(sinceMean).sub(exact(needed)), decimals),
    schools: specified === null ? [] : schools(strengths, specified, s, aci, shown),
  };
}

const REQUIRED = 'required';
const percent = (figure: string | null): Keyed | null => (figure === null ? null : { text: figure, unit: '%' });

type Rows = readonly { readonly strength: Keyed }[];
type Shown = (figure: string | null) => string | null;

const leastOf = (values: readonly number[]): string | null => (values.length === 0 ? null : String(Math.min(...values)));

function schools(tests: Rows, specified: Keyed, deviation: Keyed | null, aci: Evaluation | null, shown: Shown): School[] {
  const single = leastOf(tests.map((t) => Number(t.strength.text)));
  const accepted = (e: Evaluation | null): boolean | null => {
    const [word] = words(e, 'acceptable');
    return word === undefined ? null : word === 'yes';
  };
  const rule = (label: string, least: string | null, limit: string | null, fails: readonly string[] | null): Rule => ({
    label,
    least: shown(least),
    limit: shown(limit),
    holds: fails === null || least === null ? null : fails.length === 0,
  });
  const initial = tests.length < INITIAL;
  const en = run(enAcceptance, initial ? 'initial' : 'continuous', 'si', {
    specified,
    sigma: deviation,
    results: initial ? tests : tests.slice(-INITIAL),
  });
  const is = run(isAcceptance, 'is456', 'si', { specified, deviation, results: tests });
  const [enGroups, isGroups] = [series(en, 'groups'), series(is, 'groups')];
  const enOk = words(en, 'meanOk')[0];
  return [
    {
      id: 'aci',
      title: 'ACI 318',
      how: 'means of three that follow each other',
      passes: accepted(aci),
      rules: [
        rule('means of three, least', leastOf(series(aci, 'runs')), specified.text, words(aci, 'ruleA')),
        rule('single test, least', single, given(aci, 'floor'), words(aci, 'ruleB')),
      ],
      next: shown(given(aci, 'least')),
      needs: 3,
    },
    {
      id: 'en',
      title: 'EN 206',
      how: initial ? 'initial, groups of three' : 'continuous, last fifteen',
      passes: accepted(en),
      rules: [
        rule(
          initial ? 'means of three, least' : 'mean of fifteen',
          enGroups.length > 0 ? leastOf(enGroups) : given(en, 'mean'),
          given(en, 'meanLimit'),
          enOk === undefined ? null : enOk === 'yes' ? [] : ['mean'],
        ),
        rule('single test, least', single, given(en, 'floor'), words(en, 'singles')),
      ],
      next: null,
      needs: 3,
    },
    {
      id: 'is',
      title: 'IS 456',
      how: 'groups of four, one after the other',
      passes: accepted(is),
      rules: [
        rule('means of four, least', leastOf(isGroups), given(is, 'meanLimit'), words(is, 'groupFails')),
        rule('single test, least', single, given(is, 'floor'), words(is, 'singles')),
      ],
      next: null,
      needs: 4,
    },
  ];
}
