import type { Pool, PoolConnection } from 'mysql2/promise';
import type { Logger } from 'pino';
import { workOutPostponed } from './commands/again.js';
import { judgePostponed } from './commands/findings.js';
import { clockOf, isAway, isCollision, transaction } from './db.js';
import { lineBroke, nextPendingLine } from './store/findings.js';
import { broke, nextPostponed } from './store/pending.js';

/** How often it is looked for what waits, ms. */
const LOOK = 500;

/** What waits next, but for some that others are at. */
type Next = (cx: Pool, but: readonly string[]) => Promise<string | null>;
/** Works one of them out in a transaction of its own; false where another server is at it. */
type Work = (cx: PoolConnection, id: string, now: Date) => Promise<boolean>;

/**
 * Works out what waits because too much stood on what was changed: item by item, each in its own transaction, on
 * whichever server comes to it; one that is stopped in the middle leaves the rest to the next. What cannot be worked
 * out holds nothing else up.
 */
export class Postponed {
  private timer: NodeJS.Timeout | null = null;
  private stopped = false;
  private working: Promise<void> | null = null;

  constructor(
    private readonly pool: Pool,
    private readonly log: Pick<Logger, 'error'>,
  ) {}

  start(): void {
    this.timer = setInterval(() => void this.work(), LOOK);
    this.timer.unref();
  }

  stop(): void {
    this.stopped = true;
    if (this.timer) clearInterval(this.timer);
  }

  /** Until nothing waits; once at a time. */
  work(): Promise<void> {
    this.working ??= this.all()
      // A database that is away: what waits still waits.
      .catch(() => undefined)
      .finally(() => (this.working = null));
    return this.working;
  }

  private async all(): Promise<void> {
    // Tests first: lines are judged by what came of them.
    await this.each(nextPostponed, workOutPostponed, broke);
    await this.each(nextPendingLine, judgePostponed, lineBroke);
  }

  private async each(next: Next, work: Work, failed: (cx: Pool, id: string) => Promise<unknown>): Promise<void> {
    const elsewhere: string[] = [];
    for (let id = await next(this.pool, []); id !== null && !this.stopped; id = await next(this.pool, elsewhere))
      if (!(await this.one(id, work, failed))) elsewhere.push(id);
  }

  /** @returns whether nothing waits of it any more */
  private async one(id: string, work: Work, failed: (cx: Pool, id: string) => Promise<unknown>): Promise<boolean> {
    try {
      return await transaction(this.pool, async (cx) => work(cx, id, await clockOf(cx)));
    } catch (error) {
      if (isAway(error)) throw error;
      // Two that met at one item come to it again; anything else is for whoever reads the log.
      if (!isCollision(error)) {
        this.log.error({ err: error, id }, 'cannot be worked out again');
        await failed(this.pool, id);
      }
      return false;
    }
  }
}
