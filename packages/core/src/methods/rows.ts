import type { UnitId } from '../units/units.js';
import type { Calc } from './calc.js';

interface RowRun<V> {
  readonly c: Calc<V>;
  readonly x: Readonly<Record<string, unknown>>;
  inRow(rows: never, index: number, id: string, unit: UnitId, symbol: string): V | null;
  missing(path: string): void;
}

/**
 * One quantity of every row, in order. Null while a row lacks it or there are fewer than `least`
 * rows; what is lacking is then named as missing.
 */
export function column<V>(r: RowRun<V>, rows: string, field: string, unit: UnitId, symbol: string, least = 1): V[] | null {
  const list = ((r.x[rows] ?? []) as readonly unknown[]).map((_row, i) => r.inRow(rows as never, i, field, unit, `${symbol}${i + 1}`));
  if (list.length < least) r.missing(list.length === 0 ? rows : `${rows}.${list.length}.${field}`);
  const values = list.filter((v) => v !== null);
  return values.length === list.length && values.length >= least ? values : null;
}

export const meanOf = <V>(c: Calc<V>, values: readonly V[]): V => c.div(c.sum(values), c.num(String(values.length)));
