import { methodById } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { frameOf } from '../queries/around.js';
import { benchOf, keptOf, workOut, type Bench, type WorkedOut } from '../queries/tests.js';
import { lockItem } from '../store/items.js';
import { insertEvaluation, standingOn, type Basis } from '../store/tests.js';
import { stand, verdictsOf } from './standing.js';

/** Why a test is worked out again: what it stood on was added to or amended. */
export interface Cause {
  readonly kind: 'facts' | 'test';
  readonly id: string;
}

/** What a test is worked out from, as it is written: where that is the same nothing is worked out again, whatever core does it. */
const basisOf = ({ inputs, how, specificationIds }: Basis): string => JSON.stringify([inputs, how, specificationIds]);

export function keepEvaluation(
  cx: PoolConnection,
  act: Act,
  test: Bench['tests'][number],
  now: WorkedOut,
  cause: Cause | null,
): Promise<void> {
  return insertEvaluation(cx, test.id, {
    turn: test.kept ? test.kept.turn + 1 : 0,
    core: now.core,
    frozen: now.frozen,
    cause,
    at: act.now,
    evaluation: now.evaluation,
    verdicts: verdictsOf(now),
  });
}

/**
 * Works out again every test that stood on something, in the transaction that changed it; what comes out as
 * it was stays as it is.
 * @returns how many came out otherwise
 */
export async function workOutAgain(cx: PoolConnection, act: Act, usedId: string, cause: Cause): Promise<number> {
  const found = await standingOn(cx, usedId);
  let moved = 0;
  for (const itemId of new Set(found.map((f) => f.itemId))) {
    await lockItem(cx, itemId);
    const bench = await benchOf(cx, await frameOf(cx, itemId));
    const own = new Set(found.filter((f) => f.itemId === itemId).map((f) => f.testId));
    const tests = [...bench.tests];
    const methods = new Set<string>();
    for (const [i, test] of tests.entries()) {
      const m = methodById(test.method);
      const newest = bench.records.find((r) => r.id === test.id)?.newest;
      if (!own.has(test.id) || !m || !newest || !test.kept) continue;
      const now = workOut({ ...bench, tests }, test);
      if (basisOf(now.frozen) === basisOf(newest.frozen)) continue;
      await keepEvaluation(cx, act, test, now, cause);
      const kept = { turn: newest.turn + 1, core: now.core, cause: cause.kind, computedAt: act.now, frozen: now.frozen };
      tests[i] = { ...test, kept: keptOf(m, kept, bench.specifications) };
      methods.add(test.method);
      moved++;
    }
    if (methods.size > 0) await stand(cx, bench, tests, methods);
  }
  return moved;
}
