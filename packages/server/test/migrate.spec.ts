import { mkdtemp, readdir, rm, writeFile, copyFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection } from 'mysql2/promise';
import { ChangedMigration, migrate, NewerData } from '../src/migrate.js';
import { urls } from './harness.js';

const OWN = join(import.meta.dirname, '../migrations');

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
    await expectAsync(migrate(urls.empty, folder)).toBeRejectedWithError(NewerData, /0001-record\.sql/);
    for (const file of await readdir(OWN)) await copyFile(join(OWN, file), join(folder, file));
    await writeFile(join(folder, '0001-record.sql'), '-- another text');
    await expectAsync(migrate(urls.empty, folder)).toBeRejectedWithError(ChangedMigration);
    await rm(folder, { recursive: true });
  });
});
