import { aciAcceptance } from '../methods/acceptance/acceptance.js';
import { controlGrade } from '../methods/acceptance/companions.js';
import { isRequiredAverage } from '../methods/acceptance/is-required-average.js';
import { requiredAverage } from '../methods/acceptance/required-average.js';
import { strengthStatistics } from '../methods/acceptance/statistics.js';
import type { AnyInputs } from '../methods/definition.js';
import type { Evaluation } from '../methods/evaluate.js';
import { exact, fixed, significant } from '../numbers/exact.js';
import { convert, type System, type UnitId } from '../units/units.js';
import type { Keyed } from '../units/reading.js';
import { bySchools, run, type School, type SchoolId } from './schools.js';
import { shiftOf, type Shift } from './shift.js';

/** A strength test of a series, with what its companions gave. */
export interface SeriesTest {
  readonly strength: Keyed;
  readonly companions: readonly Keyed[];
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

const given = (e: Evaluation | null, id: string): string | null =>
  e?.results.find((r) => r.id === id && r.state === 'given')?.unrounded ?? null;
const words = (e: Evaluation | null, id: string): readonly string[] => e?.results.find((r) => r.id === id)?.words ?? [];
const series = (e: Evaluation | null, id: string): number[] =>
  e?.results.find((r) => r.id === id)?.series?.map((f) => Number(f.unrounded)) ?? [];

/** What a series is of. */
export interface SeriesOf {
  readonly specified: Keyed | null;
  readonly system: System;
  /** The one that decides. */
  readonly school?: SchoolId;
  /** So many tests count before its first. */
  readonly earlier?: number;
}

/**
 * All that is read from a series of strength tests: statistics, what the mix needs, acceptance by three schools, and where it moved.
 * Every figure is that of the method that it is asked of.
 * @param tests the oldest first; each counts for acceptance
 */
export function seriesView(
  tests: readonly SeriesTest[],
  { specified, system, school = 'aci', earlier = 0 }: SeriesOf,
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
      : requiredBy(school, { specified, deviation: s, tests: { text: String(tests.length), unit: '1' } }, system);
  const needed = required && inUnit(required, REQUIRED, unit);
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
  const schools = specified === null ? [] : bySchools({ tests: strengths, earlier, specified, deviation: s, system }, aci);
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
    floor: schools.find((one) => one.id === school)?.floor ?? null,
    shift,
    overSince: needed === null || sinceMean === null || since.length === 0 ? null : fixed(exact(sinceMean).sub(exact(needed)), decimals),
    schools,
  };
}

/** A figure of a series beside what is asked of it. */
export interface SeriesFigure {
  readonly label: string;
  readonly figure: string | null;
  /** `at least 32.0`; null where nothing is asked. */
  readonly asked: string | null;
  readonly holds: boolean | null;
}

/** What of a series is looked at where a test joins or leaves it: its figures, and the rules of the school that decides. */
export function figuresOf(view: SeriesView, school: SchoolId): SeriesFigure[] {
  const plain = (label: string, figure: string | null): SeriesFigure => ({ label, figure, asked: null, holds: null });
  const rules = view.schools.find((s) => s.id === school)?.rules ?? [];
  return [
    plain('Strength tests', String(view.count)),
    plain('Mean', view.mean),
    plain('Scatter s', view.deviation),
    ...rules.map(({ label, least, limit, holds }) => ({
      label: label.replace(/^./, (c) => c.toUpperCase()),
      figure: least,
      asked: limit === null ? null : `at least ${limit}`,
      holds,
    })),
  ];
}

const REQUIRED = 'required';

/** What a mix needs on average by the school that decides: IS has a margin of its own, and EN 206 prints no formula. */
function requiredBy(school: SchoolId, inputs: object, system: System): Evaluation | null {
  if (school === 'en') return null;
  return school === 'is'
    ? run(isRequiredAverage, 'is10262', 'si', inputs as AnyInputs)
    : run(requiredAverage, 'aci301', system, inputs as AnyInputs);
}

/** A result in the unit of the series: IS counts in MPa alone. */
function inUnit(e: Evaluation, id: string, unit: UnitId): string | null {
  const r = e.results.find((one) => one.id === id && one.state === 'given');
  return r?.exact ? significant(convert(exact(r.exact), r.unit, unit), 12) : null;
}
const percent = (figure: string | null): Keyed | null => (figure === null ? null : { text: figure, unit: '%' });
