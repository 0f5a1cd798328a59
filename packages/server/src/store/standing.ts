import type { UnitId, VerdictState } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { change, insertAll, select, type Cx } from '../db.js';

/** A result that stands now. */
export interface Standing {
  readonly itemId: string;
  readonly testId: string;
  readonly result: string;
  readonly subjectId: string | null;
  readonly property: string;
  readonly method: string;
  readonly at: Date;
  readonly unit: UnitId;
  readonly reported: string | null;
  readonly validity: string;
  readonly state: VerdictState;
}

interface StandingRow {
  item_id: string;
  test_id: string;
  result: string;
  subject_id: string | null;
  property: string;
  method: string;
  at: Date;
  unit: UnitId;
  reported_text: string | null;
  validity: string;
  state: VerdictState;
}

const COLUMNS = 's.item_id, s.test_id, s.result, s.subject_id, s.property, s.method, s.at, s.unit, s.reported_text, s.validity, s.state';

const standing = (row: StandingRow): Standing => ({
  itemId: row.item_id,
  testId: row.test_id,
  result: row.result,
  subjectId: row.subject_id,
  property: row.property,
  method: row.method,
  at: row.at,
  unit: row.unit,
  reported: row.reported_text,
  validity: row.validity,
  state: row.state,
});

export const standingOfItems = async (cx: Cx, itemIds: readonly string[]): Promise<Standing[]> =>
  itemIds.length === 0
    ? []
    : (await select<StandingRow>(cx, `SELECT ${COLUMNS} FROM standing s WHERE s.item_id IN (?) ORDER BY s.at, s.test_id`, [itemIds])).map(
        standing,
      );

/** The newest result of each of some items: one walk down the index for each, ended after one. */
export const newestOfItems = async (cx: Cx, itemIds: readonly string[]): Promise<Standing[]> =>
  itemIds.length === 0
    ? []
    : (
        await select<StandingRow>(
          cx,
          itemIds
            .map(() => `(SELECT ${COLUMNS} FROM standing s WHERE s.item_id = ? ORDER BY s.at DESC, s.test_id DESC LIMIT 1)`)
            .join(' UNION ALL '),
          itemIds,
        )
      ).map(standing);

/** Results with a remark of items between two moments, the oldest first. */
export const markedOf = async (
  cx: Cx,
  itemIds: readonly string[],
  { from, to }: { readonly from: Date; readonly to: Date },
  most: number,
): Promise<Standing[]> =>
  itemIds.length === 0
    ? []
    : (
        await select<StandingRow>(
          cx,
          `SELECT ${COLUMNS} FROM standing s WHERE s.item_id IN (?) AND s.validity = 'marked' AND s.at BETWEEN ? AND ? ORDER BY s.at DESC LIMIT ?`,
          [itemIds, from, to, most],
        )
      )
        .map(standing)
        .reverse();

/** What stands for one method of an item is made again. */
export async function setStanding(cx: PoolConnection, itemId: string, method: string, rows: readonly Standing[]): Promise<void> {
  await change(cx, 'DELETE FROM standing WHERE item_id = ? AND method = ?', [itemId, method]);
  await insertAll(
    cx,
    'standing',
    rows.map((s) => ({
      item_id: s.itemId,
      test_id: s.testId,
      result: s.result,
      subject_id: s.subjectId,
      property: s.property,
      method: s.method,
      at: s.at,
      unit: s.unit,
      reported_text: s.reported,
      validity: s.validity,
      state: s.state,
    })),
  );
}

/** Properties that anything was found of, of a mix or a source. */
export const propertiesOf = async (cx: Cx, subjectId: string): Promise<string[]> =>
  (await select<{ property: string }>(cx, 'SELECT DISTINCT property FROM standing WHERE subject_id = ?', [subjectId])).map(
    (row) => row.property,
  );

/** No item has it. */
const NIL = '00000000-0000-0000-0000-000000000000';

export interface HistoryRow extends Standing {
  readonly code: string;
  readonly number: number;
  readonly parentNumber: number | null;
}

/** The newest given results of some properties of a mix or source before a moment, one item's left out: so many of each. */
export async function historyOf(
  cx: Cx,
  subjectId: string,
  properties: readonly string[],
  itemId: string | null,
  before: Date,
  most: number,
): Promise<HistoryRow[]> {
  if (properties.length === 0) return [];
  // One walk down the index for each property, ended after so many.
  const one = `(SELECT ${COLUMNS}, i.code, i.number, p.number AS parent_number
     FROM standing s FORCE INDEX (subject_id) JOIN item i ON i.id = s.item_id LEFT JOIN item p ON p.id = i.parent_id
     WHERE s.subject_id = ? AND s.property = ? AND s.at <= ? AND s.item_id <> ? AND s.reported_text IS NOT NULL AND NOT i.voided AND NOT COALESCE(p.voided, FALSE)
     ORDER BY s.at DESC LIMIT ?)`;
  const rows = await select<StandingRow & { code: string; number: number; parent_number: number | null }>(
    cx,
    properties.map(() => one).join(' UNION ALL '),
    properties.flatMap((property) => [subjectId, property, before, itemId ?? NIL, most]),
  );
  return rows.map((row) => ({ ...standing(row), code: row.code, number: row.number, parentNumber: row.parent_number }));
}

/** So many later results of a source may be judged beside one. */
const LATER = 60;

/** Lines on which some properties of the same source were found after they were on a line. */
export const linesAfterStanding = async (cx: Cx, lineId: string, properties: readonly string[]): Promise<string[]> =>
  (
    await select<{ line_id: string }>(
      cx,
      `SELECT later.line_id FROM (
         SELECT s.subject_id, MIN(s.at) AS at FROM standing s JOIN item i ON i.id = s.item_id
         WHERE i.line_id = ? AND s.property IN (?) AND s.subject_id IS NOT NULL GROUP BY s.subject_id
       ) own JOIN standing o ON o.subject_id = own.subject_id AND o.property IN (?) AND o.at > own.at
       JOIN item later ON later.id = o.item_id GROUP BY later.line_id ORDER BY MIN(o.at) LIMIT ?`,
      [lineId, properties, properties, LATER],
    )
  ).map((row) => row.line_id);
