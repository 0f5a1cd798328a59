import { createHash } from 'node:crypto';
import type { Pool, PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { NOW } from '../clock.js';
import { insert, isCollision, isDuplicate, selectOne, transaction } from '../db.js';
import { fault } from '../faults.js';
import { Refused } from '../problems.js';

const TRIES = 10;
/** Between two tries, ms: longer each time, and never the same for two that met. */
const PAUSE = 15;

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

/** A write as it came: what it is, on what, and the body before anything was filled in. */
export interface Write {
  readonly kind: string;
  readonly targetId: string | null;
  readonly raw: unknown;
  readonly id: string;
  readonly personId: string;
}

/** Of the target and of the body as it was sent: the same write stays the same over an upgrade of what is filled in. */
const digestOf = ({ kind, targetId, raw }: Write): string =>
  createHash('sha256')
    .update(JSON.stringify([kind, targetId, canonical(raw)]))
    .digest('hex');

/**
 * Does `work` once for an id: the whole write and its entry in the log are one transaction. The same write
 * under the same id again changes nothing; another one under a used id is refused.
 * @returns what `work` gave; null where the write was known
 */
export async function writeOnce<T>(pool: Pool, write: Write, work: (cx: PoolConnection, act: Act) => Promise<T>): Promise<T | null> {
  const digest = digestOf(write);
  for (let attempt = 1; ; attempt++) {
    try {
      return await transaction(pool, async (cx) => {
        await insert(cx, 'write_log', {
          id: write.id,
          kind: write.kind,
          target_id: write.targetId,
          digest,
          person_id: write.personId,
        });
        return await work(cx, { personId: write.personId, writeId: write.id, now: await clockFor(cx, write), touched: new Map() });
      });
    } catch (error) {
      if (isDuplicate(error) && (await isKnown(pool, write, digest))) return null;
      // Two copies of one request, or two people at one number: the loser looks again.
      if ((isCollision(error) || isDuplicate(error)) && attempt < TRIES) {
        await new Promise((resolve) => setTimeout(resolve, PAUSE * attempt * (1 + Math.random())));
        continue;
      }
      if (isDuplicate(error)) throw new Refused('already-exists', 'One with this number, name or code exists already.');
      if (isCollision(error)) throw new Refused('busy', 'Many write on this at once, and nothing of it was kept. Try again.');
      throw error;
    }
  }
}

/** Whether this very write was done before. */
async function isKnown(pool: Pool, write: Write, digest: string): Promise<boolean> {
  const known = await selectOne<{ digest: string; kind: string }>(pool, 'SELECT kind, digest FROM write_log WHERE id = ?', [write.id]);
  if (known && known.digest !== digest) throw new Refused('id-reused', `The id ${write.id} was used for another ${known.kind}.`);
  return known !== undefined;
}

/** What a dry run ends with, so that nothing of it stays. */
class TakenBack<T> {
  constructor(readonly found: T) {}
}

/** Does all of a write, and takes it back: what would come of it, and what would be refused, without a trace. */
export async function tried<T>(pool: Pool, write: Write, work: (cx: PoolConnection, act: Act) => Promise<T>): Promise<T> {
  try {
    return await transaction(pool, async (cx): Promise<T> => {
      // eslint-disable-next-line @typescript-eslint/only-throw-error -- no error: the transaction is taken back by it
      throw new TakenBack(
        await work(cx, { personId: write.personId, writeId: write.id, now: await clockFor(cx, write), touched: new Map() }),
      );
    });
  } catch (error) {
    if (error instanceof TakenBack) return error.found as T;
    if (isDuplicate(error)) throw new Refused('already-exists', 'One with this number, name or code exists already.');
    throw error;
  }
}

/** The database’s clock, and that the person is one: there is no write without somebody. */
async function clockFor(cx: PoolConnection, { kind, id, personId }: Write): Promise<Date> {
  const row = (await selectOne<{ now: Date; person: string | null; nobody: number }>(
    cx,
    `SELECT ${NOW} AS now, (SELECT id FROM person WHERE id = ?) AS person, NOT EXISTS (SELECT id FROM person) AS nobody`,
    [personId],
  ))!;
  if (row.person !== null) return row.now;
  // Somebody has to be the first.
  if (kind === 'person' && id === personId && row.nobody === 1) return row.now;
  throw new Refused('invalid-input', 'Nobody has this id.', [fault('unknown-person', 'by', 'Nobody has this id.')]);
}
