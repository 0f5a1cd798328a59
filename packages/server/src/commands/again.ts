import { methodById, takersAbove, takersBelow, type AnyMethod } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { frameOf } from '../queries/around.js';
import { benchOf, keptOf, workOut, type Bench, type WorkedOut } from '../queries/tests.js';
import { lockLine } from '../store/items.js';
import { judgeTouched, touch } from './findings.js';
import { setLedger } from './ledger.js';
import { chosenTests, done, postpone, postponedOf, stoodOn, type Chosen } from '../store/pending.js';
import { insertEvaluation, setStoodOn, type Basis } from '../store/tests.js';
import { stand, verdictsOf } from './standing.js';
import { tellOf } from './telling.js';

/** Why a test is worked out again: what it stood on was added to or amended. */
export interface Cause {
  readonly kind: 'facts' | 'test' | 'kit';
  readonly id: string;
}

/** An item, or a test of one, that others stood on. */
export interface Used {
  readonly usedId: string;
  readonly usedItemId: string;
}

export const item = (id: string): Used => ({ usedId: id, usedItemId: id });

/** So many are worked out again in the transaction that changed what they stood on; more wait, and are shown as such. */
const AT_ONCE = 100;

/** What a test is worked out from, as it is written: where that is the same nothing is worked out again, whatever core does it. */
const basisOf = ({ inputs, how, specificationIds, took }: Basis): string => JSON.stringify([inputs, how, specificationIds, took ?? {}]);

export async function keepEvaluation(
  cx: PoolConnection,
  act: Act,
  test: Bench['tests'][number],
  now: WorkedOut,
  cause: Cause | null,
): Promise<void> {
  const turn = test.kept ? test.kept.turn + 1 : 0;
  await setLedger(cx, test.id, turn, now);
  await insertEvaluation(cx, test.id, {
    turn,
    core: now.core,
    frozen: now.frozen,
    cause,
    at: act.now,
    evaluation: now.evaluation,
    verdicts: verdictsOf(now),
  });
}

/**
 * Works out again every test that stood on something, in the transaction that changed it; what comes out as it was stays as it
 * is. Where too many stood on it they wait for {@link workOutPostponed}.
 * @param methods whose tests can have moved; null: any
 */
export async function workOutAgain(
  cx: PoolConnection,
  act: Act,
  used: Used,
  cause: Cause,
  methods: readonly string[] | null = null,
): Promise<void> {
  if (methods?.length === 0) return;
  await workOutChosen(cx, act, used, cause, stoodOn(used.usedId, methods));
}

/** The same of tests that are chosen otherwise than by what they stood on. */
export async function workOutChosen(
  cx: PoolConnection,
  act: Act,
  { usedId, usedItemId }: Used,
  cause: Cause,
  chosen: Chosen,
): Promise<void> {
  const found = await chosenTests(cx, chosen, AT_ONCE + 1);
  if (found.length > AT_ONCE) {
    await postpone(cx, { usedId, usedItemId, cause: cause.kind, causeId: cause.id, personId: act.personId }, chosen);
    return;
  }
  // In one order everywhere: two that meet wait for each other instead of for ever.
  for (const itemId of [...new Set(found.map((f) => f.itemId))].sort())
    await again(cx, act, itemId, new Set(found.filter((f) => f.itemId === itemId).map((f) => f.testId)), cause);
}

/** What a kept test gives to others has changed: those of its item and of what was made of that, and those that take it as a row. */
export async function giveAgain(cx: PoolConnection, act: Act, bench: Pick<Bench, 'item'>, m: AnyMethod, testId: string): Promise<void> {
  const cause: Cause = { kind: 'test', id: testId };
  await workOutAgain(cx, act, item(bench.item.id), cause, takersBelow(m));
  if (bench.item.parentId !== null) await workOutAgain(cx, act, item(bench.item.parentId), cause, takersAbove(m));
}

/** @returns the item’s bench where something came out otherwise */
async function again(cx: PoolConnection, act: Act, itemId: string, own: ReadonlySet<string>, cause: Cause): Promise<Bench | null> {
  await lockLine(cx, itemId);
  const bench = await benchOf(cx, await frameOf(cx, itemId), (id) => own.has(id));
  const tests = [...bench.tests];
  const moved = new Map<string, string>();
  for (const [i, test] of tests.entries()) {
    const m = methodById(test.method);
    const newest = bench.records.find((r) => r.id === test.id)?.newest;
    if (!own.has(test.id) || !m || !newest || !test.kept) continue;
    const now = workOut({ ...bench, tests }, test);
    if (basisOf(now.frozen) === basisOf(newest.frozen)) continue;
    await keepEvaluation(cx, act, test, now, cause);
    await setStoodOn(cx, test.id, Object.values(test.given.took));
    const kept = { turn: newest.turn + 1, core: now.core, cause: cause.kind, computedAt: act.now, frozen: now.frozen };
    tests[i] = { ...test, kept: keptOf(m, kept, bench.specifications) };
    moved.set(test.id, test.method);
  }
  if (moved.size === 0) return null;
  touch(act, bench.line);
  await stand(cx, bench, tests, new Set(moved.values()));
  // What moved may have given something itself.
  for (const [testId, method] of moved) {
    const m = methodById(method)!;
    if (m.gives) await giveAgain(cx, act, bench, m, testId);
  }
  return bench;
}

/**
 * Works out what waits of an item, in a transaction of its own.
 * @returns whether it did; not where another server is at it
 */
export async function workOutPostponed(cx: PoolConnection, itemId: string, now: Date): Promise<boolean> {
  const next = await postponedOf(cx, itemId);
  if (!next) return false;
  const act: Act = { personId: next.personId, writeId: next.causeId, now, touched: new Map() };
  const cause: Cause = { kind: next.cause as Cause['kind'], id: next.causeId };
  await again(cx, act, next.itemId, new Set(next.testIds), cause);
  await done(cx, next.testIds);
  await tellOf(cx, act, (await frameOf(cx, next.itemId)).line, 'again', next.itemId);
  await judgeTouched(cx, act);
  return true;
}
