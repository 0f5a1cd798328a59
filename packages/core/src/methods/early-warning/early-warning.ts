import { method, qty, rows, type Citation, type Steps } from '../definition.js';
import { errorAt, extent, fitLine, pointOf, T90, within } from '../fit.js';
import { column } from '../rows.js';

const ACI214: Citation = { designation: 'ACI 214R', edition: '2011', part: 'accelerated and early-age strength' };

type WarningParams = {
  leastPairs: number;
  /** Two-sided 90 % points of t by degrees of freedom. */
  t90: typeof T90;
  /** Tests in the running mean of the acceptance rule. */
  run: number;
  steps: Steps;
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
      params: { leastPairs: 8, t90: T90, run: 3, steps: { MPa: '0.1', psi: '10' } } as WarningParams,
    },
  },
  steps: [],
  run(r) {
    const { c, p, system } = r;
    const unit = system === 'us' ? 'psi' : 'MPa';
    const [x, y] = [column(r, 'pairs', 'early', unit, 'x', p.leastPairs), column(r, 'pairs', 'late', unit, 'y', p.leastPairs)];
    const now = r.need('now', unit);
    if (!x || !y || now === null) return;
    const fit = fitLine(c, x, y);
    if (fit === null) return r.note('pairs-all-alike');
    const slope = c.name('b', fit.slope, '1');
    const intercept = c.name('a', fit.intercept, unit);
    const expected = c.name('ŷ', c.add(intercept, c.mul(slope, now)), unit);
    const df = fit.n - 2;
    const error = c.name('s_ŷ', errorAt(c, fit, now, 'point'), unit);
    const half = c.name('±', c.mul(c.num(pointOf(p.t90, df)), error), unit);
    r.result('slope', slope, '1');
    r.result('intercept', intercept, unit);
    r.result('expected', expected, unit, p.steps);
    const low = c.sub(expected, half);
    r.result('low', low, unit, p.steps);
    r.result('high', c.add(expected, half), unit, p.steps);
    if (!within(c, now, extent(c, x))) r.note('beyond-the-pairs');
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
