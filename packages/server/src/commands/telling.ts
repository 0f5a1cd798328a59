import type { Item } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { addChange } from '../store/changes.js';
import { touch } from './findings.js';

/** Says in the change log what happened to an item: its line is judged again before the write ends. */
export const tellOf = (cx: PoolConnection, act: Act, line: readonly Item[], kind: string, entityId: string): Promise<number> => {
  const item = line.at(-1)!;
  touch(act, line);
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
