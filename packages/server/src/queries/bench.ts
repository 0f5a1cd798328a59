import { BENCH_AHEAD_DAYS, type BenchRun, type BenchView, type Item } from '@keen-mortar/contract';
import { answerText, methodById, runById, stepsOf, trialsCountFrom } from '@keen-mortar/core';
import type { Cx } from '../db.js';
import { itemsInRuns } from '../store/dues.js';
import { giftsWhere, type FoundGift } from '../store/gifts.js';
import { itemsNamed } from '../store/items.js';
import { projectOf } from '../store/projects.js';
import { testsOfItems, type TestRecord } from '../store/tests.js';
import { openingsOf } from './hours.js';

const DAY = 86_400_000;
const AHEAD = BENCH_AHEAD_DAYS * DAY;
/** So many runs at once stand in no laboratory. */
const MOST = 60;

/** All runs at the bench of a project that wait for something, or were at work since yesterday. */
export async function benchOf(cx: Cx, projectId: string, now: Date): Promise<BenchView> {
  const { timezone } = await projectOf(cx, projectId);
  const at = (ms: number): Date => new Date(now.getTime() + ms);
  const [{ openings }, ids] = await Promise.all([
    openingsOf(cx, projectId, timezone, at(-2 * DAY), at(AHEAD)),
    itemsInRuns(cx, projectId, at(-DAY), MOST + 1),
  ]);
  const items = (await itemsNamed(cx, ids.slice(0, MOST))).filter((i) => !i.voided);
  const own = items.map((i) => i.id);
  const [tests, gifts, codes] = await Promise.all([
    testsOfItems(cx, own),
    own.length === 0 ? [] : giftsWhere(cx, [{ itemIds: own }]),
    itemsAbove(cx, items),
  ]);
  // The code of a portion says which it was cut from: only its sample and its source are told.
  const placeOf = (id: string | null): string[] => {
    const found = id === null ? undefined : codes.get(id);
    return found ? [...(found.kind === 'portion' ? [] : [found.code]), ...placeOf(found.parentId)] : [];
  };
  const gone = (id: string | null): boolean => {
    const found = id === null ? undefined : codes.get(id);
    return found !== undefined && (found.voided || gone(found.parentId));
  };
  const order = new Map(ids.map((id, i) => [id, i]));
  const runs = items
    .filter((i) => !gone(i.parentId))
    .sort((a, b) => order.get(a.id)! - order.get(b.id)!)
    .map((item): BenchRun => ({
      itemId: item.id,
      code: item.code,
      where: placeOf(item.parentId).join(', '),
      by: item.by,
      facts: item.facts,
      tests: tests.filter((t) => t.itemId === item.id).map((t) => ({ id: t.id, method: t.method, says: saysOf(t) })),
      cone: coneOf(item, gifts),
    }));
  return { now: now.toISOString(), timezone, openings, runs, more: ids.length > MOST };
}

/** All that some items lie in, up to the top. */
async function itemsAbove(cx: Cx, items: readonly Item[]): Promise<Map<string, Item>> {
  const found = new Map<string, Item>();
  const missing = (of: readonly Item[]): string[] => [
    ...new Set(of.flatMap((i) => (i.parentId && !found.has(i.parentId) ? [i.parentId] : []))),
  ];
  for (let ids = missing(items); ids.length > 0;) {
    const above = await itemsNamed(cx, ids);
    for (const item of above) found.set(item.id, item);
    ids = missing(above);
  }
  return found;
}

/** What the last trial at the cone that counts says. */
function coneOf({ id, facts }: Item, gifts: readonly FoundGift[]): BenchRun['cone'] {
  const { run, steps } = facts as { run?: string; steps?: unknown };
  const job = runById(run);
  const from = (job && trialsCountFrom(job, stepsOf(steps))) ?? Infinity;
  const found = gifts.find((g) => g.itemId === id && g.source === 'test.cone' && g.at.getTime() >= from);
  return (found?.text ?? null) as BenchRun['cone'];
}

/** The main results of a test in words. */
function saysOf({ method, newest }: TestRecord): string {
  const m = methodById(method);
  const texts = (newest?.frozen.said.results ?? []).flatMap((r) => {
    const field = m?.results[r.id];
    return field?.main && !r.series ? [answerText(field, r)] : [];
  });
  return texts.filter((t) => t !== '').join(' · ');
}
