import type { Accepted, Look, NewAcceptance, NewLook } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { insert, select, selectOne, type Cx } from '../db.js';

/* Which values of a source count for what stands on it, and who looked at what stands on others. */

export const insertAcceptance = (cx: PoolConnection, act: Act, itemId: string, body: NewAcceptance): Promise<number> =>
  insert(cx, 'acceptance', {
    id: body.id,
    item_id: itemId,
    test_id: body.testId,
    from_at: new Date(body.from),
    why: body.why ?? null,
    person_id: act.personId,
    made_at: act.now,
  });

/** How what a test found of a source came to count at a moment; null where nobody took it over. */
export async function acceptedOf(cx: Cx, itemId: string, testId: string, at: Date): Promise<Accepted | null> {
  const row = await selectOne<{ test_id: string; from_at: Date; why: string | null; person_id: string }>(
    cx,
    `SELECT test_id, from_at, why, person_id FROM acceptance WHERE item_id = ? AND test_id = ? AND from_at <= ?
     ORDER BY from_at DESC, made_at DESC LIMIT 1`,
    [itemId, testId, at],
  );
  return row === undefined ? null : { testId: row.test_id, from: row.from_at.toISOString(), why: row.why, by: row.person_id };
}

/** Tests of a source that somebody took over for what stands on it, with when each was made. */
export const takenOver = (cx: Cx, sourceId: string): Promise<{ testId: string; at: Date }[]> =>
  select<{ testId: string; at: Date }>(
    cx,
    'SELECT DISTINCT a.test_id AS testId, t.started_at AS at FROM acceptance a JOIN test t ON t.id = a.test_id WHERE a.item_id = ?',
    [sourceId],
  );

export const insertLook = (cx: PoolConnection, act: Act, mixId: string, body: NewLook): Promise<number> =>
  insert(cx, 'mix_look', {
    id: body.id,
    mix_id: mixId,
    test_id: body.testId,
    why: body.why,
    person_id: act.personId,
    made_at: act.now,
  });

/** Who looked at what some mixes stand on. */
export async function looksAt(cx: Cx, mixIds: readonly string[]): Promise<Map<string, Look[]>> {
  if (mixIds.length === 0) return new Map();
  const rows = await select<{ mix_id: string; test_id: string; why: string; person_id: string; made_at: Date }>(
    cx,
    'SELECT mix_id, test_id, why, person_id, made_at FROM mix_look WHERE mix_id IN (?) ORDER BY made_at',
    [mixIds],
  );
  const looks = new Map<string, Look[]>(mixIds.map((id) => [id, []]));
  for (const r of rows) looks.get(r.mix_id)!.push({ testId: r.test_id, by: r.person_id, at: r.made_at.toISOString(), why: r.why });
  return looks;
}
