import Fraction from 'fraction.js';

/**
 * An exact rational number. Every reading is a decimal and every factor is exact, so nothing is
 * rounded before the end and a tie is a real tie: doubles get 2.675 → 2.68 wrong, this cannot.
 */
export type Exact = Fraction;

export const ZERO = new Fraction(0);

const DECIMAL = /^[+-]?(\d+(\.\d*)?|\.\d+)$/;
const RATIO = /^-?\d+\/[1-9]\d*$/;

/** Longest text taken as a number: a slip on a keypad must not become a million-digit fraction. */
export const LONGEST_NUMBER = 24;

/** Decimal text → exact value; null for anything else (empty, `NaN`, `1e9`, `12,5`, `0x10`). */
export function decimal(text: string): Exact | null {
  const trimmed = text.trim();
  return trimmed.length <= LONGEST_NUMBER && DECIMAL.test(trimmed) ? new Fraction(trimmed) : null;
}

/** Constants are few and met again and again: each is parsed once. Values are never changed in place. */
const constants = new Map<string, Exact>();
const MOST_CONSTANTS = 5000;

/** A constant of the program: decimal text or `n/d`. Throws on anything else, since that is a slip of ours. */
export function exact(text: string): Exact {
  const known = constants.get(text);
  if (known) return known;
  if (!DECIMAL.test(text) && !RATIO.test(text)) throw new Error(`not a decimal nor n/d: ${text}`);
  const value = new Fraction(text);
  if (constants.size < MOST_CONSTANTS) constants.set(text, value);
  return value;
}

/** `n/d` in lowest terms: the whole value as text, read back by {@link exact}. */
export function ratio(x: Exact): string {
  return `${x.s * x.n}/${x.d}`;
}

/** Digits after the point of a decimal text: `0.25` → 2, `5` → 0. */
export function decimalsOf(text: string): number {
  const point = text.indexOf('.');
  return point < 0 ? 0 : text.length - point - 1;
}

/** Nearest whole number, a tie to the even one (ASTM E29 rounding method, IS 2). */
function nearestWhole(x: Exact): bigint {
  const floor = x.s < 0n ? -((x.n + x.d - 1n) / x.d) : x.n / x.d;
  const twice = 2n * (x.s * x.n - floor * x.d);
  if (twice > x.d || (twice === x.d && floor % 2n !== 0n)) return floor + 1n;
  return floor;
}

/**
 * Rounds to a multiple of `step`, a tie to the even multiple (ASTM E29 rounding method, IS 2).
 * `step` is any positive exact value: 0.25, 5, 0.125.
 */
export function toStep(x: Exact, step: Exact): Exact {
  if (!(step.compare(0) > 0)) throw new Error(`invalid step; not above 0: ${step.toFraction()}`);
  return step.mul(new Fraction(nearestWhole(x.div(step)), 1n));
}

/** Decimal text with `decimals` digits after the point, a tie to even; never `-0`. */
export function fixed(x: Exact, decimals: number): string {
  const scale = 10n ** BigInt(decimals);
  const whole = nearestWhole(x.mul(new Fraction(scale, 1n)));
  const digits = (whole < 0n ? -whole : whole).toString().padStart(decimals + 1, '0');
  const cut = digits.length - decimals;
  const text = decimals === 0 ? digits : `${digits.slice(0, cut)}.${digits.slice(cut)}`;
  return whole < 0n ? `-${text}` : text;
}

/** The reported text: rounded to `step`, with the step's decimals (`3.25`, `3.00`, `145`). */
export function reported(x: Exact, step: string): string {
  return fixed(toStep(x, exact(step)), decimalsOf(step));
}

/** Decimal exponent of the leading digit: 0.05 → −2, 2268 → 3. Zero has none and gives 0. */
function magnitude(x: Exact): number {
  if (x.n === 0n) return 0;
  const estimate = x.n.toString().length - x.d.toString().length;
  const power = estimate >= 0 ? x.d * 10n ** BigInt(estimate) : x.d;
  const scaled = estimate >= 0 ? x.n : x.n * 10n ** BigInt(-estimate);
  return scaled >= power ? estimate : estimate - 1;
}

/** Plain decimal text with `digits` significant digits, a tie to even: 2/3 to 4 → `0.6667`. */
export function significant(x: Exact, digits: number): string {
  if (x.n === 0n) return '0';
  const decimals = digits - 1 - magnitude(x);
  if (decimals >= 0) {
    // Rounding may carry into one more digit (9.996 to 3 → 10.00): then one decimal less is meant.
    const text = fixed(x, decimals);
    return text.replace(/^[-0.]+|\./g, '').length > digits && decimals > 0 ? fixed(x, decimals - 1) : text;
  }
  return fixed(toStep(x, new Fraction(10n ** BigInt(-decimals), 1n)), 0);
}

/** For people: at most `digits` significant digits, no trailing zeros, `…` where it was cut. */
export function shown(x: Exact, digits = 8): string {
  const text = significant(x, digits);
  const plain = text.includes('.') ? text.replace(/\.?0+$/, '') : text;
  return new Fraction(plain).equals(x) ? plain : `${text}…`;
}
