import type { Item, Mix, MixSheet, Page, SourceNow } from '@keen-mortar/contract';
import type { Given } from '@keen-mortar/core';
import type { Cx } from '../db.js';
import { giftsWhere } from '../store/gifts.js';
import { itemsNamed, itemsOf } from '../store/items.js';
import { mixOf } from '../store/mixes.js';
import { specificationsNamed } from '../store/specifications.js';

const GRAVITY: Given = 'source.gravity';

const sourcesOf = (mix: Mix): string[] => [...new Set(mix.revisions.flatMap((r) => r.ingredients.flatMap((i) => i.sourceId ?? [])))];

export async function withGravity(cx: Cx, sources: readonly Item[], now: Date): Promise<SourceNow[]> {
  const found = await giftsWhere(
    cx,
    sources.map(({ id: subjectId }) => ({ subjectId, source: GRAVITY, before: now })),
  );
  return sources.map(({ id, code, facts }) => {
    const own = found.find((g) => g.subjectId === id);
    return {
      id,
      code,
      kind: facts['kind'] === 'fine' ? 'fine' : 'coarse',
      gravity: own
        ? { text: own.text, unit: own.unit, test: { id: own.testId, itemId: own.itemId, code: own.code, at: own.at.toISOString() } }
        : null,
    };
  });
}

/** Sources of a project, each with its newest gravity by a moment. */
export async function sourcesNow(cx: Cx, projectId: string, now: Date, offset: number, limit: number): Promise<Page<SourceNow>> {
  const { items, total } = await itemsOf(cx, projectId, 'source', offset, limit);
  return { items: await withGravity(cx, items, now), total };
}

/** A mix with what it must meet, and what its sources are found to be at a moment. */
export async function mixSheet(cx: Cx, id: string, now: Date): Promise<MixSheet> {
  const mix = await mixOf(cx, id);
  const [specifications, sources] = await Promise.all([
    specificationsNamed(cx, [...new Set(mix.revisions.flatMap((r) => r.specificationIds))]),
    itemsNamed(cx, sourcesOf(mix)),
  ]);
  return { mix, specifications, sources: await withGravity(cx, sources, now) };
}
