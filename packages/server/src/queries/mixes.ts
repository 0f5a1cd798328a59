import type { Mix, MixSheet } from '@keen-mortar/contract';
import type { Given } from '@keen-mortar/core';
import type { Cx } from '../db.js';
import { giftsWhere } from '../store/gifts.js';
import { itemsNamed } from '../store/items.js';
import { mixOf } from '../store/mixes.js';
import { specificationsNamed } from '../store/specifications.js';

const GRAVITY: Given = 'source.gravity';

const sourcesOf = (mix: Mix): string[] => [...new Set(mix.revisions.flatMap((r) => r.ingredients.flatMap((i) => i.sourceId ?? [])))];

/** A mix with what it must meet, and what its sources are found to be at a moment. */
export async function mixSheet(cx: Cx, id: string, now: Date): Promise<MixSheet> {
  const mix = await mixOf(cx, id);
  const ids = sourcesOf(mix);
  const [specifications, sources, gravities] = await Promise.all([
    specificationsNamed(cx, [...new Set(mix.revisions.flatMap((r) => r.specificationIds))]),
    itemsNamed(cx, ids),
    giftsWhere(
      cx,
      ids.map((subjectId) => ({ subjectId, source: GRAVITY, before: now })),
    ),
  ]);
  return {
    mix,
    specifications,
    sources: sources.map(({ id: sourceId, code }) => {
      const found = gravities.find((g) => g.subjectId === sourceId);
      return {
        id: sourceId,
        code,
        gravity: found
          ? {
              text: found.text,
              unit: found.unit,
              test: { id: found.testId, itemId: found.itemId, code: found.code, at: found.at.toISOString() },
            }
          : null,
      };
    }),
  };
}
