import type { UnitId } from '../units/units.js';
import type { Calc } from './calc.js';
import type { RowAt } from './definition.js';

interface RowRun<V> {
  readonly c: Calc<V>;
  readonly x: Readonly<Record<string, unknown>>;
  inRow(rows: never, at: RowAt, id: string, unit: UnitId, symbol: string): V | null;
  missing(path: string): void;
}

/**
 * One quantity of every row, in order. Null while a row lacks it or there are fewer than `least`
 * rows; what is lacking is then named as missing.
 */
export function column<V>(r: RowRun<V>, rows: string, field: string, unit: UnitId, symbol: string, least = 1): V[] | null {
  const list = ((r.x[rows] ?? []) as readonly unknown[]).map((_row, i) => r.inRow(rows as never, i, field, unit, symbol));
  if (list.length < least) r.missing(list.length === 0 ? rows : `${rows}.${list.length}.${field}`);
  return list.length >= least && isWhole(list) ? list : null;
}

/** Whether nothing is lacking. */
export const isWhole = <V>(list: (V | null)[]): list is V[] => !list.includes(null);

/** Means of each `n` values in a row. */
export const meansOf = <V>(c: Calc<V>, values: readonly V[], n: number): V[] =>
  values.slice(n - 1).map((_v, i) => c.mean(values.slice(i, i + n)));
