import { bound, Exact, sumOff, U } from './value.js';

/**
 * A long list of values, held as doubles with a bound on how far off each is, in two typed arrays: the
 * exact value of one is made only where somebody asks for it, or where the bound leaves a question open.
 * Computes what long series need at about the price of plain loops; gives the same digits as a list of values.
 */
export class Column {
  constructor(
    readonly near: Float64Array,
    readonly off: Float64Array,
    private readonly whole: (i: number) => Exact,
  ) {}

  get length(): number {
    return this.near.length;
  }

  /** The value at a place from 0 up. */
  at(i: number): Exact {
    return this.whole(i);
  }

  /** Of values that are there: nearness and bound are theirs. */
  static of(length: number, whole: (i: number) => Exact, fill: (near: Float64Array, off: Float64Array) => void): Column {
    const [near, off] = [new Float64Array(length), new Float64Array(length)];
    fill(near, off);
    return new Column(near, off, whole);
  }

  /** Means of each `n` values in a row. */
  means(n: number): Column {
    const { near, off } = this;
    const count = Math.max(0, this.length - n + 1);
    const whole = (i: number): Exact => Exact.mean(Array.from({ length: n }, (_v, k) => this.at(i + k)));
    return Column.of(count, whole, (means, offs) => {
      for (let i = 0; i < count; i++) {
        let sum = 0;
        let size = 0;
        let error = 0;
        for (let k = i; k < i + n; k++) {
          sum += near[k]!;
          size += Math.abs(near[k]!);
          error += off[k]!;
        }
        means[i] = sum / n;
        offs[i] = bound(sumOff(error, size, n) / n, sum / n, false);
      }
    });
  }

  /** Mean of all; of at least one value. */
  mean(): Exact {
    const n = this.length;
    let error = 0;
    let size = 0;
    for (let i = 0; i < n; i++) {
      error += this.off[i]!;
      size += Math.abs(this.near[i]!);
    }
    const near = pairwise(this.near, 0, n) / n;
    return Exact.found(near, bound(sumOff(error, size, n) / n, near, false), () => Exact.mean(this.all()).fraction);
  }

  /** Sᵢ = Sᵢ₋₁ + (xᵢ − target). */
  cumulative(target: Exact): Column {
    const { near, off } = this;
    const chain: Exact[] = [];
    const exactly = (i: number) => {
      for (let k = chain.length; k <= i; k++) {
        const step = this.at(k).sub(target);
        chain.push(k === 0 ? step : chain[k - 1]!.add(step));
      }
      return chain[i]!.fraction;
    };
    // One of them is known as closely as its double, until somebody needs to know: all of them at once stay cheap.
    const column: Column = Column.of(
      this.length,
      (i) => Exact.found(column.near[i]!, column.off[i]!, () => exactly(i)),
      (sums, offs) => {
        let sum = 0;
        let error = 0;
        for (let i = 0; i < near.length; i++) {
          const apart = near[i]! - target.near;
          sum += apart;
          // Both roundings of the step, and what the parts bring.
          error += (off[i]! + target.off + (Math.abs(apart) + Math.abs(sum)) * U) * (1 + 4 * U);
          sums[i] = sum;
          offs[i] = error * (1 + 4 * U);
        }
      },
    );
    return column;
  }

  /** Σ(x − centre)². */
  squares(centre: Exact): Exact {
    const { near, off } = this;
    const n = near.length;
    const squares = new Float64Array(n);
    let error = 0;
    for (let i = 0; i < n; i++) {
      const apart = near[i]! - centre.near;
      const of = (off[i]! + centre.off + Math.abs(apart) * U) * (1 + 4 * U);
      squares[i] = apart * apart;
      error += (2 * Math.abs(apart) * of + of * of + squares[i]! * U) * (1 + 4 * U);
    }
    const sum = pairwise(squares, 0, n);
    const exactly = () => Exact.sum(this.all().map((v) => v.sub(centre).mul(v.sub(centre)))).fraction;
    return Exact.found(sum, bound(sumOff(error, sum, n), sum, false), exactly);
  }

  /** Places, from 0 up, of the values below. */
  below(limit: Exact): number[] {
    const found: number[] = [];
    for (let i = 0; i < this.length; i++) {
      const apart = this.near[i]! - limit.near;
      const open = Math.abs(apart) <= (this.off[i]! + limit.off) * (1 + U);
      if (open ? this.at(i).compare(limit) < 0 : apart < 0) found.push(i);
    }
    return found;
  }

  private all(count = this.length): Exact[] {
    return Array.from({ length: count }, (_v, i) => this.at(i));
  }
}

/** Half and half, so that the error grows with the logarithm of the length. */
function pairwise(values: Float64Array, from: number, to: number): number {
  if (to - from > 8) {
    const middle = (from + to) >> 1;
    return pairwise(values, from, middle) + pairwise(values, middle, to);
  }
  let sum = 0;
  for (let i = from; i < to; i++) sum += values[i]!;
  return sum;
}
