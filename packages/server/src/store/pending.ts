import type { PoolConnection } from 'mysql2/promise';
import { change, select, selectOne, type Cx } from '../db.js';

/** Why tests are worked out again, and for whom. */
export interface Waiting {
  readonly usedId: string;
  /** The item that it is, or that it is of. */
  readonly usedItemId: string;
  readonly cause: string;
  readonly causeId: string;
  readonly personId: string;
}

/** Tests that are worked out again: where they are read from, `t` being the test. */
export interface Chosen {
  readonly from: string;
  readonly values: readonly unknown[];
}

/** Those whose newest evaluation used something: of some methods, or of all. */
export const stoodOn = (usedId: string, methods: readonly string[] | null): Chosen => ({
  from: `FROM stood_on s JOIN test t ON t.id = s.test_id WHERE s.used_id = ?${methods ? ' AND t.method IN (?)' : ''}`,
  values: [usedId, ...(methods ? [methods] : [])],
});

/** Those that were made with an instrument from a moment to another. */
export const madeWith = (equipmentId: string, since: Date, until: Date): Chosen => ({
  from: 'FROM test_kit k JOIN test t ON t.id = k.test_id WHERE k.equipment_id = ? AND k.at >= ? AND k.at <= ?',
  values: [equipmentId, since, until],
});

/** So many of them at the most, with the items that they are of. */
export const chosenTests = async (cx: Cx, { from, values }: Chosen, most: number): Promise<{ testId: string; itemId: string }[]> =>
  (await select<{ id: string; item_id: string }>(cx, `SELECT t.id, t.item_id ${from} LIMIT ?`, [...values, most])).map((row) => ({
    testId: row.id,
    itemId: row.item_id,
  }));

/** All of them wait to be worked out again; what waits already waits once. */
export async function postpone(cx: PoolConnection, w: Waiting, { from, values }: Chosen): Promise<void> {
  const many = await selectOne<{ n: number }>(cx, `SELECT COUNT(*) AS n ${from}`, values);
  await change(
    cx,
    `INSERT INTO pending (test_id, item_id, used_id, used_item_id, cause, cause_id, person_id, batch)
     SELECT t.id, t.item_id, ?, ?, ?, ?, ?, ? ${from}
     ON DUPLICATE KEY UPDATE used_id = VALUES(used_id), used_item_id = VALUES(used_item_id), cause = VALUES(cause), cause_id = VALUES(cause_id), person_id = VALUES(person_id), batch = VALUES(batch)`,
    [w.usedId, w.usedItemId, w.cause, w.causeId, w.personId, Number(many!.n), ...values],
  );
}

export interface Postponed extends Omit<Waiting, 'usedItemId'> {
  readonly itemId: string;
  readonly testIds: readonly string[];
}

interface PendingRow {
  test_id: string;
  item_id: string;
  used_id: string;
  cause: string;
  cause_id: string;
  person_id: string;
}

/** A test that broke so often is for whoever reads the log. */
const TRIES = 5;

/** The next item of which something waits, the one that broke least often first; null where there is none but those named. */
export async function nextPostponed(cx: Cx, but: readonly string[]): Promise<string | null> {
  const found = await selectOne<{ item_id: string }>(
    cx,
    `SELECT item_id FROM pending WHERE tries < ?${but.length > 0 ? ' AND item_id NOT IN (?)' : ''} ORDER BY tries LIMIT 1`,
    [TRIES, ...(but.length > 0 ? [but] : [])],
  );
  return found?.item_id ?? null;
}

/** What waits of an item, locked; null where another server is at it. */
export async function postponedOf(cx: PoolConnection, itemId: string): Promise<Postponed | null> {
  const rows = await select<PendingRow>(
    cx,
    'SELECT test_id, item_id, used_id, cause, cause_id, person_id FROM pending WHERE item_id = ? FOR UPDATE SKIP LOCKED',
    [itemId],
  );
  const one = rows[0];
  if (!one) return null;
  return {
    itemId,
    usedId: one.used_id,
    cause: one.cause,
    causeId: one.cause_id,
    personId: one.person_id,
    testIds: rows.map((row) => row.test_id),
  };
}

/** It could not be worked out: the others come first now. */
export const broke = (cx: Cx, itemId: string): Promise<unknown> =>
  change(cx, 'UPDATE pending SET tries = tries + 1 WHERE item_id = ?', [itemId]);

export const done = (cx: PoolConnection, testIds: readonly string[]): Promise<unknown> =>
  change(cx, 'DELETE FROM pending WHERE test_id IN (?)', [testIds]);

/** What waits where an item is looked at: tests of its own, and those that stood on it or on a test of it. */
export interface WaitingAt {
  readonly own: ReadonlySet<string>;
  /** How many of them are left, and of how many; null where none is. */
  readonly on: { readonly left: number; readonly of: number } | null;
}

export async function waitingAt(cx: Cx, itemId: string): Promise<WaitingAt> {
  const rows = await select<{ test_id: string | null; n: number; batch: number | null }>(
    cx,
    `SELECT test_id, 0 AS n, NULL AS batch FROM pending WHERE item_id = ?
     UNION ALL SELECT NULL, COUNT(*), MAX(batch) FROM pending WHERE used_item_id = ?`,
    [itemId, itemId],
  );
  const counted = rows.find((row) => row.test_id === null);
  return {
    own: new Set(rows.flatMap((row) => row.test_id ?? [])),
    on: counted && Number(counted.n) > 0 ? { left: Number(counted.n), of: Number(counted.batch) } : null,
  };
}
