import type { Request } from 'express';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import type { Act } from '../actor.js';
import { judgeTouched } from '../commands/findings.js';
import { writeOnce } from '../store/writes.js';
import type { Parts } from './app.js';
import { bodyOf, rawOf } from './requests.js';

/** Parses a write and does it once: what was sent, for whom, and what it is done to. */
export async function write<B extends { readonly id: string; readonly by: string }, T>(
  { pool, changes }: Parts,
  req: Request,
  kind: string,
  schema: z.ZodType<B>,
  targetId: string | null,
  work: (cx: PoolConnection, act: Act, body: B) => Promise<T>,
): Promise<{ body: B; done: T | null }> {
  const body = bodyOf(schema, req);
  const done = await writeOnce(pool, { kind, targetId, raw: rawOf(req), id: body.id, personId: body.by }, async (cx, act) => {
    const answer = await work(cx, act, body);
    await judgeTouched(cx, act);
    return answer;
  });
  // Whoever listens here need not wait for the next look.
  void changes.look();
  return { body, done };
}
