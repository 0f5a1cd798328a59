import { exact, type Exact } from '../../numbers/exact.js';
import type { System, UnitId } from '../../units/units.js';
import type { Calc } from '../calc.js';
import { column, meansOf } from '../rows.js';
import { SHORT_BY, strength, stressUnit } from './fields.js';
import { method, qty, rows, YES_NO, type Citation, type Run } from '../definition.js';

const ACI: Citation = { designation: 'ACI 318', edition: '2019', part: 'acceptance of concrete' };
const EN206: Citation = { designation: 'EN 206', edition: '2021', part: 'conformity for compressive strength' };
const IS456: Citation = { designation: 'IS 456', edition: '2000', part: 'acceptance criteria' };

const series = rows('Strength tests, in order', { strength: strength('X', 'Strength') });

/** Positions (counted from 1) of the values that are below. */
function below<V>(c: Calc<V>, values: readonly V[], least: Exact): string[] {
  const found: string[] = [];
  values.forEach((v, i) => {
    if (c.value(v).compare(least) < 0) found.push(String(i + 1));
  });
  return found;
}

const RESULTS = {
  mean: { label: 'Mean', symbol: 'mean', units: { si: 'MPa', us: 'psi' } },
  meanLimit: { label: 'Mean must be at least', symbol: 'mean ≥', units: { si: 'MPa', us: 'psi' } },
  floor: { label: 'Each must be at least', symbol: 'each ≥', units: { si: 'MPa', us: 'psi' } },
  meanOk: { label: 'Mean meets it', symbol: 'mean', units: { si: '1', us: '1' }, words: YES_NO },
  singles: { label: 'Results below the floor', symbol: 'singles', units: { si: '1', us: '1' } },
  acceptable: { label: 'Acceptable', symbol: 'acceptable', units: { si: '1', us: '1' }, words: YES_NO, main: true },
} as const;

type AciParams = {
  /** Up to this strength a test may fall short by an amount, above it by a share. */
  upTo: Record<System, string>;
  shortBy: Record<System, string>;
  shortShare: string;
  run: number;
};

const ACI_PARAMS: AciParams = { ...SHORT_BY, shortShare: '0.10', run: 3 };

export const aciAcceptance = method({
  id: 'aci-acceptance',
  title: 'Acceptance by running means of three',
  names: ['acceptance', 'ACI 318', 'running mean', 'three tests'],
  follows: [ACI],
  about:
    'Every mean of three consecutive strength tests against f’c, and every test against its floor: which test breaks which rule, and what the next one must be.',
  panel: 'series',
  fields: { specified: strength('f’c', 'Specified strength f’c'), tests: series },
  results: {
    runs: { label: 'Means of three', symbol: 'X̄3', units: { si: 'MPa', us: 'psi' } },
    ruleA: { label: 'Means below f’c, by their last test', symbol: 'rule a', units: { si: '1', us: '1' } },
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
    const runs = meansOf(c, tests, p.run);
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
  const average = c.name('mean', c.mean(values), unit);
  r.result('mean', average, unit);
  r.result('meanLimit', meanLimit, unit);
  r.result('floor', floor, unit);
  const meets = c.value(average).compare(c.value(meanLimit)) >= 0;
  const singles = below(c, values, c.value(floor));
  r.says('meanOk', [meets ? 'yes' : 'no']);
  r.says('singles', singles);
  r.says('acceptable', [meets && singles.length === 0 ? 'yes' : 'no']);
}

/** The mean must be above by a constant, or by a factor on σ. */
type EnParams = { margin: { constant: string } | { factor: string }; floor: string; least: number };

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
      params: { margin: { constant: '4' }, floor: '4', least: 3 } as EnParams,
    },
    continuous: {
      label: 'continuous production, fifteen or more',
      source: EN206,
      params: { margin: { factor: '1.48' }, floor: '4', least: 15 } as EnParams,
    },
  },
  steps: [],
  run(r) {
    const { c, p } = r;
    const specified = r.need('specified', 'MPa');
    const results = column(r, 'results', 'strength', 'MPa', 'f');
    const above = marginOf(r);
    if (specified === null || !results || above === null) return;
    if (results.length < p.least) return r.missing(`results.${results.length}.strength`);
    verdictOf(r, results, c.add(specified, above), c.sub(specified, c.num(p.floor)), 'MPa');
  },
});

function marginOf<V>(r: Run<typeof enAcceptance.fields, EnParams, V>): V | null {
  const { c, p } = r;
  if ('constant' in p.margin) return c.num(p.margin.constant);
  const sigma = r.need('sigma', 'MPa');
  return sigma === null ? null : c.mul(c.num(p.margin.factor), sigma);
}

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
      c.mean(results.slice(i * p.group, (i + 1) * p.group)),
    );
    r.series('groups', groups, 'MPa');
    const groupFails = below(c, groups, c.value(limit));
    const singles = below(c, results, c.value(specified).sub(exact(p.floor)));
    r.says('groupFails', groupFails);
    r.says('singles', singles);
    r.says('acceptable', [groupFails.length + singles.length === 0 ? 'yes' : 'no']);
  },
});
