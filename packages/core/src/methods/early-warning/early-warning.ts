import { exact } from '../../numbers/exact.js';
import type { Calc } from '../calc.js';
import { method, qty, rows, type Citation } from '../definition.js';
import { column, meanOf } from '../rows.js';

const ACI214: Citation = { designation: 'ACI 214R', edition: '2011', part: 'accelerated and early-age strength' };

type WarningParams = {
  leastPairs: number;
  /** Two-sided 90 % points of t by degrees of freedom; between two listed ones the smaller holds, which is wider. */
  t90: readonly (readonly [number, string])[];
};

const T90: WarningParams['t90'] = [
  [6, '1.943'],
  [7, '1.895'],
  [8, '1.860'],
  [9, '1.833'],
  [10, '1.812'],
  [12, '1.782'],
  [15, '1.753'],
  [20, '1.725'],
  [30, '1.697'],
  [60, '1.671'],
  [120, '1.658'],
];

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
    specified: qty(
      'stress',
      'f’c',
      'Specified strength f’c',
      { si: 'MPa', us: 'psi' },
      { optional: true, possible: { unit: 'MPa', above: '0', most: '300' } },
    ),
  },
  results: {
    expected: { label: '28-day strength to expect', symbol: 'ŷ', units: { si: 'MPa', us: 'psi' }, main: true },
    low: { label: 'Lower end of nine in ten', symbol: 'low', units: { si: 'MPa', us: 'psi' } },
    high: { label: 'Upper end of nine in ten', symbol: 'high', units: { si: 'MPa', us: 'psi' } },
    slope: { label: 'Slope', symbol: 'b', units: { si: '1', us: '1' } },
    intercept: { label: 'Intercept', symbol: 'a', units: { si: 'MPa', us: 'psi' } },
  },
  variants: {
    pairs: { label: 'from eight pairs up, least squares, 90 %', source: ACI214, params: { leastPairs: 8, t90: T90 } as WarningParams },
  },
  steps: [],
  run(r) {
    const { c, p, system } = r;
    const unit = system === 'us' ? 'psi' : 'MPa';
    const [x, y] = [column(r, 'pairs', 'early', unit, 'x', p.leastPairs), column(r, 'pairs', 'late', unit, 'y', p.leastPairs)];
    const now = r.need('now', unit);
    if (!x || !y || now === null) return;
    const fit = line(c, x, y);
    if (fit === null) return r.note('pairs-all-alike');
    const expected = c.name('ŷ', c.add(fit.intercept, c.mul(fit.slope, now)), unit);
    const n = x.length;
    const t = p.t90.filter(([df]) => df <= n - 2).at(-1)![1];
    // s·t·√(1 + 1/n + (x0 − x̄)²/Sxx)
    const off = c.sub(now, fit.meanX);
    const spread = c.sum([c.num('1'), c.num(`1/${n}`), c.div(c.mul(off, off), fit.sxx)]);
    const half = c.name('±', c.mul(c.num(t), c.apply('√', c.mul(fit.variance, spread))), unit);
    r.result('slope', fit.slope, '1');
    r.result('intercept', fit.intercept, unit);
    r.result('expected', expected, unit, { MPa: '0.1', psi: '10' });
    const low = c.sub(expected, half);
    r.result('low', low, unit, { MPa: '0.1', psi: '10' });
    r.result('high', c.add(expected, half), unit, { MPa: '0.1', psi: '10' });
    const [least, most] = x
      .map((v) => c.value(v))
      .reduce(([a, b], v) => [v.compare(a) < 0 ? v : a, v.compare(b) > 0 ? v : b], [c.value(x[0]!), c.value(x[0]!)]);
    if (c.value(now).compare(least) < 0 || c.value(now).compare(most) > 0) r.note('beyond-the-pairs');
    const specified = r.have('specified', unit);
    if (specified !== null && c.value(low).compare(c.value(specified)) < 0)
      r.note(c.value(expected).compare(c.value(specified)) < 0 ? 'expected-below' : 'may-fall-below');
  },
});

/** Least squares: slope, intercept and the residual variance (n − 2); null when every x is the same. */
function line<V>(c: Calc<V>, x: readonly V[], y: readonly V[]): { slope: V; intercept: V; meanX: V; sxx: V; variance: V } | null {
  const [meanX, meanY] = [meanOf(c, x), meanOf(c, y)];
  const [dx, dy] = [x.map((v) => c.sub(v, meanX)), y.map((v) => c.sub(v, meanY))];
  const sxx = c.sum(dx.map((d) => c.mul(d, d)));
  if (c.value(sxx).equals(exact('0'))) return null;
  const slope = c.name('b', c.div(c.sum(dx.map((d, i) => c.mul(d, dy[i]!))), sxx), '1');
  const residuals = dy.map((d, i) => c.sub(d, c.mul(slope, dx[i]!)));
  const variance = c.div(c.sum(residuals.map((e) => c.mul(e, e))), c.num(String(x.length - 2)));
  return { slope, intercept: c.name('a', c.sub(meanY, c.mul(slope, meanX)), 'MPa'), meanX, sxx, variance };
}
