import type { Item, Mix, MixesPage, MixSheet, Page, SourceNow } from '@keen-mortar/contract';
import type { Given } from '@keen-mortar/core';
import type { Cx } from '../db.js';
import { looksAt } from '../store/accepted.js';
import { giftsWhere } from '../store/gifts.js';
import { itemsNamed, itemsOf } from '../store/items.js';
import { mixes, mixOf } from '../store/mixes.js';
import { findingsShown } from './findings.js';
import { specificationsNamed } from '../store/specifications.js';

/** What a source gives the mixes that stand on it, and their trial batches. */
type Value = Extract<Given, 'source.gravity' | 'source.absorption'>;

/** @param found also what nobody has accepted */
export async function valuesOf(
  cx: Cx,
  sourceIds: readonly string[],
  source: Value,
  now: Date,
  found?: true,
): Promise<Map<string, SourceNow['gravity']>> {
  const gifts = await giftsWhere(
    cx,
    sourceIds.map((subjectId) => ({ subjectId, source, before: now, ...(found && { found }) })),
  );
  return new Map(
    sourceIds.map((id) => {
      const own = gifts.find((g) => g.subjectId === id);
      return [
        id,
        own
          ? { text: own.text, unit: own.unit, test: { id: own.testId, itemId: own.itemId, code: own.code, at: own.at.toISOString() } }
          : null,
      ];
    }),
  );
}

const sourcesOf = (mix: Mix): string[] => [...new Set(mix.revisions.flatMap((r) => r.ingredients.flatMap((i) => i.sourceId ?? [])))];

export async function withGravity(cx: Cx, sources: readonly Item[], now: Date): Promise<SourceNow[]> {
  const found = await valuesOf(
    cx,
    sources.map(({ id }) => id),
    'source.gravity',
    now,
  );
  return sources.map(({ id, code, facts }) => ({
    id,
    code,
    kind: facts['kind'] === 'fine' ? 'fine' : 'coarse',
    gravity: found.get(id) ?? null,
  }));
}

/** Sources of a project, each with the gravity that counts at a moment. */
export async function sourcesNow(cx: Cx, projectId: string, now: Date, offset: number, limit: number): Promise<Page<SourceNow>> {
  const { items, total } = await itemsOf(cx, projectId, 'source', offset, limit);
  return { items: await withGravity(cx, items, now), total };
}

/** A mix with what it must meet, and what counts of its sources at a moment. */
/** Mixes of a project, and what is found of each at a moment. */
export async function mixesFound(cx: Cx, projectId: string, now: Date, offset: number, limit: number): Promise<MixesPage> {
  const page = await mixes(cx, projectId, offset, limit);
  return {
    ...page,
    findings: await findingsShown(
      cx,
      page.items.map((m) => m.id),
      now,
    ),
  };
}

export async function mixSheet(cx: Cx, id: string, now: Date): Promise<MixSheet> {
  const mix = await mixOf(cx, id);
  const [specifications, sources, looks, findings] = await Promise.all([
    specificationsNamed(cx, [...new Set(mix.revisions.flatMap((r) => r.specificationIds))]),
    itemsNamed(cx, sourcesOf(mix)),
    looksAt(cx, [id]),
    findingsShown(cx, [id], now),
  ]);
  return { mix, specifications, sources: await withGravity(cx, sources, now), looks: looks.get(id)!, findings };
}
