import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { expect, test as it, type Page } from '@playwright/test';
import { DateTime } from 'luxon';
import { App, choose, keyMoment, putAway, standIns } from './app';
import { seriousOf } from './axe';

const app = new App();
let instruments: ChildProcess;
it.beforeAll(async () => {
  await app.prepare();
  instruments = await standIns();
  await app.start();
});
it.afterAll(async () => {
  putAway(instruments);
  await app.end();
});

/** A field sample of a source of its own: what is found here moves nothing of the demonstration. */
async function fieldSample(page: Page, kind: 'fine' | 'coarse', name: string): Promise<string> {
  const of = async (path: string) =>
    (await (await page.request.get(`${app.url}/api/v1${path}`)).json()) as { items: { id: string; name: string }[] };
  const projectId = (await of('/projects')).items[0]!.id;
  const by = (await of('/people')).items.find((p) => p.name.includes('Sallow'))!.id;
  const make = async (body: object): Promise<{ item: { id: string; code: string } }> => {
    const answer = await page.request.post(`${app.url}/api/v1/items`, { data: { id: randomUUID(), by, projectId, ...body } });
    return (await answer.json()) as { item: { id: string; code: string } };
  };
  const source = await make({ kind: 'source', parentId: null, name, facts: { pit: 'Brackdown', kind } });
  const facts = { takenAt: DateTime.now().minus({ hours: 40 }).toISO(), from: 'stockpile' };
  return `${(await make({ kind: 'field-sample', parentId: source.item.id, facts })).item.code}, ${name}`;
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

it('a fine run over two days: soaked, judged at the cone, past SSD and back, weighed, on two devices and without a network', async ({
  browser,
}) => {
  const page = await app.device(browser, /Sallow/);
  const sample = await fieldSample(page, 'fine', 'Sand of the bench');
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await page.getByTestId('start-run').click();
  await choose(page, 'Field sample', sample);
  await choose(page, 'Goes through', 'Fine specific gravity, 15 to 19 h soak');
  await keyMoment(page.getByRole('combobox', { name: 'Sand into the oven, at' }), ago(30));
  await page.getByTestId('run-starts').click();
  await page.getByTestId('run-starts').waitFor({ state: 'detached' });
  await expect(hand(page)).toContainText(`${sample.split(',')[0]}-A`);
  const code = /B-\d+-[A-Z]/.exec(await hand(page).innerText())![0];
  await done(page, 26);
  await expect(hand(page).getByRole('heading')).toHaveText('Into the water');
  expect(await seriousOf(page)).toEqual([]);
  await done(page, 17);
  await expect(hand(page)).toContainText('Soaks for 15 to 19 h');
  // It waits on the day too, with the end of its soak.
  await page.getByRole('link', { name: 'Day', exact: true }).click();
  const due = page.locator('[data-group="bench"] li').filter({ hasText: code });
  await page
    .locator('[data-group="bench"]')
    .getByRole('button', { name: /in all/ })
    .click({ timeout: 2000 })
    .catch(() => undefined);
  await expect(due).toContainText('Drain, first cone trial');

  // Another device goes on with it, and loses its network for a moment.
  const other = await app.device(browser, /Oakhanger/);
  await opened(other, code);
  await other.context().setOffline(true);
  await done(other, 1);
  await expect(other.getByTestId('waits').first()).toBeVisible();
  await other.context().setOffline(false);
  await expect(hand(other).getByRole('heading')).toHaveText('SSD: into the flask', { timeout: 60_000 });
  await expect(other.getByTestId('locked')).toContainText('There is none that counts yet');
  await expect(other.getByTestId('step-done')).toBeDisabled();
  // Past SSD: wetted three quarters of an hour ago, so it may be tried again.
  await keyMoment(hand(other).getByRole('combobox', { name: 'Done at' }), ago(0.75));
  await other.locator('[data-back="wetted"]').click();
  await expect(hand(other)).toContainText('Covered for 30 min at the least');
  await other.getByTestId('to-cone').click();
  await other.locator('[data-look="kept"]').click();
  await other.getByTestId('keep').click();
  await expect(other.locator('km-in-hand')).toContainText('Kept as it stands.');
  await opened(other, code);
  await expect(other.getByTestId('locked')).toContainText('The last one is not.');
  await other.getByTestId('to-cone').click();
  await other.locator('[data-look="slight"]').click();
  await other
    .locator('#held-reason')
    .fill('the next trial')
    .catch(() => undefined);
  await other.getByTestId('keep').click();
  await expect(other.locator('km-in-hand')).toContainText('Kept as it stands.');
  await opened(other, code);
  await expect(other.getByTestId('locked')).toHaveCount(0);
  await other.getByTestId('step-test').click();
  // S off the balance, once it stands.
  await other.locator('#held-ssd').click();
  await expect(other.getByTestId('plate')).toContainText('Balance 1, 30 kg');
  await app.tell(other, 'balance-1', { does: 'PUT', with: '0.5003' });
  await expect(other.getByTestId('take')).toHaveText('Take 0.500 kg', { timeout: 20_000 });
  await other.getByTestId('take').click();
  await expect(other.locator('#held-ssd')).toHaveValue('0.500');
  await keepTest(other, { flaskWater: '661.8', flaskSample: '971.6' });
  expect(await app.count("SELECT COUNT(*) FROM entry WHERE path = 'ssd' AND value_text = '0.500' AND device = 'balance-1'")).toBe(1);

  // The first one finishes it.
  await opened(page, code);
  await done(page);
  await expect(hand(page).getByRole('heading')).toHaveText('Into the oven again');
  await done(page);
  await expect(hand(page).getByRole('heading')).toHaveText('Dry weighing');
  await page.getByTestId('step-test').click();
  await keepTest(page, { dry: '493.6' });
  await expect(page.locator('[data-result="absorption"]').first()).toContainText('1.3');
  await opened(page, code);
  await expect(page.getByTestId('step-done')).toHaveText('It was done, too early');
  await done(page);
  await expect(hand(page).getByRole('heading')).toHaveText('All of it is done');
  expect(
    await app.count(
      "SELECT COUNT(*) FROM gift g JOIN item i ON i.id = g.item_id WHERE i.code = ? AND g.source IN ('source.gravity', 'source.absorption', 'test.cone')",
      [code],
    ),
  ).toBe(3);
});

it('stone over-dried goes back into the water; the bench on a phone, in its themes, and with nothing on it', async ({ browser }) => {
  const page = await app.device(browser, /Oakhanger/, { viewport: { width: 390, height: 844 } });
  const sample = await fieldSample(page, 'coarse', 'Stone of the bench');
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
