import Fraction from 'fraction.js';

/** Relative error of one operation on doubles, doubled, so that the rounding of the bound itself is covered. */
export const U = 2 ** -52;

/** Thrown by a division whose divisor is exactly zero. */
export class DivisionByZero extends Error {
  constructor() {
    super('division by zero');
  }
}

type Operation = 'text' | 'add' | 'sub' | 'mul' | 'div' | 'neg' | 'abs' | 'sum' | 'mean';

/**
 * An exact rational number that is worked out only where it matters. Every value carries a double
 * near it with a bound on how far off that is; a comparison or a rounding that the bound decides is
 * done on doubles, one that it leaves open (a tie, a limit exactly met) on the exact fraction.
 * So 2.675 → 2.68 and 2.665 → 2.66 come out right at about the price of a double.
 */
export class Exact {
  /** A double near the value; within `off` of it. */
  readonly near: number;
  /** Bound of |value − near|: 0 when `near` is the value itself, Infinity when nothing is known. */
  readonly off: number;
  /** How the fraction is found when it is asked for: let go of once it is known, but for the text of a reading. */
  private _how: Operation | (() => Fraction) | null;
  private _a: Exact | readonly Exact[] | string | null;
  /** The second operand, and the fraction once it is known: a long series holds many of these. */
  private _b: Exact | Fraction | null;

  private constructor(
    near: number,
    off: number,
    how: Operation | (() => Fraction) | null,
    a: Exact | readonly Exact[] | string | null,
    b: Exact | Fraction | null,
  ) {
    this.near = near;
    // A bound that is not a number decides nothing.
    this.off = off >= 0 ? off : Infinity;
    this._how = how;
    this._a = a;
    this._b = b;
  }

  /** A whole number that doubles hold exactly. */
  static integer(n: number): Exact {
    if (!Number.isSafeInteger(n)) throw new Error(`not a safe whole number: ${n}`);
    return new Exact(n, 0, 'text', String(n), null);
  }

  /** Plain decimal text, checked before. */
  static decimal(text: string): Exact {
    const near = Number(text);
    return new Exact(near, Exact.offOf(near, text.length), 'text', text, null);
  }

  /** How far the double nearest to a decimal text of so many characters may be from it. */
  static offOf(near: number, length: number): number {
    // Up to 15 digits tell doubles apart, so a whole double is the text's own value.
    return length <= 15 && Number.isInteger(near) ? 0 : Math.abs(near) * U;
  }

  /** The decimal text that it was read from, where it is a reading or a constant as it stands. */
  get text(): string | null {
    return this._how === 'text' ? (this._a as string) : null;
  }

  static fraction(whole: Fraction): Exact {
    // Numerator, denominator and their quotient are rounded: three halves of a unit in the last place.
    const near = Number(whole.n * whole.s) / Number(whole.d);
    return new Exact(near, Number.isSafeInteger(near) && whole.d === 1n ? 0 : Math.abs(near) * 2 * U, null, null, whole);
  }

  /** A value known to be within `off` of `near`, and how to find it exactly. */
  static found(near: number, off: number, how: () => Fraction): Exact {
    return new Exact(near, off, how, null, null);
  }

  static of(x: Exact | number): Exact {
    return typeof x === 'number' ? Exact.integer(x) : x;
  }

  /**
   * Sum of some values. One value however long the list: half and half, so that the bound grows with
   * the logarithm of the length, not with the length. Keeps the list, which must not change afterwards.
   */
  static sum(values: readonly Exact[]): Exact {
    if (values.length <= 1) return values[0] ?? Exact.integer(0);
    const near = nearSum(values, 0, values.length);
    return new Exact(near, sumBound(values, near), 'sum', values, null);
  }

  /** Mean of at least one value. */
  static mean(values: readonly Exact[]): Exact {
    const n = values.length;
    if (n === 0) throw new DivisionByZero();
    const sum = nearSum(values, 0, n);
    const near = sum / n;
    return new Exact(near, bound(sumBound(values, sum) / n, near, false), 'mean', values, null);
  }

  private get _whole(): Fraction | null {
    return this._b instanceof Fraction ? this._b : null;
  }

  /** The whole value, in lowest terms. */
  get fraction(): Fraction {
    if (this._whole) return this._whole;
    // A long sum may be a deep tree: walked with a stack of our own.
    const stack: Exact[] = [this];
    for (let x = stack.at(-1); x; x = stack.at(-1)) {
      const before = stack.length;
      if (!x._whole) for (const part of x._parts()) if (!part._whole) stack.push(part);
      if (stack.length > before) continue;
      if (!x._whole) {
        x._b = x._work();
        // What it came from can go; the text of a reading stays, it is short.
        if (x._how !== 'text') x._how = x._a = null;
      }
      stack.pop();
    }
    return this._whole!;
  }

  /** The values that it is made of. */
  private _parts(): readonly Exact[] {
    if (this._a instanceof Exact) return this._b instanceof Exact ? [this._a, this._b] : [this._a];
    return this._a === null || typeof this._a === 'string' ? [] : this._a;
  }

  private _work(): Fraction {
    const how = this._how!;
    if (typeof how === 'function') return how();
    if (how === 'text') return new Fraction(this._a as string);
    if (how === 'sum' || how === 'mean') {
      const values = this._a as readonly Exact[];
      const sum = wholeSum(values, 0, values.length);
      return how === 'sum' ? sum : sum.div(values.length);
    }
    const a = (this._a as Exact).fraction;
    return how === 'neg' || how === 'abs' ? a[how]() : a[how]((this._b as Exact).fraction);
  }

  add(y: Exact | number): Exact {
    const b = Exact.of(y);
    const near = this.near + b.near;
    return new Exact(near, bound(this.off + b.off, near, this.off === 0 && b.off === 0), 'add', this, b);
  }

  sub(y: Exact | number): Exact {
    const b = Exact.of(y);
    const near = this.near - b.near;
    return new Exact(near, bound(this.off + b.off, near, this.off === 0 && b.off === 0), 'sub', this, b);
  }

  mul(y: Exact | number): Exact {
    const b = Exact.of(y);
    const near = this.near * b.near;
    const off = Math.abs(this.near) * b.off + Math.abs(b.near) * this.off + this.off * b.off;
    return new Exact(near, bound(off, near, this.off === 0 && b.off === 0), 'mul', this, b);
  }

  /** Throws when `y` is zero. */
  div(y: Exact | number): Exact {
    const b = Exact.of(y);
    if (b.sign() === 0) throw new DivisionByZero();
    const near = this.near / b.near;
    const off = (this.off + Math.abs(near) * b.off) / (Math.abs(b.near) - b.off);
    return new Exact(near, bound(off, near, false), 'div', this, b);
  }

  neg(): Exact {
    return new Exact(-this.near, this.off, 'neg', this, null);
  }

  abs(): Exact {
    return new Exact(Math.abs(this.near), this.off, 'abs', this, null);
  }

  inverse(): Exact {
    return Exact.integer(1).div(this);
  }

  /** The power of a small whole exponent. */
  pow(exponent: number): Exact {
    if (exponent < 0) return this.pow(-exponent).inverse();
    return exponent === 0 ? Exact.integer(1) : this.mul(this.pow(exponent - 1));
  }

  /** The least whole number not below. */
  ceil(): Exact {
    return Exact.fraction(this.fraction.ceil());
  }

  sign(): -1 | 0 | 1 {
    if (Math.abs(this.near) > this.off) return this.near > 0 ? 1 : -1;
    if (this.off === 0) return 0;
    const { s, n } = this.fraction;
    return n === 0n ? 0 : s > 0n ? 1 : -1;
  }

  /** Below zero when this is less than `y`, 0 when they are the same number. */
  compare(y: Exact | number): number {
    const b = Exact.of(y);
    const apart = this.near - b.near;
    const off = this.off + b.off;
    if (Math.abs(apart) > off * (1 + U)) return apart;
    // Up to 15 digits tell doubles apart: short texts with the same double are the same number, 4.75 and 4.750.
    if (apart === 0 && isShort(this.text) && isShort(b.text)) return 0;
    return off === 0 ? 0 : this.fraction.compare(b.fraction);
  }

  equals(y: Exact | number): boolean {
    // The same text is the same value: a sieve's opening against the list of them.
    if (typeof y !== 'number' && this.text !== null && this.text === y.text) return true;
    return this.compare(y) === 0;
  }

  isWhole(): boolean {
    return (this.off === 0 && Number.isInteger(this.near)) || this.fraction.d === 1n;
  }

  /** The nearest double. */
  valueOf(): number {
    return this.off === 0 ? this.near : Number(this.fraction.valueOf());
  }

  /** For messages of ours: `23/100`. */
  toString(): string {
    return this.fraction.toFraction();
  }
}

const isShort = (text: string | null): boolean => text !== null && text.length <= 15;

/** Error of a result `near` whose parts bring `off`; whole numbers small enough bring none of their own. */
export function bound(off: number, near: number, exactParts: boolean): number {
  if (exactParts && Number.isSafeInteger(near)) return 0;
  return off * (1 + 4 * U) + Math.abs(near) * U;
}

/** So many are added one after the other. */
const BLOCK = 8;

function nearSum(values: readonly Exact[], from: number, to: number): number {
  if (to - from > BLOCK) {
    const middle = (from + to) >> 1;
    return nearSum(values, from, middle) + nearSum(values, middle, to);
  }
  let sum = 0;
  for (let i = from; i < to; i++) sum += values[i]!.near;
  return sum;
}

/** Error of a sum of doubles near some values: theirs, and that of each addition that a value goes through. */
function sumBound(values: readonly Exact[], near: number): number {
  let [off, size, whole] = [0, 0, true];
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!;
    off += value.off;
    size += Math.abs(value.near);
    whole &&= value.off === 0;
  }
  if (whole && Number.isSafeInteger(size) && Number.isSafeInteger(near)) return 0;
  return sumOff(off, size, values.length);
}

/** Error of a sum of `n` doubles whose parts bring `off`, and whose sizes add up to `size`: added one after the other, or half and half. */
export function sumOff(off: number, size: number, n: number): number {
  // The sums of bounds are themselves rounded, n times at most.
  return (off + size * U * (n <= BLOCK ? n : Math.min(n, BLOCK + Math.log2(n)))) * (1 + n * U);
}

function wholeSum(values: readonly Exact[], from: number, to: number): Fraction {
  if (to - from === 1) return values[from]!.fraction;
  const middle = (from + to) >> 1;
  return wholeSum(values, from, middle).add(wholeSum(values, middle, to));
}
