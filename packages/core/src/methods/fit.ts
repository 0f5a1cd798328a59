import type { Calc } from './calc.js';

/** A straight line through points, by least squares. */
export interface Fit<V> {
  readonly slope: V;
  readonly intercept: V;
  readonly meanX: V;
  readonly sxx: V;
  /** Number of points. */
  readonly n: number;
  /** Σ(y − ŷ)²/(n − 2); null below three points. */
  readonly variance: V | null;
}

/** b = Sxy/Sxx, a = ȳ − b·x̄, s² = (Syy − b·Sxy)/(n − 2). Null when every x is the same. */
export function fitLine<V>(c: Calc<V>, x: readonly V[], y: readonly V[]): Fit<V> | null {
  const n = x.length;
  const count = c.num(String(n));
  const [meanX, meanY] = [c.name('x̄', c.mean(x), '1'), c.name('ȳ', c.mean(y), '1')];
  // Σ(x − x̄)(y − ȳ) = Σxy − n·x̄·ȳ: exact, and each term short, however many points there are.
  const about = (symbol: string, a: readonly V[], b: readonly V[], meanA: V, meanB: V): V =>
    c.name(symbol, c.sub(c.sum(a.map((v, i) => c.mul(v, b[i]!))), c.mul(count, c.mul(meanA, meanB))), '1');
  const sxx = about('Sxx', x, x, meanX, meanX);
  if (c.value(sxx).equals(0)) return null;
  const sxy = about('Sxy', x, y, meanX, meanY);
  const slope = c.name('b', c.div(sxy, sxx), '1');
  const variance =
    n > 2 ? c.name('s²', c.div(c.sub(about('Syy', y, y, meanY, meanY), c.mul(slope, sxy)), c.num(String(n - 2))), '1') : null;
  return { slope, intercept: c.sub(meanY, c.mul(slope, meanX)), meanX, sxx, n, variance };
}

/** Standard error of the line at `x` (of one more point: with its own scatter): √(s²·(1 + 1/n + (x − x̄)²/Sxx)). */
export function errorAt<V>(c: Calc<V>, fit: Fit<V>, x: V, of: 'line' | 'point'): V {
  const off = c.sub(x, fit.meanX);
  const spread = c.sum([c.num(of === 'point' ? '1' : '0'), c.num(`1/${fit.n}`), c.div(c.mul(off, off), fit.sxx)]);
  return c.apply('√', c.mul(fit.variance ?? c.num('0'), spread));
}

/** Two-sided 90 % points of Student's t by degrees of freedom; between two listed ones the smaller holds, which is wider. */
export const T90: readonly { df: number; t: string }[] = [
  { df: 3, t: '2.353' },
  { df: 4, t: '2.132' },
  { df: 5, t: '2.015' },
  { df: 6, t: '1.943' },
  { df: 7, t: '1.895' },
  { df: 8, t: '1.860' },
  { df: 9, t: '1.833' },
  { df: 10, t: '1.812' },
  { df: 12, t: '1.782' },
  { df: 15, t: '1.753' },
  { df: 20, t: '1.725' },
  { df: 30, t: '1.697' },
  { df: 60, t: '1.671' },
  { df: 120, t: '1.658' },
];

/** The point of `table` for these degrees of freedom, from its first listed one up. */
export const pointOf = (table: typeof T90, df: number): string => table.filter((row) => row.df <= df).at(-1)!.t;

/** Least and greatest of some values. */
export function extent<V>(c: Calc<V>, values: readonly V[]): { least: V; most: V } {
  const by = (sign: 1 | -1): V => values.reduce((found, v) => (sign * c.value(v).compare(c.value(found)) > 0 ? v : found));
  return { least: by(-1), most: by(1) };
}

export const within = <V>(c: Calc<V>, x: V, { least, most }: { least: V; most: V }): boolean =>
  c.value(x).compare(c.value(least)) >= 0 && c.value(x).compare(c.value(most)) <= 0;
