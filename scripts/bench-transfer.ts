/*
 * The part of npm run bench that gives a whole record and brings it into another database, against the same rows by
 * LOAD DATA. The data is kept between runs (.bench).
 */
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { createConnection } from 'mysql2/promise';
import { connect } from '../packages/server/src/db.js';
import { idFor, loadDemo } from '../packages/server/src/demo.js';
import { grantRunning } from '../packages/server/src/grants.js';
import { migrate } from '../packages/server/src/migrate.js';
import { projectOf } from '../packages/server/src/store/projects.js';
import { giveRecord } from '../packages/server/src/transfer/give.js';
import { takeRecord } from '../packages/server/src/transfer/take.js';
import { fill, one } from './lib/bench-fill.js';
// @ts-expect-error -- plain Node, without types
import { startDatabase } from './lib/database.mjs';

const ROOT = join(import.meta.dirname, '..');
const READINGS = 100_000;

interface Database {
  urlsFor(name: string): { migrateUrl: string; runUrl: string };
  stop(): Promise<void>;
}

const seconds = (from: number): number => (performance.now() - from) / 1000;

/** A file of the record as LOAD DATA takes it: tabs between, `\N` for nothing. */
const cell = (value: string | null): string =>
  value === null ? '\\N' : value.replace(/[\\\t\n]/g, (c) => `\\${c === '\t' ? 't' : c === '\n' ? 'n' : c}`);

/** As bytes, a good many rows at a time. */
function* inChunks(rows: readonly string[]): Generator<Buffer> {
  for (let at = 0; at < rows.length; at += 200) yield Buffer.from(rows.slice(at, at + 200).join(''));
}

async function empty(url: string): Promise<void> {
  const cx = await createConnection({ uri: url, multipleStatements: true });
  const name = new URL(url).pathname.slice(1);
  const [rows] = await cx.query(`SELECT table_name AS name FROM information_schema.tables WHERE table_schema = '${name}'`);
  await cx.query('SET foreign_key_checks = 0');
  for (const { name: table } of rows as { name: string }[]) await cx.query(`DROP TABLE \`${table}\``);
  await cx.end();
  await migrate(url);
}

const start = startDatabase as (folder: string, how: object) => Promise<Database>;
const database = await start(join(ROOT, '.bench'), { port: 33_427, databases: ['bench_from', 'bench_to', 'bench_load'], infile: true });
try {
  const [from, to, load] = ['bench_from', 'bench_to', 'bench_load'].map((name) => database.urlsFor(name));
  await migrate(from!.migrateUrl);
  await grantRunning(from!.migrateUrl, from!.runUrl);
  const pool = connect(from!.runUrl);
  await loadDemo(pool, join(ROOT, 'demo'), new Date(), 'Etc/UTC');
  const cx = await createConnection({ uri: from!.migrateUrl, timezone: 'Z' });
  const count = async (): Promise<number> => (await one<{ n: number }>(cx, 'SELECT COUNT(*) AS n FROM entry')).n;
  if ((await count()) < READINGS) {
    const each = (
      await one<{ n: number }>(
        cx,
        'SELECT COUNT(*) / COUNT(DISTINCT owner_id) AS n FROM entry e JOIN test t ON t.id = e.owner_id WHERE t.item_id = ?',
        [idFor('sample span-4-1')],
      )
    ).n;
    await cx.query('SET unique_checks = 0, foreign_key_checks = 0');
    await fill(cx, Math.ceil(READINGS / each) + 2000);
  }
  const readings = await count();
  await cx.end();

  const lines: string[] = [];
  let began = performance.now();
  let bytes = 0;
  for await (const chunk of giveRecord(pool, await projectOf(pool, idFor('quillmouth')), new Date())) {
    bytes += chunk.length;
    lines.push(...chunk.split('\n').slice(0, -1));
  }
  const given = seconds(began);
  await pool.end();

  await empty(to!.migrateUrl);
  await grantRunning(to!.migrateUrl, to!.runUrl);
  const into = connect(to!.runUrl);
  began = performance.now();
  const taken = await takeRecord(into, Readable.from(lines), false);
  const brought = seconds(began);
  await into.end();

  await empty(load!.migrateUrl);
  const bare = await createConnection({ uri: load!.migrateUrl, infileStreamFactory: () => Readable.from([]) });
  const files: { table: string; columns: string[]; rows: string[] }[] = [];
  for (const line of lines.slice(1, -1)) {
    const value = JSON.parse(line) as { table: string; columns: string[] } | (string | null)[];
    if (Array.isArray(value)) files.at(-1)!.rows.push(`${value.map(cell).join('\t')}\n`);
    else files.push({ ...value, rows: [] });
  }
  began = performance.now();
  await bare.query('SET foreign_key_checks = 0');
  await bare.query('START TRANSACTION');
  for (const { table, columns, rows } of files)
    if (rows.length > 0 && !/content|paper/.test(table))
      await bare.query({
        sql: `LOAD DATA LOCAL INFILE 'rows' INTO TABLE ${table} CHARACTER SET utf8mb4 (${columns.join(', ')})`,
        infileStreamFactory: () => Readable.from(inChunks(rows)),
      });
  await bare.query('COMMIT');
  const loaded = seconds(began);
  await bare.end();

  const figure = (n: number): string => n.toLocaleString('en');
  console.log(`a whole record of ${figure(readings)} readings, ${figure(taken.rows)} rows, ${(bytes / 1e6).toFixed(0)} MB`);
  console.log(`  given in ${given.toFixed(1)} s`);
  console.log(
    `  brought in, looked through and kept in ${brought.toFixed(1)} s; the same rows by LOAD DATA ${loaded.toFixed(1)} s: rate ${(loaded / brought).toFixed(2)} of it (aim ≥ 0.2)`,
  );
} finally {
  await database.stop();
}
