import type { DecisionView, NewDecision, Page } from '@keen-mortar/contract';
import type { DecisionId } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { insert, select, type Cx } from '../db.js';
import { countOf } from './projects.js';

interface DecisionRow {
  id: string;
  subject_id: string;
  finding: string;
  part: string;
  decided: DecisionId;
  person: string | null;
  who_name: string | null;
  firm: string | null;
  why: string;
  paper: string | null;
  decided_at: Date;
  person_id: string;
  made_at: Date;
  withdrawn: string | null;
}

const SELECTED = `SELECT d.id, d.subject_id, d.finding, d.part, d.decided, p.name AS person, d.who_name, d.firm, d.why, d.paper, d.decided_at,
    d.person_id, d.made_at, w.why AS withdrawn
  FROM decision d LEFT JOIN person p ON p.id = d.who_id LEFT JOIN decision_withdrawal w ON w.decision_id = d.id`;

const decision = (row: DecisionRow): DecisionView => ({
  id: row.id,
  finding: row.finding,
  subjectId: row.subject_id,
  part: row.part,
  decided: row.decided,
  who: row.person ?? [row.who_name, row.firm].filter(Boolean).join(', '),
  why: row.why,
  paper: row.paper,
  at: row.decided_at.toISOString(),
  by: row.person_id,
  madeAt: row.made_at.toISOString(),
  takenBack: row.withdrawn,
});

/** Decisions on some items, mixes, sources or instruments, in the order in which they were put on record. */
export const decisionsOn = async (cx: Cx, subjectIds: readonly string[]): Promise<DecisionView[]> =>
  subjectIds.length === 0
    ? []
    : (await select<DecisionRow>(cx, `${SELECTED} WHERE d.subject_id IN (?) ORDER BY d.made_at, d.id`, [subjectIds])).map(decision);

/** The newest decisions of a project. */
export const decisionsOfProject = async (cx: Cx, projectId: string, offset: number, limit: number): Promise<Page<DecisionView>> => ({
  items: (
    await select<DecisionRow>(cx, `${SELECTED} WHERE d.project_id = ? ORDER BY d.made_at DESC, d.id DESC LIMIT ? OFFSET ?`, [
      projectId,
      limit,
      offset,
    ])
  ).map(decision),
  total: await countOf(cx, 'decision', 'project_id = ?', [projectId]),
});

export const decisionNamed = async (cx: Cx, id: string): Promise<(DecisionView & { readonly projectId: string }) | undefined> => {
  const row = (
    await select<DecisionRow & { project_id: string }>(
      cx,
      `${SELECTED.replace('SELECT d.id', 'SELECT d.project_id, d.id')} WHERE d.id = ?`,
      [id],
    )
  )[0];
  return row && { ...decision(row), projectId: row.project_id };
};

export const insertDecision = (cx: PoolConnection, act: Act, projectId: string, body: NewDecision): Promise<number> =>
  insert(cx, 'decision', {
    id: body.id,
    project_id: projectId,
    subject_id: body.subjectId,
    finding: body.finding,
    part: body.part,
    decided: body.decided,
    who_id: body.whoId ?? null,
    who_name: body.who?.name ?? null,
    firm: body.who?.firm ?? null,
    why: body.why,
    paper: body.paper ?? null,
    decided_at: new Date(body.at),
    person_id: act.personId,
    made_at: act.now,
  });

export const insertWithdrawal = (cx: PoolConnection, act: Act, decisionId: string, id: string, why: string): Promise<number> =>
  insert(cx, 'decision_withdrawal', { decision_id: decisionId, id, why, person_id: act.personId, made_at: act.now });
