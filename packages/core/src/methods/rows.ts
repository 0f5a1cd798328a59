import type { UnitId } from '../units/units.js';
import type { Calc } from './calc.js';
import type { RowAt } from './definition.js';
import type { List } from './lists.js';

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

/** The same for a series that may be long: as a column of doubles where nobody records the working. */
export function longColumn<V>(
  r: RowRun<V> & { long(rows: never, id: string, unit: UnitId): List<V> | null },
  rows: string,
  field: string,
  unit: UnitId,
  symbol: string,
): List<V> | null {
  return r.long(rows as never, field, unit) ?? column(r, rows, field, unit, symbol);
}

/** Whether nothing is lacking. */
export const isWhole = <V>(list: (V | null)[]): list is V[] => !list.includes(null);
