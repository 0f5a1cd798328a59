import type { NewHours, NewPlanned } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { notFound } from '../problems.js';
import { dueThere, insertPlanned } from '../store/dues.js';
import { insertHours } from '../store/hours.js';
import { itemsNamed } from '../store/items.js';
import { personOf } from '../store/people.js';
import { projectOf } from '../store/projects.js';
import { refuse } from './checks.js';
import { tellProject } from './telling.js';

/** When somebody is in the laboratory. */
export async function setHours(cx: PoolConnection, act: Act, body: NewHours): Promise<void> {
  await projectOf(cx, body.projectId);
  await insertHours(cx, act, body);
  await tellProject(cx, act, body.projectId, 'hours', body.id);
}

/** When something that is due is to be done, and by whom. */
export async function planDue(cx: PoolConnection, act: Act, body: NewPlanned): Promise<void> {
  const items = await itemsNamed(cx, body.itemIds);
  const projectId = items[0]?.projectId;
  const lost = body.itemIds.find((id) => !items.some((i) => i.id === id && i.projectId === projectId));
  if (lost !== undefined || projectId === undefined) throw notFound('item', lost ?? '');
  const there = await dueThere(cx, body.itemIds, body.due);
  if (body.itemIds.some((id) => !there.has(id))) throw refuse('not-due', 'due', 'Nothing of this item waits for that.');
  if (body.who !== null && !(await personOf(cx, body.who))) throw refuse('unknown-person', 'who', 'There is nobody of that id.');
  const at = body.at === null ? null : new Date(body.at);
  await insertPlanned(cx, { id: body.id, itemIds: body.itemIds, due: body.due, at, who: body.who, by: act.personId, now: act.now });
  await tellProject(cx, act, projectId, 'planned', body.id);
}
