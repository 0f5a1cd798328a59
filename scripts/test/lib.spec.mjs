import { spawnSync } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { coreIdentity } from '../lib/build.mjs';
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

  it('knows the core by its sources: any change of them is another core', () => {
    writeFileSync(join(folder, 'a.ts'), '1');
    const one = coreIdentity(folder);
    expect([coreIdentity(folder), one.length]).toEqual([one, 16]);
    writeFileSync(join(folder, 'a.ts'), '2');
    expect(coreIdentity(folder)).not.toBe(one);
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

  it('lets nobody in as root but its owner: not over TCP, not another user, also in an old folder', async () => {
    const database = await startDatabase(folder, { port: 0 });
    const { root } = JSON.parse(readFileSync(join(folder, 'secrets.json'), 'utf8'));
    const sql = (as, args, statement) =>
      spawnSync('mariadb', ['--no-defaults', '--connect-timeout=4', ...args, '-N', '-e', statement], {
        encoding: 'utf8',
        ...(as === null ? {} : { uid: as, gid: as }),
      });
    // As an earlier version left it: root without a password at loopback, in a folder that everybody may read.
    const owner = [`--socket=${database.socket}`, '-u', 'root', `-p${root}`];
    const open = "CREATE USER 'root'@'127.0.0.1'; CREATE USER 'root'@'::1'; GRANT ALL ON *.* TO 'root'@'127.0.0.1'";
    expect(sql(null, owner, open).status).toBe(0);
    await database.stop();
    chmodSync(folder, 0o777);
    const again = await startDatabase(folder, { port: 0 });
    try {
      expect(statSync(folder).mode & 0o022).toBe(0);
      const other = process.getuid() === 0 ? 65_534 : null;
      for (const host of ['127.0.0.1', 'localhost', '::1'])
        for (const password of [[], [`-p${root}`]]) {
          const tried = sql(other, ['--protocol=tcp', `--host=${host}`, `--port=${again.port}`, '-u', 'root', ...password], 'SELECT 1');
          expect([host, tried.status === 0]).toEqual([host, false]);
        }
      // Through the socket another user needs the password that only the owner can read, and cannot even reach it.
      expect(sql(other, [`--socket=${again.socket}`, '-u', 'root'], 'SELECT 1').status).not.toBe(0);
      if (other !== null) expect(spawnSync('cat', [join(folder, 'secrets.json')], { uid: other, gid: other }).status).not.toBe(0);
      const [, accounts] = [
        0,
        sql(null, [`--socket=${again.socket}`, '-u', 'root', `-p${root}`], "SELECT CONCAT(User, '@', Host) FROM mysql.user"),
      ];
      expect(
        accounts.stdout
          .trim()
          .split('\n')
          .filter((name) => name.startsWith('root') || name.startsWith('@')),
      ).toEqual(['root@localhost']);
      // No files of the system's root: neither into any folder, nor from the client.
      const out = sql(null, [`--socket=${again.socket}`, '-u', 'root', `-p${root}`], `SELECT 1 INTO OUTFILE '${join(folder, 'out.txt')}'`);
      expect([out.status === 0, existsSync(join(folder, 'out.txt'))]).toEqual([false, false]);
      if (process.getuid() === 0) expect(again.user).toBe('mysql');
    } finally {
      await again.stop();
    }
  }, 90_000);

  it('says damage in a sentence, and where the passwords cannot be read', async () => {
    const log = join(folder, 'db.log');
    writeFileSync(log, 'InnoDB: Database page corruption on disk, checksum mismatch');
    expect(whyNot(log)).toMatch(/damaged.*backup/);
    writeFileSync(join(folder, 'secrets.json'), '{"root":');
    await expectAsync(startDatabase(folder, { port: 0 })).toBeRejectedWithError(Trouble, /secrets\.json is damaged/);
  });
});
