/*
 * The part of npm run bench that needs the record: what a sheet, a keep, the list of pours and a history cost with
 * few and with many tests in the tables, against the same statements sent by hand. The data is made set-wise from one
 * sample that was made by the commands, and kept between runs (.bench).
 * KM_TESTS: sizes, by commas. The first run of a size takes its time.
 */
import { randomUUID } from 'node:crypto';
import { createServer } from 'node:http';
import { join } from 'node:path';
import type { AddressInfo } from 'node:net';
import { createConnection, type Connection, type RowDataPacket } from 'mysql2/promise';
import { pino } from 'pino';
import { hearing } from '../packages/server/src/changes.js';
import { connect } from '../packages/server/src/db.js';
import { idFor, loadDemo } from '../packages/server/src/demo.js';
import { grantRunning } from '../packages/server/src/grants.js';
import { build } from '../packages/server/src/http/app.js';
import { migrate } from '../packages/server/src/migrate.js';
import { fill, one } from './lib/bench-fill.js';
import { Watch } from './lib/watch.js';
// @ts-expect-error -- plain Node, without types
import { startDatabase } from './lib/database.mjs';

const ROOT = join(import.meta.dirname, '..');
const SIZES = (process.env['KM_TESTS'] ?? '10000,1000000').split(',').map(Number);
const ROUNDS = 60;

interface Database {
  urlsFor(name: string): { migrateUrl: string; runUrl: string };
  stop(): Promise<void>;
}

const say = (what: string, figures: string): void => console.log(`${what.padEnd(62)} ${figures}`);
const share = (values: readonly number[], part: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * part))] ?? NaN;
const ms = (value: number): string => value.toFixed(1);

async function timed(rounds: number, work: (round: number) => Promise<unknown>): Promise<number[]> {
  const times: number[] = [];
  for (let round = 0; round < rounds; round++) {
    const from = performance.now();
    await work(round);
    times.push(performance.now() - from);
  }
  return times.slice(Math.floor(rounds / 6));
}

/** Rows that the storage engine was asked for, and rows that came back. */
async function rowsOf(
  cx: Connection,
  statements: readonly { sql: string; values: unknown[] }[],
): Promise<{ examined: number; returned: number }> {
  // What a temporary table in memory is read by is not what lies in the tables.
  const read = async (): Promise<number> =>
    (await cx.query<RowDataPacket[]>("SHOW SESSION STATUS LIKE 'Handler_read%'"))[0]
      .filter((row) => !/rnd_deleted|rnd_next|retry/.test(String(row['Variable_name'])))
      .reduce((sum, row) => sum + Number(row['Value']), 0);
  const before = await read();
  let returned = 0;
  for (const { sql, values } of statements) returned += ((await cx.query<RowDataPacket[]>(sql, values))[0] as unknown[]).length;
  return { examined: (await read()) - before, returned };
}

async function measure(urls: { migrate: string; run: string }, tests: number): Promise<Record<string, number>> {
  const pool = connect(urls.run);
  const watch = new Watch(pool);
  const { live, changes } = hearing(pool);
  const server = createServer(build({ pool, live, changes, log: pino({ level: 'silent' }) }));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api/v1`;
  const bare = await createConnection({ uri: urls.run, timezone: 'Z', dateStrings: ['DATE'], jsonStrings: true });
  const get = async (path: string): Promise<unknown> => (await fetch(base + path)).json();
  const post = async (path: string, body: object): Promise<void> => {
    const answer = await fetch(base + path, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    if (answer.status !== 201) throw new Error(await answer.text());
    await answer.arrayBuffer();
  };
  const [rows] = await bare.query<RowDataPacket[]>("SELECT id, project_id FROM item WHERE kind = 'sample' ORDER BY id LIMIT ?", [
    Math.min(2000, tests / 8),
  ]);
  const samples = rows.map((row) => String(row['id']));
  const project = String(rows[0]!['project_id']);
  const some = (round: number): string => samples[(round * 37) % samples.length]!;
  const by = idFor('oakhanger');
  const p95: Record<string, number> = {};
  const title = (what: string): string => `${what}, ${tests.toLocaleString('en')} tests`;

  const mixOfHalf = idFor('deck');
  const monthAgo = new Date(Date.now() - 30 * 86_400_000).toISOString();
  for (const [what, path] of [
    ['opening a sheet', (round: number) => `/samples/${some(round)}`],
    ['list of pours', () => `/pours?project=${project}&limit=20`],
    ['first page of the ledger', () => `/ledger?project=${project}`],
    ['ledger, slumps of a mix in a month', () => `/ledger?project=${project}&method=slump&of=${mixOfHalf}&from=${monthAgo}`],
    ['ledger, what is out', () => `/ledger?project=${project}&state=out`],
    ['ledger, counts of the newest 20 000', () => `/ledger/counts?project=${project}`],
  ] as const) {
    const statements = await watch.of(() => get(path(3)));
    const api = await timed(ROUNDS, (round) => get(path(round)));
    const raw = await timed(ROUNDS, async () => {
      for (const { sql, values } of statements) await bare.query(sql, values);
    });
    const { examined, returned } = await rowsOf(bare, statements);
    p95[what] = share(api, 0.95);
    say(
      title(what),
      `${statements.length} statements; median ${ms(share(api, 0.5))}, p95 ${ms(p95[what])} ms, the same SQL alone ${ms(share(raw, 0.5))}, ${ms(share(raw, 0.95))} (${(p95[what] / share(raw, 0.95)).toFixed(2)}×, aim ≤ 1.5); rows examined per row returned ${(examined / returned).toFixed(1)} (aim ≤ 3)`,
    );
  }

  // What leaves: as many tests as it takes for a hundred thousand results, and a month of a mix.
  const heap = (): number => process.memoryUsage().heapUsed / 1e6;
  const before = heap();
  let [most, bytes, lines] = [before, 0, 0];
  const exportFrom = performance.now();
  const leaving = (await fetch(`${base}/ledger/export?project=${project}&method=yield&format=csv`)).body!;
  for await (const chunk of leaving as unknown as AsyncIterable<Uint8Array>) {
    bytes += chunk.length;
    for (const byte of chunk) if (byte === 10) lines++;
    most = Math.max(most, heap());
    if (lines >= 100_000) break;
  }
  say(
    title(`export of ${lines.toLocaleString('en')} rows`),
    `${((performance.now() - exportFrom) / 1000).toFixed(1)} s, ${(bytes / 1e6).toFixed(1)} MB; memory at most ${(most - before).toFixed(0)} MB more than before (constant)`,
  );
  // A month of a thousand tests: of a mix that nothing was poured of.
  const owner = await createConnection({ uri: urls.migrate, timezone: 'Z' });
  await owner.query('UPDATE ledger SET subject_id = ? WHERE project_id = ? ORDER BY at DESC LIMIT 1000', [idFor('pier'), project]);
  await owner.end();
  const monthFrom = performance.now();
  await post('/reports', {
    id: randomUUID(),
    by,
    projectId: project,
    scope: { of: 'month', subjectId: idFor('pier'), month: new Date().toISOString().slice(0, 7) },
    why: 'measured again',
  });
  const report = performance.now() - monthFrom;
  const { items } = (await get(`/reports?project=${project}&limit=1`)) as { items: { tests: number }[] };
  say(title('a report of a month'), `of ${items[0]?.tests ?? 0} tests: ${(report / 1000).toFixed(2)} s (aim ≤ 3 s)`);

  const history = (await watch.of(() => get(`/samples/${some(5)}`))).filter(({ sql }) => sql.includes('UNION ALL'));
  const times = await timed(ROUNDS, async () => {
    for (const { sql, values } of history) await bare.query(sql, values);
  });
  const { examined, returned } = await rowsOf(bare, history);
  p95['history'] = share(times, 0.95);
  say(
    title('history of every property'),
    `p95 ${ms(p95['history'])} ms; rows examined per row returned ${(examined / returned).toFixed(1)} (aim ≤ 3)`,
  );

  const measureId = idFor('measure-1');
  /** A density test that is started, and how it is kept; ids that its keep brings into the tables. */
  const density = async (sampleId: string): Promise<{ testId: string; ids: string[]; keep: () => Promise<void> }> => {
    const testId = randomUUID();
    const at = new Date().toISOString();
    const test = {
      id: testId,
      by,
      method: 'density',
      variant: 'astm',
      system: 'si',
      startedAt: at,
      equipmentId: measureId,
      retestOf: null,
    };
    await post(`/samples/${sampleId}/tests`, test);
    const reading = (field: string, text: string) => ({ id: randomUUID(), field, text, unit: 'kg', at });
    const readings = [reading('full', '19.31'), reading('empty', '3.21')];
    const body = { id: randomUUID(), by, readings };
    return { testId, ids: [body.id, ...readings.map((r) => r.id)], keep: () => post(`/tests/${testId}/readings`, body) };
  };
  const begun = async (): Promise<Awaited<ReturnType<typeof density>>[]> => {
    const list = [];
    for (let i = 0; i < ROUNDS; i++) list.push(await density(some(i)));
    return list;
  };
  const ready = await begun();
  const first = await density(some(7));
  const watched = await watch.of(first.keep);
  const keeps = await timed(ROUNDS, (round) => ready[round]!.keep());
  p95['keep'] = share(keeps, 0.95);
  // The same rows, bare and in one transaction, under ids of their own.
  const written = watched.filter(({ sql }) => /^\s*(INSERT|DELETE|START|COMMIT)/i.test(sql));
  const targets = await begun();
  const rowsBare = await timed(ROUNDS, async (round) => {
    const ids = new Map([[first.testId, targets[round]!.testId], ...first.ids.map((known): [string, string] => [known, randomUUID()])]);
    const own = (value: unknown): unknown => (Array.isArray(value) ? value.map(own) : (ids.get(value as string) ?? value));
    for (const { sql, values } of written) await bare.query(sql, values.map(own));
  });
  const rate = share(rowsBare, 0.5) / share(keeps, 0.5);
  say(
    title('keeping a density test'),
    `${watched.length} statements (aim ≤ 20); median ${ms(share(keeps, 0.5))}, p95 ${ms(p95['keep'])} ms; bare median ${ms(share(rowsBare, 0.5))} ms; rate against the same rows bare ${rate.toFixed(2)} (aim ≥ 0.5)`,
  );
  const others = await begun();
  const from = performance.now();
  for (const { keep } of others.slice(0, 24)) await keep();
  const alone = performance.now() - from;
  const at = performance.now();
  await Promise.all(
    [0, 1, 2, 3, 4, 5, 6, 7].map(async (lane) => {
      for (const { keep } of others.slice(24 + lane * 4, 28 + lane * 4)) await keep();
    }),
  );
  const eight = performance.now() - at;
  say(title('eight keeps at once'), `${(alone / 24 / (eight / 32) || 0).toFixed(2)}× the rate of one (aim ≥ 4, or the limit of the disk)`);
  await bare.end();
  server.closeAllConnections();
  server.close();
  await pool.end();
  return p95;
}

const start = startDatabase as (folder: string, how: object) => Promise<Database>;
const database = await start(join(ROOT, '.bench'), {
  port: 33_427,
  databases: SIZES.map((size) => `bench_${size}`),
});
try {
  const found: Record<string, number>[] = [];
  for (const size of SIZES) {
    const { migrateUrl, runUrl } = database.urlsFor(`bench_${size}`);
    const urls = { migrate: migrateUrl, run: runUrl };
    await migrate(urls.migrate);
    await grantRunning(urls.migrate, urls.run);
    const pool = connect(urls.run);
    await loadDemo(pool, join(ROOT, 'demo'), new Date(), 'Etc/UTC');
    const cx = await createConnection({ uri: urls.migrate, timezone: 'Z' });
    if ((await one<{ n: number }>(cx, 'SELECT COUNT(*) AS n FROM test')).n < size) {
      const began = performance.now();
      await cx.query('SET unique_checks = 0, foreign_key_checks = 0');
      await fill(cx, size);
      console.error(`made ${size} tests in ${((performance.now() - began) / 1000).toFixed(0)} s`);
    }
    await cx.end();
    await pool.end();
    found.push(await measure(urls, size));
  }
  if (found.length > 1)
    for (const what of Object.keys(found[0]!))
      say(`growth from ${SIZES[0]!} to ${SIZES.at(-1)!}: ${what}`, `${(found.at(-1)![what]! / found[0]![what]!).toFixed(2)}× (aim ≤ 1.3)`);
} finally {
  await database.stop();
}
