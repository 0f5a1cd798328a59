import type { NewOwnCopy, OwnCopy, OwnOfTest } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { insert, select, selectOne, type Cx } from '../db.js';
import { notFound } from '../problems.js';
import { unchanging } from './unchanging.js';

interface Row {
  id: string;
  project_id: string;
  method: string;
  variant: string;
  from_at: Date;
  why: string;
  figures: string;
  person_id: string;
  made_at: Date;
}

const COLUMNS = 'o.id, o.project_id, o.method, o.variant, o.from_at, o.why, o.figures, o.person_id, o.made_at';

const ownCopy = (row: Row): OwnCopy => ({
  id: row.id,
  projectId: row.project_id,
  method: row.method,
  variant: row.variant,
  from: row.from_at.toISOString(),
  why: row.why,
  figures: JSON.parse(row.figures) as OwnCopy['figures'],
  by: row.person_id,
  madeAt: row.made_at.toISOString(),
});

/** No lab has as many at once. */
const MOST_IN_FORCE = 500;

/** Those of a project that are in force at a moment, and those to come. */
export async function ownCopiesFrom(cx: Cx, projectId: string, at: Date): Promise<OwnCopy[]> {
  const rows = await select<Row>(
    cx,
    `SELECT ${COLUMNS} FROM own_copy o WHERE o.project_id = ? AND (o.from_at > ? OR NOT EXISTS (
       SELECT 1 FROM own_copy n WHERE n.project_id = o.project_id AND n.method = o.method AND n.variant = o.variant
         AND n.from_at <= ? AND (n.from_at > o.from_at OR (n.from_at = o.from_at AND n.made_at > o.made_at))))
     ORDER BY o.method, o.variant, o.from_at LIMIT ?`,
    [projectId, at, at, MOST_IN_FORCE],
  );
  return rows.map(ownCopy);
}

/** So many of one variant are shown. */
const MOST_OF_ONE = 100;

/** All of one variant, the newest first. */
export async function ownCopiesOf(cx: Cx, projectId: string, method: string, variant: string): Promise<OwnCopy[]> {
  const rows = await select<Row>(
    cx,
    `SELECT ${COLUMNS} FROM own_copy o WHERE o.project_id = ? AND o.method = ? AND o.variant = ?
     ORDER BY o.from_at DESC, o.made_at DESC LIMIT ?`,
    [projectId, method, variant, MOST_OF_ONE],
  );
  return rows.map(ownCopy);
}

/** The one that was in force at a moment, of those that are known; null where there is none. */
export async function ownCopyOn(cx: Cx, projectId: string, method: string, variant: string, at: Date): Promise<OwnOfTest | null> {
  const row = await selectOne<Row>(
    cx,
    `SELECT ${COLUMNS} FROM own_copy o WHERE o.project_id = ? AND o.method = ? AND o.variant = ? AND o.from_at <= ?
     ORDER BY o.from_at DESC, o.made_at DESC LIMIT 1`,
    [projectId, method, variant, at],
  );
  return row ? asOfTest(ownCopy(row)) : null;
}

const asOfTest = ({ id, why, figures }: OwnCopy): OwnOfTest => ({ id, why, figures });

export const ownCopyOf = (cx: Cx, id: string): Promise<OwnCopy> =>
  unchanging('own-copy', id, async () => {
    const row = await selectOne<Row>(cx, `SELECT ${COLUMNS} FROM own_copy o WHERE o.id = ?`, [id]);
    if (!row) throw notFound('own copy', id);
    return ownCopy(row);
  });

export const ownOfTest = async (cx: Cx, id: string | null): Promise<OwnOfTest | null> =>
  id === null ? null : asOfTest(await ownCopyOf(cx, id));

export const insertOwnCopy = (cx: PoolConnection, act: Act, body: NewOwnCopy, from: Date): Promise<number> =>
  insert(cx, 'own_copy', {
    id: body.id,
    project_id: body.projectId,
    method: body.method,
    variant: body.variant,
    from_at: from,
    why: body.why,
    figures: JSON.stringify(body.figures),
    person_id: act.personId,
    made_at: act.now,
  });
