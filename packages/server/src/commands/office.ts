import {
  revisionAt,
  type Ingredient,
  type NewAcceptance,
  type NewLook,
  type newProject,
  type NewIngredient,
  type NewMeeting,
  type NewMix,
  type NewRevision,
  type NewSpecification,
} from '@keen-mortar/contract';
import { ITEM_KINDS, STRAYS, type Given } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { v7 as newId } from 'uuid';
import type * as z from 'zod';
import type { Act } from '../actor.js';
import { insertAcceptance, insertLook } from '../store/accepted.js';
import { giftsWhere } from '../store/gifts.js';
import { linesFinding, postponeLines } from '../store/findings.js';
import { itemOf, linesSince } from '../store/items.js';
import { insertMix, insertRevision, mixHead, mixOf, nextNumber, revisionsMeeting } from '../store/mixes.js';
import { insertProject, projectOf } from '../store/projects.js';
import { insertMeeting, insertSpecification, itemsMeeting, specificationOf } from '../store/specifications.js';
import { mustBeOf, refuse } from './checks.js';
import { tellProject } from './telling.js';

/* What the office makes, and everything hangs on: projects, specifications, mixes. */

/** Somebody new; the first one of an installation makes itself. */
export async function makeProject(cx: PoolConnection, act: Act, body: z.infer<typeof newProject>): Promise<void> {
  await insertProject(cx, body, act.now);
  await tellProject(cx, act, body.id, 'project', body.id);
}

/** A specification; one that takes another’s place is met from its moment on by all that had to meet that one. */
export async function makeSpecification(cx: PoolConnection, act: Act, body: NewSpecification): Promise<void> {
  await projectOf(cx, body.projectId);
  if (body.replaces) await mustBeOf(cx, 'specification', body.replaces.id, body.projectId, 'replaces.id');
  await insertSpecification(cx, act, body);
  if (body.replaces) {
    const before = await specificationOf(cx, body.replaces.id);
    const instead = (ids: readonly string[]): string[] => ids.map((id) => (id === before.id ? body.id : id));
    await reviseAll(cx, act, before.id, body.replaces, instead);
    for (const { itemId, specificationIds } of await itemsMeeting(cx, before.id))
      await meetFrom(cx, act, itemId, { id: newId(), from: body.replaces.from, specificationIds: instead(specificationIds) });
  }
  await tellProject(cx, act, body.projectId, 'specification', body.id);
}

/** Every mix whose revision in force at a moment, or planned after it, asks for a specification is revised to ask for another. */
async function reviseAll(
  cx: PoolConnection,
  act: Act,
  specificationId: string,
  { from, why }: { readonly from: string; readonly why: string },
  instead: (ids: readonly string[]) => string[],
): Promise<void> {
  const found = await revisionsMeeting(cx, specificationId);
  for (const mixId of new Set(found.map((r) => r.mixId))) {
    const { projectId, revisions } = await mixOf(cx, mixId);
    const then = revisionAt(revisions, Date.parse(from));
    const planned = revisions.filter((r) => Date.parse(r.effectiveFrom) > Date.parse(from));
    for (const before of [...(then ? [then] : []), ...planned]) {
      if (!before.specificationIds.includes(specificationId)) continue;
      const effectiveFrom = before === then ? from : before.effectiveFrom;
      const made = { id: newId(), mixId, number: await nextNumber(cx, mixId), by: act.personId, madeAt: act.now.toISOString() };
      await insertRevision(cx, { ...before, ...made, effectiveFrom, why, specificationIds: instead(before.specificationIds) });
      await judgeSince(cx, act, mixId, effectiveFrom);
      await tellProject(cx, act, projectId, 'revision', made.id);
    }
  }
}

export async function makeMix(cx: PoolConnection, act: Act, body: NewMix): Promise<void> {
  await projectOf(cx, body.projectId);
  await insertMix(cx, body);
  if (body.revision) await revise(cx, act, body.id, body.projectId, body.revision, 'revision.');
  await tellProject(cx, act, body.projectId, 'mix', body.id);
}

export async function makeRevision(cx: PoolConnection, act: Act, mixId: string, body: NewRevision): Promise<void> {
  const { projectId } = await mixHead(cx, mixId);
  await revise(cx, act, mixId, projectId, body, '');
  await tellProject(cx, act, projectId, 'revision', body.id);
}

/** @param at where the revision stands in what was sent */
async function revise(
  cx: PoolConnection,
  act: Act,
  mixId: string,
  projectId: string,
  body: Omit<NewRevision, 'by'>,
  at: string,
): Promise<void> {
  if (body.largest.unit !== body.nominal.unit) throw refuse('wrong-unit', `${at}nominal.unit`, 'Both sizes in one unit.');
  const units = new Set(body.ingredients.map((i) => i.mass.unit === 'lb'));
  if (units.size > 1)
    throw refuse('wrong-unit', `${at}ingredients`, 'A recipe stands for a cubic metre, or in pounds for a cubic yard: not for both.');
  await mustMeet(cx, projectId, body.specificationIds, at);
  await insertRevision(cx, {
    ...body,
    mixId,
    number: body.number ?? (await nextNumber(cx, mixId)),
    by: act.personId,
    madeAt: act.now.toISOString(),
    ingredients: await withGravities(cx, act, projectId, body.ingredients, at),
  });
  await judgeSince(cx, act, mixId, body.effectiveFrom);
}

/** What was made of a mix or a source since a moment that has passed is judged again: it is told by what it was judged instead. */
async function judgeSince(cx: PoolConnection, act: Act, subjectId: string, from: string): Promise<void> {
  if (new Date(from) <= act.now) await postponeLines(cx, await linesSince(cx, subjectId, new Date(from)));
}

async function meetFrom(cx: PoolConnection, act: Act, itemId: string, body: Omit<NewMeeting, 'by'>): Promise<void> {
  await insertMeeting(cx, act, itemId, body);
  await judgeSince(cx, act, itemId, body.from);
}

async function mustMeet(cx: PoolConnection, projectId: string, ids: readonly string[], at: string): Promise<void> {
  for (const [position, id] of ids.entries()) {
    if (ids.indexOf(id) !== position) throw refuse('twice', `${at}specificationIds.${position}`, 'One specification is named twice.');
    await mustBeOf(cx, 'specification', id, projectId, `${at}specificationIds.${position}`);
  }
}

/** What a source or a structure must meet from a moment on; what is of a mix meets what its mix does. */
export async function meet(cx: PoolConnection, act: Act, itemId: string, body: NewMeeting): Promise<void> {
  const item = await itemOf(cx, itemId);
  if (item.parentId !== null || ITEM_KINDS[item.kind].subject === 'mix')
    throw refuse('not-on-this', 'specificationIds', `${item.code} meets what its mix or what it lies in does.`);
  await mustMeet(cx, item.projectId, body.specificationIds, '');
  await meetFrom(cx, act, itemId, body);
  await tellProject(cx, act, item.projectId, 'meeting', itemId);
}

/** What of a source stays as it is until it is found otherwise. */
const TAKEN_OVER: readonly Given[] = ['source.gravity', 'source.absorption'];

/** What a test found of a source counts from a moment on; nothing that was worked out before changes. */
export async function accept(cx: PoolConnection, act: Act, itemId: string, body: NewAcceptance): Promise<void> {
  const item = await itemOf(cx, itemId, 'source');
  const given = await giftsWhere(cx, [{ testIds: [body.testId] }]);
  // Moisture is of its shift alone: nobody takes it over.
  const first = given.find((g) => g.subjectId === itemId && TAKEN_OVER.includes(g.source));
  if (!first) throw refuse('unknown', 'testId', `No test that stands found a gravity or an absorption of ${item.code} under this id.`);
  if (new Date(body.from) < first.at)
    throw refuse('too-early', 'from', 'It counts from the day on which it was found at the earliest: before that nobody knew it.');
  await insertAcceptance(cx, act, itemId, body);
  // It may have waited for that, and what was found before it too.
  for (const lineId of await linesFinding(cx, STRAYS, itemId)) act.touched.set(lineId, null);
  await tellProject(cx, act, item.projectId, 'acceptance', itemId);
}

/** Somebody looked at what a mix stands on, and leaves it as it is. */
export async function lookAt(cx: PoolConnection, act: Act, mixId: string, body: NewLook): Promise<void> {
  const { projectId, revisions } = await mixOf(cx, mixId);
  const given = await giftsWhere(cx, [{ testIds: [body.testId] }]);
  const sources = new Set(revisions.flatMap((r) => r.ingredients.flatMap((i) => i.sourceId ?? [])));
  if (!given.some((g) => g.subjectId !== null && sources.has(g.subjectId)))
    throw refuse('unknown', 'testId', 'No test of a source of this mix has this id.');
  await insertLook(cx, act, mixId, body);
  await tellProject(cx, act, projectId, 'look', mixId);
}

/** What the air-free density takes of the aggregates. */
const GRAVITY: Given = 'source.gravity';

/** What the ingredients’ gravities are: as keyed, or as it counts of the source now. */
async function withGravities(
  cx: PoolConnection,
  act: Act,
  projectId: string,
  ingredients: readonly NewIngredient[],
  at: string,
): Promise<Ingredient[]> {
  const sought = ingredients.flatMap(({ sg, sourceId }) =>
    sg === undefined && sourceId !== undefined ? [{ subjectId: sourceId, source: GRAVITY, before: act.now }] : [],
  );
  const found = await giftsWhere(cx, sought);
  const whole: Ingredient[] = [];
  for (const [i, { sg, ...rest }] of ingredients.entries()) {
    const path = `${at}ingredients.${i}.sourceId`;
    if (rest.sourceId !== undefined) {
      await mustBeOf(cx, 'item', rest.sourceId, projectId, path);
      if ((await itemOf(cx, rest.sourceId)).kind !== 'source') throw refuse('wrong-kind', path, 'An ingredient is of a source.');
    }
    const test = found.find((g) => g.subjectId === rest.sourceId);
    if (sg === undefined && !test)
      throw refuse('no-gravity', `${at}ingredients.${i}.sg`, `Nobody has found a specific gravity of ${rest.name} yet: key it.`);
    whole.push(
      sg === undefined
        ? { ...rest, sg: test!.text, sgTest: { id: test!.testId, itemId: test!.itemId, code: test!.code, at: test!.at.toISOString() } }
        : { ...rest, sg },
    );
  }
  return whole;
}
