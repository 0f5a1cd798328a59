import { givenBy, type GivenTo, type Item } from '@keen-mortar/contract';
import { methodById, runById, stepsOf, takenBy, trialsCountFrom, type Given, type Sources, type Taking } from '@keen-mortar/core';
import type { Cx } from '../db.js';
import { giftsWhere, type FoundGift, type Sought } from '../store/gifts.js';
import { childrenOf } from '../store/items.js';
import type { TestRecord } from '../store/tests.js';

/** A test that takes something: one that is on record, or one that would be started now. */
type Taker = Pick<TestRecord, 'id' | 'method' | 'startedAt' | 'newest'>;
type Around = { readonly line: readonly Item[]; readonly item: Item };

const NOTHING: Taking = { item: [], subject: [], made: null };
const takingOf = (method: string): Taking => {
  const m = methodById(method);
  return m ? takenBy(m) : NOTHING;
};

/**
 * What other tests give to some tests of an item, in one statement, two where they take rows of what was made of it.
 * Of the same item and what it was made of: the newest that stands. Of the mix or source: what was the newest when the test was
 * started, for good; one that was corrected since counts as it is now.
 */
export async function givenTo(cx: Cx, { line, item }: Around, tests: readonly Taker[]): Promise<Map<string, GivenTo>> {
  const takings = new Map(tests.map((t) => [t.id, takingOf(t.method)]));
  const all = [...takings.values()];
  if (all.every((t) => t.item.length === 0 && t.subject.length === 0 && t.made === null)) return new Map();
  const children = all.some((t) => t.made !== null) ? (await childrenOf(cx, [item.id])).filter((c) => !c.voided) : [];
  const taken = (t: Taker): readonly string[] => Object.values(t.newest?.frozen.took ?? {});
  const gifts = await giftsWhere(cx, [
    { itemIds: [...(all.some((t) => t.item.length > 0) ? line.map((i) => i.id) : []), ...children.map((c) => c.id)] },
    { testIds: tests.flatMap(taken) },
    ...tests.flatMap((t) => before(item, t, takings.get(t.id)!)),
  ]);
  return new Map(tests.map((t) => [t.id, forOne({ line, item, children, gifts }, t, takings.get(t.id)!)]));
}

/** Of a mix or source: for a test that has not taken yet, and in place of what was taken back since. */
const before = (item: Item, t: Taker, { subject }: Taking): Sought[] =>
  item.subjectId === null
    ? []
    : subject
        .filter((source) => t.newest === null || t.newest.frozen.took?.[source] !== undefined)
        .map((source) => ({ subjectId: item.subjectId!, source, before: t.startedAt }));

interface Found {
  readonly line: readonly Item[];
  readonly item: Item;
  readonly children: readonly Item[];
  readonly gifts: readonly FoundGift[];
}

function forOne({ line, item, children, gifts }: Found, t: Taker, taking: Taking): GivenTo {
  const others = gifts.filter((g) => g.testId !== t.id);
  const { run, steps } = item.facts as { run?: string; steps?: unknown };
  const job = runById(run);
  const from = job ? trialsCountFrom(job, stepsOf(steps), t.startedAt.getTime()) : null;
  const nearest = (source: Given): FoundGift | undefined => {
    // In a run the cone speaks of this portion alone, and only since it was wetted last.
    if (source === 'test.cone' && from !== null)
      return others.find((g) => g.source === source && g.itemId === item.id && g.at.getTime() >= from);
    for (const { id } of [...line].reverse()) {
      const found = others.find((g) => g.source === source && g.itemId === id);
      if (found) return found;
    }
    return undefined;
  };
  const ofSubject = (source: Given): FoundGift | undefined => {
    const own = others.filter((g) => g.source === source && g.subjectId === item.subjectId);
    if (!t.newest) return own.find((g) => g.at <= t.startedAt);
    const took = t.newest.frozen.took?.[source];
    return took === undefined ? undefined : (own.find((g) => g.testId === took) ?? own.find((g) => g.at <= t.startedAt));
  };
  const subject = taking.subject.map(ofSubject).filter((g) => g !== undefined);
  const own = [...taking.item.map(nearest).filter((g) => g !== undefined), ...subject];
  const ofChild = (child: Item): FoundGift[] =>
    (taking.made ?? []).map((source) => others.find((g) => g.source === source && g.itemId === child.id)).filter((g) => g !== undefined);
  const rows = taking.made === null ? [] : children.map((child) => ({ child, gifts: ofChild(child) }));
  const sources: Sources = {
    // Where no trial counts, none has shown SSD.
    ...(from !== null && taking.item.includes('test.cone') ? { 'test.cone': { text: 'no', unit: '1' } } : {}),
    ...sourcesOf(own),
    ...(taking.made === null ? {} : { made: rows.map((r) => ({ ...givenBy([r.child]), ...sourcesOf(r.gifts) })) }),
  };
  return {
    sources,
    took: Object.fromEntries(subject.map((g) => [g.source, g.testId])),
    from: [...own, ...rows.flatMap((r) => r.gifts)].map(({ source, testId, itemId, code, method }) => ({
      source,
      testId,
      itemId,
      code,
      method,
    })),
  };
}

/** Each value with the test that it is of: the thread from a result goes on there. */
const sourcesOf = (gifts: readonly FoundGift[]): Sources =>
  Object.fromEntries(gifts.map((g) => [g.source, { text: g.text, unit: g.unit, reading: g.testId }]));
