import type { HistoryPoint } from '@keen-mortar/contract';
import { METHODS, type ItemKind, type ResultField } from '@keen-mortar/core';
import type { Cx } from '../db.js';
import { historyOf, type HistoryRow } from '../store/standing.js';
import type { Frame } from './around.js';

/** So many points of each property. */
const POINTS = 8;

/** What is found on items of a kind. */
const propertiesOf = (kind: ItemKind): string[] => [
  ...new Set(
    METHODS.filter((m) => m.on?.includes(kind)).flatMap((m) =>
      Object.values(m.results as Readonly<Record<string, ResultField>>).flatMap((r) => r.property ?? []),
    ),
  ),
];

const point = (row: HistoryRow): HistoryPoint => ({
  sample: row.code,
  load: row.parentNumber ?? row.number,
  reported: row.reported!,
  unit: row.unit,
  state: row.state,
  at: row.at.toISOString(),
});

/**
 * The newest results of the same mix or source before this item, oldest first: what is usual here.
 * @param properties of which; all that is found on such an item, where none are named
 */
export async function historyBefore(
  cx: Cx,
  { item }: Pick<Frame, 'item'>,
  properties: readonly string[] = propertiesOf(item.kind),
): Promise<Record<string, HistoryPoint[]>> {
  if (item.subjectId === null) return {};
  const rows = await historyOf(cx, item.subjectId, properties, item.id, new Date(item.at), POINTS);
  const history: Record<string, HistoryPoint[]> = {};
  for (const row of rows) (history[row.property] ??= []).unshift(point(row));
  return history;
}
