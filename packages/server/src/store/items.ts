import type { Item } from '@keen-mortar/contract';
import { ITEM_KIND_IDS, type ItemKind } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { change, insert, select, selectOne, type Cx } from '../db.js';
import { notFound } from '../problems.js';
import { countOf } from './projects.js';

interface ItemRow {
  id: string;
  project_id: string;
  kind: ItemKind;
  parent_id: string | null;
  number: number;
  code: string;
  subject_id: string | null;
  revision_id: string | null;
  person_id: string;
  name: string | null;
  day: string;
  at: Date;
  facts: string;
  answered: string;
  voided: number;
  children: number;
  samples: number;
  outs: number;
  worst: string | null;
  parent_code?: string | null;
}

const COLUMNS =
  'i.id, i.project_id, i.kind, i.parent_id, i.number, i.code, i.subject_id, i.revision_id, i.person_id, i.name, i.day, i.at, i.facts, i.answered, i.voided, i.children, i.samples, i.outs, i.worst';

const item = (row: ItemRow): Item => ({
  id: row.id,
  kind: row.kind,
  projectId: row.project_id,
  parentId: row.parent_id,
  number: row.number,
  code: row.code,
  name: row.name,
  on: row.day,
  at: row.at.toISOString(),
  by: row.person_id,
  subjectId: row.subject_id,
  revisionId: row.revision_id,
  facts: JSON.parse(row.facts) as Item['facts'],
  answered: JSON.parse(row.answered) as string[],
  voided: row.voided === 1,
  children: row.children,
  samples: row.samples,
  outs: row.outs,
  worst: row.worst,
  ...(row.parent_code ? { parentCode: row.parent_code } : {}),
});

/** An item and all that it lies in, the top first. */
export async function lineOf(cx: Cx, id: string): Promise<Item[]> {
  const rows = await select<ItemRow>(
    cx,
    `WITH RECURSIVE up AS (
       SELECT id, parent_id, 0 AS height FROM item WHERE id = ?
       UNION ALL SELECT above.id, above.parent_id, up.height + 1 FROM item above JOIN up ON above.id = up.parent_id
     ) SELECT ${COLUMNS} FROM up JOIN item i ON i.id = up.id ORDER BY up.height DESC`,
    [id],
  );
  if (rows.length === 0) throw notFound('item', id);
  return rows.map(item);
}

/**
 * Nobody else changes anything on the item's line until this transaction ends: what is derived of it is made from all of its
 * entries, and of several tests together. It writes, so that it holds between the nodes of a cluster as well.
 * @returns whether there is such an item
 */
export const lockLine = async (cx: PoolConnection, id: string): Promise<boolean> =>
  (await change(cx, 'UPDATE item head JOIN item i ON i.line_id = head.id SET head.writes = head.writes + 1 WHERE i.id = ?', [id]))
    .affectedRows > 0;

export async function itemOf(cx: Cx, id: string, kind?: ItemKind): Promise<Item> {
  const row = await selectOne<ItemRow>(cx, `SELECT ${COLUMNS} FROM item i WHERE i.id = ?`, [id]);
  if (!row || (kind !== undefined && row.kind !== kind)) throw notFound(kind ?? 'item', id);
  return item(row);
}

export const itemsNamed = async (cx: Cx, ids: readonly string[]): Promise<Item[]> =>
  ids.length === 0 ? [] : (await select<ItemRow>(cx, `SELECT ${COLUMNS} FROM item i WHERE i.id IN (?)`, [ids])).map(item);

export async function childrenOf(cx: Cx, parentIds: readonly string[]): Promise<Item[]> {
  if (parentIds.length === 0) return [];
  return (await select<ItemRow>(cx, `SELECT ${COLUMNS} FROM item i WHERE i.parent_id IN (?) ORDER BY i.kind, i.number`, [parentIds])).map(
    item,
  );
}

/** All that lies in an item and in what lies in it, what was taken back left out. */
export const allIn = async (cx: Cx, itemId: string, most: number): Promise<Item[]> =>
  (
    await select<ItemRow>(
      cx,
      `WITH RECURSIVE down AS (
         SELECT id FROM item WHERE parent_id = ? AND NOT voided
         UNION ALL SELECT below.id FROM item below JOIN down ON below.parent_id = down.id WHERE NOT below.voided
       ) SELECT ${COLUMNS} FROM item i JOIN down ON down.id = i.id ORDER BY i.at, i.number LIMIT ?`,
      [itemId, most],
    )
  ).map(item);

/** Sources of a project by their names; more than these nobody tells apart by name. */
export const sourcesNamed = (cx: Cx, projectId: string): Promise<{ id: string; name: string }[]> =>
  select<{ id: string; name: string }>(
    cx,
    "SELECT id, code AS name FROM item WHERE project_id = ? AND kind = 'source' AND NOT voided ORDER BY number LIMIT 5000",
    [projectId],
  );

/** Everything on a line: its head, and what lies in that. */
/** The revision of its mix that holds for the head of a line by now: another than its own where one was keyed afterwards. */
const HOLDS = `IF(i.id = i.line_id AND i.revision_id IS NOT NULL, (SELECT r.id FROM mix_revision r
  WHERE r.mix_id = i.subject_id AND r.effective_from <= i.at ORDER BY r.effective_from DESC, r.number DESC LIMIT 1), NULL) AS holds_id`;

/** All that is on a line. */
export async function itemsOnLine(cx: Cx, lineId: string): Promise<{ readonly items: Item[]; readonly holdsId: string | null }> {
  const rows = await select<ItemRow & { holds_id: string | null }>(
    cx,
    `SELECT ${COLUMNS}, ${HOLDS} FROM item i WHERE i.line_id = ? ORDER BY i.kind, i.number`,
    [lineId],
  );
  return { items: rows.map(item), holdsId: rows.find((row) => row.id === lineId)?.holds_id ?? null };
}

/** Lines in the one order in which everybody comes by them: the oldest first. Who waits for a later one holds none that comes after it. */
export const inLineOrder = async (cx: Cx, lineIds: readonly string[]): Promise<string[]> =>
  lineIds.length < 2
    ? [...lineIds]
    : (await select<{ id: string }>(cx, 'SELECT id FROM item WHERE id IN (?) ORDER BY at, id', [lineIds])).map((row) => row.id);

/** Lines of what a mix or a source was made into from a moment on. */
export const linesSince = async (cx: Cx, subjectId: string, from: Date): Promise<string[]> =>
  (
    await select<{ id: string }>(cx, 'SELECT id FROM item WHERE subject_id = ? AND line_id = id AND at >= ? LIMIT 20000', [subjectId, from])
  ).map((row) => row.id);

/** Of each of some items its own id and those of all that it lies in, up to the head of its line. */
export async function pathsOnLine(cx: Cx, itemIds: readonly string[]): Promise<Map<string, string[]>> {
  if (itemIds.length === 0) return new Map();
  const rows = await select<{ own: string; id: string }>(
    cx,
    `WITH RECURSIVE up AS (
       SELECT id AS own, id, parent_id, line_id FROM item WHERE id IN (?)
       UNION ALL SELECT up.own, above.id, above.parent_id, above.line_id FROM item above
         JOIN up ON above.id = up.parent_id AND above.line_id = up.line_id
     ) SELECT own, id FROM up`,
    [itemIds],
  );
  const paths = new Map<string, string[]>();
  for (const { own, id } of rows) paths.set(own, [...(paths.get(own) ?? []), id]);
  return paths;
}

/** Lines that begin in an item: loads of a pour. */
export const linesIn = async (cx: Cx, parentId: string): Promise<string[]> =>
  (await select<{ id: string }>(cx, 'SELECT id FROM item WHERE parent_id = ? AND line_id = id', [parentId])).map((row) => row.id);

/** Tanks and moist rooms by what they are called; all of them for null. */
export const storageNamed = async (cx: Cx, projectId: string, codes: readonly string[]): Promise<Item[]> =>
  codes.length === 0
    ? []
    : (
        await select<ItemRow>(
          cx,
          `SELECT ${COLUMNS} FROM item i WHERE i.project_id = ? AND i.kind = 'storage' AND i.code IN (?) AND NOT i.voided LIMIT 40`,
          [projectId, codes],
        )
      ).map(item);

/** Lines of the sets that were molded since a day and say that they lie in a tank. */
export const linesInTank = async (cx: Cx, projectId: string, code: string, since: string): Promise<string[]> =>
  (
    await select<{ line_id: string }>(
      cx,
      `SELECT DISTINCT line_id FROM item WHERE project_id = ? AND kind = 'specimen-set' AND day >= ? AND JSON_VALUE(facts, '$.tank') = ?`,
      [projectId, since, code],
    )
  ).map((row) => row.line_id);

/** An item by the code that people say, of some kind where it has to be; undefined where there is none, or it was voided. */
export const itemCoded = async (cx: Cx, projectId: string, code: string, kind?: ItemKind): Promise<string | undefined> =>
  (
    await selectOne<{ id: string }>(cx, 'SELECT id FROM item WHERE project_id = ? AND kind IN (?) AND code = ? AND NOT voided LIMIT 1', [
      projectId,
      kind === undefined ? ITEM_KIND_IDS : [kind],
      code,
    ])
  )?.id;

/** The newest that lie in an item and were made before a moment. */
export const newestIn = async (cx: Cx, parentId: string, before: Date, most: number): Promise<Item[]> =>
  (
    await select<ItemRow>(cx, `SELECT ${COLUMNS} FROM item i WHERE i.parent_id = ? AND i.at <= ? ORDER BY i.number DESC LIMIT ?`, [
      parentId,
      before,
      most,
    ])
  ).map(item);

/** The newest item of a kind of each of some mixes or sources, those taken back left out. */
export const newestOfSubjects = async (cx: Cx, kind: ItemKind, subjectIds: readonly string[]): Promise<Item[]> =>
  subjectIds.length === 0
    ? []
    : (
        await select<ItemRow>(
          cx,
          `SELECT ${COLUMNS} FROM item i WHERE i.kind = ? AND i.subject_id IN (?) AND NOT i.voided AND NOT EXISTS (
             SELECT 1 FROM item n WHERE n.kind = i.kind AND n.subject_id = i.subject_id AND NOT n.voided AND n.number > i.number)`,
          [kind, subjectIds],
        )
      ).map(item);

/** Items of a kind, the newest first: a page, and how many there are. */
export async function itemsOf(
  cx: Cx,
  projectId: string,
  kind: ItemKind,
  offset: number,
  limit: number,
  begins?: string,
): Promise<{ items: Item[]; total: number }> {
  // A code or a name as people key it: its first letters, whatever their case. One index each.
  const like = begins === undefined ? undefined : `${begins.replace(/[\\%_]/g, '\\$&')}%`;
  const rows = await select<ItemRow>(
    cx,
    `SELECT ${COLUMNS}, p.code AS parent_code FROM item i LEFT JOIN item p ON p.id = i.parent_id
     WHERE i.project_id = ? AND i.kind = ?${like === undefined ? '' : ' AND (i.code LIKE ? OR i.name LIKE ?)'} ORDER BY i.day DESC, i.number DESC, i.id DESC LIMIT ? OFFSET ?`,
    [projectId, kind, ...(like === undefined ? [] : [like, like]), limit, offset],
  );
  return { items: rows.map(item), total: await howMany(cx, projectId, kind, like) };
}

/** What is numbered in the project was counted when it was made; what is numbered in something else is counted now. */
async function howMany(cx: Cx, projectId: string, kind: ItemKind, like?: string): Promise<number> {
  if (like !== undefined)
    return countOf(cx, 'item', 'project_id = ? AND kind = ? AND (code LIKE ? OR name LIKE ?)', [projectId, kind, like, like]);
  const made = await selectOne<{ n: number }>(cx, 'SELECT last AS n FROM counter WHERE scope_id = ? AND kind = ?', [projectId, kind]);
  if (made) return Number(made.n);
  return Number(
    (await selectOne<{ n: number }>(cx, 'SELECT COUNT(*) AS n FROM item WHERE project_id = ? AND kind = ?', [projectId, kind]))!.n,
  );
}

/** Those of some items that were made after a moment. */
export async function madeAfter(cx: Cx, ids: readonly string[], at: Date): Promise<Set<string>> {
  const rows = ids.length === 0 ? [] : await select<{ id: string }>(cx, 'SELECT id FROM item WHERE id IN (?) AND made_at > ?', [ids, at]);
  return new Set(rows.map((r) => r.id));
}

/** Takes the next number of a kind in its scope; two that take one at once wait for each other. */
export async function nextNumber(cx: PoolConnection, scopeId: string, kind: ItemKind | 'report' | 'device'): Promise<number> {
  await change(
    cx,
    'INSERT INTO counter (scope_id, kind, last) VALUES (?, ?, LAST_INSERT_ID(1)) ON DUPLICATE KEY UPDATE last = LAST_INSERT_ID(last + 1)',
    [scopeId, kind],
  );
  return Number((await selectOne<{ n: number }>(cx, 'SELECT LAST_INSERT_ID() AS n'))!.n);
}

/** A number that people gave: what is counted goes on after it. */
export async function numberTaken(cx: PoolConnection, scopeId: string, kind: ItemKind, number: number): Promise<void> {
  await change(
    cx,
    'INSERT INTO counter (scope_id, kind, last) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE last = GREATEST(last, VALUES(last))',
    [scopeId, kind, number],
  );
}

export const insertItem = (
  cx: PoolConnection,
  scopeId: string,
  made: Pick<
    Item,
    'id' | 'kind' | 'projectId' | 'parentId' | 'number' | 'code' | 'subjectId' | 'revisionId' | 'by' | 'name' | 'on' | 'facts'
  > & {
    readonly lineId: string;
    readonly at: Date;
    readonly madeAt: Date;
  },
): Promise<number> =>
  insert(cx, 'item', {
    id: made.id,
    project_id: made.projectId,
    kind: made.kind,
    parent_id: made.parentId,
    line_id: made.lineId,
    scope_id: scopeId,
    number: made.number,
    code: made.code,
    subject_id: made.subjectId,
    revision_id: made.revisionId,
    person_id: made.by,
    made_at: made.madeAt,
    name: made.name,
    day: made.on,
    at: made.at,
    facts: JSON.stringify(made.facts),
  });

/** What its entries say now. */
export const setFacts = (
  cx: PoolConnection,
  id: string,
  now: Pick<Item, 'name' | 'on' | 'facts' | 'answered' | 'revisionId'> & { readonly at: Date },
): Promise<unknown> =>
  change(cx, 'UPDATE item SET name = ?, day = ?, at = ?, facts = ?, answered = ?, revision_id = ? WHERE id = ?', [
    now.name,
    now.on,
    now.at,
    JSON.stringify(now.facts),
    JSON.stringify(now.answered),
    now.revisionId,
    id,
  ]);

export const setVoided = (cx: PoolConnection, id: string, voided: boolean): Promise<unknown> =>
  change(cx, 'UPDATE item SET voided = ? WHERE id = ?', [voided, id]);

export const setWorst = (cx: PoolConnection, id: string, worst: string | null): Promise<unknown> =>
  change(cx, 'UPDATE item SET worst = ? WHERE id = ?', [worst, id]);

/** Something new lies in it. */
export const addToCounts = (cx: PoolConnection, id: string, by: { children?: number; samples?: number }): Promise<unknown> =>
  change(cx, 'UPDATE item SET children = children + ?, samples = samples + ? WHERE id = ?', [by.children ?? 0, by.samples ?? 0, id]);

/**
 * What an item lies in is counted again, from below: how much is in it, and how much of that has something out.
 * Each is locked before it is counted, so that two who change at once below it count one after the other.
 */
export async function recountAbove(cx: PoolConnection, line: readonly Pick<Item, 'id'>[]): Promise<void> {
  for (const { id } of line.slice(0, -1).reverse()) {
    await lockLine(cx, id);
    const counted = await selectOne<{ children: number; samples: number; outs: number }>(
      cx,
      `SELECT COUNT(*) AS children, COALESCE(SUM(c.samples + (c.kind = 'sample')), 0) AS samples,
         COALESCE(SUM(c.worst = 'out' OR c.outs > 0), 0) AS outs
       FROM item c WHERE c.parent_id = ? AND NOT c.voided`,
      [id],
    );
    const { children, samples, outs } = counted!;
    await change(cx, 'UPDATE item SET children = ?, samples = ?, outs = ? WHERE id = ?', [children, samples, outs, id]);
  }
}
