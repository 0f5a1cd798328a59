import type { Given, UnitId } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { change, insertAll, select, type Cx } from '../db.js';

/** What a test that stands gives to others. */
export interface Gift {
  readonly itemId: string;
  readonly source: Given;
  readonly testId: string;
  /** Whose later tests may take it; null where only those of the item do. */
  readonly subjectId: string | null;
  readonly method: string;
  readonly at: Date;
  readonly text: string;
  readonly unit: UnitId;
}

/** With the code of the item that it was found on. */
export interface FoundGift extends Gift {
  readonly code: string;
}

interface GiftRow {
  item_id: string;
  source: Given;
  test_id: string;
  subject_id: string | null;
  method: string;
  at: Date;
  value_text: string;
  unit: UnitId;
  code: string;
}

/** Of nothing that was voided, nor of what lies in something that was: a portion of a portion of a field sample of a source. */
const STANDING = `JOIN item i ON i.id = g.item_id
   LEFT JOIN item p1 ON p1.id = i.parent_id LEFT JOIN item p2 ON p2.id = p1.parent_id LEFT JOIN item p3 ON p3.id = p2.parent_id
   WHERE NOT i.voided AND NOT COALESCE(p1.voided, FALSE) AND NOT COALESCE(p2.voided, FALSE) AND NOT COALESCE(p3.voided, FALSE)`;
const SELECT = `SELECT g.item_id, g.source, g.test_id, g.subject_id, g.method, g.at, g.value_text, g.unit, i.code
   FROM gift g ${STANDING} AND`;

/** What one method gives of an item is made again. */
export async function setGifts(cx: PoolConnection, itemId: string, method: string, gifts: readonly Gift[]): Promise<void> {
  await change(cx, 'DELETE FROM gift WHERE item_id = ? AND method = ?', [itemId, method]);
  await insertAll(
    cx,
    'gift',
    gifts.map((g) => ({
      item_id: g.itemId,
      source: g.source,
      test_id: g.testId,
      subject_id: g.subjectId,
      method: g.method,
      at: g.at,
      value_text: g.text,
      unit: g.unit,
    })),
  );
}

/** Which gifts are asked for; `found`: also what was found of a source and nobody has accepted. */
export type Sought =
  | { readonly itemIds: readonly string[] }
  | { readonly testIds: readonly string[] }
  | { readonly subjectId: string; readonly source: Given; readonly before: Date; readonly found?: true };

/** What waits until somebody has looked at it counts from no moment that comes. */
export const WAITS = new Date(Date.UTC(9999, 0, 1));

/** From when on what some tests found counts for others; null: from when it was found. */
export const setCountsFrom = async (cx: PoolConnection, from: readonly (readonly [testId: string, Date | null])[]): Promise<void> => {
  for (const [testId, at] of from)
    await change(cx, 'UPDATE gift SET counts_from = ? WHERE test_id = ? AND subject_id IS NOT NULL', [at, testId]);
};

/**
 * The test whose value of a source was accepted for a moment; once one was, the newest counts no longer by itself. What waits for a
 * look does not either.
 */
const ACCEPTED = `COALESCE(g.test_id = (
   SELECT a.test_id FROM acceptance a JOIN gift g ON g.test_id = a.test_id ${STANDING}
   AND a.item_id = ? AND g.source = ? AND a.from_at <= ? ORDER BY a.from_at DESC, a.made_at DESC LIMIT 1), COALESCE(g.counts_from <= ?, TRUE))`;

function part(sought: Sought): { sql: string; values: readonly unknown[] } {
  if ('itemIds' in sought) return { sql: `${SELECT} g.item_id IN (?)`, values: [sought.itemIds] };
  if ('testIds' in sought) return { sql: `${SELECT} g.test_id IN (?)`, values: [sought.testIds] };
  const of = [sought.subjectId, sought.source, sought.before];
  return {
    sql: `(${SELECT} g.subject_id = ? AND g.source = ? AND g.at <= ?${sought.found ? '' : ` AND ${ACCEPTED}`} ORDER BY g.at DESC LIMIT 1)`,
    values: sought.found ? of : [...of, ...of, sought.before],
  };
}

/** All that is asked for in one statement, the newest first: of items and tests everything, of a mix or source what counts at a moment. */
export async function giftsWhere(cx: Cx, sought: readonly Sought[]): Promise<FoundGift[]> {
  const parts = sought.filter((s) => !('itemIds' in s && s.itemIds.length === 0) && !('testIds' in s && s.testIds.length === 0)).map(part);
  if (parts.length === 0) return [];
  const rows = await select<GiftRow>(
    cx,
    parts.map((p) => p.sql).join(' UNION '),
    parts.flatMap((p) => p.values),
  );
  return rows
    .map((row) => ({
      itemId: row.item_id,
      source: row.source,
      testId: row.test_id,
      subjectId: row.subject_id,
      method: row.method,
      at: row.at,
      text: row.value_text,
      unit: row.unit,
      code: row.code,
    }))
    .sort((a, b) => b.at.getTime() - a.at.getTime());
}

/** Tests of an item, and of all that lies in it, that give something to others. */
export const giversIn = async (cx: Cx, itemId: string): Promise<{ testId: string; itemId: string }[]> =>
  (
    await select<{ test_id: string; item_id: string }>(
      cx,
      `WITH RECURSIVE down AS (
         SELECT id FROM item WHERE id = ? UNION ALL SELECT below.id FROM item below JOIN down ON below.parent_id = down.id
       ) SELECT DISTINCT g.test_id, g.item_id FROM down JOIN gift g ON g.item_id = down.id`,
      [itemId],
    )
  ).map((row) => ({ testId: row.test_id, itemId: row.item_id }));
