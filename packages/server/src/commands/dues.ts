import { askedOf, eventsOf, type Item } from '@keen-mortar/contract';
import { DUE_KINDS, duesOf, truckMinutes, type ItemKind } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { frameOf, type Frame } from '../queries/around.js';
import { setDues } from '../store/dues.js';
import { childrenOf } from '../store/items.js';
import { testsOfItems, type TestRecord } from '../store/tests.js';

const waits = (kind: ItemKind): boolean => DUE_KINDS.includes(kind);

/** Over after hours, done or not. */
const BRIEF: ReadonlySet<ItemKind> = new Set(['load', 'sample']);

/** What an item waits for is made again, from its facts and its tests. */
export async function waitAgain(cx: PoolConnection, frame: Frame, tests: readonly Pick<TestRecord, 'method' | 'startedAt' | 'newest'>[]) {
  const { item } = frame;
  if (!waits(item.kind)) return;
  const dues = duesOf({
    kind: item.kind,
    facts: item.facts,
    events: eventsOf(frame),
    tests: tests.map((t) => ({ method: t.method, startedAt: t.startedAt.getTime(), kept: t.newest !== null })),
    truckMinutes: truckMinutes(frame),
    ...askedOf(frame),
  });
  await setDues(cx, item.projectId, item.id, BRIEF.has(item.kind), dues);
}

/** The same of an item that was made or amended, and of what was made of it and counts from it. */
export async function waitAgainFor(cx: PoolConnection, { id, kind }: Pick<Item, 'id' | 'kind'>): Promise<void> {
  if (!waits(kind)) return;
  const below = kind === 'specimen-set' ? (await childrenOf(cx, [id])).map((c) => c.id) : [];
  const tests = await testsOfItems(cx, [id, ...below]);
  for (const itemId of [id, ...below])
    await waitAgain(
      cx,
      await frameOf(cx, itemId),
      tests.filter((t) => t.itemId === itemId),
    );
}
