import type { Item } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { addChange } from '../store/changes.js';

/** Says in the change log what happened to an item. */
export const tellOf = (cx: PoolConnection, act: Act, line: readonly Item[], kind: string, entityId: string): Promise<number> => {
  const item = line.at(-1)!;
  return addChange(cx, {
    at: act.now,
    projectId: item.projectId,
    itemId: item.id,
    line: line.map((i) => i.id),
    kind,
    entityId,
    personId: act.personId,
  });
};

/** Says in the change log what happened to something of a project that is no item. */
export const tellProject = (cx: PoolConnection, act: Act, projectId: string, kind: string, entityId: string): Promise<number> =>
  addChange(cx, { at: act.now, projectId, itemId: null, line: [], kind, entityId, personId: act.personId });
