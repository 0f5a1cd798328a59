import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test as it } from '@playwright/test';

const ROOT = join(import.meta.dirname, '..');

let data: string;
it.beforeAll(() => (data = mkdtempSync(join(tmpdir(), 'km-start-'))));
it.afterAll(() => rmSync(data, { recursive: true, force: true }));

const freePort = () =>
  new Promise<number>((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => resolve(port));
    });
  });

class Started {
  output = '';
  readonly code: Promise<number | null>;
  readonly child: ChildProcess;

  constructor(port: number, env: Record<string, string> = {}) {
    this.child = spawn(process.execPath, ['scripts/start.mjs'], {
      cwd: ROOT,
      env: { ...process.env, KEEN_MORTAR_DATA: data, KEEN_MORTAR_PORT: String(port), ...env },
    });
    for (const stream of [this.child.stdout, this.child.stderr]) stream?.on('data', (chunk) => (this.output += String(chunk)));
    this.code = new Promise((resolve) => this.child.once('exit', resolve));
  }

  async says(text: string | RegExp): Promise<void> {
    await expect.poll(() => this.output, { timeout: 60_000 }).toMatch(text);
  }
}

const processes = () => {
  const pid = Number(readFileSync(join(data, 'run/db.pid'), 'utf8'));
  return {
    alive: () => {
      try {
        process.kill(pid, 0);
        return true;
      } catch {
        return false;
      }
    },
  };
};

/** The server's process among the children of a start. */
function serverOf(start: number): number {
  const children = readFileSync(`/proc/${start}/task/${start}/children`, 'utf8').trim().split(' ').map(Number);
  const found = children.find((pid) => readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('server/main.js'));
  if (found === undefined) throw new Error('no server runs');
  return found;
}

it('serves the demo, starts again without doing anything twice, and stops everything', async ({ page }) => {
  const port = await freePort();
  const first = new Started(port);
  await first.says('ready after');
  expect(first.output).toContain('demo loaded');
  await page.goto(`http://127.0.0.1:${port}/`);
  await expect(page.getByText('Who is at this device?')).toBeVisible();

  // A second copy says so in a sentence and leaves the first alone.
  const copy = new Started(port);
  expect(await copy.code).toBe(1);
  expect(copy.output).toMatch(/is running already \(process \d+\): http:\/\/127\.0\.0\.1:\d+\. Stop it/);
  await page.reload();
  await expect(page.getByText('Who is at this device?')).toBeVisible();

  const database = processes();
  first.child.kill('SIGTERM');
  expect(await first.code).toBe(0);
  expect(database.alive()).toBe(false);

  const second = new Started(port);
  await second.says('ready after');
  await page.goto(`http://127.0.0.1:${port}/`);
  await expect(page.getByText('Who is at this device?')).toBeVisible();
  expect(second.output).toContain('nothing changed');
  expect(second.output).not.toContain('demo loaded');

  // Killed without a goodbye: the next start takes over what was left behind.
  second.child.kill('SIGKILL');
  await second.code;
  const third = new Started(port);
  await third.says('ready after');
  third.child.kill('SIGINT');
  expect(await third.code).toBe(0);
  expect(statSync(join(data, 'secrets.json')).mode & 0o777).toBe(0o600);
});

it('database and server killed under it run again, and what was kept is there', async ({ request }) => {
  const port = await freePort();
  const started = new Started(port);
  await started.says('ready after');
  const url = `http://127.0.0.1:${port}/api/v1`;
  const projects = async (): Promise<string[] | null> => {
    const answer = await request.get(`${url}/projects`).catch(() => null);
    return answer?.ok() ? ((await answer.json()) as { items: { code: string }[] }).items.map((p) => p.code) : null;
  };
  const kept = await projects();
  expect(kept).not.toEqual([]);
  expect(kept).not.toBeNull();

  const killed = async (pid: number, name: string): Promise<void> => {
    const before = started.output.length;
    process.kill(pid, 'SIGKILL');
    await expect
      .poll(() => started.output.slice(before), { timeout: 30_000 })
      .toMatch(new RegExp(`${name} ended .*everything that was kept is safe`));
    await expect.poll(projects, { timeout: 60_000 }).toEqual(kept);
  };
  await killed(Number(readFileSync(join(data, 'run/db.pid'), 'utf8')), 'The database');
  await killed(serverOf(started.child.pid!), 'The server');
  // Twice running: the pauses grow, but it comes back.
  await killed(Number(readFileSync(join(data, 'run/db.pid'), 'utf8')), 'The database');

  started.child.kill('SIGTERM');
  expect(await started.code).toBe(0);
});

it('stops cleanly half-way', async () => {
  const started = new Started(await freePort());
  await started.says(/Database: on port/);
  const database = processes();
  started.child.kill('SIGTERM');
  expect(await started.code).toBe(0);
  expect(database.alive()).toBe(false);
});

it('says what is in the way, and the way out', async () => {
  const port = await freePort();
  const other = createServer().listen(port, '127.0.0.1');
  // As a start leaves it that is killed while it writes.
  writeFileSync(join(data, 'running.json'), '{"pid":');
  const taken = new Started(port);
  expect(await taken.code).toBe(1);
  expect(taken.output).toContain(`Port ${port} is in use by another program. Choose another one: KEEN_MORTAR_PORT=${port + 1} npm start`);
  other.close();
  const half = new Started(await freePort(), { KEEN_MORTAR_MIGRATE_URL: 'mysql://a:b@127.0.0.1/x' });
  expect(await half.code).toBe(1);
  expect(half.output).toContain('Set both KEEN_MORTAR_MIGRATE_URL');
});

it('serves from an existing server with its two accounts', async ({ page }) => {
  const { E2E_MIGRATE_URL = '', E2E_RUN_URL = '' } = process.env;
  const port = await freePort();
  const started = new Started(port, { KEEN_MORTAR_MIGRATE_URL: E2E_MIGRATE_URL, KEEN_MORTAR_DATABASE_URL: E2E_RUN_URL });
  await started.says('ready after');
  expect(started.output).not.toContain('Debian packages');
  await page.goto(`http://127.0.0.1:${port}/`);
  await expect(page.getByText('Who is at this device?')).toBeVisible();
  started.child.kill('SIGTERM');
  expect(await started.code).toBe(0);
});
