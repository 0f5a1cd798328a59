/*
 * The part of npm run bench that needs a long series: 100 000 strength tests of a mix on record, against the same statement sent by
 * hand, and what is worked out of them where the page does it (in a worker there). KM_SERIES: how many.
 */
import { createServer } from 'node:http';
import { mkdtempSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection } from 'mysql2/promise';
import { pino } from 'pino';
import type { WholeSeries } from '../packages/contract/src/index.js';
import { seriesView } from '../packages/core/src/index.js';
import { hearing } from '../packages/server/src/changes.js';
import { connect } from '../packages/server/src/db.js';
import { idFor, loadDemo } from '../packages/server/src/demo.js';
import { grantRunning } from '../packages/server/src/grants.js';
import { build } from '../packages/server/src/http/app.js';
import { migrate } from '../packages/server/src/migrate.js';
// @ts-expect-error -- plain Node, without types
import { startDatabase } from './lib/database.mjs';

const COUNT = Number(process.env['KM_SERIES'] ?? '100000');
const ROUNDS = 5;
const folder = mkdtempSync(join(tmpdir(), 'km-bench-series-'));
interface Database {
  urlsFor(name: string): { migrateUrl: string; runUrl: string };
  stop(): Promise<void>;
}
const db = await (startDatabase as (folder: string, how: object) => Promise<Database>)(folder, { port: 0, databases: ['km_series'] });
const { migrateUrl, runUrl } = db.urlsFor('km_series');
await migrate(migrateUrl);
await grantRunning(migrateUrl, runUrl);
const pool = connect(runUrl);
await loadDemo(pool, join(import.meta.dirname, '../demo'), new Date());

const mix = idFor('deck');
const cx = await createConnection({ uri: migrateUrl });
// Sets like one of the demonstration, four hours apart, back into the past; their strengths about a mean.
const [like] = [idFor('cast 1')];
const columns = (
  await cx.query(`SELECT column_name AS name FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = 'item'`)
)[0] as {
  name: string;
}[];
const own: Readonly<Record<string, string>> = {
  id: 'UUID()',
  code: `CONCAT('D-X', s.seq)`,
  number: '100000 + s.seq',
  at: 'i.at - INTERVAL 4 * s.seq HOUR',
};
await cx.query(
  `INSERT INTO item (${columns.map((c) => `\`${c.name}\``).join(', ')})
   SELECT ${columns.map((c) => own[c.name] ?? `i.\`${c.name}\``).join(', ')} FROM item i JOIN seq_1_to_${COUNT} s WHERE i.id = ?`,
  [like],
);
await cx.query(
  `INSERT INTO strength SELECT i.id, 'strength', 28, i.subject_id, i.at, i.at + INTERVAL 28 DAY, 'MPa', NULL,
     CAST(ROUND(38 + 2 * (RAND(i.number) + RAND(i.number + 1) + RAND(i.number + 2) - 1.5), 1) AS CHAR), 3, 3, '2.4', '10.6', FALSE, NULL, '[]'
   FROM item i WHERE i.code LIKE 'D-X%'`,
);

const { live, changes } = hearing(pool);
const server = createServer(build({ pool, live, changes, log: pino({ level: 'silent' }) }));
await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api/v1`;

const median = async (work: () => Promise<unknown>): Promise<number> => {
  const times: number[] = [];
  for (let i = 0; i < ROUNDS; i++) {
    const from = performance.now();
    await work();
    times.push(performance.now() - from);
  }
  return times.sort((a, b) => a - b)[Math.floor(ROUNDS / 2)]!;
};
const say = (what: string, figures: string): void => console.log(`${what.padEnd(62)} ${figures}`);
const ask = async (path: string): Promise<string> => (await fetch(base + path)).text();

const bare = await median(() =>
  pool.query(
    `SELECT cast_at, reported_text, unit FROM strength WHERE subject_id = ? AND property = 'strength' AND age_days = 28 AND not_for IS NULL ORDER BY cast_at LIMIT 200000`,
    [mix],
  ),
);
const whole = await median(() => ask(`/mixes/${mix}/series/whole`));
say(
  `the whole series of ${COUNT} tests, against its SQL`,
  `${whole.toFixed(0)} ms against ${bare.toFixed(0)} ms, ${(whole / bare).toFixed(2)} times`,
);
const page = await median(() => ask(`/mixes/${mix}/series`));
say('the newest of them with what may explain them', `${page.toFixed(0)} ms`);
const { strength } = JSON.parse(await ask(`/mixes/${mix}/series/whole`)) as WholeSeries;
const tests = strength.map((text) => ({ strength: { text, unit: 'MPa' as const }, companions: [] }));
const sum = await median(() => Promise.resolve(strength.reduce((all, text) => all + Number(text), 0)));
const from = performance.now();
const view = seriesView(tests, { specified: { text: '32', unit: 'MPa' }, system: 'si' });
const took = performance.now() - from;
say(
  `statistics and three schools of ${view.count} tests, exact`,
  `${took.toFixed(0)} ms, ${(took / sum).toFixed(0)} times their sum in doubles; s ${view.deviation ?? '–'}`,
);

changes.stop();
live.close();
server.closeAllConnections();
server.close();
await cx.end();
await pool.end();
await db.stop();
rmSync(folder, { recursive: true, force: true });
