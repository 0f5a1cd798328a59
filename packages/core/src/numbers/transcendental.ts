import { Decimal } from 'decimal.js';
import Fraction from 'fraction.js';
import { Exact } from './value.js';

/** A constructor of our own: the library's global settings are never touched. */
const D = Decimal.clone({ precision: 60, rounding: Decimal.ROUND_HALF_EVEN });

/** Roots, logarithms and powers are not rational: kept to 40 digits, far beyond any reading. */
const DIGITS = 40;

/** Relative error of a function of doubles: some units in the last place, generously. */
const ULPS = 16 * 2 ** -53;

const decimalOf = ({ s, n, d }: Fraction): Decimal => new D((s * n).toString()).div(d.toString());

/** `f` of `x`: near it by doubles, where `slope` bounds how fast `f` changes within the error of `x`. */
function of(x: Exact, near: number, slope: number, f: (d: Decimal) => Decimal): Exact {
  return Exact.found(
    near,
    Math.abs(near) * ULPS + slope * x.off,
    () => new Fraction(f(decimalOf(x.fraction)).toSignificantDigits(DIGITS).toFixed()),
  );
}

/** √x; throws below zero. */
export function root(x: Exact): Exact {
  if (x.sign() < 0) throw new Error(`invalid x; below 0: ${x.toString()}`);
  return of(x, Math.sqrt(Math.max(0, x.near)), 1 / Math.sqrt(x.near - x.off), (d) => d.sqrt());
}

/** ln x; throws at or below zero. */
export function naturalLog(x: Exact): Exact {
  if (!(x.sign() > 0)) throw new Error(`invalid x; not above 0: ${x.toString()}`);
  return of(x, Math.log(x.near), 1 / (x.near - x.off), (d) => d.ln());
}

/** 10^x. */
export const powerOfTen = (x: Exact): Exact => of(x, 10 ** x.near, Math.LN10 * 10 ** (x.near + x.off), (d) => new D(10).pow(d));
