import type { NewDecision, newWithdrawal } from '@keen-mortar/contract';
import { DECISIONS, findingById } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import type { Act } from '../actor.js';
import { notFound, Refused } from '../problems.js';
import { decisionNamed, insertDecision, insertWithdrawal } from '../store/decisions.js';
import { findingsAbout } from '../store/findings.js';
import { lineOf, lockLine } from '../store/items.js';
import { personOf } from '../store/people.js';
import { mustHaveBeen, refuse } from './checks.js';
import { tellOf } from './telling.js';

/**
 * Somebody's word on a finding is put on record. It answers a finding that is there and leaves that choice; a later word is a
 * decision of its own.
 */
export async function decide(cx: PoolConnection, act: Act, body: NewDecision): Promise<void> {
  if (!findingById(body.finding)) throw refuse('unknown', 'finding', `Nothing called ${body.finding} is decided on.`);
  await lockLine(cx, body.subjectId);
  const path = await lineOf(cx, body.subjectId);
  const found = (await findingsAbout(cx, [body.subjectId])).find((f) => f.finding === body.finding && f.part === body.part);
  if (!found) throw refuse('unknown', 'part', 'Nothing of this kind is found there: there is nothing to decide.');
  if (!found.choices.includes(body.decided)) {
    const not = found.cannot.find((c) => c.decided === body.decided);
    const may = found.choices.map((c) => DECISIONS[c].label.toLowerCase());
    throw refuse(
      'unknown-choice',
      'decided',
      not !== undefined
        ? not.why
        : may.length === 0
          ? 'Nobody has to decide on this.'
          : `This is not for that: it may be ${may.join(', or ')}.`,
    );
  }
  if (body.whoId !== undefined && !(await personOf(cx, body.whoId))) throw refuse('unknown-person', 'whoId', 'Unknown person.');
  mustHaveBeen(body.at, act, 'at');
  await insertDecision(cx, act, path.at(-1)!.projectId, body);
  await tellOf(cx, act, path, 'decision', body.id);
}

/** A decision that was put on record by mistake is taken back, with the reason: it stays, and counts no more. */
export async function withdraw(cx: PoolConnection, act: Act, id: string, body: z.infer<typeof newWithdrawal>): Promise<void> {
  const decision = await decisionNamed(cx, id);
  if (!decision) throw notFound('decision', id);
  await lockLine(cx, decision.subjectId);
  if ((await decisionNamed(cx, id))!.takenBack !== null) throw new Refused('already-exists', 'It is taken back already.');
  const path = await lineOf(cx, decision.subjectId);
  await insertWithdrawal(cx, act, id, body.id, body.why);
  await tellOf(cx, act, path, 'decision', id);
}
