import { Column } from '../numbers/column.js';
import type { Exact } from '../numbers/value.js';
import { plain, type Calc } from './calc.js';

/**
 * Values of a long series: an array, or, where it is only computed and no working is recorded, a
 * {@link Column} of doubles. What is done with one is done by the functions of this file, so that
 * a method's body is written once for both.
 */
export interface List<V> {
  readonly length: number;
  at(i: number): V | undefined;
}

/** The column that a list is, where it is one: only the plain interpreter, whose values are exact numbers, makes them. */
const columnIn = <V>(list: List<V>): Column | null => (list instanceof Column ? list : null);
const asList = <V>(column: Column): List<V> => column as unknown as List<V>;
const asValue = <V>(value: Exact): V => value as unknown as V;

/** Some of a list, from one place up to another. */
export function arrayOf<V>(list: List<V>, from = 0, to = list.length): readonly V[] {
  if (Array.isArray(list)) return from === 0 && to === list.length ? (list as readonly V[]) : (list as readonly V[]).slice(from, to);
  const found: V[] = [];
  for (let i = from; i < to; i++) found.push(list.at(i)!);
  return found;
}

/** Means of each `n` values in a row. */
export function runningMeans<V>(c: Calc<V>, list: List<V>, n: number): List<V> {
  const column = columnIn(list);
  if (column) return asList(column.means(n));
  return Array.from({ length: Math.max(0, list.length - n + 1) }, (_v, i) => c.mean(arrayOf(list, i, i + n)));
}

/** Of at least one value. */
export function meanOf<V>(c: Calc<V>, list: List<V>): V {
  const column = columnIn(list);
  return column ? asValue(column.mean()) : c.mean(arrayOf(list));
}

/** Sᵢ = Sᵢ₋₁ + (xᵢ − target): where its slope changes, the mean moved. */
export function cumulative<V>(c: Calc<V>, list: List<V>, target: V): List<V> {
  const column = columnIn(list);
  if (column) return asList(column.cumulative(c.value(target)));
  let sum = c.num('0');
  return arrayOf(list).map((v) => (sum = c.add(sum, c.sub(v, target))));
}

/** Sample standard deviation, n − 1. At least two values. */
export function deviationOf<V>(c: Calc<V>, list: List<V>, mean: V): V {
  const column = columnIn(list);
  const squares = column
    ? asValue<V>(column.squares(c.value(mean)))
    : c.sum(
        arrayOf(list).map((v) => {
          const off = c.sub(v, mean);
          return c.mul(off, off);
        }),
      );
  return c.apply('√', c.div(squares, c.num(String(list.length - 1))));
}

/** Positions (counted from 1) of the values that are below. */
export function below<V>(c: Calc<V>, list: List<V>, least: Exact): string[] {
  const column = columnIn(list);
  if (column) return column.below(least).map((i) => String(i + 1));
  return arrayOf(list).flatMap((v, i) => (c.value(v).compare(least) < 0 ? [String(i + 1)] : []));
}

/** Mean of each set of values. */
export function meansOfSets<V>(c: Calc<V>, sets: readonly (readonly V[])[]): List<V> {
  return lazily(c, sets.length, (i) => c.mean(sets[i]!));
}

/** Greatest less least of each set. */
export function rangesOfSets<V>(c: Calc<V>, sets: readonly (readonly V[])[], range: (set: readonly V[]) => V): List<V> {
  return lazily(c, sets.length, (i) => range(sets[i]!));
}

/** A list of which nothing but doubles is kept, where only that is needed. */
function lazily<V>(c: Calc<V>, length: number, make: (i: number) => V): List<V> {
  if ((c as unknown) !== plain) return Array.from({ length }, (_v, i) => make(i));
  const whole = make as unknown as (i: number) => Exact;
  return asList(
    Column.of(length, whole, (near, off) => {
      for (let i = 0; i < length; i++) {
        const value = whole(i);
        near[i] = value.near;
        off[i] = value.off;
      }
    }),
  );
}
