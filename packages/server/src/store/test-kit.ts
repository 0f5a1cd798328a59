import type { Equipment, KitTest, Page } from '@keen-mortar/contract';
import type { UnitId } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { insertAll, select, type Cx } from '../db.js';
import { foundWrong, kitAsOf, worn, WORN_KINDS, type WrongRow } from './kit.js';
import { countOf } from './projects.js';

/** What a test was made with: the equipment of then, and whether it was found wrong later. */
export async function kitOfTests(cx: Cx, testIds: readonly string[]): Promise<Map<string, Equipment[]>> {
  if (testIds.length === 0) return new Map();
  const rows = await select<{ test_id: string; calibration_id: string | null; used: number } & Partial<WrongRow> & { owner: string }>(
    cx,
    `SELECT k.test_id, k.equipment_id AS owner, k.calibration_id, f.found_on, f.why, k.at <= f.found_at AS later,
       IF(q.kind IN (?), (SELECT COUNT(*) FROM test_kit o WHERE o.equipment_id = k.equipment_id
         AND (o.at < k.at OR (o.at = k.at AND o.test_id <= k.test_id))), 0) AS used
     FROM test_kit k JOIN equipment q ON q.id = k.equipment_id
     LEFT JOIN calibration c ON c.id = k.calibration_id
     LEFT JOIN kit_finding f ON f.equipment_id = k.equipment_id AND f.since_at <= k.at
       AND (k.at <= f.found_at OR c.made_at IS NULL OR c.made_at <= f.found_at)
     WHERE k.test_id IN (?) ORDER BY k.test_id, f.found_at DESC`,
    [WORN_KINDS, testIds],
  );
  const found = new Map<string, Equipment[]>();
  for (const row of rows) {
    const all = found.get(row.test_id) ?? [];
    // Found wrong more than once: the newest is said.
    if (all.some((k) => k.id === row.owner)) continue;
    const kit = worn(await kitAsOf(cx, row.owner, row.calibration_id), Number(row.used), 0);
    found.set(row.test_id, [...all, row.found_on ? { ...kit, wrong: foundWrong(row as WrongRow) } : kit]);
  }
  return found;
}

/** Which equipment tests were made with, the main one first. */
export async function kitIdsOf(cx: Cx, testIds: readonly string[]): Promise<Map<string, string[]>> {
  const found = new Map<string, string[]>(testIds.map((id) => [id, []]));
  if (testIds.length === 0) return found;
  const rows = await select<{ test_id: string; equipment_id: string }>(
    cx,
    'SELECT test_id, equipment_id FROM test_kit WHERE test_id IN (?)',
    [testIds],
  );
  for (const row of rows) found.get(row.test_id)!.push(row.equipment_id);
  return found;
}

/** What was used on some items, whatever the test. */
export async function kitOfItems(cx: Cx, itemIds: readonly string[]): Promise<Map<string, string[]>> {
  const found = new Map<string, string[]>(itemIds.map((id) => [id, []]));
  if (itemIds.length === 0) return found;
  const rows = await select<{ item_id: string; equipment_id: string }>(
    cx,
    'SELECT DISTINCT t.item_id, k.equipment_id FROM test t JOIN test_kit k ON k.test_id = t.id WHERE t.item_id IN (?)',
    [itemIds],
  );
  for (const row of rows) found.get(row.item_id)!.push(row.equipment_id);
  return found;
}

export const insertTestKit = (
  cx: PoolConnection,
  testId: string,
  at: Date,
  kit: readonly { id: string; calibrationId: string | null }[],
): Promise<void> =>
  insertAll(
    cx,
    'test_kit',
    kit.map(({ id, calibrationId }) => ({ test_id: testId, equipment_id: id, calibration_id: calibrationId, at })),
  );

/** A test that was made with an instrument, with what stands of it. */
export interface TestWith extends Pick<KitTest, 'testId' | 'itemId' | 'code' | 'method' | 'startedAt'> {
  readonly standing: readonly { readonly result: string; readonly reported: string; readonly unit: UnitId; readonly state: string }[];
}

/** Tests that were made with an instrument in a time, the newest first. */
export async function testsWith(
  cx: Cx,
  equipmentId: string,
  { since, until }: { readonly since: Date; readonly until: Date },
  offset: number,
  limit: number,
): Promise<Page<TestWith>> {
  const rows = await select<{ id: string; item_id: string; code: string; method: string; started_at: Date }>(
    cx,
    `SELECT t.id, t.item_id, i.code, t.method, t.started_at FROM test_kit k JOIN test t ON t.id = k.test_id JOIN item i ON i.id = t.item_id
     WHERE k.equipment_id = ? AND k.at >= ? AND k.at <= ? ORDER BY k.at DESC, k.test_id DESC LIMIT ? OFFSET ?`,
    [equipmentId, since, until, limit, offset],
  );
  const standing =
    rows.length === 0
      ? []
      : await select<{ test_id: string; result: string; reported_text: string; unit: UnitId; state: string }>(
          cx,
          'SELECT test_id, result, reported_text, unit, state FROM standing WHERE (item_id, test_id) IN (?) AND reported_text IS NOT NULL',
          [rows.map((row) => [row.item_id, row.id])],
        );
  return {
    items: rows.map((row) => ({
      testId: row.id,
      itemId: row.item_id,
      code: row.code,
      method: row.method,
      startedAt: row.started_at.toISOString(),
      standing: standing
        .filter((s) => s.test_id === row.id)
        .map((s) => ({ result: s.result, reported: s.reported_text, unit: s.unit, state: s.state })),
    })),
    total: await countOf(cx, 'test_kit', 'equipment_id = ? AND at >= ? AND at <= ?', [equipmentId, since, until]),
  };
}
