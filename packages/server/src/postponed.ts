import type { Pool } from 'mysql2/promise';
import { workOutPostponed } from './commands/again.js';
import { clockOf, transaction } from './db.js';

/** How often it is looked for what waits, ms. */
const LOOK = 500;

/**
 * Works out what waits because too much stood on what was changed: item by item, each in its own transaction, on
 * whichever server comes to it; one that is stopped in the middle leaves the rest to the next.
 */
export class Postponed {
  private timer: NodeJS.Timeout | null = null;
  private stopped = false;
  private working: Promise<void> | null = null;

  constructor(private readonly pool: Pool) {}

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
      // A database that is away, or two that met at one item: what waits still waits.
      .catch(() => undefined)
      .finally(() => (this.working = null));
    return this.working;
  }

  private async all(): Promise<void> {
    while (!this.stopped && (await transaction(this.pool, async (cx) => workOutPostponed(cx, await clockOf(cx)))));
  }
}
