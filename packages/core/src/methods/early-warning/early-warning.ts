import { method, qty, rows, type Citation, type Increments } from '../definition.js';
import { crossCheckStrength } from '../../judgement/cross-checks.js';
import { ratio } from '../../numbers/exact.js';
import type { Code, Params } from '../../problems.js';
import type { UnitId } from '../../units/units.js';
import type { Calc } from '../calc.js';
import { errorAt, extent, fitLine, pointOf, T90, within } from '../fit.js';
import { deviationOf } from '../lists.js';
import { column } from '../rows.js';
import { pairs } from '../../examples/write.js';

const ACI214: Citation = { designation: 'ACI 214R', edition: '2011', part: 'accelerated and early-age strength' };

type WarningParams = {
  leastPairs: number;
  /** Two-sided 90 % points of t by degrees of freedom. */
  t90: typeof T90;
  /** Tests in the running mean of the acceptance rule. */
  run: number;
  increments: Increments;
};

const stress = (symbol: string, label: string) =>
  qty('stress', symbol, label, { si: 'MPa', us: 'psi' }, { possible: { unit: 'MPa', above: '0', most: '300' } });

export const earlyWarning = method({
  id: 'early-warning',
  title: 'Early warning from 7-day strength',
  names: ['early warning', '7-day', 'predict 28-day', 'regression'],
  follows: [ACI214],
  about:
    'The 28-day strength to expect from a 7-day one, by the mix’s own pairs, with the interval in which nine of ten would fall. 7-day results are never by themselves grounds for accepting or rejecting.',
  panel: 'scatter',
  fields: {
    pairs: rows('Pairs of this mix', { early: stress('x', '7-day'), late: stress('y', '28-day') }),
    now: stress('x0', 'The 7-day strength now'),
    specified: { ...stress('f’c', 'Specified strength f’c'), optional: true },
    before: { ...stress('X2', 'Last 28-day test'), optional: true, minor: true, hint: 'for the mean of three' },
    late: { ...stress('y0', 'Its own 28-day strength, once it is broken'), optional: true, minor: true },
    beforeThat: { ...stress('X1', 'The one before it'), optional: true, minor: true },
  },
  results: {
    expected: { label: '28-day strength to expect', symbol: 'ŷ', units: { si: 'MPa', us: 'psi' }, main: true },
    low: { label: 'Lower end of nine in ten', symbol: 'low', units: { si: 'MPa', us: 'psi' } },
    high: { label: 'Upper end of nine in ten', symbol: 'high', units: { si: 'MPa', us: 'psi' } },
    slope: { label: 'Slope', symbol: 'b', units: { si: '1', us: '1' } },
    intercept: { label: 'Intercept', symbol: 'a', units: { si: 'MPa', us: 'psi' } },
    chance: { label: 'Chance that it falls below f’c', symbol: 'P', units: { si: '%', us: '%' } },
    chanceMean: { label: 'Chance that the mean of three falls below f’c', symbol: 'P3', units: { si: '%', us: '%' } },
  },
  variants: {
    pairs: {
      label: 'from eight pairs up, least squares, 90 %',
      source: ACI214,
      params: { leastPairs: 8, t90: T90, run: 3, increments: { MPa: '0.1', psi: '10' } } satisfies WarningParams as WarningParams,
    },
  },
  steps: [{ text: 'The mix’s own pairs, same plant and materials; look at the scatter before you trust the line.' }],
  example: {
    pairs: pairs('early', 'late', 'MPa', '25.1/36.8 26.4/38.1 24.2/35.9 27.0/39.6 25.8/37.1 23.6/34.2 26.9/38.4 24.9/36.1 25.5/37.7'),
    now: '23.9 MPa',
    specified: '35 MPa',
    before: '36.1 MPa',
    beforeThat: '34.2 MPa',
  },
  run(r) {
    const { c, p, system } = r;
    const unit = system === 'us' ? 'psi' : 'MPa';
    const [x, y] = [column(r, 'pairs', 'early', unit, 'x', p.leastPairs), column(r, 'pairs', 'late', unit, 'y', p.leastPairs)];
    const now = r.need('now', unit);
    if (!x || !y || now === null) return;
    const fit = fitLine(c, x, y);
    if (fit === null) return r.note('pairs-all-alike');
    const { slope } = fit;
    const intercept = c.name('a', fit.intercept, unit);
    const expected = c.name('ŷ', c.add(intercept, c.mul(slope, now)), unit);
    const df = fit.n - 2;
    const error = c.name('s_ŷ', errorAt(c, fit, now, 'point'), unit);
    const half = c.name('±', c.mul(c.num(pointOf(p.t90, df)), error), unit);
    r.result('slope', slope, '1');
    r.result('intercept', intercept, unit);
    r.result('expected', expected, unit, p.increments);
    const low = c.sub(expected, half);
    r.result('low', low, unit, p.increments);
    r.result('high', c.add(expected, half), unit, p.increments);
    if (!within(c, now, extent(c, x))) r.note('beyond-the-pairs');
    againstHistory(r, x, y, unit);
    const specified = r.have('specified', unit);
    if (specified === null) return;
    if (c.value(low).compare(c.value(specified)) < 0)
      r.note(c.value(expected).compare(c.value(specified)) < 0 ? 'expected-below' : 'may-fall-below');
    // Pairs that lie on their line leave no scatter to reckon a chance from.
    if (c.value(error).sign() === 0) return;
    const chanceBelow = (symbol: string, least: typeof slope) =>
      c.name(symbol, c.mul(c.num('100'), c.apply(`T${df}`, c.div(c.sub(least, expected), error))), '%');
    r.result('chance', chanceBelow('P', specified), '%', { '%': '1' });
    const [last, beforeLast] = [r.have('before', unit), r.have('beforeThat', unit)];
    if (last === null || beforeLast === null) return;
    const needed = c.name('least', c.sub(c.mul(c.num(String(p.run)), specified), c.add(last, beforeLast)), unit);
    r.result('chanceMean', chanceBelow('P3', needed), '%', { '%': '1' });
  },
});

/** Once the 28-day strength is there: is it what this mix gives, and what its own 7-day strength promised? */
function againstHistory<V>(
  r: {
    c: Calc<V>;
    have(id: 'now' | 'late', unit: UnitId): V | null;
    note(code: Code, params: Params): void;
  },
  early: readonly V[],
  late: readonly V[],
  unit: UnitId,
): void {
  const { c } = r;
  const [now, found] = [r.have('now', unit), r.have('late', unit)];
  if (now === null || found === null) return;
  const ratios = late.map((v, i) => c.div(v, early[i]!));
  const [mean, ratioMean] = [c.mean(late), c.mean(ratios)];
  const [deviation, ratioDeviation] = [deviationOf(c, late, mean), deviationOf(c, ratios, ratioMean)];
  if (c.value(deviation).sign() === 0 || c.value(ratioDeviation).sign() === 0) return;
  const text = (v: V): string => ratio(c.value(v));
  const checks = crossCheckStrength({
    late: text(found),
    early: text(now),
    history: { mean: text(mean), deviation: text(deviation), ratio: text(ratioMean), ratioDeviation: text(ratioDeviation) },
  });
  for (const check of checks) r.note(check.code, check.params);
}
