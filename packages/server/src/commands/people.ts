import type { newDevice, newPerson, NewCertificate } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import { NIL } from 'uuid';
import type * as z from 'zod';
import type { Act } from '../actor.js';
import { nextNumber } from '../store/items.js';
import { insertCertificate, insertDevice, insertPerson, personOf } from '../store/people.js';
import { refuse } from './checks.js';

export async function makePerson(cx: PoolConnection, _act: Act, body: z.infer<typeof newPerson>): Promise<void> {
  await insertPerson(cx, { id: body.id, name: body.name, role: body.role });
}

/** What somebody may do, and until when. */
export async function certify(cx: PoolConnection, act: Act, body: NewCertificate): Promise<void> {
  if (!(await personOf(cx, body.personId))) throw refuse('unknown-person', 'personId', 'There is nobody of that id.');
  await insertCertificate(cx, act, body);
}

/** A device that makes things without a network is counted: no two call anything the same. */
export async function meetDevice(cx: PoolConnection, act: Act, body: z.infer<typeof newDevice>): Promise<void> {
  await insertDevice(cx, act, body.id, await nextNumber(cx, NIL, 'device'));
}
