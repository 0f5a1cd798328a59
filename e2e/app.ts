import { fork, execFile, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { Browser, Locator, Page } from '@playwright/test';
import { createConnection, type RowDataPacket } from 'mysql2/promise';

const DIST = join(import.meta.dirname, '../dist');
const exec = promisify(execFile);

const need = (name: string): string => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set: run npm test`);
  return value;
};

/** The simulated instruments in a process of their own; a server that is started meanwhile is wired to them. */
export async function standIns(): Promise<ChildProcess> {
  const instruments = fork(join(DIST, 'server/stand-ins.js'), { execArgv: [] });
  const ports = await new Promise<number[]>((resolve) => instruments.once('message', (m: { ports: number[] }) => resolve(m.ports)));
  process.env['KEEN_MORTAR_INSTRUMENTS'] = ports.map((port) => `127.0.0.1:${port}`).join(',');
  return instruments;
}

export function putAway(instruments: ChildProcess): void {
  delete process.env['KEEN_MORTAR_INSTRUMENTS'];
  instruments.kill();
}

/** The built server on the tests' database; can be killed and started again on the same port. */
export class App {
  private child: ChildProcess | null = null;
  private port = 0;

  /** @param of the database with the demonstration, the one in which nothing is yet, or one in which days pass */
  constructor(private readonly of: 'E2E' | 'E2E_EMPTY' | 'E2E_MOVED' = 'E2E') {}

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  /** Migrations, and the demo scenario if nothing is there yet. */
  async prepare(): Promise<void> {
    const env = {
      ...process.env,
      KEEN_MORTAR_MIGRATE_URL: need(`${this.of}_MIGRATE_URL`),
      KEEN_MORTAR_DATABASE_URL: need(`${this.of}_RUN_URL`),
      ...(this.of === 'E2E_EMPTY' ? { KEEN_MORTAR_DEMO: '0' } : {}),
    };
    await exec(process.execPath, [join(DIST, 'server/prepare.js')], { env });
  }

  /** @param ahead seconds by which its clock goes ahead, where it is one that can */
  async start(ahead = 0): Promise<void> {
    const env = {
      ...process.env,
      KEEN_MORTAR_DATABASE_URL: need(`${this.of}_RUN_URL`),
      KEEN_MORTAR_PORT: String(this.port),
      KEEN_MORTAR_WEB: join(DIST, 'web/browser'),
      KEEN_MORTAR_LOG: 'error',
      KEEN_MORTAR_MOVED_BY: String(ahead),
    };
    const server = this.of === 'E2E_MOVED' ? need('E2E_MOVING') : DIST;
    const child = fork(join(server, 'server/main.js'), { env, execArgv: [], stdio: ['ignore', 'inherit', 'inherit', 'ipc'] });
    this.child = child;
    this.port = await new Promise<number>((resolve, reject) => {
      child.once('message', (message: { port: number }) => resolve(message.port));
      child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
    });
  }

  /** SIGKILL: no goodbye. SIGTERM: in peace. */
  async end(signal: 'SIGKILL' | 'SIGTERM' = 'SIGTERM'): Promise<void> {
    const child = this.child;
    if (!child || child.exitCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await gone;
  }

  /** One number straight from the tables. */
  async count(sql: string, values: unknown[] = []): Promise<number> {
    const cx = await createConnection(need(`${this.of}_MIGRATE_URL`));
    const [rows] = await cx.query<RowDataPacket[]>(sql, values);
    await cx.end();
    return Number(Object.values(rows[0] ?? {})[0]);
  }

  /** A word to an instrument that is wired to the server. */
  async tell(page: Page, id: string, command: { does: string; with?: string }): Promise<void> {
    const answer = await page.request.post(`${this.url}/api/v1/instruments/${id}/commands`, { data: command });
    if (answer.status() !== 201) throw new Error(await answer.text());
  }

  /** A device of its own, with its person. */
  async device(browser: Browser, person: RegExp, options: Parameters<Browser['newContext']>[0] = {}): Promise<Page> {
    const page = await (await browser.newContext(options)).newPage();
    page.setDefaultTimeout(15_000);
    await page.goto(`${this.url}/who`);
    await page.getByRole('button', { name: person }).click();
    await page.waitForURL('**/day');
    await page.getByRole('link', { name: 'Pours' }).click();
    await page.waitForURL('**/pours');
    return page;
  }
}

/** Chooses one of a list that opens. */
export async function choose(within: Page | Locator, name: string, option: string | RegExp): Promise<void> {
  const page = 'page' in within ? within.page() : within;
  await within.getByRole('combobox', { name, exact: true }).click();
  await page.getByRole('option', { name: option, exact: typeof option === 'string' }).click();
  await page.locator('.p-select-overlay').waitFor({ state: 'detached' });
}

/** So many minutes ago on the clocks of a zone, as a ticket prints it. */
const minutesAgo = (minutes: number, timeZone: string): string =>
  new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', timeZone }).format(new Date(Date.now() - minutes * 60_000));

/** Keys a moment as a person does, key by key. */
export async function keyMoment(box: Locator, text: string): Promise<void> {
  await box.click();
  await box.press('Control+a');
  await box.pressSequentially(text);
  await box.press('Tab');
}

/** Keys when the load was batched. */
export async function batched(page: Page, minutes: number, timeZone: string): Promise<void> {
  await keyMoment(page.getByLabel('Batched at'), minutesAgo(minutes, timeZone));
  // Keyed after midnight of before: the form asks whether that was yesterday.
  const yesterday = page.getByRole('button', { name: /^It was yesterday/ });
  if (await yesterday.isVisible()) await yesterday.click();
}

/** A new load of today's pour with its ticket keyed, for a test of its own. */
export async function newLoad(page: Page, number: number): Promise<void> {
  await page.goto(page.url().replace(/\/(day|pours|samples).*/, '/pours'));
  await page.getByText('Boardwalk span 4').click();
  await page.getByRole('link', { name: 'New load' }).click();
  await page.getByLabel('Load number').fill(String(number));
  await page.getByLabel('Ticket').fill(`F-${5000 + number}`);
  await page.getByLabel('Truck').fill('Truck 3');
  await batched(page, 20, Intl.DateTimeFormat().resolvedOptions().timeZone);
  await page.getByLabel('Volume ordered').fill('6.0');
  const weights = { Cement: '2037', 'Fly ash': '361', Water: '959', 'Brackdown sand': '4349', 'Pellick stone': '6002', Admixtures: '12' };
  for (const [name, mass] of Object.entries(weights)) await page.getByLabel(`Weighed ${name}`, { exact: true }).fill(mass);
  // Today's pour has all that was planned already: one more is asked about.
  await page.locator('#why').fill('More was ordered');
  await page.getByRole('button', { name: 'Keep this ticket' }).click();
  await page.locator(`[data-load="${number}"]`).waitFor();
}

/** First portion, second portion, combined and turned: the clocks run. */
export async function takeSample(page: Page, load: number): Promise<void> {
  await page.getByRole('button', { name: `Sample load ${load}`, exact: true }).click();
  await page.waitForURL('**/samples/*');
  await page.getByRole('button', { name: /Another portion/ }).click();
  await page.getByRole('button', { name: /2 so far/ }).waitFor();
  await page.getByRole('button', { name: 'Combined and turned' }).click();
  await page.locator('[data-fuse="molding"]').waitFor();
}

export const test = (page: Page, method: string) => page.locator(`button[data-method="${method}"]`);
export const field = (page: Page, id: string) => page.locator(`#reading-${id}`);
export const keep = (page: Page) => page.getByTestId('keep');
