import type { Pool } from 'mysql2/promise';
import { Live } from './live.js';
import { changesAfter, settledBefore, type Change } from './store/changes.js';

/** How often the log is looked at, ms. */
const LOOK = 300;
/** Longer than any transaction lasts, ms: a number is given before its commit, and may appear so much later. */
const WINDOW = 60_000;

/**
 * Follows the change log and tells open pages, whichever server wrote it. What is younger than the longest
 * transaction is read again with each look, and dropped where it was told.
 */
export class Changes {
  private settled: number | null = null;
  private readonly told = new Set<number>();
  private looking: Promise<void> | null = null;
  private again = false;
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly pool: Pool,
    private readonly live: Live,
  ) {}

  start(): void {
    this.timer = setInterval(() => void this.look(), LOOK);
    this.timer.unref();
  }

  stop(): void {
    if (this.timer) clearInterval(this.timer);
  }

  /** Where a page may take up its line again: behind everything that may still appear. */
  async cursor(): Promise<number> {
    if (this.settled === null) await this.look();
    return this.settled ?? 0;
  }

  /** Looks now; a look that is under way is followed by another. */
  look(): Promise<void> {
    this.again = this.looking !== null;
    this.looking ??= this.read()
      // A database that is away is said elsewhere; the log is still there afterwards.
      .catch(() => undefined)
      .finally(() => {
        this.looking = null;
        if (this.again) void this.look();
      });
    return this.looking;
  }

  private async read(): Promise<void> {
    // What was there before anybody listened is told to nobody.
    const first = this.settled === null;
    this.settled ??= await settledBefore(this.pool, WINDOW / 1000);
    const found: Change[] = [];
    for await (const change of changesAfter(this.pool, this.settled)) {
      found.push(change);
      if (this.told.has(change.seq)) continue;
      this.told.add(change.seq);
      if (!first) this.live.changed(change, String(this.settled));
    }
    this.settle(found);
  }

  /** What is older than the window, up to the first that is not, will not be read again. */
  private settle(found: readonly Change[]): void {
    const newest = found.reduce((latest, c) => Math.max(latest, c.at.getTime()), 0);
    for (const { seq, at } of found) {
      if (newest - at.getTime() < WINDOW) break;
      this.settled = seq;
      this.told.delete(seq);
    }
  }
}

/** Open pages, and what tells them of changes. */
export function hearing(pool: Pool): { readonly live: Live; readonly changes: Changes } {
  const live = new Live();
  return { live, changes: new Changes(pool, live) };
}
