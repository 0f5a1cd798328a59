import type { Instrument, Problem } from '@keen-mortar/contract';
import { randomUUID } from 'node:crypto';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import type { Pool } from 'mysql2/promise';
import { pino } from 'pino';
import { connect, select } from '../src/db.js';
import { idFor, loadDemo } from '../src/demo.js';
import { grantRunning } from '../src/grants.js';
import { build } from '../src/http/app.js';
import { hearing, type Changes } from '../src/changes.js';
import type { Instruments } from '../src/instruments/bridge.js';
import type { Live } from '../src/live.js';
import { migrate } from '../src/migrate.js';

/** The demonstration takes its time where others are at work too. */
jasmine.DEFAULT_TIMEOUT_INTERVAL = 120_000;

export const id = randomUUID;

const need = (name: string): string => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set: run npm test`);
  return value;
};

export const urls = { migrate: need('TEST_MIGRATE_URL'), run: need('TEST_RUN_URL'), empty: need('TEST_EMPTY_URL') };

/** When the demo scenario was loaded: its moments are relative to this. */
export const LOADED_AT = new Date('2026-11-25T12:00:00Z');

export const people = { oakhanger: idFor('oakhanger'), sallow: idFor('sallow') };

export interface Answer<T = Record<string, unknown>> {
  readonly status: number;
  readonly body: T;
  readonly type: string;
}

type Wired = Pick<Instrument, 'id' | 'name'>;

/** A served application on a real database, with the demo scenario in it. */
export class Harness {
  private constructor(
    readonly pool: Pool,
    private readonly server: Server,
    readonly live: Live,
    private readonly changes: Changes,
    /** Instruments at the end of a line. */
    readonly wired: Wired[],
  ) {}

  static async start(pool = connect(urls.run)): Promise<Harness> {
    const { live, changes } = hearing(pool);
    changes.start();
    const wired: Wired[] = [];
    const instruments = { all: () => wired } as unknown as Instruments;
    const server = createServer(build({ pool, live, changes, instruments, log: pino({ level: 'silent' }) }));
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    return new Harness(pool, server, live, changes, wired);
  }

  static async withDemo(): Promise<Harness> {
    await migrate(urls.migrate);
    await grantRunning(urls.migrate, urls.run);
    const harness = await Harness.start();
    await loadDemo(harness.pool, join(import.meta.dirname, '../../../demo'), LOADED_AT, 'Etc/UTC');
    return harness;
  }

  get base(): string {
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}/api/v1`;
  }

  async get<T = Record<string, unknown>>(path: string): Promise<Answer<T>> {
    return this.answer<T>(await fetch(this.base + path));
  }

  bytes = async (path: string): Promise<ArrayBuffer> => (await fetch(this.base + path)).arrayBuffer();
  text = async (path: string): Promise<string> => (await fetch(this.base + path)).text();

  async post<T = Record<string, unknown>>(path: string, body: unknown): Promise<Answer<T>> {
    const text = typeof body === 'string' ? body : JSON.stringify(body);
    return this.answer<T>(await fetch(this.base + path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: text }));
  }

  /** Rows of a table, straight from the database. */
  async count(table: string, where = '1 = 1', values: unknown[] = []): Promise<number> {
    const rows = await select<{ n: number }>(this.pool, `SELECT COUNT(*) AS n FROM ${table} WHERE ${where}`, values);
    return Number(rows[0]?.n);
  }

  async stop(): Promise<void> {
    this.changes.stop();
    this.live.close();
    this.server.closeAllConnections();
    await new Promise((resolve) => this.server.close(resolve));
    await this.pool.end();
  }

  private async answer<T>(response: Response): Promise<Answer<T>> {
    const text = await response.text();
    const body: unknown = text === '' ? {} : JSON.parse(text);
    // Whatever is refused says at each place what can be done about it.
    if (response.status === 422)
      for (const { path, next } of (body as Problem).errors ?? [{ path: '', next: '' }])
        if (!next) throw new Error(`${response.url} refuses ${path} without a next step: ${text}`);
    return { status: response.status, body: body as T, type: response.headers.get('content-type') ?? '' };
  }
}
