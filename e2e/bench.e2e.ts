import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test as it, type Page } from '@playwright/test';
import { DateTime } from 'luxon';
import { App, choose, keyMoment, putAway, standIns } from './app';
import { seriousOf } from './axe';

const app = new App();
/** One on which days pass. */
const moving = new App('E2E_MOVED');
let instruments: ChildProcess;
it.beforeAll(async () => {
  await Promise.all([app.prepare(), moving.prepare()]);
  instruments = await standIns();
  await Promise.all([app.start(), moving.start()]);
});
it.afterAll(async () => {
  putAway(instruments);
  await Promise.all([app.end(), moving.end()]);
});

/** A field sample of a source of its own: what is found here moves nothing of the demonstration. */
async function fieldSample(
  of: App,
  page: Page,
  kind: 'fine' | 'coarse',
  name: string,
): Promise<{ readonly sample: string; readonly itemId: string; readonly sourceId: string }> {
  const { projectId, by } = await whoIn(of, page);
  const make = async (body: object): Promise<{ item: { id: string; code: string } }> => {
    const answer = await page.request.post(`${of.url}/api/v1/items`, { data: { id: randomUUID(), by, projectId, ...body } });
    return (await answer.json()) as { item: { id: string; code: string } };
  };
  const source = await make({ kind: 'source', parentId: null, name, facts: { pit: 'Brackdown', kind } });
  const facts = { takenAt: DateTime.now().minus({ hours: 40 }).toISO(), from: 'stockpile' };
  const { id, code } = (await make({ kind: 'field-sample', parentId: source.item.id, facts })).item;
  return { sample: `${code}, ${name}`, itemId: id, sourceId: source.item.id };
}

async function whoIn(of: App, page: Page): Promise<{ readonly projectId: string; readonly by: string }> {
  const ask = async (path: string) =>
    (await (await page.request.get(`${of.url}/api/v1${path}`)).json()) as { items: { id: string; name: string }[] };
  const by = (await ask('/people')).items.find((p) => p.name.includes('Sallow'))!.id;
  return { projectId: (await ask('/projects')).items[0]!.id, by };
}

/** A mix that stands on a source with a gravity that somebody keyed. */
async function mixOn(page: Page, sourceId: string, code: string): Promise<void> {
  const size = (text: string) => ({ text, unit: 'mm' });
  const kg = (text: string) => ({ text, unit: 'kg' });
  const answer = await page.request.post(`${moving.url}/api/v1/mixes`, {
    data: {
      id: randomUUID(),
      ...(await whoIn(moving, page)),
      code,
      name: 'Mix of the bench',
      revision: {
        id: randomUUID(),
        effectiveFrom: new Date().toISOString(),
        largest: size('25'),
        nominal: size('19'),
        air: '6.0',
        ingredients: [
          { name: 'Cement', role: 'cement', mass: kg('340'), sg: '3.15' },
          { name: 'Sand', role: 'fine', mass: kg('710'), sg: '2.60', sourceId },
        ],
      },
    },
  });
  expect(answer.status()).toBe(201);
}

const hand = (page: Page) => page.getByTestId('run-in-hand');
/** So many hours ago, as a person keys it. */
const ago = (hours: number): string =>
  DateTime.now()
    .minus({ minutes: Math.round(hours * 60) })
    .toFormat('d MMM yyyy HH:mm');

async function opened(page: Page, code: string): Promise<void> {
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await page.locator(`[data-run="${code}"]`).getByRole('button').click();
  await expect(hand(page)).toContainText(code);
}

/** The step in hand was done so many hours ago; or now. */
async function done(page: Page, hours?: number): Promise<void> {
  if (hours !== undefined) await keyMoment(hand(page).getByRole('combobox', { name: 'Done at' }), ago(hours));
  await page.getByTestId('step-done').click();
}

async function keepTest(page: Page, values: Readonly<Record<string, string>>): Promise<void> {
  for (const [id, text] of Object.entries(values)) await page.locator(`#held-${id}`).fill(text);
  await page.getByTestId('keep').click();
  await expect(page.locator('km-in-hand')).toContainText('Kept as it stands.');
}

it('the server that is shipped has no way to set its clock ahead; the one of the tests has', async ({ request }) => {
  const says = 'KEEN_MORTAR_MOVED_BY';
  const shipped = readdirSync(join(import.meta.dirname, '../dist/server')).filter((file) => file.endsWith('.js'));
  expect(shipped).toContain('main.js');
  for (const file of shipped) expect(readFileSync(join(import.meta.dirname, '../dist/server', file), 'utf8')).not.toContain(says);
  expect(readFileSync(join(process.env['E2E_MOVING']!, 'server/main.js'), 'utf8')).toContain(says);
  const ahead = async (of: App): Promise<number> => {
    await of.end();
    await of.start(86_400);
    const { now } = (await (await request.get(`${of.url}/api/v1/health`)).json()) as { now: string };
    return Math.round(Math.abs(Date.parse(now) - Date.now()) / 60_000);
  };
  expect([await ahead(app), await ahead(moving)]).toEqual([0, 1440]);
});

it('a fine run over two days: slumps at once, is wetted, dries past and comes back, companion, taken over; two devices, one without a network', async ({
  browser,
}) => {
  await moving.end();
  await moving.start();
  const page = await moving.device(browser, /Sallow/);
  /** Hours go by on the server; whoever is there sees it. */
  let ahead = 0;
  const pass = async (hours: number, ...pages: Page[]): Promise<void> => {
    ahead += hours * 3600;
    await moving.end();
    await moving.start(Math.round(ahead));
    for (const one of pages) await one.reload();
  };
  const { sample, sourceId } = await fieldSample(moving, page, 'fine', 'Sand of the bench');
  const mix = `N-${Date.now() % 10_000}`;
  await mixOn(page, sourceId, mix);
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await page.getByTestId('start-run').click();
  await choose(page, 'Field sample', sample);
  await choose(page, 'Goes through', 'Fine specific gravity, 15 to 19 h soak');
  await page.getByTestId('run-starts').click();
  await page.getByTestId('run-starts').waitFor({ state: 'detached' });
  await expect(hand(page)).toContainText(`${sample.split(',')[0]}-A`);
  const code = /B-\d+-[A-Z]/.exec(await hand(page).innerText())![0];
  await pass(4.2, page);
  await opened(page, code);
  await done(page);
  await expect(hand(page).getByRole('heading')).toHaveText('Into the water');
  expect(await seriousOf(page)).toEqual([]);
  await pass(1, page);
  await opened(page, code);
  await done(page);
  await expect(hand(page)).toContainText('Soaks for 15 to 19 h');
  // It waits on the day too, with the end of its soak.
  await page.getByRole('link', { name: 'Day', exact: true }).click();
  const group = page.locator('[data-group="bench"]');
  await group.locator('li').first().waitFor();
  const all = group.getByRole('button', { name: /in all/ });
  if (await all.isVisible()) await all.click();
  await expect(group.locator('li').filter({ hasText: code })).toContainText('Drain, first cone trial');

  // The next day another device goes on with it, and loses its network for a moment.
  await pass(16.5, page);
  const other = await moving.device(browser, /Oakhanger/);
  await opened(other, code);
  await other.context().setOffline(true);
  await done(other);
  await expect(other.getByTestId('waits').first()).toBeVisible();
  await other.context().setOffline(false);
  await expect(hand(other).getByRole('heading')).toHaveText('SSD: into the flask', { timeout: 60_000 });
  await expect(other.getByTestId('locked')).toContainText('There is none that counts yet');
  await expect(other.getByTestId('step-done')).toBeDisabled();
  const trial = async (look: string): Promise<void> => {
    await other.getByTestId('to-cone').click();
    await other.locator(`[data-look="${look}"]`).click();
    await other.getByTestId('keep').click();
    await expect(other.locator('km-in-hand')).toContainText('Kept as it stands.');
    await opened(other, code);
  };
  const wet = async (): Promise<void> => {
    // It says the same after the first wetting: what tells that this one is on record is the answer.
    const kept = other.waitForResponse((r) => r.url().endsWith('/entries') && r.request().method() === 'POST');
    await other.locator('[data-back="wetted"]').click();
    expect((await kept).status()).toBe(201);
    await expect(hand(other)).toContainText('Covered for 30 min at the least');
    await pass(0.6, other);
    await opened(other, code);
  };
  // It slumps at once: nobody can tell SSD from too dry.
  await trial('slight');
  await expect(other.getByTestId('locked')).toContainText('The last one is not.');
  await wet();
  await expect(other.getByTestId('locked')).toContainText('There is none that counts yet');
  await trial('kept');
  await expect(other.getByTestId('locked')).toContainText('The last one is not.');
  // Dried past it, and back.
  await pass(0.2, other);
  await opened(other, code);
  await trial('fell');
  await wet();
  await expect(other.getByTestId('locked')).toContainText('There is none that counts yet');
  await trial('kept');
  await pass(0.2, other);
  await opened(other, code);
  await trial('slight');
  await expect(other.getByTestId('locked')).toHaveCount(0);
  await other.getByTestId('step-test').click();
  // S off the balance, once it stands.
  await other.locator('#held-ssd').click();
  await expect(other.getByTestId('plate')).toContainText('Balance 1, 30 kg');
  await moving.tell(other, 'balance-1', { does: 'PUT', with: '0.5003' });
  await expect(other.getByTestId('take')).toHaveText('Take 0.500 kg', { timeout: 20_000 });
  await other.getByTestId('take').click();
  await expect(other.locator('#held-ssd')).toHaveValue('0.500');
  // A companion too far from S cannot stand for it.
  await other.locator('#held-companionSsd').fill('500.9');
  await other.locator('#held-companionDry').fill('493.7');
  await expect(other.locator('km-in-hand')).toContainText('0.9 g');
  await other.locator('#held-companionDry').fill('');
  await keepTest(other, { companionSsd: '500.1', flaskWater: '661.8', flaskSample: '971.6' });
  expect(await moving.count("SELECT COUNT(*) FROM entry WHERE path = 'ssd' AND value_text = '0.500' AND device = 'balance-1'")).toBe(1);

  // The first one finishes it, the day after.
  await page.reload();
  await opened(page, code);
  await done(page);
  await expect(hand(page).getByRole('heading')).toHaveText('Into the oven again');
  await done(page);
  await expect(hand(page).getByRole('heading')).toHaveText('Dry weighing');
  await pass(20, page);
  await opened(page, code);
  await page.getByTestId('step-test').click();
  await keepTest(page, { companionDry: '493.6' });
  await expect(page.locator('[data-result="absorption"]').first()).toContainText('1.3');
  await opened(page, code);
  await done(page);
  await expect(hand(page).getByRole('heading')).toHaveText('All of it is done');
  expect(
    await moving.count(
      "SELECT COUNT(*) FROM gift g JOIN item i ON i.id = g.item_id WHERE i.code = ? AND g.source IN ('source.gravity', 'source.absorption')",
      [code],
    ),
  ).toBe(2);

  // Taken over it counts; the mix that stands on another figure is stale until somebody has looked.
  await page.goto(`${moving.url}/sources/${sourceId}`);
  await expect(page.getByTestId('counts')).toContainText('as long as nobody takes one over');
  await page.getByTestId('takes').click();
  await page.getByLabel('Why', { exact: true }).fill('Two tests agree');
  expect(await seriousOf(page)).toEqual([]);
  await page.getByTestId('take-over').click();
  await expect(page.getByTestId('counts')).toContainText('by M. Sallow: Two tests agree');
  const stands = page.locator(`[data-mix="${mix}"]`);
  await expect(stands).toContainText('stale: 2.63 counts now');
  await page.goto(`${moving.url}/mixes`);
  await page.getByRole('link', { name: new RegExp(mix) }).click();
  await expect(page.getByText('that no longer counts')).toBeVisible();
  await page.goBack();
  await page.goto(`${moving.url}/sources/${sourceId}`);
  await stands.getByRole('button', { name: 'Leave as it is' }).click();
  await page.getByLabel('Why it stays as it is').fill('Too little to matter');
  await page.getByTestId('leaves').click();
  await expect(stands).toContainText('left as it is by M. Sallow');
  expect(await seriousOf(page)).toEqual([]);
});

it('stone over-dried goes back into the water; the bench on a phone, in its themes, and with nothing on it', async ({ browser }) => {
  const page = await app.device(browser, /Oakhanger/, { viewport: { width: 390, height: 844 } });
  const { sample } = await fieldSample(app, page, 'coarse', 'Stone of the bench');
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await page.getByTestId('start-run').click();
  await choose(page, 'Field sample', sample);
  await choose(page, 'Goes through', 'Coarse specific gravity, 15 to 19 h soak');
  await keyMoment(page.getByRole('combobox', { name: 'Stone into the oven, at' }), ago(30));
  await page.getByTestId('run-starts').click();
  await expect(hand(page)).toContainText(`${sample.split(',')[0]}-A`);
  await done(page, 26);
  await expect(hand(page).getByRole('heading')).toHaveText('Into the water');
  await done(page, 17);
  await expect(hand(page).getByRole('heading')).toHaveText('Drain, towel to SSD, weigh');
  await page.locator('[data-back="back"]').click();
  await expect(hand(page)).toContainText('In the water for 30 min at the least. It may be done from');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  for (const theme of ['light', 'dark', 'glare']) {
    await page.evaluate((t) => (document.documentElement.dataset['theme'] = t), theme);
    expect(await seriousOf(page)).toEqual([]);
  }
  await page.route('**/api/v1/bench?*', async (route) => {
    const answer = (await (await route.fetch()).json()) as object;
    await route.fulfill({ json: { ...answer, runs: [] } });
  });
  await page.reload();
  await expect(page.getByTestId('empty')).toContainText('Nothing is at the bench.');
  await page.unroute('**/api/v1/bench?*');
  await page.route('**/api/v1/bench?*', (route) => route.abort());
  await page.reload();
  await expect(page.getByTestId('as-of').or(page.getByText('The server does not answer')).first()).toBeVisible();
});

it('a gradation takes its wash and is out of its band; a reduction is refused, then mended; a run is planned back', async ({ browser }) => {
  const page = await app.device(browser, /Oakhanger/);
  const { sample, itemId } = await fieldSample(app, page, 'fine', 'Sand out of its band');
  await page.goto(`${app.url}/record/${itemId}`);
  const begin = async (method: string): Promise<void> => {
    await choose(page, 'Begin a test', method);
    await page.getByRole('heading', { name: method, level: 2 }).waitFor();
  };
  await begin('Material finer than 75 µm, by washing');
  await keepTest(page, { before: '512.4', after: '488.0' });
  await begin('Gradation by sieving');
  await expect(page.locator('#held-dry')).toHaveValue('512.4');
  await page.locator('[data-cell="0.0"]').evaluate((at) => {
    const data = new DataTransfer();
    const rows = '9.5\t0\n4.75\t12.8\n2.36\t57.1\n1.18\t95.3\n0.600\t128.6\n0.300\t131.2\n0.150\t45.0\n0.075\t15.4';
    data.setData('text/plain', `Opening (mm)\tRetained (g)\n${rows}`);
    at.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await choose(page, 'Band', 'Fine aggregate');
  await keepTest(page, { pan: '2.4' });
  await expect(page.getByTestId('against')).toHaveText('outside the band: above at 0.075 mm');
  await expect(page.getByText('Outside the band of fine aggregate: too much passes 0.075 mm.').first()).toBeVisible();
  expect(await seriousOf(page)).toEqual([]);

  // A weighing of a table comes off the balance too, into a row that is new.
  await begin('Drying to constant mass');
  await page.locator('[data-place="track.0.mass"]').click();
  await app.tell(page, 'balance-1', { does: 'PUT', with: '0.5128' });
  await expect(page.getByTestId('take')).toHaveText('Take 0.513 kg', { timeout: 20_000 });
  await page.getByTestId('take').click();
  await expect(page.locator('[data-place="track.0.mass"]')).toHaveValue('0.513');
  await page.getByTestId('keep').click();
  await expect(page.locator('km-in-hand')).toContainText('Kept as it stands.');
  expect(await app.count("SELECT COUNT(*) FROM entry WHERE path LIKE 'track.%.mass' AND device = 'balance-1'")).toBe(1);

  // Dry sand out of a small stockpile, and to the gram: neither is had; the splitter is, and what it leaves.
  await begin('Reduction to test size');
  await page.locator('#held-bulk').fill('24.0');
  await page.locator('#held-least').fill('0.5');
  await choose(page, 'Wetter than SSD', 'No');
  await choose(page, 'Wished method', 'a miniature stockpile');
  await expect(page.locator('km-in-hand')).toContainText('a splitter');
  await expect(page.getByTestId('keep')).toBeDisabled();
  await choose(page, 'Wished method', 'a splitter');
  await page.locator('#held-exactly').fill('0.500');
  await expect(page.getByTestId('keep')).toBeDisabled();
  await page.locator('#held-exactly').fill('');
  await page.getByTestId('keep').click();
  await expect(page.locator('km-in-hand')).toContainText('Kept as it stands.');

  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await page.getByTestId('start-run').click();
  await choose(page, 'Field sample', sample);
  await choose(page, 'Goes through', 'Bulk density and voids');
  const weekday = [5, 6, 7].map((days) => DateTime.now().plus({ days })).find((day) => day.weekday <= 5)!;
  await keyMoment(page.getByRole('combobox', { name: 'Ready by' }), weekday.set({ hour: 14, minute: 0 }).toFormat('d MMM yyyy HH:mm'));
  await expect(page.getByTestId('planned-back').locator('li')).toHaveCount(3);
  await page.getByTestId('run-planned').click();
  await page.getByTestId('run-planned').waitFor({ state: 'detached' });
  await expect(hand(page).getByRole('heading')).toHaveText('Into the oven');
  await expect(hand(page)).toContainText('It may be done from');
  const code = `${sample.split(',')[0]}-A`;
  expect(
    await app.count(
      "SELECT COUNT(*) FROM due d JOIN item i ON i.id = d.item_id WHERE i.code = ? AND d.due = 'run:oven' AND d.done_at IS NULL",
      [code],
    ),
  ).toBe(1);
});
