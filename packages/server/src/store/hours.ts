import type { Hours, NewHours } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { insert, select, type Cx } from '../db.js';

interface Row {
  id: string;
  project_id: string;
  from_day: string;
  to_day: string | null;
  week: string;
  why: string | null;
  person_id: string;
  made_at: Date;
}

/** So many changes of hours count within some weeks; nobody makes as many. */
const MOST = 400;

/** Hours of a project that count on a day or after it, the newest made first. */
export async function hoursFrom(cx: Cx, projectId: string, from: string, to: string): Promise<Hours[]> {
  const rows = await select<Row>(
    cx,
    `SELECT id, project_id, from_day, to_day, week, why, person_id, made_at FROM hours
     WHERE project_id = ? AND from_day <= ? AND (to_day IS NULL OR to_day >= ?) ORDER BY made_at DESC, id DESC LIMIT ?`,
    [projectId, to, from, MOST],
  );
  return rows.map((row) => ({
    id: row.id,
    projectId: row.project_id,
    from: row.from_day,
    ...(row.to_day === null ? {} : { to: row.to_day }),
    week: JSON.parse(row.week) as Hours['week'],
    ...(row.why === null ? {} : { why: row.why }),
    by: row.person_id,
    madeAt: row.made_at.toISOString(),
  }));
}

export const insertHours = (cx: PoolConnection, act: Act, body: NewHours): Promise<number> =>
  insert(cx, 'hours', {
    id: body.id,
    project_id: body.projectId,
    from_day: body.from,
    to_day: body.to ?? null,
    week: JSON.stringify(body.week),
    why: body.why ?? null,
    person_id: act.personId,
    made_at: act.now,
  });
