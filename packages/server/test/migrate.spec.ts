import { copyFile, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { headOf, type ItemKind } from '@keen-mortar/core';
import { createConnection, type RowDataPacket } from 'mysql2/promise';
import { connect } from '../src/db.js';
import { ChangedMigration, migrate, NewerData } from '../src/migrate.js';
import { Postponed } from '../src/postponed.js';
import { urls } from './harness.js';

const OWN = join(import.meta.dirname, '../migrations');

const COPY = join(import.meta.dirname, 'data/demonstration-0001.sql.gz');

describe('the demonstration as the first release left it', () => {
  it('goes on: each item is on its line, nothing that was kept is another, and all of it is judged by the queue', async () => {
    const cx = await createConnection({ uri: urls.empty, multipleStatements: true });
    await cx.query(gunzipSync(await readFile(COPY)).toString('utf8'));
    const kept = async () => (await cx.query<RowDataPacket[]>('SELECT test_id, turn, frozen FROM evaluation ORDER BY 1, 2'))[0];
    const before = await kept();
    expect(await migrate(urls.empty)).toEqual((await readdir(OWN)).filter((f) => f > '0001-record.sql').sort());
    const [items] = await cx.query<RowDataPacket[]>('SELECT id, kind, parent_id, line_id FROM item');
    const byId = new Map(items.map((i) => [i['id'] as string, i]));
    const pathOf = (id: string): RowDataPacket[] => {
      const item = byId.get(id)!;
      return [...(item['parent_id'] === null ? [] : pathOf(item['parent_id'] as string)), item];
    };
    const astray = items.filter(
      (i) => headOf(pathOf(i['id'] as string) as unknown as { id: string; kind: ItemKind }[]).id !== i['line_id'],
    );
    expect([items.length > 400, astray.length]).toEqual([true, 0]);
    const pool = connect(urls.empty);
    const errors: unknown[] = [];
    await new Postponed(pool, { error: (...said: unknown[]) => errors.push(said) } as never).work();
    const [[left]] = await cx.query<RowDataPacket[]>('SELECT COUNT(*) AS n FROM pending_line');
    const [found] = await cx.query<RowDataPacket[]>('SELECT DISTINCT finding FROM finding ORDER BY finding');
    expect([errors, Number(left!['n'])]).toEqual([[], 0]);
    expect(found.map((f) => f['finding'] as string)).toEqual(
      jasmine.arrayContaining(['composite', 'pair', 'load-stands', 'strength-test']),
    );
    expect(await kept()).toEqual(before);
    await pool.end();
    // The next specs begin with nothing in it.
    const [tables] = await cx.query<RowDataPacket[]>(
      'SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE()',
    );
    await cx.query(`SET foreign_key_checks = 0; ${tables.map((t) => `DROP TABLE \`${String(t['name'])}\`;`).join(' ')}`);
    await cx.end();
  });
});

describe('migrations', () => {
  it('are applied once, in order, and running them again does nothing', async () => {
    expect(await migrate(urls.empty)).toEqual((await readdir(OWN)).sort());
    expect(await migrate(urls.empty)).toEqual([]);
  });

  it('go on after a start that was killed before the record was written', async () => {
    const cx = await createConnection(urls.empty);
    await cx.query('DELETE FROM migration');
    await cx.end();
    expect((await migrate(urls.empty)).length).toBe((await readdir(OWN)).length);
  });

  it('refuse data of a newer program, and files that were changed after they were applied', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'km-migrations-'));
    await expectAsync(migrate(urls.empty, folder)).toBeRejectedWithError(NewerData, /000\d-\w+\.sql/);
    for (const file of await readdir(OWN)) await copyFile(join(OWN, file), join(folder, file));
    await writeFile(join(folder, '0001-record.sql'), '-- another text');
    await expectAsync(migrate(urls.empty, folder)).toBeRejectedWithError(ChangedMigration);
    await rm(folder, { recursive: true });
  });
});
