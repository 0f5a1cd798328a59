import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { createConnection, type Connection, type RowDataPacket } from 'mysql2/promise';
import { Umzug, type UmzugStorage } from 'umzug';

const FOLDER = join(import.meta.dirname, '..', 'migrations');

/** How long a second start waits for the first, s. */
const LOCK_WAIT = 180;

/** Does `work` while no other start does: two that begin together would migrate and fill the tables twice. */
export async function alone<T>(url: string, work: () => Promise<T>): Promise<T> {
  const cx = await createConnection({ uri: url });
  try {
    const [rows] = await cx.query<RowDataPacket[]>("SELECT GET_LOCK('keen-mortar prepare', ?) AS got", [LOCK_WAIT]);
    if (rows[0]?.['got'] !== 1) throw new Error('another start is preparing this database');
    return await work();
  } finally {
    // The lock ends with the connection, however this ends.
    await cx.end();
  }
}

/** The data was written by a newer program: older code must not touch it. */
export class NewerData extends Error {}

/** A migration that was applied has another text today: the tables may not be what the code expects. */
export class ChangedMigration extends Error {}

const digest = (sql: string): string => createHash('sha256').update(sql).digest('hex');

/**
 * Applies the numbered SQL files in order and records each. Safe to run again, also after it was
 * killed half-way: every statement of a file may be repeated.
 * @param url account that may create tables
 * @returns names of the files applied now
 */
export async function migrate(url: string, folder = FOLDER): Promise<string[]> {
  const cx = await createConnection({ uri: url, multipleStatements: true, timezone: 'Z' });
  try {
    await cx.query(
      'CREATE TABLE IF NOT EXISTS migration (name VARCHAR(120) CHARACTER SET ascii PRIMARY KEY, digest CHAR(64) CHARACTER SET ascii NOT NULL, applied_at DATETIME(3) NOT NULL)',
    );
    const files = (await readdir(folder)).filter((file) => file.endsWith('.sql')).sort();
    const texts = new Map(await Promise.all(files.map(async (file) => [file, await readFile(join(folder, file), 'utf8')] as const)));
    await checkApplied(cx, texts);
    const umzug = new Umzug({
      migrations: files.map((name) => ({ name, up: async () => void (await cx.query(texts.get(name) ?? '')) })),
      storage: storage(cx, texts),
      logger: undefined,
    });
    return (await umzug.up()).map((migration) => migration.name);
  } finally {
    await cx.end();
  }
}

interface Applied {
  readonly name: string;
  readonly digest: string;
}

async function applied(cx: Connection): Promise<Applied[]> {
  const [rows] = await cx.query<RowDataPacket[]>('SELECT name, digest FROM migration ORDER BY name');
  return rows as Applied[];
}

async function checkApplied(cx: Connection, texts: ReadonlyMap<string, string>): Promise<void> {
  for (const { name, digest: was } of await applied(cx)) {
    const text = texts.get(name);
    if (text === undefined) throw new NewerData(`the data holds ${name}, which this program does not know`);
    if (digest(text) !== was) throw new ChangedMigration(`${name} is not the file that was applied`);
  }
}

const storage = (cx: Connection, texts: ReadonlyMap<string, string>): UmzugStorage => ({
  executed: async () => (await applied(cx)).map(({ name }) => name),
  logMigration: async ({ name }) => {
    await cx.query('INSERT INTO migration (name, digest, applied_at) VALUES (?, ?, UTC_TIMESTAMP(3))', [
      name,
      digest(texts.get(name) ?? ''),
    ]);
  },
  unlogMigration: async ({ name }) => {
    await cx.query('DELETE FROM migration WHERE name = ?', [name]);
  },
});
