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

/** So many at once; more are asked for in turn. */
const AT_ONCE = 2000;

/** Changes after a number, the oldest first. */
export async function* changesAfter(cx: Cx, seq: number): AsyncGenerator<Change> {
  for (let from = seq; ;) {
    const rows = await select<ChangeRow>(
      cx,
      'SELECT seq, at, project_id, item_id, line, kind, entity_id, person_id FROM change_log WHERE seq > ? ORDER BY seq LIMIT ?',
      [from, AT_ONCE],
    );
    for (const row of rows) {
      yield {
        seq: Number(row.seq),
        at: row.at,
        projectId: row.project_id,
        itemId: row.item_id,
        line: row.line?.split(' ') ?? [],
        kind: row.kind,
        entityId: row.entity_id,
        personId: row.person_id,
      };
    }
    if (rows.length < AT_ONCE) return;
    from = Number(rows.at(-1)!.seq);
  }
}

/** The last number before which nothing younger than so many seconds lies: what is up to it will not grow any more. */
export async function settledBefore(cx: Cx, seconds: number): Promise<number> {
  const young = await select<{ seq: number | null }>(
    cx,
    'SELECT MIN(seq) AS seq FROM change_log WHERE at >= UTC_TIMESTAMP(3) - INTERVAL ? SECOND',
    [seconds],
  );
  const seq = young[0]?.seq ?? null;
  if (seq !== null) return Number(seq) - 1;
  return Number((await select<{ seq: number | null }>(cx, 'SELECT MAX(seq) AS seq FROM change_log'))[0]?.seq ?? 0);
}
