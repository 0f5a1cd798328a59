import type { UnitId } from '../../units/units.js';
import { extent } from '../fit.js';
import { cumulative, deviationOf, meanOf, meansOfSets, rangesOfSets, runningMeans } from '../lists.js';
import { isWhole } from '../rows.js';
import { method, rows, type Run } from '../definition.js';
import { strength, stressUnit } from './fields.js';
import { each } from '../../examples/write.js';

type StatisticsParams = { d2: Readonly<Record<string, string>>; run: number; rangeRun: number };

export const strengthStatistics = method({
  id: 'strength-statistics',
  title: 'Statistics of a strength series',
  names: ['statistics', 'standard deviation', 'within-test', 'control'],
  follows: [{ designation: 'ACI 214R', edition: '2011' }],
  about: 'Mean and scatter of strength tests, the scatter within tests from their companions, and running means.',
  panel: 'series',
  fields: {
    tests: rows('Strength tests', { companions: rows('Companions', { strength: strength('x', 'Strength') }, { most: 4 }) }, { most: 450 }),
    target: { ...strength('X_t', 'Target for the cumulative sum'), optional: true, hint: 'else the mean' },
    specified: { ...strength('f’c', 'Specified strength f’c'), optional: true },
  },
  results: {
    tests: { label: 'Tests', symbol: 'X', units: { si: 'MPa', us: 'psi' }, along: 'tests' },
    mean: { label: 'Mean', symbol: 'X̄', units: { si: 'MPa', us: 'psi' }, main: true },
    deviation: { label: 'Standard deviation', symbol: 's', units: { si: 'MPa', us: 'psi' }, main: true },
    variation: { label: 'Coefficient of variation', symbol: 'V', units: { si: '%', us: '%' } },
    runs: { label: 'Means of three', symbol: 'X̄3', units: { si: 'MPa', us: 'psi' } },
    cusum: { label: 'Cumulative sum against the target', symbol: 'CUSUM', units: { si: 'MPa', us: 'psi' }, along: 'tests' },
    below: { label: 'Share expected below f’c', symbol: 'P', units: { si: '%', us: '%' } },
    rangeRuns: { label: 'Mean ranges of ten', symbol: 'R̄10', units: { si: 'MPa', us: 'psi' } },
    meanRange: { label: 'Mean range of companions', symbol: 'R̄', units: { si: 'MPa', us: 'psi' } },
    within: { label: 'Within-test standard deviation', symbol: 's1', units: { si: 'MPa', us: 'psi' } },
    withinVariation: { label: 'Within-test coefficient of variation', symbol: 'V1', units: { si: '%', us: '%' } },
  },
  variants: {
    aci214: {
      label: 'n − 1, ranges over d2',
      source: { designation: 'ACI 214R', edition: '2011' },
      params: { d2: { '2': '1.128', '3': '1.693', '4': '2.059' }, run: 3, rangeRun: 10 } satisfies StatisticsParams as StatisticsParams,
    },
  },
  steps: [{ text: 'Void tests and tests marked as not for acceptance are left out by rule, never by hand.' }],
  example: {
    tests: '38.1/38.7 36.5/37.3 37.6/36.8 32.9/33.3 34.4/33.6 36.1/36.9 39.5/38.9 38.2/39.4 37.4/36.6 38.8/38.0 36.9/37.7 37.1/38.3'
      .split(' ')
      .map((pair) => ({ companions: each('MPa', 'strength', pair.replace('/', ' ')) })),
    target: '37.5 MPa',
    specified: '35 MPa',
  },
  run(r) {
    const { c, x, p, system } = r;
    const unit = stressUnit(system);
    const sets = (x.tests ?? []).map((row, i) =>
      (row.companions ?? []).map((_c, k) => r.inRow('tests', [i, 'companions', k], 'strength', unit, 'x')),
    );
    if (sets.length === 0) return r.missing('tests');
    if (!sets.every(isWhole) || sets.some((set) => set.length === 0)) return;
    const tests = meansOfSets(c, sets);
    r.series('tests', tests, unit);
    r.series('runs', runningMeans(c, tests, p.run), unit);
    const average = c.name('X̄', meanOf(c, tests), unit);
    r.result('mean', average, unit);
    r.series('cusum', cumulative(c, tests, r.have('target', unit) ?? average), unit);
    if (tests.length < 2) return r.missing(`tests.${tests.length}.companions`);
    const deviation = c.name('s', deviationOf(c, tests, average), unit);
    r.result('deviation', deviation, unit);
    r.result('variation', c.name('V', c.div(c.mul(c.num('100'), deviation), average), '%'), '%');
    const specified = r.have('specified', unit);
    // Normal: the share below f’c of a population with this mean and scatter.
    if (specified !== null && c.value(deviation).sign() > 0)
      r.result('below', c.name('P', c.mul(c.num('100'), c.apply('Φ', c.div(c.sub(specified, average), deviation))), '%'), '%', {
        '%': '0.1',
      });
    within(r, sets, average, unit);
  },
});

function within<V>(
  r: Run<typeof strengthStatistics.fields, StatisticsParams, V>,
  sets: readonly (readonly V[])[],
  average: V,
  unit: UnitId,
): void {
  const { c, p } = r;
  const size = sets[0]!.length;
  const d2 = p.d2[String(size)];
  if (d2 === undefined || sets.some((set) => set.length !== size)) return r.note('no-within-test');
  const ranges = rangesOfSets(c, sets, (set) => {
    const { least, most } = extent(c, set);
    return c.sub(most, least);
  });
  r.series('rangeRuns', runningMeans(c, ranges, p.rangeRun), unit);
  const meanRange = c.name('R̄', meanOf(c, ranges), unit);
  const s1 = c.name('s1', c.div(meanRange, c.num(d2)), unit);
  r.result('meanRange', meanRange, unit);
  r.result('within', s1, unit);
  r.result('withinVariation', c.name('V1', c.div(c.mul(c.num('100'), s1), average), '%'), '%');
}
