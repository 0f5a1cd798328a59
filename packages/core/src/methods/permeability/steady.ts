import { brief, exact } from '../../numbers/exact.js';
import type { Calc } from '../calc.js';
import { fitLine } from '../fit.js';
import { column } from '../rows.js';

interface SteadyParams {
  readonly steady: { readonly within: string; readonly intervals: number };
}

/**
 * Where the steady part of a series of running totals starts: the longest tail in which every
 * interval's rate is within `p.steady.within` % of the rate over the whole tail. Index of its first point; null
 * while fewer than `p.steady.intervals` intervals agree.
 */
export function steadyFrom<V>(c: Calc<V>, times: readonly V[], totals: readonly V[], p: SteadyParams): number | null {
  const rate = (from: number, to: number) =>
    c
      .value(totals[to]!)
      .sub(c.value(totals[from]!))
      .div(c.value(times[to]!).sub(c.value(times[from]!)));
  const last = times.length - 1;
  for (let start = 0; last - start >= p.steady.intervals; start++) {
    const whole = rate(start, last);
    if (whole.sign() <= 0) continue;
    const room = whole.mul(exact(p.steady.within)).div(100);
    const steady = times.slice(start, last).every(
      (_t, i) =>
        rate(start + i, start + i + 1)
          .sub(whole)
          .abs()
          .compare(room) <= 0,
    );
    if (steady) return start;
  }
  return null;
}

interface SeriesRun<V> {
  readonly c: Calc<V>;
  readonly x: Readonly<Record<string, unknown>>;
  readonly p: SteadyParams;
  inRow(rows: never, at: number, id: string, unit: 'm3' | 's', symbol: string): V | null;
  missing(path: string): void;
  note(code: 'not-steady-yet', params: Readonly<Record<string, string>>): void;
  refuse(code: 'times-in-disorder' | 'total-falls', path: string): void;
  series(id: 'fittedAt' | 'fitted', values: readonly V[], unit: 's' | 'mL'): void;
  result(id: 'rate' | 'steadyFrom' | 'steadyPoints', value: V, unit: 'm3/s' | 's' | '1', steps?: Readonly<Record<string, string>>): void;
}

/** Flow through the steady part of `series`, by least squares, m³/s; null while it is not steady. */
export function seriesRate<V>(r: SeriesRun<V>): V | null {
  const { c, p } = r;
  const [times, totals] = [column(r, 'series', 'time', 's', 't', 2), column(r, 'series', 'total', 'm3', 'Q', 2)];
  if (!times || !totals) return null;
  for (let i = 1; i < times.length; i++) {
    if (c.value(times[i]!).compare(c.value(times[i - 1]!)) <= 0) {
      r.refuse('times-in-disorder', `series.${i}.time`);
      return null;
    }
    if (c.value(totals[i]!).compare(c.value(totals[i - 1]!)) < 0) {
      r.refuse('total-falls', `series.${i}.total`);
      return null;
    }
  }
  const start = steadyFrom(c, times, totals, p);
  if (start === null) {
    r.note('not-steady-yet', { within: p.steady.within, intervals: String(p.steady.intervals), ...lastTwo(c, times, totals) });
    r.missing('series');
    return null;
  }
  const fit = fitLine(c, times.slice(start), totals.slice(start))!;
  const rate = c.name('q', fit.slope, 'm3/s');
  const ends = [times[start]!, times.at(-1)!];
  r.series('fittedAt', ends, 's');
  // m³ of the fit in millilitres.
  r.series(
    'fitted',
    ends.map((t) => c.mul(c.num('1000000'), c.add(fit.intercept, c.mul(fit.slope, t)))),
    'mL',
  );
  r.result('rate', rate, 'm3/s');
  r.result('steadyFrom', times[start]!, 's');
  r.result('steadyPoints', c.num(String(fit.n)), '1', { '1': '1' });
  return rate;
}

/** How far the last two rates are apart, %, for the note. */
function lastTwo<V>(c: Calc<V>, times: readonly V[], totals: readonly V[]): { apart: string } {
  const rates = times.slice(1).map((t, i) =>
    c
      .value(totals[i + 1]!)
      .sub(c.value(totals[i]!))
      .div(c.value(t).sub(c.value(times[i]!))),
  );
  const [a, b] = [rates.at(-2), rates.at(-1)];
  if (!a || !b || a.sign() === 0) return { apart: 'more than 100' };
  return { apart: brief(b.sub(a).abs().div(a).mul(100), 2) };
}
