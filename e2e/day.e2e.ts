import { expect, test as it, type Page } from '@playwright/test';
import { App, newLoad, takeSample } from './app';
import { seriousOf } from './axe';

const app = new App();
it.beforeAll(async () => {
  await app.prepare();
  await app.start();
});
it.afterAll(() => app.end());

const due = (page: Page, id: string, what: RegExp) => page.locator(`li[data-due="${id}"]`).filter({ hasText: what });

it('a set is molded of a sample, layer by layer; its breaks stand on the day, are planned and moved, and come off it when it is fetched', async ({
  browser,
}) => {
  const page = await app.device(browser, /Oakhanger/);
  await newLoad(page, 91);
  await takeSample(page, 91);
  await page.getByTestId('mold').click();
  await page.locator('li[data-age="28"]').waitFor();
  await page.getByLabel('How many, line 1', { exact: true }).fill('1');
  await page.getByLabel('Where they are kept first').fill('cure box 2');
  // Half a specimen is none.
  await page.getByLabel('How many, line 2', { exact: true }).fill('2.5');
  await expect(page.getByText('How many is a whole number.')).toBeVisible();
  await expect(page.getByTestId('molded')).toBeDisabled();
  await page.getByLabel('How many, line 2', { exact: true }).fill('3');
  expect(await seriousOf(page)).toEqual([]);
  await page.getByTestId('molded').click();
  await page.waitForURL('**/mold');
  await expect(page.getByTestId('layer')).toContainText(/D-\d+-A, layer 1 of 2: 25 strokes/);
  const code = /D-\d+/.exec(await page.getByTestId('layer').innerText())![0];
  for (let i = 0; i < 10; i++) await page.getByTestId('layer-done').click();
  await expect(page.getByText('All are filled.')).toBeVisible();
  const labels = await page.request.get((await page.getByRole('link', { name: /Labels/ }).getAttribute('href'))!.replace(/^/, app.url));
  expect([labels.status(), labels.headers()['content-type']]).toEqual([200, 'application/pdf']);
  expect(
    await app.count("SELECT COUNT(*) FROM item i JOIN item s ON s.id = i.parent_id WHERE s.code = ? AND i.kind = 'specimen'", [code]),
  ).toBe(5);

  await page.getByRole('link', { name: 'Day' }).click();
  const press = page.locator('[data-group="press"]');
  await press.getByRole('button', { name: /in all/ }).click();
  const breaks = due(page, 'break', new RegExp(`${code}, three`));
  await expect(breaks).toContainText('28 d ± 20 h');
  // By keys: an hour later; by hand: who.
  const bead = breaks.getByRole('slider');
  await bead.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByTestId('plan-it')).toContainText('28 d ± 20 h');
  const before = await bead.getAttribute('aria-valuetext');
  await page.keyboard.press('ArrowRight');
  await expect(bead).not.toHaveAttribute('aria-valuetext', before!);
  const said = await bead.getAttribute('aria-valuetext');
  await page.getByTestId('plan-keep').click();
  await expect(breaks).toContainText(`planned ${said}`);
  expect(await app.count('SELECT COUNT(*) FROM planned p JOIN item i ON i.id = p.item_id WHERE i.code LIKE ?', [`${code}-%`])).toBe(3);
  expect(await seriousOf(page)).toEqual([]);

  const download = page.waitForEvent('download');
  await page.getByTestId('calendar').click();
  const calendar = (await (await download).createReadStream()) as NodeJS.ReadableStream;
  let text = '';
  for await (const chunk of calendar) text += String(chunk);
  expect(text.replace(/\r\n\s/g, '')).toContain(`SUMMARY:Break: ${code}\\, three`);

  // A holiday over the whole of it: it cannot be met, unless somebody comes.
  await page.goto(`${app.url}/day/hours`);
  await page.getByRole('group', { name: 'Monday' }).getByText('closed').click();
  await page.getByLabel('Tuesday, opens').fill('19:00');
  await page.getByTestId('keep-hours').click();
  await expect(page.getByText('opens before it closes')).toBeVisible();
  await page.getByLabel('Tuesday, opens').fill('07:00');
  await page.getByTestId('keep-hours').click();
  await page.waitForURL('**/day');
  expect(await app.count('SELECT COUNT(*) FROM hours')).toBe(1);

  // Where it may be fetched tomorrow only, it is folded beneath what can be fetched today.
  await page.locator('[data-group="curing"]').waitFor();
  const fold = page.locator('[data-group="curing"]').getByRole('button', { name: /in all/ });
  if (await fold.isVisible()) await fold.click();
  await due(page, 'fetch', new RegExp(code)).getByRole('link').click();
  await page.locator('#held-low').fill('18.5');
  await page.locator('#held-high').fill('23');
  for (const step of ['demolded', 'cured'])
    await page
      .locator('km-moment', { has: page.locator(`#held-${step}`) })
      .getByRole('button', { name: 'now' })
      .click();
  await page.getByTestId('keep').click();
  const facts = () =>
    app.count("SELECT COUNT(*) FROM entry e JOIN item i ON i.id = e.owner_id WHERE i.code = ? AND e.path IN ('low', 'cured')", [code]);
  await expect.poll(facts).toBe(2);
  // In the tank, it waits for nothing more but its breaks.
  await page.getByRole('link', { name: 'Day' }).click();
  await expect(page.getByTestId('done')).toContainText(`Fetch, out of the molds ${code}`);
});

it('a phone has the day as a list, nothing sideways; without anything to do it teaches', async ({ browser }) => {
  const page = await app.device(browser, /Sallow/, { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
  for (const theme of ['light', 'dark', 'glare']) {
    await page.evaluate((t) => localStorage.setItem('km.theme', t), theme);
    await page.goto(`${app.url}/day`);
    await page.locator('[data-group]').first().waitFor();
    expect(
      await page.evaluate(() =>
        Math.max(...[document.querySelector('main')!, document.documentElement].map((e) => e.scrollWidth - e.clientWidth)),
      ),
    ).toBeLessThanOrEqual(0);
    expect(await seriousOf(page)).toEqual([]);
  }
  await page.route('**/api/v1/day?*', async (route) => {
    const body = (await (await route.fetch()).json()) as object;
    await route.fulfill({ json: { ...body, things: [], done: [], older: 0 } });
  });
  await page.goto(`${app.url}/day`);
  await expect(page.getByTestId('empty')).toContainText('Nothing waits.');
  await page.unroute('**/api/v1/day?*');
  await page.goto(`${app.url}/day`);
  await page.locator('[data-group]').first().waitFor();
  await page.waitForTimeout(4000);
  // Without the server it is as it was seen last, with the time of that.
  await page.route('**/api/v1/day?*', (route) => route.abort());
  await page.goto(`${app.url}/day`);
  await expect(page.getByTestId('as-of')).toContainText('No connection: what is shown is as it was at');
});
