import { exact, shown, type Exact } from '../../numbers/exact.js';
import type { System, UnitId } from '../../units/units.js';
import type { Calc } from '../calc.js';
import { column, meanOf } from '../rows.js';
import { method, qty, rows, type Citation, type Run } from '../definition.js';

const ACI: Citation = { designation: 'ACI 318', edition: '2019', part: 'acceptance of concrete' };
const ACI301: Citation = { designation: 'ACI 301', edition: '2020', part: 'required average strength' };
const EN206: Citation = { designation: 'EN 206', edition: '2021', part: 'conformity for compressive strength' };
const IS456: Citation = { designation: 'IS 456', edition: '2000', part: 'acceptance criteria' };

const strength = (symbol: string, label: string) =>
  qty(
    'stress',
    symbol,
    label,
    { si: 'MPa', us: 'psi' },
    { possible: { unit: 'MPa', above: '0', most: '300' }, plausible: { unit: 'MPa', least: '3', most: '150' } },
  );

export const stressUnit = (system: System): 'MPa' | 'psi' => (system === 'us' ? 'psi' : 'MPa');

const series = rows('Strength tests, in order', { strength: strength('X', 'Strength') });

/** Positions (counted from 1) of the values that are below. */
const below = <V>(c: Calc<V>, values: readonly V[], least: Exact): string[] =>
  values.flatMap((v, i) => (c.value(v).compare(least) < 0 ? [String(i + 1)] : []));

const RESULTS = {
  mean: { label: 'Mean', symbol: 'mean', units: { si: 'MPa', us: 'psi' } },
  meanLimit: { label: 'Mean must be at least', symbol: 'mean ≥', units: { si: 'MPa', us: 'psi' } },
  floor: { label: 'Each must be at least', symbol: 'each ≥', units: { si: 'MPa', us: 'psi' } },
  meanOk: { label: 'Mean meets it', symbol: 'mean', units: { si: '1', us: '1' } },
  singles: { label: 'Results below the floor', symbol: 'singles', units: { si: '1', us: '1' } },
  acceptable: { label: 'Acceptable', symbol: 'acceptable', units: { si: '1', us: '1' }, main: true },
} as const;

type AciParams = {
  /** Up to this strength a test may fall short by an amount, above it by a share. */
  upTo: Record<System, string>;
  shortBy: Record<System, string>;
  shortShare: string;
  run: number;
};

const ACI_PARAMS: AciParams = { upTo: { us: '5000', si: '35' }, shortBy: { us: '500', si: '3.5' }, shortShare: '0.10', run: 3 };

export const aciAcceptance = method({
  id: 'aci-acceptance',
  title: 'Acceptance by running means of three',
  names: ['acceptance', 'ACI 318', 'running mean', 'three tests'],
  follows: [ACI],
  about:
    'Every mean of three consecutive strength tests against f’c, and every test against its floor: which test breaks which rule, and what the next one must be.',
  fields: { specified: strength('f’c', 'Specified strength f’c'), tests: series },
  results: {
    runs: { label: 'Means of three', symbol: 'X̄3', units: { si: 'MPa', us: 'psi' } },
    ruleA: { label: 'Means below f’c', symbol: 'rule a', units: { si: '1', us: '1' } },
    ruleB: { label: 'Tests below the floor', symbol: 'rule b', units: { si: '1', us: '1' } },
    floor: { label: 'Floor of a single test', symbol: 'floor', units: { si: 'MPa', us: 'psi' } },
    next: { label: 'To keep the mean, the next test must be at least', symbol: 'next ≥', units: { si: 'MPa', us: 'psi' } },
    acceptable: RESULTS.acceptable,
  },
  variants: { aci318: { label: 'means of three, 500 psi (3.5 MPa) or 10 %', source: ACI, params: ACI_PARAMS } },
  steps: [{ text: 'Standard-cured, at the designated age only. Results support, and never replace, the engineer’s decision.' }],
  run(r) {
    const { c, p, system } = r;
    const unit = stressUnit(system);
    const specified = r.need('specified', unit);
    const tests = column(r, 'tests', 'strength', unit, 'X');
    if (specified === null) return;
    const fc = c.value(specified);
    const floor =
      fc.compare(exact(p.upTo[system])) <= 0
        ? c.sub(specified, c.num(p.shortBy[system]))
        : c.mul(specified, c.sub(c.num('1'), c.num(p.shortShare)));
    r.result('floor', c.name('floor', floor, unit), unit);
    if (!tests) return;
    const runs = tests.slice(p.run - 1).map((_t, i) => meanOf(c, tests.slice(i, i + p.run)));
    r.series('runs', runs, unit);
    // A failing mean is named by the last of its tests.
    const ruleA = below(c, runs, fc).map((n) => String(Number(n) + p.run - 1));
    const ruleB = below(c, tests, c.value(floor));
    r.says('ruleA', ruleA);
    r.says('ruleB', ruleB);
    r.says('acceptable', [ruleA.length + ruleB.length === 0 ? 'yes' : 'no']);
    // What keeps the next mean of three; the floor of a single test is said beside it.
    if (tests.length < p.run - 1) return;
    const last = tests.slice(1 - p.run);
    r.result('next', c.name('next ≥', c.sub(c.mul(c.num(String(p.run)), specified), c.sum(last)), unit), unit);
  },
});

export const coreAcceptance = method({
  id: 'core-acceptance',
  title: 'Acceptance of cores',
  names: ['cores', 'core acceptance', '85 percent', '75 percent'],
  follows: [ACI],
  about: 'Mean of three cores at least 0.85 f’c, and none below 0.75 f’c.',
  fields: { specified: strength('f’c', 'Specified strength f’c'), cores: rows('Cores', { strength: strength('X', 'Strength') }) },
  results: RESULTS,
  variants: {
    aci318: { label: '0.85 and 0.75', source: ACI, params: { mean: '0.85', single: '0.75' } as { mean: string; single: string } },
  },
  steps: [],
  run(r) {
    const { c, p, system } = r;
    const unit = stressUnit(system);
    const specified = r.need('specified', unit);
    const cores = column(r, 'cores', 'strength', unit, 'X');
    if (specified === null || !cores) return;
    verdictOf(r, cores, c.mul(specified, c.num(p.mean)), c.mul(specified, c.num(p.single)), unit);
  },
});

function verdictOf<V>(
  r: Pick<Run<never, never, V>, 'c' | 'result' | 'says'>,
  values: readonly V[],
  meanLimit: V,
  floor: V,
  unit: UnitId,
): void {
  const { c } = r;
  const average = c.name('mean', meanOf(c, values), unit);
  r.result('mean', average, unit);
  r.result('meanLimit', meanLimit, unit);
  r.result('floor', floor, unit);
  const meets = c.value(average).compare(c.value(meanLimit)) >= 0;
  const singles = below(c, values, c.value(floor));
  r.says('meanOk', [meets ? 'yes' : 'no']);
  r.says('singles', singles);
  r.says('acceptable', [meets && singles.length === 0 ? 'yes' : 'no']);
}

type EnParams = { factor: string | null; constant: string; floor: string; least: number };

export const enAcceptance = method({
  id: 'en-acceptance',
  title: 'Conformity of strength, EN 206',
  names: ['EN 206', 'conformity', 'characteristic strength', 'fck'],
  follows: [EN206],
  about: 'Mean and single results against the characteristic strength, for initial or continuous production.',
  fields: {
    specified: strength('fck', 'Characteristic strength fck'),
    sigma: qty(
      'stress',
      'σ',
      'Standard deviation of the production',
      { si: 'MPa', us: 'MPa' },
      { only: ['continuous'], possible: { unit: 'MPa', least: '0', most: '30' } },
    ),
    results: rows('Results', { strength: strength('f', 'Strength') }),
  },
  results: RESULTS,
  variants: {
    initial: {
      label: 'initial production, three results',
      source: EN206,
      params: { factor: null, constant: '4', floor: '4', least: 3 } as EnParams,
    },
    continuous: {
      label: 'continuous production, fifteen or more',
      source: EN206,
      params: { factor: '1.48', constant: '0', floor: '4', least: 15 } as EnParams,
    },
  },
  steps: [],
  run(r) {
    const { c, p } = r;
    const specified = r.need('specified', 'MPa');
    const results = column(r, 'results', 'strength', 'MPa', 'f');
    const sigma = p.factor === null ? c.num('0') : r.need('sigma', 'MPa');
    if (specified === null || !results || sigma === null) return;
    if (results.length < p.least) return r.missing(`results.${results.length}.strength`);
    const margin = c.add(c.num(p.constant), c.mul(c.num(p.factor ?? '0'), sigma));
    verdictOf(r, results, c.add(specified, margin), c.sub(specified, c.num(p.floor)), 'MPa');
  },
});

type IsParams = { group: number; least: string; factor: string; step: string; floor: string };

export const isAcceptance = method({
  id: 'is-acceptance',
  title: 'Acceptance, IS 456',
  names: ['IS 456', 'four consecutive', 'non-overlapping'],
  follows: [IS456],
  about: 'Means of four consecutive, non-overlapping results with a margin from the standard deviation, and a floor for each.',
  fields: {
    specified: strength('fck', 'Characteristic strength fck'),
    deviation: qty(
      'stress',
      's',
      'Established standard deviation',
      { si: 'MPa', us: 'MPa' },
      { possible: { unit: 'MPa', least: '0', most: '30' } },
    ),
    results: rows('Results', { strength: strength('f', 'Strength') }),
  },
  results: {
    margin: { label: 'Margin', symbol: 'margin', units: { si: 'MPa', us: 'MPa' } },
    meanLimit: RESULTS.meanLimit,
    groups: { label: 'Means of four', symbol: 'X̄4', units: { si: 'MPa', us: 'MPa' } },
    groupFails: { label: 'Groups below', symbol: 'groups', units: { si: '1', us: '1' } },
    singles: RESULTS.singles,
    acceptable: RESULTS.acceptable,
  },
  variants: {
    is456: {
      label: 'fck + max(3, 0.825 s to 0.5)',
      source: IS456,
      params: { group: 4, least: '3', factor: '0.825', step: '0.5', floor: '3' } as IsParams,
    },
  },
  steps: [],
  run(r) {
    const { c, p } = r;
    const [specified, deviation] = [r.need('specified', 'MPa'), r.need('deviation', 'MPa')];
    const results = column(r, 'results', 'strength', 'MPa', 'f');
    if (specified === null || deviation === null || !results) return;
    const rounded = c.round('margin', c.mul(c.num(p.factor), deviation), p.step, 'MPa');
    const margin = c.value(rounded).compare(exact(p.least)) > 0 ? rounded : c.num(p.least);
    const limit = c.add(specified, margin);
    r.result('margin', margin, 'MPa');
    r.result('meanLimit', limit, 'MPa');
    const groups = Array.from({ length: Math.floor(results.length / p.group) }, (_g, i) =>
      meanOf(c, results.slice(i * p.group, (i + 1) * p.group)),
    );
    r.series('groups', groups, 'MPa');
    const groupFails = below(c, groups, c.value(limit));
    const singles = below(c, results, c.value(specified).sub(exact(p.floor)));
    r.says('groupFails', groupFails);
    r.says('singles', singles);
    r.says('acceptable', [groupFails.length + singles.length === 0 ? 'yes' : 'no']);
  },
});

type RequiredParams = {
  /** Factor on s by number of tests, linear between; none below the first. */
  factors: readonly (readonly [number, string])[];
  upTo: Record<System, string>;
  shortBy: Record<System, string>;
  z: readonly [string, string];
  shareAbove: string;
  /** Without data: added up to a strength, or a share and an amount above the last. */
  withoutData: Record<System, { below: string; add: string; between: string; addBetween: string; share: string; addAbove: string }>;
};

export const requiredAverage = method({
  id: 'required-average',
  title: 'Required average strength',
  names: ['required average', 'f’cr', 'overdesign', 'target strength'],
  follows: [ACI301],
  about: 'How strong a mix must be on average, so that it will be accepted.',
  fields: {
    specified: strength('f’c', 'Specified strength f’c'),
    tests: qty(
      'ratio',
      'n',
      'Number of tests behind s',
      { si: '1', us: '1' },
      { optional: true, possible: { unit: '1', least: '0', most: '100000' } },
    ),
    deviation: qty(
      'stress',
      's',
      'Standard deviation',
      { si: 'MPa', us: 'psi' },
      { optional: true, possible: { unit: 'MPa', least: '0', most: '30' } },
    ),
  },
  results: {
    k: { label: 'Factor for few tests', symbol: 'k', units: { si: '1', us: '1' } },
    required: { label: 'Required average', symbol: 'f’cr', units: { si: 'MPa', us: 'psi' }, main: true },
  },
  variants: {
    aci301: {
      label: 'from s and the number of tests',
      source: ACI301,
      params: {
        factors: [
          [15, '1.16'],
          [20, '1.08'],
          [25, '1.03'],
          [30, '1.00'],
        ],
        upTo: ACI_PARAMS.upTo,
        shortBy: ACI_PARAMS.shortBy,
        z: ['1.34', '2.33'],
        shareAbove: '0.90',
        withoutData: {
          us: { below: '3000', add: '1000', between: '5000', addBetween: '1200', share: '1.10', addAbove: '700' },
          si: { below: '21', add: '7.0', between: '35', addBetween: '8.3', share: '1.10', addAbove: '5.0' },
        },
      } as RequiredParams,
    },
  },
  steps: [],
  run(r) {
    const { c, p, system } = r;
    const unit = stressUnit(system);
    const [specified, tests, deviation] = [r.need('specified', unit), r.have('tests', '1'), r.have('deviation', unit)];
    if (specified === null) return;
    const fc = c.value(specified);
    const k = tests === null || deviation === null ? null : factorFor(c, c.value(tests), p.factors);
    if (k === null || deviation === null) {
      const table = p.withoutData[system];
      const added = fc.compare(exact(table.below)) < 0 ? table.add : fc.compare(exact(table.between)) <= 0 ? table.addBetween : null;
      const required = added === null ? c.add(c.mul(c.num(table.share), specified), c.num(table.addAbove)) : c.add(specified, c.num(added));
      r.result('required', c.name('f’cr', required, unit), unit);
      return;
    }
    r.result('k', k, '1');
    const ks = c.name('k·s', c.mul(k, deviation), unit);
    const first = c.add(specified, c.mul(c.num(p.z[0]), ks));
    const base =
      fc.compare(exact(p.upTo[system])) <= 0 ? c.sub(specified, c.num(p.shortBy[system])) : c.mul(c.num(p.shareAbove), specified);
    const second = c.add(base, c.mul(c.num(p.z[1]), ks));
    r.result('required', c.name('f’cr', c.value(first).compare(c.value(second)) >= 0 ? first : second, unit), unit);
  },
});

function factorFor<V>(c: Calc<V>, n: Exact, table: RequiredParams['factors']): V | null {
  const [first, last] = [table[0]!, table.at(-1)!];
  if (n.compare(first[0]) < 0) return null;
  if (n.compare(last[0]) >= 0) return c.num(last[1]);
  const i = table.findIndex(([count]) => n.compare(count) < 0);
  const [[n0, k0], [n1, k1]] = [table[i - 1]!, table[i]!];
  const part = c.div(c.sub(c.num(shown(n, 20)), c.num(String(n0))), c.num(String(n1 - n0)));
  return c.name('k', c.add(c.num(k0), c.mul(part, c.sub(c.num(k1), c.num(k0)))), '1');
}

type StatisticsParams = { d2: Readonly<Record<string, string>>; run: number };

export const strengthStatistics = method({
  id: 'strength-statistics',
  title: 'Statistics of a strength series',
  names: ['statistics', 'standard deviation', 'within-test', 'control'],
  follows: [{ designation: 'ACI 214R', edition: '2011' }],
  about: 'Mean and scatter of strength tests, the scatter within tests from their companions, and running means.',
  fields: {
    tests: rows('Strength tests', { companions: rows('Companions', { strength: strength('x', 'Strength') }) }),
  },
  results: {
    tests: { label: 'Tests', symbol: 'X', units: { si: 'MPa', us: 'psi' } },
    mean: { label: 'Mean', symbol: 'X̄', units: { si: 'MPa', us: 'psi' }, main: true },
    deviation: { label: 'Standard deviation', symbol: 's', units: { si: 'MPa', us: 'psi' }, main: true },
    variation: { label: 'Coefficient of variation', symbol: 'V', units: { si: '%', us: '%' } },
    runs: { label: 'Means of three', symbol: 'X̄3', units: { si: 'MPa', us: 'psi' } },
    meanRange: { label: 'Mean range of companions', symbol: 'R̄', units: { si: 'MPa', us: 'psi' } },
    within: { label: 'Within-test standard deviation', symbol: 's1', units: { si: 'MPa', us: 'psi' } },
    withinVariation: { label: 'Within-test coefficient of variation', symbol: 'V1', units: { si: '%', us: '%' } },
  },
  variants: {
    aci214: {
      label: 'n − 1, ranges over d2',
      source: { designation: 'ACI 214R', edition: '2011' },
      params: { d2: { '2': '1.128', '3': '1.693', '4': '2.059' }, run: 3 } as StatisticsParams,
    },
  },
  steps: [],
  run(r) {
    const { c, x, p, system } = r;
    const unit = stressUnit(system);
    const sets = (x.tests ?? []).map((row, i) =>
      (row.companions ?? []).map((_c, k) => r.inRow('tests', i, `companions.${k}.strength`, unit, `x${i + 1}.${k + 1}`)),
    );
    if (sets.length === 0) return r.missing('tests');
    const complete = sets.map((set) => set.filter((v) => v !== null));
    if (complete.some((set, i) => set.length === 0 || set.length < sets[i]!.length)) return;
    const tests = complete.map((set) => meanOf(c, set));
    r.series('tests', tests, unit);
    r.series(
      'runs',
      tests.slice(p.run - 1).map((_t, i) => meanOf(c, tests.slice(i, i + p.run))),
      unit,
    );
    const average = c.name('X̄', meanOf(c, tests), unit);
    r.result('mean', average, unit);
    if (tests.length < 2) return r.missing(`tests.${tests.length}.companions`);
    const squares = tests.map((t) => c.mul(c.sub(t, average), c.sub(t, average)));
    const deviation = c.name('s', c.apply('√', c.div(c.sum(squares), c.num(String(tests.length - 1)))), unit);
    r.result('deviation', deviation, unit);
    r.result('variation', c.name('V', c.div(c.mul(c.num('100'), deviation), average), '%'), '%');
    within(r, complete, average, unit);
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
  const ranges = sets.map((set) => {
    const sorted = [...set].sort((a, b) => c.value(a).compare(c.value(b)));
    return c.sub(sorted.at(-1)!, sorted[0]!);
  });
  const meanRange = c.name('R̄', meanOf(c, ranges), unit);
  const s1 = c.name('s1', c.div(meanRange, c.num(d2)), unit);
  r.result('meanRange', meanRange, unit);
  r.result('within', s1, unit);
  r.result('withinVariation', c.name('V1', c.div(c.mul(c.num('100'), s1), average), '%'), '%');
}
