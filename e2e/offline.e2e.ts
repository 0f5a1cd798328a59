import { randomUUID } from 'node:crypto';
import { expect, test as it, type Page } from '@playwright/test';
import { App, field, keep, newLoad, takeSample, test } from './app';

const app = new App();
it.beforeAll(async () => {
  await app.prepare();
  await app.start();
});
it.afterAll(() => app.end());

/** All of the application is on the device. */
async function installed(page: Page): Promise<void> {
  await page.evaluate(() => navigator.serviceWorker.register('/ngsw-worker.js').then(() => navigator.serviceWorker.ready));
  const whole = (): Promise<boolean> =>
    page.evaluate(async () => {
      const { hashTable } = (await (await fetch('/ngsw.json?ngsw-bypass=true')).json()) as { hashTable: Record<string, string> };
      const names = await caches.keys();
      const kept = await Promise.all(
        names.map(async (name) => (await (await caches.open(name)).keys()).map((r) => new URL(r.url).pathname)),
      );
      const all = new Set(kept.flat());
      return Object.keys(hashTable).every((file) => all.has(file));
    });
  await expect.poll(whole, { timeout: 90_000 }).toBe(true);
}

it('without a network from the middle of a sample: twenty writes wait, the tab is closed and opened again, and everything is there once', async ({
  browser,
}) => {
  const page = await app.device(browser, /Oakhanger/, { serviceWorkers: 'allow' });
  await newLoad(page, 93);
  await takeSample(page, 93);
  const sampleId = page.url().split('/').at(-1)!;
  await test(page, 'temperature').click();
  await field(page, 'temperature').fill('19.5');
  await keep(page).click();
  await expect(page.locator('[data-kept="temperature"]')).toContainText('19.5 °C');
  await expect(page.locator('km-held-events .one')).toHaveCount(0, { timeout: 15_000 });
  await page.goto(`${app.url}/record/${sampleId}`);
  await page.getByTestId('note').waitFor();
  // What was answered goes onto the device once the place stands.
  await page.waitForTimeout(4000);
  await page.goto(`${app.url}/day`);
  await page.locator('[data-group]').first().waitFor();
  await page.waitForTimeout(4000);
  await page.goto(`${app.url}/samples/${sampleId}`);
  await test(page, 'temperature').waitFor();
  await installed(page);

  await page.context().setOffline(true);
  await page.getByRole('button', { name: 'Molding started' }).click();
  await page.getByRole('button', { name: 'Truck is empty' }).click();
  await test(page, 'temperature').click();
  await page.getByRole('button', { name: 'Correct Temperature' }).click();
  await field(page, 'temperature').fill('20');
  await page.getByLabel('Reason for the correction').fill('read again');
  await keep(page).click();
  await test(page, 'slump').click();
  await page.getByRole('radio', { name: 'True' }).check();
  await field(page, 'centre').fill('200');
  await keep(page).click();
  await test(page, 'yield').click();
  await field(page, 'full').fill('19.31');
  await field(page, 'empty').fill('3.21');
  await keep(page).click();
  await test(page, 'pressure-air').click();
  await field(page, 'gauge').fill('6.4');
  await keep(page).click();
  await expect(page.getByTestId('waiting')).toContainText('9 kept here, waiting');
  await page.close();

  // Somebody else has corrected the temperature meanwhile.
  const of = async <T>(path: string): Promise<T> => (await (await fetch(`${app.url}/api/v1${path}`)).json()) as T;
  const sheet = await of<{ tests: { id: string; method: string; readings: { id: string; field: string }[] }[] }>(`/items/${sampleId}`);
  const { items: people } = await of<{ items: { id: string; name: string }[] }>('/people');
  const temperature = sheet.tests.find((t) => t.method === 'temperature')!;
  const was = temperature.readings.find((r) => r.field === 'temperature')!.id;
  const correction = {
    id: randomUUID(),
    field: 'temperature',
    text: '18.5',
    unit: 'C',
    at: new Date().toISOString(),
    supersedes: was,
    reason: 'the other thermometer',
  };
  const answer = await fetch(`${app.url}/api/v1/tests/${temperature.id}/readings`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ id: randomUUID(), by: people.find((p) => p.name.includes('Sallow'))!.id, readings: [correction] }),
  });
  expect(answer.status).toBe(201);

  // Opened again: the application, the day and the sheet are there, with their time; what waits waits still.
  const again = await page.context().newPage();
  // One answer will be lost on its way back: it was kept, and is asked for again.
  await again.addInitScript(() => {
    const fetch = window.fetch.bind(window);
    window.fetch = async (...asked: Parameters<typeof fetch>) => {
      const answer = await fetch(...asked);
      const url = asked[0] instanceof Request ? asked[0].url : String(asked[0]);
      if (localStorage.getItem('lost') !== null || !url.endsWith('/readings') || answer.status !== 201) return answer;
      localStorage.setItem('lost', url);
      throw new TypeError('connection reset');
    };
  });
  await again.goto(`${app.url}/day`);
  await again.locator('[data-group]').first().waitFor();
  await expect(again.getByTestId('as-of')).toContainText('No connection: what is shown is as it was at');
  await again.goto(`${app.url}/samples/${sampleId}`);
  await expect(again.getByTestId('waiting')).toContainText('9 kept here, waiting');
  await expect(test(again, 'slump')).toContainText('kept here, waiting');
  await again.goto(`${app.url}/record/${sampleId}`);
  for (let i = 1; i <= 11; i++) {
    await again.getByTestId('note').fill(`Note ${i} without a network`);
    await again.getByTestId('add-note').click();
  }
  await expect(again.getByTestId('waits')).toContainText('20 things wait');

  await again.context().setOffline(false);
  await expect(again.getByTestId('waits')).toHaveCount(0, { timeout: 60_000 });
  await expect(again.getByTestId('as-of')).toHaveCount(0, { timeout: 30_000 });

  const notes = "SELECT COUNT(*) FROM entry WHERE owner_id = ? AND path LIKE 'notes.%.text'";
  await expect.poll(() => app.count(notes, [sampleId]), { timeout: 60_000 }).toBe(11);
  await expect(again.getByText('One thing was refused')).toBeVisible();
  expect(await again.evaluate(() => localStorage.getItem('lost'))).not.toBeNull();

  // Everything once; the correction that came too late is in the tray, with both values.
  const count = (sql: string) => app.count(sql, [sampleId]);
  expect(await count('SELECT COUNT(*) FROM test WHERE item_id = ?')).toBe(4);
  expect(await count('SELECT COUNT(*) FROM evaluation e JOIN test t ON t.id = e.test_id WHERE t.item_id = ? AND e.cause IS NULL')).toBe(5);
  expect(await count("SELECT COUNT(*) FROM entry WHERE owner_id = ? AND path = 'molding'")).toBe(1);
  expect(await count("SELECT COUNT(*) FROM entry r JOIN test t ON t.id = r.owner_id WHERE t.item_id = ? AND r.path = 'temperature'")).toBe(
    2,
  );
  await again.getByTestId('look-aside').click();
  await expect(again.locator('[data-aside]')).toContainText('18.5 C');
  await expect(again.locator('[data-aside]')).toContainText('What was to be kept: 20 °C');
});

it('molded without a network, a set has its code at once, and keeps it', async ({ browser }) => {
  const page = await app.device(browser, /Oakhanger/);
  await newLoad(page, 94);
  await takeSample(page, 94);
  const sampleId = page.url().split('/').at(-1)!;
  await page.goto(`${app.url}/record/${sampleId}/mold`);
  await expect.poll(() => page.evaluate(() => localStorage.getItem('km.device') ?? '')).toContain('begins');
  await page.getByTestId('molded').waitFor();
  await page.context().setOffline(true);
  await page.getByTestId('molded').click();
  const told = await page.getByTestId('code').innerText();
  const code = /Its code is (D-[A-Z]+1):/.exec(told)?.[1];
  expect(code).toBeDefined();
  await page.context().setOffline(false);
  await expect(page.getByText(`${code}-A`).first()).toBeVisible({ timeout: 60_000 });
  expect(await app.count('SELECT COUNT(*) FROM item WHERE code = ? AND parent_id = ?', [code!, sampleId])).toBe(1);
});
