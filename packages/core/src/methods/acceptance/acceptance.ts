import { exact } from '../../numbers/exact.js';
import type { System, UnitId } from '../../units/units.js';
import type { Calc } from '../calc.js';
import { arrayOf, below, meanOf, runningMeans, type List } from '../lists.js';
import { column, longColumn } from '../rows.js';
import { DECIDES, LONG_SERIES, SHORT_BY, strength, stressUnit } from './fields.js';
import { method, qty, rows, YES_NO, type Citation, type Run } from '../definition.js';
import { each } from '../../examples/write.js';

const ACI: Citation = { designation: 'ACI 318', edition: '2019', part: 'acceptance of concrete' };
const EN206: Citation = { designation: 'EN 206', edition: '2021', part: 'conformity for compressive strength' };
const IS456: Citation = { designation: 'IS 456', edition: '2000', part: 'acceptance criteria' };

/** From so many results on production counts as continuous, and the last of them are judged together: EN 206. */
export const EN_CONTINUOUS = 15;

/** So many results that follow each other are judged by their mean: IS 456. */
export const IS_GROUP = 4;

const series = rows('Strength tests, in order', { strength: strength('X', 'Strength') }, { most: LONG_SERIES });

const RESULTS = {
  mean: { label: 'Mean', symbol: 'mean', units: { si: 'MPa', us: 'psi' } },
  meanLimit: { label: 'Mean must be at least', symbol: 'mean ≥', units: { si: 'MPa', us: 'psi' } },
  floor: { label: 'Each must be at least', symbol: 'each ≥', units: { si: 'MPa', us: 'psi' } },
  meanOk: { label: 'Mean meets it', symbol: 'mean', units: { si: '1', us: '1' }, words: YES_NO },
  singles: { label: 'Results below the floor', symbol: 'singles', units: { si: '1', us: '1' } },
  acceptable: { label: 'Acceptable', symbol: 'acceptable', units: { si: '1', us: '1' }, words: YES_NO, main: true },
} as const;

/** Of schools that judge results together. */
const LEAST = { label: 'The next must be at least', symbol: 'next ≥', units: { si: 'MPa', us: 'MPa' } } as const;

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
    least: { label: 'The next test must be at least', symbol: 'next ≥', units: { si: 'MPa', us: 'psi' }, main: true },
    leastBy: {
      label: 'Asked for by',
      symbol: 'by',
      units: { si: '1', us: '1' },
      words: { mean: 'the mean of three', floor: 'the floor of a single test' },
    },
    next: { label: 'By the mean of three alone', symbol: 'mean asks', units: { si: 'MPa', us: 'psi' } },
    acceptable: RESULTS.acceptable,
  },
  variants: { aci318: { label: 'means of three, 500 psi (3.5 MPa) or 10 %', source: ACI, params: ACI_PARAMS } },
  steps: [
    { text: 'Standard-cured, at the designated age only; field-cured specimens never count here.' },
    { text: 'A strength test is the mean of at least two 6 × 12 in or three 4 × 8 in cylinders of one sample at one age.' },
    DECIDES,
  ],
  example: { specified: '35 MPa', tests: each('MPa', 'strength', '38.4 36.9 37.2 33.1 34.0 36.5 39.2 38.8') },
  run(r) {
    const { c, p, system } = r;
    const unit = stressUnit(system);
    const specified = r.need('specified', unit);
    const tests = longColumn(r, 'tests', 'strength', unit, 'X');
    if (specified === null) return;
    const fc = c.value(specified);
    const floor =
      fc.compare(exact(p.upTo[system])) <= 0
        ? c.sub(specified, c.num(p.shortBy[system]))
        : c.mul(specified, c.sub(c.num('1'), c.num(p.shortShare)));
    r.result('floor', c.name('floor', floor, unit), unit);
    if (!tests) return;
    const runs = runningMeans(c, tests, p.run);
    r.series('runs', runs, unit);
    // A failing mean is named by the last of its tests.
    const ruleA = below(c, runs, fc).map((n) => String(Number(n) + p.run - 1));
    const ruleB = below(c, tests, c.value(floor));
    r.says('ruleA', ruleA);
    r.says('ruleB', ruleB);
    r.says('acceptable', [ruleA.length + ruleB.length === 0 ? 'yes' : 'no']);
    const asked = c.value(floor);
    if (tests.length < p.run - 1) {
      r.result('least', floor, unit);
      return r.says('leastBy', ['floor']);
    }
    const last = arrayOf(tests, tests.length + 1 - p.run);
    const byMean = c.name('mean asks', c.sub(c.mul(c.num(String(p.run)), specified), c.sum(last)), unit);
    r.result('next', byMean, unit);
    const mean = c.value(byMean).compare(asked) > 0;
    r.result('least', c.name('next ≥', mean ? byMean : floor, unit), unit);
    r.says('leastBy', [mean ? 'mean' : 'floor']);
  },
});

export const coreAcceptance = method({
  id: 'core-acceptance',
  on: ['specimen-set', 'element'],
  suits: { 'specimens.shape': ['core'] },
  title: 'Acceptance of cores',
  names: ['cores', 'core acceptance', '85 percent', '75 percent'],
  follows: [ACI],
  about: 'Mean of three cores at least 0.85 f’c, and none below 0.75 f’c.',
  fields: {
    specified: strength('f’c', 'Specified strength f’c'),
    cores: rows('Cores', { strength: { ...strength('X', 'Strength'), takes: 'test.strength' } }, { made: {} }),
  },
  results: RESULTS,
  variants: {
    aci318: { label: '0.85 and 0.75', source: ACI, params: { mean: '0.85', single: '0.75' } },
  },
  steps: [
    { text: 'Three cores for each result in doubt; tested in the moisture that the engineer orders, corrected for their length.' },
    DECIDES,
  ],
  example: { specified: '35 MPa', cores: each('MPa', 'strength', '31.2 29.4 30.6') },
  run(r) {
    const { c, p, system } = r;
    const unit = stressUnit(system);
    const specified = r.need('specified', unit);
    const cores = column(r, 'cores', 'strength', unit, 'X');
    if (specified === null || !cores) return;
    const [meanLimit, floor] = [c.mul(specified, c.num(p.mean)), c.mul(specified, c.num(p.single))];
    r.result('meanLimit', meanLimit, unit);
    r.result('floor', floor, unit);
    verdictOf(r, cores, meanLimit, floor, unit);
  },
});

function verdictOf<V>(r: Pick<Run<never, never, V>, 'c' | 'result' | 'says'>, values: List<V>, meanLimit: V, floor: V, unit: UnitId): void {
  const { c } = r;
  const average = c.name('mean', meanOf(c, values), unit);
  r.result('mean', average, unit);
  const meets = c.value(average).compare(c.value(meanLimit)) >= 0;
  const singles = below(c, values, c.value(floor));
  r.says('meanOk', [meets ? 'yes' : 'no']);
  r.says('singles', singles);
  r.says('acceptable', [meets && singles.length === 0 ? 'yes' : 'no']);
}

type EnParams = {
  /** The mean must be above by a constant, or by a factor on σ. */
  margin: { constant: string } | { factor: string };
  floor: string;
  least: number;
  /** Results that are judged together, one group after the other; none where all are. */
  group: number | null;
};

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
      { possible: { unit: 'MPa', least: '0', most: '30' } },
    ),
    results: rows('Results', { strength: strength('f', 'Strength') }, { most: LONG_SERIES }),
  },
  results: {
    ...RESULTS,
    least: LEAST,
    groups: { label: 'Means of three', symbol: 'f̄3', units: { si: 'MPa', us: 'MPa' } },
    groupFails: { label: 'How many of these are below', symbol: 'groups', units: { si: '1', us: '1' } },
  },
  variants: {
    initial: {
      label: 'initial production, groups of three',
      without: ['sigma'],
      source: EN206,
      params: { margin: { constant: '4' }, floor: '4', least: 3, group: 3 } satisfies EnParams as EnParams,
    },
    continuous: {
      label: 'continuous production, fifteen or more',
      source: EN206,
      params: { margin: { factor: '1.48' }, floor: '4', least: EN_CONTINUOUS, group: null } satisfies EnParams as EnParams,
    },
  },
  steps: [{ text: 'Same concrete family, age and curing; a result is the mean of the specimens of one sample.' }, DECIDES],
  example: {
    specified: '30 MPa',
    sigma: '3.1 MPa',
    results: each('MPa', 'strength', '36.1 33.8 35.4 38.0 34.6 37.2 35.9 36.8 34.1 38.4 35.0 36.6 37.7 33.9 36.3'),
  },
  run(r) {
    const { c, p } = r;
    const specified = r.need('specified', 'MPa');
    const results = longColumn(r, 'results', 'strength', 'MPa', 'f');
    const above = marginOf(r);
    if (specified === null || above === null) return;
    const [limit, floor] = [c.add(specified, above), c.sub(specified, c.num(p.floor))];
    r.result('meanLimit', limit, 'MPa');
    r.result('floor', floor, 'MPa');
    nextOf(r, results, limit, floor, p.least, p.group !== null);
    if (!results) return;
    if (results.length < p.least) return r.missing(`results.${results.length}.strength`);
    if (p.group === null || results.length === p.group) verdictOf(r, results, limit, floor, 'MPa');
    else byGroups(r, results, limit, floor, p.group);
  },
});

/** Consecutive groups, each mean for itself: a good group does not carry a bad one. */
function byGroups<V>(
  r: Pick<Run<never, never, V>, 'c' | 'result' | 'series' | 'says' | 'note'>,
  values: List<V>,
  limit: V,
  floor: V,
  size: number,
): void {
  const { c } = r;
  const means = groupsOf(c, values, size);
  r.series('groups', means, 'MPa');
  const [groupFails, singles] = [below(c, means, c.value(limit)), below(c, values, c.value(floor))];
  r.says('groupFails', groupFails);
  r.says('singles', singles);
  r.says('meanOk', [groupFails.length === 0 ? 'yes' : 'no']);
  r.says('acceptable', [groupFails.length + singles.length === 0 ? 'yes' : 'no']);
  const over = values.length % size;
  if (over > 0) r.note('group-waits', { have: String(over), of: String(size) });
}

/**
 * What the next result must be: its own floor, and what makes up the mean that it completes.
 * @param size of a group, or of the results that are looked at together
 * @param apart whether groups follow each other; else the newest results enter every mean
 */
function nextOf<V>(
  r: Pick<Run<never, never, V, 'least'>, 'c' | 'result'>,
  values: List<V> | null,
  limit: V,
  floor: V,
  size: number,
  apart: boolean,
): void {
  const { c } = r;
  const have = values === null ? 0 : apart ? values.length % size : Math.min(values.length, size - 1);
  if (values === null || have < size - 1) return r.result('least', c.name('next ≥', floor, 'MPa'), 'MPa');
  const byMean = c.sub(c.mul(c.num(String(size)), limit), c.sum(arrayOf(values, values.length - have)));
  const mean = c.value(byMean).compare(c.value(floor)) > 0;
  r.result('least', c.name('next ≥', mean ? byMean : floor, 'MPa'), 'MPa');
}

/** Means of consecutive, non-overlapping groups that are whole. */
const groupsOf = <V>(c: Calc<V>, values: List<V>, size: number): V[] =>
  Array.from({ length: Math.floor(values.length / size) }, (_g, i) => c.mean(arrayOf(values, i * size, (i + 1) * size)));

function marginOf<V>(r: Run<typeof enAcceptance.fields, EnParams, V>): V | null {
  const { c, p } = r;
  if ('constant' in p.margin) return c.num(p.margin.constant);
  const sigma = r.need('sigma', 'MPa');
  return sigma === null ? null : c.mul(c.num(p.margin.factor), sigma);
}

type IsParams = { group: number; least: string; factor: string; step: string; floor: string };

const IS_PARAMS: IsParams = { group: IS_GROUP, least: '3', factor: '0.825', step: '0.5', floor: '3' };

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
    results: rows('Results', { strength: strength('f', 'Strength') }, { most: LONG_SERIES }),
  },
  results: {
    margin: { label: 'Margin', symbol: 'margin', units: { si: 'MPa', us: 'MPa' } },
    meanLimit: RESULTS.meanLimit,
    floor: RESULTS.floor,
    least: LEAST,
    groups: { label: 'Means of four', symbol: 'X̄4', units: { si: 'MPa', us: 'MPa' } },
    groupFails: { label: 'How many of these are below', symbol: 'groups', units: { si: '1', us: '1' } },
    singles: RESULTS.singles,
    acceptable: RESULTS.acceptable,
  },
  variants: {
    is456: {
      label: 'fck + max(3, 0.825 s to 0.5)',
      source: IS456,
      params: IS_PARAMS,
    },
  },
  steps: [
    { text: 'Four consecutive results that do not overlap with the four before; editions differ, the one in force decides.' },
    DECIDES,
  ],
  example: { specified: '30 MPa', deviation: '4.1 MPa', results: each('MPa', 'strength', '36.1 33.8 35.4 38.0 34.6 37.2 35.9 36.8') },
  run(r) {
    const { c, p } = r;
    const [specified, deviation] = [r.need('specified', 'MPa'), r.need('deviation', 'MPa')];
    const results = longColumn(r, 'results', 'strength', 'MPa', 'f');
    if (specified === null) return;
    const floor = c.sub(specified, c.num(p.floor));
    r.result('floor', floor, 'MPa');
    if (deviation === null) return;
    const rounded = c.round('margin', c.mul(c.num(p.factor), deviation), p.step, 'MPa');
    const margin = c.value(rounded).compare(exact(p.least)) > 0 ? rounded : c.num(p.least);
    const limit = c.add(specified, margin);
    r.result('margin', margin, 'MPa');
    r.result('meanLimit', limit, 'MPa');
    nextOf(r, results, limit, floor, p.group, true);
    if (!results) return;
    const groups = groupsOf(c, results, p.group);
    r.series('groups', groups, 'MPa');
    const groupFails = below(c, groups, c.value(limit));
    const singles = below(c, results, c.value(floor));
    r.says('groupFails', groupFails);
    r.says('singles', singles);
    r.says('acceptable', [groupFails.length + singles.length === 0 ? 'yes' : 'no']);
  },
});
