import type { Item, NewSet } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import { v7 as newId } from 'uuid';
import type { Act } from '../actor.js';
import { Refused } from '../problems.js';
import { lineOf } from '../store/items.js';
import { amendItem, makeItem } from './items.js';

/** Molds a set: it and all that are in it, in one go. Where the sample does not say when molding was started, it says so now. */
export async function moldSet(cx: PoolConnection, act: Act, parentId: string, body: NewSet): Promise<Item> {
  const parent = (await lineOf(cx, parentId)).at(-1)!;
  const { projectId } = parent;
  const own = { by: act.personId, projectId };
  const line = await makeItem(cx, act, {
    ...own,
    id: body.id,
    kind: 'specimen-set',
    parentId,
    facts: body.facts,
    ...(body.code === undefined ? {} : { code: body.code }),
  });
  for (const [i, { id, age }] of body.specimens.entries()) {
    const facts = (age === null ? {} : { age }) as NewSet['facts'];
    await makeItem(cx, act, { ...own, id, kind: 'specimen', parentId: body.id, facts }).catch((error: unknown) => {
      throw error instanceof Refused ? error.under(`specimens.${i}`) : error;
    });
  }
  const { madeAt } = body.facts as { madeAt?: string };
  const { molding } = parent.facts as { molding?: string };
  if (parent.kind === 'sample' && molding === undefined && madeAt !== undefined) {
    const reading = { id: newId(), field: 'molding', text: madeAt, unit: null, at: act.now.toISOString() };
    await amendItem(cx, act, parentId, { readings: [reading] });
  }
  return line.at(-1)!;
}
