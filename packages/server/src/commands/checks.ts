import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { fault, type FaultCode } from '../faults.js';
import { Refused } from '../problems.js';
import { projectIdOf } from '../store/projects.js';

/** A refusal that names one place. */
export const refuse = (code: FaultCode, path: string, message: string, next?: string): Refused =>
  new Refused('invalid-input', message, [fault(code, path, message, next)]);

/** Refuses a reference to something that is missing or belongs to another project. */
export async function mustBeOf(
  cx: PoolConnection,
  table: 'mix' | 'specification' | 'equipment' | 'item',
  id: string,
  projectId: string,
  path: string,
): Promise<void> {
  const own = await projectIdOf(cx, table, id);
  if (own === projectId) return;
  const message = own === undefined ? `There is no ${table} with this id.` : `This ${table} belongs to another project.`;
  const code = own === undefined ? 'unknown' : 'other-project';
  throw new Refused(own === undefined ? 'invalid-input' : 'other-project', message, [fault(code, path, message)]);
}

/** A device’s clock may be so much before the server’s, ms. */
const AHEAD = 5 * 60_000;
/** Nobody keys what happened longer ago, ms. */
const LONG_AGO = 100 * 366 * 86_400_000;

/** A moment that cannot be: not yet, or before anybody here was born. */
export function mustHaveBeen(iso: string, act: Act, path: string): Date {
  const at = new Date(iso);
  const apart = at.getTime() - act.now.getTime();
  if (apart > AHEAD) throw refuse('not-yet', path, 'That moment has not come yet: look at the date and at the clock of this device.');
  if (apart < -LONG_AGO) throw refuse('long-ago', path, 'That is more than a hundred years ago: look at the date.');
  return at;
}

export function mustFollow(at: Date, earlier: Date, path: string, message: string): void {
  if (at.getTime() < earlier.getTime()) throw refuse('out-of-order', path, message);
}
