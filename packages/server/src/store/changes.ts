import type { PoolConnection } from 'mysql2/promise';
import { insert, select, type Cx } from '../db.js';

/** One change, as every server hears of it. */
export interface Change {
  readonly seq: number;
  readonly projectId: string | null;
  readonly itemId: string | null;
  /** Ids of the item and of all that it lies in, the top first. */
  readonly line: readonly string[];
  readonly kind: string;
  readonly entityId: string;
  readonly personId: string | null;
  readonly at: Date;
}

export const addChange = (cx: PoolConnection, c: Omit<Change, 'seq'>): Promise<number> =>
  insert(cx, 'change_log', {
    at: c.at,
    project_id: c.projectId,
    item_id: c.itemId,
    line: c.line.length === 0 ? null : c.line.join(' '),
    kind: c.kind,
    entity_id: c.entityId,
    person_id: c.personId,
  });

interface ChangeRow {
  seq: number;
  at: Date;
  project_id: string | null;
  item_id: string | null;
  line: string | null;
  kind: string;
  entity_id: string;
  person_id: string | null;
}

const MOST = 2000;

/** Changes after a number, the oldest first; at most so many at once. */
export async function changesAfter(cx: Cx, seq: number): Promise<Change[]> {
  const rows = await select<ChangeRow>(
    cx,
    'SELECT seq, at, project_id, item_id, line, kind, entity_id, person_id FROM change_log WHERE seq > ? ORDER BY seq LIMIT ?',
    [seq, MOST],
  );
  return rows.map((row) => ({
    seq: Number(row.seq),
    at: row.at,
    projectId: row.project_id,
    itemId: row.item_id,
    line: row.line?.split(' ') ?? [],
    kind: row.kind,
    entityId: row.entity_id,
    personId: row.person_id,
  }));
}

/** The newest number that was given. */
export const newestChange = async (cx: Cx): Promise<number> =>
  Number((await select<{ seq: number | null }>(cx, 'SELECT MAX(seq) AS seq FROM change_log'))[0]?.seq ?? 0);

/** The first number that a change younger than this may have; what is older is settled. */
export const firstSince = async (cx: Cx, seconds: number): Promise<number> =>
  Number(
    (
      await select<{ seq: number | null }>(cx, 'SELECT MIN(seq) AS seq FROM change_log WHERE at >= UTC_TIMESTAMP(3) - INTERVAL ? SECOND', [
        seconds,
      ])
    )[0]?.seq ?? (await newestChange(cx)) + 1,
  );
