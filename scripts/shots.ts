/* npm run shots: the pictures of docs/screenshots, from the demo data, on a database of their own. */
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { servedDemo } from './lib/served.js';

const ROOT = join(import.meta.dirname, '..');
const OUT = join(ROOT, 'docs/screenshots');
const DESK = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844 };

const app = await servedDemo(4387);

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-dev-shm-usage', '--disable-background-networking'],
});

async function device(viewport: typeof DESK, theme: string): Promise<Page> {
  const context = await browser.newContext({ viewport, locale: 'en-GB', hasTouch: viewport === PHONE });
  const page = await context.newPage();
  await page.goto(`${app.url}/who`);
  await page.evaluate((t) => localStorage.setItem('km.theme', t), theme);
  await page.reload();
  return page;
}

async function arrive(page: Page): Promise<void> {
  await page.getByRole('button', { name: /Oakhanger/ }).click();
  await page.waitForURL('**/day');
  await page.getByRole('link', { name: 'Pours', exact: true }).click();
  await page.waitForURL('**/pours');
  await page.getByText('Boardwalk span 4').waitFor();
}

const shot = async (page: Page, name: string): Promise<void> => {
  await page.waitForTimeout(400);
  await page.screenshot({ path: join(OUT, `${name}.png`) });
  console.log(name);
};

/** A computation on its worked example. */
const scratch = async (page: Page, method: string, name: string, then?: () => Promise<unknown>): Promise<void> => {
  await page.goto(`${app.url}/scratch/${method}`);
  await page.locator('h1').waitFor();
  if (method !== 'plan') await page.getByTestId('example').click();
  await page.waitForTimeout(600);
  await then?.();
  await shot(page, name);
};

const openSample = async (page: Page, pour: string, sample: string): Promise<void> => {
  await page.goto(`${app.url}/pours`);
  await page.getByText(pour).click();
  await page.getByText(sample).click();
  await page.locator('[data-method="slump"]').first().waitFor();
};
const chooseTest = (page: Page, method: string, n = 0) => page.locator(`button[data-method="${method}"]`).nth(n).click();

const desk = await device(DESK, 'light');
await shot(desk, 'who');
await arrive(desk);
await desk.getByText('Boardwalk span 4').click();
await desk.locator('[data-load="6"]').waitFor();
await shot(desk, 'pour');
await desk.getByRole('button', { name: 'Sample load 6', exact: true }).click();
await desk.getByRole('button', { name: /Another portion/ }).click();
await desk.getByRole('button', { name: /2 so far/ }).waitFor();
await desk.getByRole('button', { name: 'Combined and turned' }).click();
await chooseTest(desk, 'temperature');
await desk.locator('#reading-temperature').fill('19.5');
await desk.getByTestId('keep').click();
await desk.locator('[data-kept="temperature"]').waitFor();
await chooseTest(desk, 'slump');
await desk.getByRole('radio', { name: 'True' }).check();
await desk.locator('#reading-lift').fill('4.8');
await desk.locator('#reading-total').fill('1:52');
await desk.locator('#reading-drop').fill('96');
await shot(desk, 'sheet-slump');
const sheet = desk.url();
await openSample(desk, 'Boardwalk span 3', 'Q-102');
await chooseTest(desk, 'slump', 1);
await shot(desk, 'sheet-out');
await scratch(desk, 'gradation', 'scratch-gradation', async () => {
  await desk.getByRole('combobox', { name: 'Band', exact: true }).click();
  await desk.getByRole('option', { name: 'Fine aggregate' }).click();
});
await scratch(desk, 'plan', 'scratch-plan');

await desk.goto(`${app.url}/record`);
await desk.evaluate(() => localStorage.setItem('km.record.kind', 'field-sample'));
await desk.reload();
await desk.locator('km-record-list li a').first().waitFor();
await shot(desk, 'record');
await desk.goto(`${app.url}/day`);
await desk.locator('[data-group]').first().waitFor();
await desk.waitForTimeout(900);
await shot(desk, 'day');
await desk.goto(`${app.url}/bench`);
await desk.locator('[data-run]').first().waitFor();
await shot(desk, 'bench');
await desk.goto(`${app.url}/breaks`);
await desk.locator('[data-due="D-34 28"]').click();
await desk.locator('h2', { hasText: 'D-34-C' }).waitFor();
await desk.getByTestId('press').waitFor();
for (const [id, figure] of Object.entries({ d1: '101.50', d2: '101.75', length: '203' })) await desk.locator(`#held-${id}`).fill(figure);
for (const command of [
  { does: 'PUT', with: '288.4' },
  { does: 'HURRY', with: '40' },
])
  await desk.request.post(`${app.url}/api/v1/instruments/machine-1/commands`, { data: command });
await desk.getByTestId('press-start').click();
await desk.getByTestId('press').getByText('latter half').waitFor();
await desk.locator('label[for="held-fracture-3"]').click();
await desk.mouse.move(0, 0);
await desk.evaluate(() => document.getElementById('place')?.scrollTo(0, 0));
await desk.waitForTimeout(600);
await shot(desk, 'breaks');
await desk.goto(`${sheet.replace('/samples/', '/record/')}/mold`);
await desk.locator('li[data-age="28"]').waitFor();
await desk.getByTestId('molded').click();
await desk.getByTestId('layer').waitFor();
for (let i = 0; i < 5; i++) await desk.getByTestId('layer-done').click();
await shot(desk, 'molding');
await desk.goto(`${app.url}/kit`);
await desk.locator('km-kit-list li a').first().waitFor();
await shot(desk, 'kit');
await desk.goto(`${app.url}/mixes`);
await desk.getByRole('link', { name: /D-32A/ }).click();
await desk.locator('km-trends').waitFor();
await shot(desk, 'mix');
await desk.getByRole('link', { name: 'Strength series' }).click();
await desk.locator('[data-cause]').first().waitFor();
await desk.waitForTimeout(900);
await shot(desk, 'series');
await desk.goto(`${app.url}/mixes`);
await desk.getByRole('link', { name: /Brackdown sand/ }).click();
await desk.locator('km-trends canvas').first().waitFor();
await desk.waitForTimeout(900);
await shot(desk, 'source');
await desk.goto(`${app.url}/ledger?state=out,edge,within,void`);
await desk.locator('tr[data-test]').nth(4).click();
await desk.locator('km-thread').waitFor();
await shot(desk, 'ledger');
await desk.goto(`${app.url}/decisions`);
await desk.getByRole('region', { name: 'What waits' }).getByRole('button', { name: 'Strength test' }).click();
await desk.getByText('It counts, as tested', { exact: true }).click();
await desk.getByTestId('effect').waitFor();
await shot(desk, 'decisions');

const phone = await device(PHONE, 'dark');
await arrive(phone);
await phone.goto(sheet);
await chooseTest(phone, 'yield');
await phone.locator('#reading-full').fill('19.31');
await phone.locator('#reading-empty').fill('3.21');
await shot(phone, 'phone-dark');

const glare = await device(DESK, 'glare');
await arrive(glare);
await glare.goto(sheet);
await chooseTest(glare, 'pressure-air');
await glare.locator('#reading-gauge').fill('7.8');
await shot(glare, 'glare-air');

await browser.close();
await app.end();
