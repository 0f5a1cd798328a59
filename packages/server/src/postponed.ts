import type { Pool } from 'mysql2/promise';
import type { Logger } from 'pino';
import { workOutPostponed } from './commands/again.js';
import { clockOf, isAway, isCollision, transaction } from './db.js';
import { broke, nextPostponed } from './store/pending.js';

/** How often it is looked for what waits, ms. */
const LOOK = 500;

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
    const elsewhere: string[] = [];
    for (
      let itemId = await nextPostponed(this.pool, []);
      itemId !== null && !this.stopped;
      itemId = await nextPostponed(this.pool, elsewhere)
    )
      if (!(await this.one(itemId))) elsewhere.push(itemId);
  }

  /** @returns whether nothing waits of it any more */
  private async one(itemId: string): Promise<boolean> {
    try {
      return await transaction(this.pool, async (cx) => workOutPostponed(cx, itemId, await clockOf(cx)));
    } catch (error) {
      if (isAway(error)) throw error;
      // Two that met at one item come to it again; anything else is for whoever reads the log.
      if (!isCollision(error)) {
        this.log.error({ err: error, itemId }, 'cannot be worked out again');
        await broke(this.pool, itemId);
      }
      return false;
    }
  }
}
