import { revisionAt, type SourceSheet, type Trend } from '@keen-mortar/contract';
import { PROPERTY_IDS } from '@keen-mortar/core';
import type { Cx } from '../db.js';
import { acceptedOf, looksAt } from '../store/accepted.js';
import { itemOf, newestIn, newestOfSubjects } from '../store/items.js';
import { mixesOfSource } from '../store/mixes.js';
import { valuesOf } from './mixes.js';
import { metBy, specificationsNamed } from '../store/specifications.js';
import { historyOf, propertiesOf } from '../store/standing.js';

/** So many results of each property. */
const POINTS = 60;
const SAMPLES = 12;

/** What was found of each property of a mix or a source before a moment, in the order of the work. */
export async function trendsOf(cx: Cx, subjectId: string, before: Date): Promise<Trend[]> {
  const found = await propertiesOf(cx, subjectId);
  const properties = PROPERTY_IDS.filter((p) => found.includes(p));
  const rows = await historyOf(cx, subjectId, properties, null, before, POINTS);
  return properties.flatMap((property): Trend[] => {
    const own = rows.filter((row) => row.property === property).reverse();
    return own.length === 0
      ? []
      : [
          {
            property,
            points: own.map((row) => ({
              itemId: row.itemId,
              testId: row.testId,
              code: row.code,
              at: row.at.toISOString(),
              reported: row.reported!,
              unit: row.unit,
              state: row.state,
            })),
          },
        ];
  });
}

/** @param at as it was known then */
export async function sourceSheet(cx: Cx, id: string, at: Date): Promise<SourceSheet> {
  const item = await itemOf(cx, id, 'source');
  const value = async (source: Parameters<typeof valuesOf>[2], found?: true) =>
    (await valuesOf(cx, [id], source, at, found)).get(id) ?? null;
  const [named, trends, samples, mixes, gravity, absorption, lastGravity, lastAbsorption] = await Promise.all([
    metBy(cx, [id], at),
    trendsOf(cx, id, at),
    newestIn(cx, id, at, SAMPLES),
    mixesOfSource(cx, id),
    value('source.gravity'),
    value('source.absorption'),
    value('source.gravity', true),
    value('source.absorption', true),
  ]);
  const mixIds = mixes.map((m) => m.id);
  const counts = gravity ?? absorption;
  const [looks, trials, accepted] = await Promise.all([
    looksAt(cx, mixIds),
    newestOfSubjects(cx, 'trial-batch', mixIds),
    counts ? acceptedOf(cx, id, counts.test.id, at) : null,
  ]);
  const newer = lastGravity?.test.id !== gravity?.test.id || lastAbsorption?.test.id !== absorption?.test.id;
  return {
    item,
    gravity,
    absorption,
    accepted,
    newer: newer ? { gravity: lastGravity, absorption: lastAbsorption } : null,
    specifications: await specificationsNamed(cx, named),
    trends,
    samples,
    usedBy: mixes.flatMap((mix) => {
      const revision = revisionAt(mix.revisions, at.getTime());
      const own = revision?.ingredients.find((i) => i.sourceId === id);
      const trial = trials.find((t) => t.subjectId === mix.id);
      return revision && own
        ? [
            {
              mixId: mix.id,
              code: mix.code,
              name: mix.name,
              revision: revision.number,
              from: revision.effectiveFrom,
              sg: own.sg,
              sgTest: own.sgTest ?? null,
              correction: revision.correction ?? null,
              looks: looks.get(mix.id)!,
              trial: trial ? { id: trial.id, code: trial.code, at: trial.at } : null,
            },
          ]
        : [];
    }),
  };
}
