import Fraction from 'fraction.js';
import { Exact } from './value.js';

export type { Exact };

export const ZERO = Exact.integer(0);

const DECIMAL = /^[+-]?(\d+(\.\d*)?|\.\d+)$/;
const RATIO = /^-?\d+\/[1-9]\d*$/;

/** Longest text taken as a number: a slip on a keypad must not become a million-digit fraction. */
export const LONGEST_NUMBER = 24;

/** Decimal text → exact value; null for anything else (empty, `NaN`, `1e9`, `12,5`, `0x10`). */
export function decimal(text: string): Exact | null {
  const trimmed = text.trim();
  return trimmed.length <= LONGEST_NUMBER && DECIMAL.test(trimmed) ? Exact.decimal(trimmed) : null;
}

/** Constants are few and met again and again: each is parsed once. Values are never changed in place. */
const constants = new Map<string, Exact>();
const MOST_CONSTANTS = 5000;

/** A constant of the program: decimal text or `n/d`. Throws on anything else, since that is a slip of ours. */
export function exact(text: string): Exact {
  const known = constants.get(text);
  if (known) return known;
  if (!DECIMAL.test(text) && !RATIO.test(text)) throw new Error(`not a decimal nor n/d: ${text}`);
  const value = RATIO.test(text) ? Exact.fraction(new Fraction(text)) : Exact.decimal(text);
  if (constants.size < MOST_CONSTANTS) constants.set(text, value);
  return value;
}

/** `n/d` in lowest terms: the whole value as text, read back by {@link exact}. */
export function ratio(x: Exact): string {
  const { s, n, d } = x.fraction;
  return `${s * n}/${d}`;
}

/** Digits after the point of a decimal text: `0.25` → 2, `5` → 0. */
export function decimalsOf(text: string): number {
  const point = text.indexOf('.');
  return point < 0 ? 0 : text.length - point - 1;
}

/** Powers of ten that doubles hold exactly. */
const TENS = Array.from({ length: 23 }, (_t, i) => Number(`1e${i}`));
const tens = (power: number): Exact => (power < 16 ? Exact.integer(TENS[power]!) : Exact.fraction(new Fraction(10n ** BigInt(power), 1n)));

/** Nearest whole number, a tie to the even one (ASTM E29 rounding method, IS 2). */
function nearestWhole(x: Exact): number | bigint {
  const close = Math.round(x.near);
  // Decided by the double when a tie is further away than it can be off; doubles are whole from 2^52 up.
  if (0.5 - Math.abs(x.near - close) > x.off && Math.abs(close) < 2 ** 52) return close;
  const { s, n, d } = x.fraction;
  const floor = s < 0n ? -((n + d - 1n) / d) : n / d;
  const twice = 2n * (s * n - floor * d);
  if (twice > d || (twice === d && floor % 2n !== 0n)) return floor + 1n;
  return floor;
}

const wholeNumber = (n: number | bigint): Exact => (typeof n === 'number' ? Exact.integer(n) : Exact.fraction(new Fraction(n, 1n)));

/**
 * Rounds to a multiple of `step`, a tie to the even multiple (ASTM E29 rounding method, IS 2).
 * `step` is any positive exact value: 0.25, 5, 0.125.
 */
export function toStep(x: Exact, step: Exact): Exact {
  if (!(step.sign() > 0)) throw new Error(`invalid step; not above 0: ${step.toString()}`);
  return step.mul(wholeNumber(nearestWhole(x.div(step))));
}

/** Decimal text with `decimals` digits after the point, a tie to even; never `-0`. */
export function fixed(x: Exact, decimals: number): string {
  return spelled(nearestWhole(decimals === 0 ? x : x.mul(tens(decimals))), decimals);
}

/** The least decimal text with `decimals` digits that is not below: what must be reached is never rounded down. */
export function fixedUp(x: Exact, decimals: number): string {
  const text = fixed(x, decimals);
  return exact(text).compare(x) >= 0 ? text : fixed(exact(text).add(exact('1').div(tens(decimals))), decimals);
}

/** A whole number of units of the last place, with its point set. */
function spelled(whole: number | bigint, decimals: number): string {
  const digits = String(whole < 0 ? -whole : whole).padStart(decimals + 1, '0');
  const cut = digits.length - decimals;
  const text = decimals === 0 ? digits : `${digits.slice(0, cut)}.${digits.slice(cut)}`;
  return whole < 0 ? `-${text}` : text;
}

/** A reporting increment that is no step but so many significant figures: `~3`, for a permeability. */
export const figuresOf = (step: string): number | null => (step.startsWith('~') ? Number(step.slice(1)) : null);

/** The reported text: rounded to `step`, with the step's decimals (`3.25`, `3.00`, `145`); `~3` to three significant figures. */
export function reported(x: Exact, step: string): string {
  const figures = figuresOf(step);
  if (figures !== null) return significant(x, figures);
  const by = exact(step);
  const decimals = decimalsOf(step);
  // As toStep and fixed do, without the values in between where the double decides.
  const near = x.near / by.near;
  const close = Math.round(near);
  const off = (x.off + Math.abs(near) * by.off) / by.near + Math.abs(near) * 4 * Number.EPSILON;
  const units = close * Math.round(by.near * (TENS[decimals] ?? NaN));
  if (by.near > 0 && 0.5 - Math.abs(near - close) > off && Number.isSafeInteger(units)) return spelled(units, decimals);
  return fixed(toStep(x, by), decimals);
}

/** Decimal exponent of the leading digit: 0.05 → −2, 2268 → 3. Zero has none and gives 0. */
function magnitude(x: Exact): number {
  if (x.sign() === 0) return 0;
  const size = Math.abs(x.near);
  const close = Math.floor(Math.log10(size));
  const power = TENS[Math.abs(close)];
  if (power !== undefined && size > x.off) {
    // size/10^close lies in [1, 10) unless the value is next to a power of ten.
    const leading = close >= 0 ? size / power : size * power;
    const off = (x.off / size) * leading + leading * 4 * 2 ** -52;
    if (leading - off >= 1 && leading + off < 10) return close;
  }
  const { n, d } = x.fraction;
  if (n === 0n) return 0;
  const estimate = n.toString().length - d.toString().length;
  const at = estimate >= 0 ? d * 10n ** BigInt(estimate) : d;
  const scaled = estimate >= 0 ? n : n * 10n ** BigInt(-estimate);
  return scaled >= at ? estimate : estimate - 1;
}

/** Plain decimal text with `digits` significant digits, a tie to even: 2/3 to 4 → `0.6667`. */
export function significant(x: Exact, digits: number): string {
  if (x.sign() === 0) return '0';
  const decimals = digits - 1 - magnitude(x);
  if (decimals >= 0) {
    // Rounding may carry into one more digit (9.996 to 3 → 10.00): then one decimal less is meant.
    const text = fixed(x, decimals);
    return text.replace(/^[-0.]+|\./g, '').length > digits && decimals > 0 ? fixed(x, decimals - 1) : text;
  }
  return fixed(toStep(x, tens(-decimals)), 0);
}

/**
 * For sentences: about `digits` significant digits, whole numbers whole, no zeros at the end. More
 * digits where fewer would not tell the value from `not`: 2.004 beside a limit of 2 never reads as 2.
 */
export function brief(x: Exact, digits = 3, not?: Exact): string {
  const least = Math.max(0, digits - 1 - magnitude(x));
  const wanted = not === undefined ? 0 : x.compare(not);
  for (let decimals = least; ; decimals++) {
    const text = fixed(x, decimals);
    if (wanted === 0 || decimals >= least + 12 || Math.sign(Exact.decimal(text).compare(not!)) === Math.sign(wanted))
      return text.includes('.') ? text.replace(/\.?0+$/, '').replace(/^-0$/, '0') : text;
  }
}

/** The whole value as decimal text; null when it has none of at most 30 places (1/3). */
export function decimalText(x: Exact): string | null {
  for (let places = 0; places <= 30; places++) {
    const text = fixed(x, places);
    if (Exact.decimal(text).equals(x)) return text;
  }
  return null;
}

/** For people: at most `digits` significant digits, no trailing zeros, `…` where it was cut. */
export function shown(x: Exact, digits = 8): string {
  // A reading that is short enough stands as it was keyed, but for zeros at its ends.
  if (x.text !== null && x.text.length <= digits) {
    const short = String(x.near + 0);
    if (!short.includes('e')) return short;
  }
  const text = significant(x, digits);
  const plain = text.includes('.') ? text.replace(/\.?0+$/, '') : text;
  return Exact.decimal(plain).equals(x) ? plain : `${text}…`;
}
