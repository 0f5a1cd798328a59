import { createHash } from 'node:crypto';
import type { Pool, PoolConnection } from 'mysql2/promise';
import { clockOf, insert, isCollision, isDuplicate, selectOne, transaction } from '../db.js';
import { Refused } from '../problems.js';

const TRIES = 4;

/** Objects with their keys in order, so that the same body always has the same digest. */
function canonical(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(canonical);
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, inner]) => [key, canonical(inner)]),
  );
}

/**
 * Does `work` once for an id: the whole write and its entry in the log are one transaction. The
 * same body under the same id again changes nothing; another body under a used id is refused.
 */
export async function writeOnce(
  pool: Pool,
  kind: string,
  body: { readonly id: string },
  work: (cx: PoolConnection) => Promise<void>,
): Promise<'written' | 'known'> {
  const digest = createHash('sha256')
    .update(JSON.stringify(canonical(body)))
    .digest('hex');
  for (let attempt = 1; ; attempt++) {
    try {
      return await transaction(pool, async (cx) => {
        const known = await selectOne<{ kind: string; digest: string }>(cx, 'SELECT kind, digest FROM write_log WHERE id = ?', [body.id]);
        if (known) {
          if (known.kind !== kind || known.digest !== digest)
            throw new Refused('id-reused', `The id ${body.id} was used for another ${known.kind}.`);
          return 'known';
        }
        await insert(cx, 'write_log', { id: body.id, kind, digest, written_at: await clockOf(cx) });
        await work(cx);
        return 'written';
      });
    } catch (error) {
      // Two copies of one request, or two people at one number: the loser looks again.
      if ((isCollision(error) || isDuplicate(error)) && attempt < TRIES) continue;
      if (isDuplicate(error)) throw new Refused('already-exists', 'One with this number, name or code exists already.');
      throw error;
    }
  }
}
