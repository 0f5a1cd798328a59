import { Decimal } from 'decimal.js';
import Fraction from 'fraction.js';
import type { Exact } from './exact.js';

/** A constructor of our own: the library's global settings are never touched. */
const D = Decimal.clone({ precision: 60, rounding: Decimal.ROUND_HALF_EVEN });

/** Roots, logarithms and powers are not rational: kept to 40 digits, far beyond any reading. */
const DIGITS = 40;

const decimalOf = (x: Exact): Decimal => new D((x.s * x.n).toString()).div(x.d.toString());
const exactOf = (d: Decimal): Exact => new Fraction(d.toSignificantDigits(DIGITS).toFixed());

/** √x; throws below zero. */
export function root(x: Exact): Exact {
  if (!(x.compare(0) >= 0)) throw new Error(`invalid x; below 0: ${x.toFraction()}`);
  return exactOf(decimalOf(x).sqrt());
}

/** ln x; throws at or below zero. */
export function naturalLog(x: Exact): Exact {
  if (!(x.compare(0) > 0)) throw new Error(`invalid x; not above 0: ${x.toFraction()}`);
  return exactOf(decimalOf(x).ln());
}

/** 10^x. */
export const powerOfTen = (x: Exact): Exact => exactOf(new D(10).pow(decimalOf(x)));
