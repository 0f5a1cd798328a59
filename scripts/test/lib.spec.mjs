import { mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startDatabase, whyNot } from '../lib/database.mjs';
import { checkNode } from '../lib/install.mjs';
import { inWords, Trouble } from '../lib/trouble.mjs';

describe('the start script', () => {
  let folder;
  beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'km-scripts-'))));
  afterEach(() => rmSync(folder, { recursive: true, force: true }));

  it('knows the versions of Node that it runs on', () => {
    for (const version of ['18.20.0', '20.18.1', '24.0.0']) expect(() => checkNode(version)).toThrowError(Trouble, /needs Node 20\.19/);
    for (const version of ['20.19.0', '22.3.0']) expect(() => checkNode(version)).not.toThrow();
  });

  it('says a full disk in a sentence', () => {
    expect(inWords(Object.assign(new Error('write'), { code: 'ENOSPC' }))).toMatch(/disk is full/);
    const log = join(folder, 'db.log');
    writeFileSync(log, 'InnoDB: Error number 28 means No space left on device');
    expect(whyNot(log)).toMatch(/disk is full/);
    writeFileSync(log, 'InnoDB: Unsupported redo log format');
    expect(whyNot(log)).toMatch(/newer MariaDB/);
  });

  it('refuses a data folder of a newer database before it touches it', async () => {
    writeFileSync(join(folder, 'server-version'), '99.1');
    await expectAsync(startDatabase(folder, { port: 0 })).toBeRejectedWithError(Trouble, /last used by MariaDB 99\.1/);
  });

  it('starts, keeps its passwords to the owner, and starts again after it was killed', async () => {
    const first = await startDatabase(folder, { port: 0 });
    expect(statSync(join(folder, 'secrets.json')).mode & 0o777).toBe(0o600);
    // Nobody stops it: the next start finds it running, ends it and takes over.
    const second = await startDatabase(folder, { port: 0 });
    expect(second.runUrl.replace(/:\d+\//, '/')).toBe(first.runUrl.replace(/:\d+\//, '/'));
    await first.stop();
    await second.stop();
  }, 60_000);
});
