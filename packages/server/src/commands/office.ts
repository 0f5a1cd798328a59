import type { Ingredient, NewIngredient, newMix, newProject, newRevision, newSpecification } from '@keen-mortar/contract';
import type { Given } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import type { Act } from '../actor.js';
import { giftsWhere } from '../store/gifts.js';
import { itemOf } from '../store/items.js';
import { insertMix, insertRevision, mixHead } from '../store/mixes.js';
import { insertProject, projectOf } from '../store/projects.js';
import { insertSpecification } from '../store/specifications.js';
import { mustBeOf, refuse } from './checks.js';
import { tellProject } from './telling.js';

/* What the office makes, and everything hangs on: projects, specifications, mixes. */

export async function makeProject(cx: PoolConnection, act: Act, body: z.infer<typeof newProject>): Promise<void> {
  await insertProject(cx, body, act.now);
  await tellProject(cx, act, body.id, 'project', body.id);
}

export async function makeSpecification(cx: PoolConnection, act: Act, body: z.infer<typeof newSpecification>): Promise<void> {
  await projectOf(cx, body.projectId);
  await insertSpecification(cx, body);
  await tellProject(cx, act, body.projectId, 'specification', body.id);
}

export async function makeMix(cx: PoolConnection, act: Act, body: z.infer<typeof newMix>): Promise<void> {
  await projectOf(cx, body.projectId);
  for (const [position, id] of body.specificationIds.entries())
    await mustBeOf(cx, 'specification', id, body.projectId, `specificationIds.${position}`);
  await insertMix(cx, body);
  await tellProject(cx, act, body.projectId, 'mix', body.id);
}

export async function makeRevision(cx: PoolConnection, act: Act, mixId: string, body: z.infer<typeof newRevision>): Promise<void> {
  const { projectId } = await mixHead(cx, mixId);
  if (body.largest.unit !== body.nominal.unit) throw refuse('wrong-unit', 'nominal.unit', 'Both sizes in one unit.');
  await insertRevision(cx, mixId, { ...body, ingredients: await withGravities(cx, act, projectId, body.ingredients) });
  await tellProject(cx, act, projectId, 'revision', body.id);
}

/** What the air-free density takes of the aggregates. */
const GRAVITY: Given = 'source.gravity';

/** What the ingredients’ gravities are: as keyed, or as the newest test of the source found it that stands now. */
async function withGravities(
  cx: PoolConnection,
  act: Act,
  projectId: string,
  ingredients: readonly NewIngredient[],
): Promise<Ingredient[]> {
  const sought = ingredients.flatMap(({ sg, sourceId }) =>
    sg === undefined && sourceId !== undefined ? [{ subjectId: sourceId, source: GRAVITY, before: act.now }] : [],
  );
  const found = await giftsWhere(cx, sought);
  const whole: Ingredient[] = [];
  for (const [i, { sg, ...rest }] of ingredients.entries()) {
    const path = `ingredients.${i}.sourceId`;
    if (rest.sourceId !== undefined) {
      await mustBeOf(cx, 'item', rest.sourceId, projectId, path);
      if ((await itemOf(cx, rest.sourceId)).kind !== 'source') throw refuse('wrong-kind', path, 'An ingredient is of a source.');
    }
    const test = found.find((g) => g.subjectId === rest.sourceId);
    if (sg === undefined && !test)
      throw refuse('no-gravity', `ingredients.${i}.sg`, `Nobody has found a specific gravity of ${rest.name} yet: key it.`);
    whole.push(sg === undefined ? { ...rest, sg: test!.text, sgTestId: test!.testId } : { ...rest, sg });
  }
  return whole;
}
