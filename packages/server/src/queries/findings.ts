import type { DecisionsPage, FindingView, Item } from '@keen-mortar/contract';
import { AGAIN_WORDS, DECISIONS, findingById, pressing, stateAt, UNANSWERED } from '@keen-mortar/core';
import type { Cx } from '../db.js';
import { decisionsOfProject, decisionsOn } from '../store/decisions.js';
import { findingsAbout, findingsAsking, type StandingFinding } from '../store/findings.js';
import { itemsNamed, pathsOnLine } from '../store/items.js';

/** Findings in the state that holds at a moment, the most pressing first. */
async function viewsOf(cx: Cx, rows: readonly StandingFinding[], now: Date): Promise<FindingView[]> {
  const decisions = await decisionsOn(cx, [...new Set(rows.flatMap((f) => (f.decisionId === null ? [] : [f.subjectId])))]);
  return rows
    .map((f): FindingView => {
      const { grade, says, next } = stateAt(f, now.getTime());
      return {
        finding: f.finding,
        title: findingById(f.finding)?.title ?? f.finding,
        subjectId: f.subjectId,
        part: f.part,
        grade,
        // What it says may be another thing in a moment: that is said, in every outlet.
        says: f.again ? `${says} ${AGAIN_WORDS}` : says,
        next: [...next],
        evidence: [...f.evidence],
        acceptance: f.acceptance,
        choices: [...f.choices],
        cannot: [...f.cannot],
        decision: decisions.find((d) => d.id === f.decisionId) ?? null,
      };
    })
    .sort((a, b) => pressing(a.grade, b.grade));
}

/** What is found of some items, mixes, sources or instruments: every outlet reads it here. */
export const findingsShown = async (cx: Cx, subjectIds: readonly string[], now: Date): Promise<FindingView[]> =>
  viewsOf(cx, await findingsAbout(cx, subjectIds), now);

/**
 * What is found of some items and of all that each lies in on its line, by item: what a list, a sheet or a paper says of it. What
 * hangs on a companion or on what was made of it stands with that.
 */
export async function findingsOnPaths(cx: Cx, itemIds: readonly string[], now: Date): Promise<Map<string, FindingView[]>> {
  const paths = await pathsOnLine(cx, itemIds);
  const all = await findingsShown(cx, [...new Set([...paths.values()].flat())], now);
  return new Map(itemIds.map((id) => [id, all.filter((f) => paths.get(id)?.includes(f.subjectId))]));
}

/** So many of either are shown; nobody decides on more. */
const MOST = 200;

/** Where each of some items lies, from the top: looked up level by level, for all of them at once. */
export async function placesOf(cx: Cx, itemIds: readonly string[]): Promise<Map<string, string>> {
  const known = new Map<string, Item>();
  for (let wanted = [...new Set(itemIds)]; wanted.length > 0;) {
    const found = await itemsNamed(cx, wanted);
    for (const i of found) known.set(i.id, i);
    wanted = [...new Set(found.flatMap((i) => i.parentId ?? []))].filter((id) => !known.has(id));
  }
  const codes = (id: string | null): string[] => {
    const i = id === null ? undefined : known.get(id);
    return i ? [...codes(i.parentId), i.code] : [];
  };
  return new Map(itemIds.map((id) => [id, codes(id).join(', ')]));
}

/** What waits for a decision, and what was decided, the newest first. */
export async function decisionsOf(
  cx: Cx,
  projectId: string,
  now: Date,
  { offset, limit }: { readonly offset: number; readonly limit: number } = { offset: 0, limit: MOST },
): Promise<DecisionsPage> {
  const [asking, { items: decided, total }] = await Promise.all([
    findingsAsking(cx, projectId, MOST),
    decisionsOfProject(cx, projectId, offset, limit),
  ]);
  const waiting = await viewsOf(cx, asking, now);
  const places = await placesOf(
    cx,
    [...waiting, ...decided].map((f) => f.subjectId),
  );
  const asks = waiting.filter((f) => f.grade === 'asks').map((f) => ({ ...f, where: places.get(f.subjectId) ?? '' }));
  return {
    waiting: asks.filter((f) => f.finding !== UNANSWERED),
    unanswered: asks.filter((f) => f.finding === UNANSWERED),
    total,
    decided: decided.map((d) => ({
      ...d,
      where: places.get(d.subjectId) ?? '',
      title: `${findingById(d.finding)?.title ?? d.finding}: ${DECISIONS[d.decided].label.toLowerCase()}`,
    })),
  };
}
