/*
 * The part of npm run bench that needs a pour of some size: what it costs to read what is found of 60 loads, 20 samples and 400
 * tests, to judge one of their lines afresh, and to keep a test on it; and a break into a mix of a hundred sets and of ten thousand.
 */
import { randomUUID } from 'node:crypto';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { methodById } from '@keen-mortar/core';
import { createConnection } from 'mysql2/promise';
import { pino } from 'pino';
import { hearing } from '../packages/server/src/changes.js';
import { judgeLine } from '../packages/server/src/commands/findings.js';
import { connect, transaction } from '../packages/server/src/db.js';
import { idFor, loadDemo } from '../packages/server/src/demo.js';
import { grantRunning } from '../packages/server/src/grants.js';
import { build } from '../packages/server/src/http/app.js';
import { migrate } from '../packages/server/src/migrate.js';
import { findingsShown } from '../packages/server/src/queries/findings.js';
import { Watch } from './lib/watch.js';
// @ts-expect-error -- plain Node, without types
import { startDatabase } from './lib/database.mjs';

const ROOT = join(import.meta.dirname, '..');
const [LOADS, SAMPLES, TESTS] = [60, 20, 400];
const SETS = [100, 10_000];
const ROUNDS = 40;
const DAY = 86_400_000;

interface Database {
  urlsFor(name: string): { migrateUrl: string; runUrl: string };
  stop(): Promise<void>;
}

const say = (what: string, figures: string): void => console.log(`${what.padEnd(62)} ${figures}`);
const median = (values: readonly number[]): string => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!.toFixed(1);
async function timed(rounds: number, work: (round: number) => Promise<unknown>): Promise<number[]> {
  const times: number[] = [];
  for (let round = 0; round < rounds; round++) {
    const from = performance.now();
    await work(round);
    times.push(performance.now() - from);
  }
  return times.slice(Math.floor(rounds / 6));
}

async function measure(urls: { migrate: string; run: string }): Promise<void> {
  const pool = connect(urls.run);
  const watch = new Watch(pool);
  const { live, changes } = hearing(pool);
  const server = createServer(build({ pool, live, changes, log: pino({ level: 'silent' }) }));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api/v1`;
  const by = idFor('oakhanger');
  const post = async <T>(path: string, body: object): Promise<T> => {
    const answer = await fetch(base + path, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ id: randomUUID(), by, ...body }),
    });
    const text = await answer.text();
    if (answer.status !== 201) throw new Error(`${path}: ${text}`);
    return JSON.parse(text) as T;
  };
  const [[row]] = (await pool.query('SELECT id FROM project LIMIT 1')) as unknown as [{ id: string }[]];
  const project = row!.id;
  const from = Date.now() - 40 * DAY;
  const at = (minutes: number): string => new Date(from + minutes * 60_000).toISOString();
  const q = (text: string, unit: string) => ({ text, unit });
  const pourId = randomUUID();
  const item = (kind: string, parentId: string | null, facts: object, more: object = {}) =>
    post<{ item: { id: string } }>('/items', { kind, projectId: project, parentId, facts, ...more });
  await item('pour', null, { element: 'Deck', planned: q('600', 'm3') }, { id: pourId, name: randomUUID(), subjectId: idFor('deck') });
  const [revision] = (await pool.query(
    'SELECT i.name, i.role, i.mass_text AS text, i.mass_unit AS unit FROM ingredient i JOIN mix_revision r ON r.id = i.revision_id WHERE r.mix_id = ? AND r.number = 1 ORDER BY i.position',
    [idFor('deck')],
  )) as unknown as [{ name: string; role: string; text: string; unit: string }[]];
  const materials = revision.map((m) => ({ name: m.name, role: m.role, actual: q(String(Number(m.text) * 6), m.unit) }));
  const loads: string[] = [];
  for (let i = 0; i < LOADS; i++)
    loads.push(
      (await item('load', pourId, { ticket: `B-${i}`, truck: 'Truck 1', batchedAt: at(i * 5), design: q('6', 'm3'), materials })).item.id,
    );
  const samples: string[] = [];
  const tests: string[] = [];
  const test = async (itemId: string, method: string, minutes: number, readings: Readonly<Record<string, [string, string | null]>>) => {
    const id = randomUUID();
    const [variant] = Object.keys(methodById(method)!.variants);
    const body = { id, method, variant, system: 'si', startedAt: at(minutes), equipmentId: null, retestOf: null };
    await post(`/items/${itemId}/tests`, body);
    const keep = {
      readings: Object.entries(readings).map(([field, [text, unit]]) => ({ id: randomUUID(), field, text, unit, at: at(minutes) })),
    };
    return { id, keep: () => post(`/tests/${id}/readings`, keep) };
  };
  for (let i = 0; i < SAMPLES; i++) {
    const start = i * 15;
    const facts = {
      portions: [
        { at: at(start + 5), part: 'middle' },
        { at: at(start + 9), part: 'middle' },
      ],
      finished: at(start + 10),
    };
    samples.push((await item('sample', loads[i * 3]!, facts)).item.id);
    for (let k = 0; k < TESTS / SAMPLES; k++) {
      const made = await test(samples[i]!, 'slump', start + 11 + k, {
        shape: ['true', null],
        mold: ['300', 'mm'],
        drop: [String(70 + k * 4), 'mm'],
      });
      await made.keep();
      tests.push(made.id);
    }
  }
  const ids = [pourId, ...loads, ...samples];
  const { length: statements } = await watch.of(() => findingsShown(pool, ids, new Date()));
  const read = await timed(ROUNDS, () => findingsShown(pool, ids, new Date()));
  say(
    `what is found of ${LOADS} loads, ${SAMPLES} samples, ${tests.length} tests`,
    `${statements} statements; median ${median(read)} ms (aim ≤ 50)`,
  );
  const line = await timed(ROUNDS, (round) => transaction(pool, (cx) => judgeLine(cx, loads[(round * 3) % LOADS]!)));
  say(`a line of ${TESTS / SAMPLES} tests judged afresh`, `median ${median(line)} ms`);
  const ready: Awaited<ReturnType<typeof test>>[] = [];
  for (let i = 0; i < ROUNDS; i++)
    ready.push(await test(samples[i % SAMPLES]!, 'slump', 400 + i, { shape: ['true', null], mold: ['300', 'mm'], drop: ['100', 'mm'] }));
  const keep = await watch.of(ready[0]!.keep);
  if (process.env['KM_SQL']) for (const { sql } of keep) console.error(sql.replace(/\s+/g, ' ').slice(0, 160));
  const keeps = await timed(ROUNDS - 1, (round) => ready[round + 1]!.keep());
  say('keeping a test on one of them', `${keep.length} statements (aim ≤ 26); median ${median(keeps)} ms`);

  const owner = await createConnection({ uri: urls.migrate, timezone: 'Z' });
  const found: number[] = [];
  for (const sets of SETS) {
    await owner.query("DELETE FROM strength WHERE specimens = '[]' AND subject_id = ?", [idFor('deck')]);
    await owner.query("DELETE FROM item WHERE code LIKE 'X-%'");
    await owner.query(
      `INSERT INTO item (id, project_id, kind, scope_id, number, code, subject_id, revision_id, person_id, made_at, day, at, facts)
       SELECT UUID(), i.project_id, i.kind, i.scope_id, 100000 + seq, CONCAT('X-', seq), i.subject_id, i.revision_id, i.person_id, i.made_at, i.day,
         DATE_SUB(?, INTERVAL seq * 3 HOUR), '{}'
       FROM seq_1_to_${sets} JOIN (SELECT * FROM item WHERE kind = 'specimen-set' AND subject_id = ? LIMIT 1) i`,
      [new Date(from - DAY), idFor('deck')],
    );
    await owner.query(
      `INSERT INTO strength (item_id, property, age_days, subject_id, cast_at, broken_at, unit, mean_text, reported_text, count, planned, range_text, most_text, apart, not_for, specimens)
       SELECT id, 'strength', 28, subject_id, at, at, 'MPa', '38', '38.0', 3, 3, '2', '9', 0, NULL, '[]' FROM item WHERE code LIKE 'X-%'`,
    );
    const broken: typeof ready = [];
    for (let i = 0; i < ROUNDS / 2; i++) {
      const set = await post<{ children: { id: string }[] }>(`/items/${samples[i % SAMPLES]!}/specimens`, {
        facts: { madeAt: at(320 + i), shape: 'cylinder', width: q('100', 'mm'), length: q('200', 'mm'), curing: 'standard' },
        specimens: [{ id: randomUUID(), age: q('28', 'd') }],
      });
      broken.push(
        await test(set.children[0]!.id, 'cylinder', 320 + i + 28 * 1440, {
          d1: ['101.5', 'mm'],
          d2: ['101.5', 'mm'],
          length: ['203', 'mm'],
          load: ['310', 'kN'],
        }),
      );
    }
    const times = await timed(broken.length, (round) => broken[round]!.keep());
    found.push(Number(median(times)));
    say(`a break into a mix of ${sets.toLocaleString('en')} sets`, `median ${median(times)} ms`);
  }
  say('growth from 100 sets to 10 000', `${(found[1]! / found[0]!).toFixed(2)}× (aim ≤ 1.3)`);
  await owner.end();
  server.closeAllConnections();
  server.close();
  await pool.end();
}

const start = startDatabase as (folder: string, how: object) => Promise<Database>;
const database = await start(join(ROOT, '.bench'), { port: 33_428, databases: ['bench_findings'] });
try {
  const { migrateUrl, runUrl } = database.urlsFor('bench_findings');
  await migrate(migrateUrl);
  await grantRunning(migrateUrl, runUrl);
  const pool = connect(runUrl);
  await loadDemo(pool, join(ROOT, 'demo'), new Date(), 'Etc/UTC');
  await pool.end();
  await measure({ migrate: migrateUrl, run: runUrl });
} finally {
  await database.stop();
}
