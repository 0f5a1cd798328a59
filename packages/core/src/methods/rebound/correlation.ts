import { brief } from '../../numbers/exact.js';
import { method, pick, qty, rows, text, type Citation, type Increments } from '../definition.js';
import { errorAt, extent, fitLine, pointOf, T90, within } from '../fit.js';
import { column } from '../rows.js';
import { C805, reboundNumber } from './rebound.js';
import { pairs } from '../../examples/write.js';

const EN13791: Citation = { designation: 'EN 13791', edition: '2019', part: 'indirect methods' };

type CorrelationParams = {
  form: 'fit' | 'curve';
  /** Pairs from which the line is taken. */
  least: number;
  t90: typeof T90;
  increments: Increments;
};

const INCREMENTS: Increments = { MPa: '0.5', psi: '50' };

const strength = (symbol: string, label: string) =>
  qty('stress', symbol, label, { si: 'MPa', us: 'psi' }, { possible: { unit: 'MPa', above: '0', most: '200' } });

export const reboundStrength = method({
  id: 'rebound-strength',
  on: ['area'],
  title: 'Strength estimated from rebound',
  names: ['rebound correlation', 'rebound strength', 'core correlation', 'hammer curve'],
  follows: [C805, EN13791],
  about:
    'Strength in place by a correlation for this concrete, with its band, or by a curve that the lab has for this hammer and orientation. Estimated, never for acceptance, never beyond its pairs.',
  panel: 'scatter',
  fields: {
    orientation: pick('Hammer held', { level: 'Level, 0°', up: 'Up, +90°', down: 'Down, −90°' }, { usual: 'level' }),
    pairs: rows('Cores and their rebound, or points of the curve, same orientation', {
      spot: text('Spot', { optional: true }),
      rebound: reboundNumber('R', 'Rebound number'),
      strength: strength('f', 'Strength'),
    }),
    now: reboundNumber('R0', 'Rebound number now'),
  },
  results: {
    strength: { label: 'Strength, estimated', symbol: 'f̂', units: { si: 'MPa', us: 'psi' }, main: true },
    low: { label: 'Lower end of nine in ten', symbol: 'low', units: { si: 'MPa', us: 'psi' } },
    high: { label: 'Upper end of nine in ten', symbol: 'high', units: { si: 'MPa', us: 'psi' } },
    lineLow: { label: 'Band of the line, lower', symbol: 'line −', units: { si: 'MPa', us: 'psi' } },
    lineHigh: { label: 'Band of the line, upper', symbol: 'line +', units: { si: 'MPa', us: 'psi' } },
    slope: { label: 'Slope', symbol: 'b', units: { si: 'MPa', us: 'psi' } },
    intercept: { label: 'Intercept', symbol: 'a', units: { si: 'MPa', us: 'psi' } },
  },
  variants: {
    pairs: {
      label: 'line through this concrete’s own pairs, six or more',
      source: C805,
      params: { form: 'fit', least: 6, t90: T90, increments: INCREMENTS } satisfies CorrelationParams as CorrelationParams,
    },
    curve: {
      label: 'a named curve of the lab, between its points',
      source: EN13791,
      params: { form: 'curve', least: 2, t90: T90, increments: INCREMENTS } satisfies CorrelationParams as CorrelationParams,
    },
  },
  steps: [{ text: 'Pairs over the whole range of strength, same surface and orientation, on the same day as the cores are drilled.' }],
  example: {
    orientation: 'level',
    pairs: pairs('rebound', 'strength', '', '30/24.1 33/28.0 35/31.5 38/35.2 40/38.9 43/42.6 45/46.8'),
    now: '39',
  },
  run(r) {
    const { c, p, system } = r;
    const unit = system === 'us' ? 'psi' : 'MPa';
    const [x, y] = [column(r, 'pairs', 'rebound', '1', 'R', p.least), column(r, 'pairs', 'strength', unit, 'f', p.least)];
    const now = r.need('now', '1');
    if (!x || !y || now === null) return;
    const span = extent(c, x);
    const { increments } = p;
    const fit = fitLine(c, x, y);
    if (fit === null) return r.note('rebounds-all-alike');
    if (p.form === 'fit') {
      r.result('slope', fit.slope, unit);
      r.result('intercept', c.name('a', fit.intercept, unit), unit);
    }
    if (!within(c, now, span))
      return r.refuse('beyond-correlation', 'now', { least: brief(c.value(span.least)), most: brief(c.value(span.most)) });
    r.note('estimated-only');
    if (p.form === 'curve') {
      r.result('strength', c.name('f̂', between(), unit), unit, increments);
      return;
    }
    const strengthNow = c.name('f̂', c.add(fit.intercept, c.mul(fit.slope, now)), unit);
    r.result('strength', strengthNow, unit, increments);
    const t = c.num(pointOf(p.t90, fit.n - 2));
    const [point, line] = [c.mul(t, errorAt(c, fit, now, 'point')), c.mul(t, errorAt(c, fit, now, 'line'))];
    r.result('low', c.sub(strengthNow, point), unit, increments);
    r.result('high', c.add(strengthNow, point), unit, increments);
    r.result('lineLow', c.sub(strengthNow, line), unit, increments);
    r.result('lineHigh', c.add(strengthNow, line), unit, increments);

    /** Between the two points of the curve that hold it. */
    function between() {
      const points = x!.map((v, i) => ({ x: v, y: y![i]! })).sort((a, b) => c.value(a.x).compare(c.value(b.x)));
      const above = points.findIndex((point) => c.value(point.x).compare(c.value(now!)) >= 0);
      const [a, b] = [points[Math.max(0, above - 1)]!, points[above]!];
      if (c.value(b.x).equals(c.value(a.x))) return b.y;
      return c.add(a.y, c.mul(c.div(c.sub(now!, a.x), c.sub(b.x, a.x)), c.sub(b.y, a.y)));
    }
  },
});
