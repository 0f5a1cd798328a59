import Fraction from 'fraction.js';
import { Exact } from './value.js';

/** A chance is an estimate: kept to 9 decimals, and no digit beyond is claimed. */
const DECIMALS = 9;

/** A double close enough for every digit that is kept: both shares change by less than half of what their argument does. */
const CLOSE = 1e-9;
const double = (x: Exact): number => (x.off <= CLOSE ? x.near : x.valueOf());

const chance = (p: number): Exact => {
  const text = Math.min(1, Math.max(0, p)).toFixed(DECIMALS);
  return Exact.fraction(new Fraction(text));
};

/** Beyond this many standard deviations the share is 0 or 1 in every digit that is kept. */
const FAR = 8;

/**
 * Share of a standard normal population below `z`: 1/2 + φ(z)·(z + z³/3 + z⁵/(3·5) + …).
 * Any z; 9 decimals.
 */
export function normalShare(z: Exact): Exact {
  const x = double(z);
  if (Math.abs(x) > FAR) return chance(x > 0 ? 1 : 0);
  let [term, sum] = [x, x];
  for (let k = 3; Math.abs(term) > 1e-17; k += 2) sum += term *= (x * x) / k;
  return chance(0.5 + (sum * Math.exp((-x * x) / 2)) / Math.sqrt(2 * Math.PI));
}

/**
 * Share of Student's t with `df` degrees of freedom below `t`, by the finite series for whole
 * degrees of freedom. df: whole, from 1 up. 9 decimals.
 */
export function studentShare(t: Exact, df: number): Exact {
  if (!(Number.isInteger(df) && df >= 1)) throw new Error(`invalid degrees of freedom; not whole, from 1: ${df}`);
  const angle = Math.atan(double(t) / Math.sqrt(df));
  const [sin, square] = [Math.sin(angle), Math.cos(angle) ** 2];
  // Even: sin·(1 + 1/2·cos² + 1·3/(2·4)·cos⁴ …); odd: 2/π·(angle + sin·cos·(1 + 2/3·cos² …)).
  const odd = df % 2;
  let [term, sum] = [1, df === 1 ? 0 : 1];
  for (let k = 2 + odd; k <= df - 2; k += 2) sum += term *= (square * (k - 1)) / k;
  const within = odd ? (2 / Math.PI) * (angle + sin * Math.cos(angle) * sum) : sin * sum;
  return chance((1 + within) / 2);
}
