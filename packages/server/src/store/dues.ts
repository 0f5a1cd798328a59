import type { AnyInputs, Due, ItemKind } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { change, insertAll, select, selectOne, type Cx } from '../db.js';

/** What an item waits for is made again. */
export async function setDues(cx: PoolConnection, projectId: string, itemId: string, brief: boolean, dues: readonly Due[]): Promise<void> {
  await change(cx, 'DELETE FROM due WHERE item_id = ?', [itemId]);
  await insertAll(
    cx,
    'due',
    dues.map((d) => ({
      item_id: itemId,
      due: d.id,
      project_id: projectId,
      brief,
      opens_at: new Date(d.opensAt),
      ends_at: d.endsAt === null ? null : new Date(d.endsAt),
      by_at: new Date(d.endsAt ?? d.opensAt),
      done_at: d.doneAt === null ? null : new Date(d.doneAt),
    })),
  );
}

/** A test that an item waits for was begun; the first time counts. */
export const beginDue = (cx: PoolConnection, itemId: string, due: string, at: Date): Promise<unknown> =>
  change(cx, 'UPDATE due SET done_at = LEAST(COALESCE(done_at, ?), ?) WHERE item_id = ? AND due = ?', [at, at, itemId, due]);

/** A due with its item, and what was planned of it last. */
export interface DueRow {
  readonly itemId: string;
  readonly due: string;
  readonly opensAt: Date;
  readonly endsAt: Date | null;
  readonly doneAt: Date | null;
  readonly kind: ItemKind;
  readonly code: string;
  readonly facts: AnyInputs;
  readonly personId: string;
  readonly parentId: string | null;
  readonly plannedAt: Date | null;
  readonly whoId: string | null;
}

interface Row {
  item_id: string;
  due: string;
  opens_at: Date;
  ends_at: Date | null;
  done_at: Date | null;
  kind: ItemKind;
  code: string;
  facts: string;
  person_id: string;
  parent_id: string | null;
  planned_at: Date | null;
  who_id: string | null;
}

const SELECTED = `SELECT d.item_id, d.due, d.opens_at, d.ends_at, d.done_at, i.kind, i.code, i.facts, i.person_id, i.parent_id,
    n.at AS planned_at, n.who_id
  FROM due d JOIN item i ON i.id = d.item_id LEFT JOIN item p ON p.id = i.parent_id
  LEFT JOIN planned n ON n.item_id = d.item_id AND n.due = d.due
    AND NOT EXISTS (SELECT 1 FROM planned l WHERE l.item_id = n.item_id AND l.due = n.due
      AND (l.made_at > n.made_at OR (l.made_at = n.made_at AND l.id > n.id)))
  WHERE d.project_id = ? AND NOT i.voided AND NOT COALESCE(p.voided, FALSE)`;

const dueRow = (row: Row): DueRow => ({
  itemId: row.item_id,
  due: row.due,
  opensAt: row.opens_at,
  endsAt: row.ends_at,
  doneAt: row.done_at,
  kind: row.kind,
  code: row.code,
  facts: JSON.parse(row.facts) as AnyInputs,
  personId: row.person_id,
  parentId: row.parent_id,
  plannedAt: row.planned_at,
  whoId: row.who_id,
});

/** What is not done and ends within some time, the soonest first. `brief`: of fresh concrete, or all else. */
export const duesWithin = async (
  cx: Cx,
  projectId: string,
  brief: boolean,
  within: { from: Date; to: Date },
  most: number,
): Promise<DueRow[]> =>
  (
    await select<Row>(
      cx,
      `${SELECTED} AND d.brief = ? AND d.done_at IS NULL AND d.by_at >= ? AND d.by_at < ? ORDER BY d.by_at, i.code LIMIT ?`,
      [projectId, brief, within.from, within.to, most],
    )
  ).map(dueRow);

/** Breaks that are not done and end within some time, the soonest first. */
export const breaksWithin = async (cx: Cx, projectId: string, within: { from: Date; to: Date }, most: number): Promise<DueRow[]> =>
  (
    await select<Row>(
      cx,
      `${SELECTED} AND d.brief = FALSE AND d.due = 'break' AND d.done_at IS NULL AND d.by_at >= ? AND d.by_at < ? ORDER BY d.by_at, i.code LIMIT ?`,
      [projectId, within.from, within.to, most],
    )
  ).map(dueRow);

/** Breaks of some sets that are still to come. */
export const breaksToCome = async (cx: Cx, setIds: readonly string[]): Promise<Pick<DueRow, 'code' | 'facts' | 'opensAt' | 'endsAt'>[]> =>
  setIds.length === 0
    ? []
    : (
        await select<{ code: string; facts: string; opens_at: Date; ends_at: Date | null }>(
          cx,
          `SELECT i.code, i.facts, d.opens_at, d.ends_at FROM due d JOIN item i ON i.id = d.item_id
           WHERE i.parent_id IN (?) AND d.due = 'break' AND d.done_at IS NULL AND NOT i.voided ORDER BY d.by_at, i.code`,
          [setIds],
        )
      ).map((r) => ({ code: r.code, facts: JSON.parse(r.facts) as AnyInputs, opensAt: r.opens_at, endsAt: r.ends_at }));

/** What was done since a moment, the newest first. */
export const duesDone = async (cx: Cx, projectId: string, since: Date, most: number): Promise<DueRow[]> =>
  (await select<Row>(cx, `${SELECTED} AND d.done_at >= ? ORDER BY d.done_at DESC, i.code LIMIT ?`, [projectId, since, most])).map(dueRow);

/** Items that wait for a step of a run, or had one done since a moment. */
export const itemsInRuns = async (cx: Cx, projectId: string, since: Date, most: number): Promise<string[]> =>
  (
    await select<{ id: string; by_at: Date }>(
      cx,
      `SELECT id, MIN(by_at) AS by_at FROM (
         SELECT d.item_id AS id, d.by_at FROM due d WHERE d.project_id = ? AND d.brief = FALSE AND d.done_at IS NULL AND d.due LIKE 'run:%'
         UNION ALL SELECT d.item_id, d.by_at FROM due d WHERE d.project_id = ? AND d.done_at >= ? AND d.due LIKE 'run:%'
       ) AS some GROUP BY id ORDER BY by_at, id LIMIT ?`,
      [projectId, projectId, since, most],
    )
  ).map((row) => row.id);

/** How much ended before a moment and was never done; counted so far. */
export async function duesLeft(cx: Cx, projectId: string, before: Date, most: number): Promise<number> {
  const row = await selectOne<{ n: number }>(
    cx,
    `SELECT COUNT(*) AS n FROM (SELECT 1 FROM due d JOIN item i ON i.id = d.item_id
       WHERE d.project_id = ? AND d.brief = FALSE AND d.done_at IS NULL AND d.by_at < ? AND NOT i.voided LIMIT ?) AS some`,
    [projectId, before, most],
  );
  return Number(row?.n ?? 0);
}

export const dueThere = async (cx: Cx, itemIds: readonly string[], due: string): Promise<Set<string>> =>
  new Set(
    (await select<{ item_id: string }>(cx, 'SELECT item_id FROM due WHERE item_id IN (?) AND due = ?', [itemIds, due])).map(
      (r) => r.item_id,
    ),
  );

export const insertPlanned = (
  cx: PoolConnection,
  planned: { id: string; itemIds: readonly string[]; due: string; at: Date | null; who: string | null; by: string; now: Date },
): Promise<void> =>
  insertAll(
    cx,
    'planned',
    planned.itemIds.map((itemId) => ({
      id: planned.id,
      item_id: itemId,
      due: planned.due,
      at: planned.at,
      who_id: planned.who,
      person_id: planned.by,
      made_at: planned.now,
    })),
  );
