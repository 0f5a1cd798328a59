import Fraction from 'fraction.js';
import { decimal, LONGEST_NUMBER } from './exact.js';
import { Exact } from './value.js';

const FRACTION = /^(?:(\d+)[ -]+)?(\d+)\/(\d+)$/;

/**
 * A length as people say it: `3 1/4`, `3-1/4`, `1/4`, `3.25`. Null for anything else,
 * a zero denominator and an improper part (`3 5/4` is a slip, not 4 1/4) included.
 */
export function spoken(text: string): Exact | null {
  const trimmed = text.trim();
  const match = trimmed.length <= LONGEST_NUMBER ? FRACTION.exec(trimmed) : null;
  if (!match) return decimal(trimmed);
  const [, whole, top, bottom] = match;
  const n = BigInt(top ?? '0');
  const d = BigInt(bottom ?? '0');
  if (d === 0n || n >= d) return null;
  return Exact.fraction(new Fraction(n, d).add(new Fraction(BigInt(whole ?? '0'), 1n)));
}

/** A duration in seconds, as a stopwatch shows it (`1:52`, `0:04.8`) or plain (`112`). */
export function stopwatch(text: string): Exact | null {
  const match = /^(\d{1,3}):([0-5]\d(?:\.\d+)?)$/.exec(text.trim());
  if (!match) return decimal(text);
  return Exact.decimal(match[2] ?? '0').add(Exact.decimal(match[1] ?? '0').mul(60));
}
