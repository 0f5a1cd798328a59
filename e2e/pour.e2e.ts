import { expect, test as it } from '@playwright/test';
import { drawLoads } from '../packages/core/src/methods/sampling-plan/sampling-plan.js';
import { App, choose, field, keep, newLoad, takeSample, test } from './app';
import { seriousOf } from './axe';

const app = new App();

it.beforeAll(async () => {
  await app.prepare();
  await app.start();
});
it.afterAll(() => app.end());

it('from a ticket to kept verdicts, with a second person looking on and a server that dies between two keeps', async ({ browser }) => {
  const page = await app.device(browser, /Oakhanger/);
  await newLoad(page, 7);
  await takeSample(page, 7);
  const sampleId = page.url().split('/').at(-1)!;
  await expect(page.locator('[data-fuse="portions"]')).toHaveAttribute('data-state', 'done');
  await expect(page.locator('[data-fuse="start-within-5"]')).toHaveAttribute('data-state', 'burning');

  const other = await app.device(browser, /Sallow/);
  await other.goto(`${app.url}/samples/${sampleId}`);
  await expect(test(other, 'temperature')).toContainText('Temperature is missing');

  // Temperature: the answer moves while it is typed; the other device hears of it.
  await test(page, 'temperature').click();
  await field(page, 'temperature').fill('19');
  await expect(page.locator('[data-result="temperature"]')).toContainText('19.0 °C');
  await expect(test(other, 'temperature')).toContainText('being keyed by Rosalind Oakhanger');
  await field(page, 'temperature').fill('19.5');
  await keep(page).click();
  await expect(page.locator('[data-kept="temperature"]')).toContainText('19.5 °C');
  await expect(test(other, 'temperature')).toContainText('19.5 °C', { timeout: 5000 });

  // A void slump and its linked repeat.
  await test(page, 'slump').click();
  await page.getByRole('radio', { name: 'Shear' }).check();
  await field(page, 'lift').fill('4.9');
  await field(page, 'total').fill('1:58');
  await field(page, 'centre').fill('150');
  await expect(page.locator('[data-result="slump"]')).toHaveAttribute('data-verdict', 'void');
  await expect(page.locator('[data-told="shape-shear"]').getByText('Test again on another portion of the same sample.')).toBeVisible();
  await keep(page).click();
  await page.getByTestId('repeat').click();
  await page.getByRole('radio', { name: 'True' }).check();
  await field(page, 'lift').fill('4.8');
  await field(page, 'total').fill('1:52');

  // A reading in the wrong unit is recognised; what was keyed stays until the person says otherwise.
  await field(page, 'centre').fill('8.5');
  await expect(page.getByText('8.5 mm is unlikely')).toBeVisible();
  await expect(keep(page)).toContainText('needs a reason');
  await page.getByRole('button', { name: 'Meant 8.5 in?' }).click();
  await expect(page.locator('[data-result="slump"]')).toContainText('85 mm');
  await field(page, 'centre').fill('204');
  await choose(page, 'Unit of Height of the displaced centre', 'mm');
  await expect(page.locator('[data-result="slump"]')).toContainText('within, 20 mm above the lower limit');
  await expect(page.locator('km-working')).toContainText('300 − 204');
  await keep(page).click();
  await expect(test(page, 'slump').last()).toContainText('95 mm');
  await expect(test(page, 'slump').first()).toContainText('void, repeated');

  // An impossible reading stays at its field and keeps nothing.
  await test(page, 'yield').click();
  await expect(page.getByText('The slump is 95 mm: rod the measure.')).toBeVisible();
  await field(page, 'full').fill('3.21');
  await field(page, 'empty').fill('19.31');
  await expect(page.getByText('The full measure cannot be as light as the empty one, or lighter.')).toBeVisible();
  await expect(keep(page)).toBeDisabled();
  await expect(field(page, 'full')).toHaveValue('3.21');
  // The two were keyed in each other's place: one press puts them right.
  await page.getByTestId('exchange').first().click();
  await expect(field(page, 'full')).toHaveValue('19.31');
  await expect(page.locator('[data-result="density"]')).toContainText('2286 kg/m³');
  await expect(page.locator('[data-result="relative"]')).toContainText('1.00');
  await expect(page.getByText('Air, gravimetric')).toBeVisible();

  // The server dies between two keeps: the keep waits on the device and goes on by itself.
  await app.end('SIGKILL');
  await keep(page).click();
  await expect(page.getByTestId('waiting')).toContainText('kept here, waiting for the network');
  await test(page, 'pressure-air').click();
  await field(page, 'gauge').fill('6.4');
  await expect(page.locator('[data-result="air"]')).toContainText('6.0 %');
  await app.start();
  await expect(page.getByTestId('waiting')).toHaveCount(0, { timeout: 15_000 });
  await expect(test(other, 'yield')).toContainText('2286 kg/m³', { timeout: 10_000 });

  // A draft survives reload.
  await page.reload();
  await test(page, 'pressure-air').click();
  await expect(field(page, 'gauge')).toHaveValue('6.4');
  await keep(page).click();
  await expect(page.locator('[data-kept="gauge"]')).toContainText('6.4 %');

  // A correction with its reason; the old reading stays visible.
  await test(page, 'slump').last().click();
  await page.getByRole('button', { name: 'Correct Height of the displaced centre' }).click();
  await field(page, 'centre').fill('208');
  await expect(keep(page)).toContainText('needs a reason');
  await page.getByLabel('Reason for the correction').fill('rule read upside down');
  await keep(page).click();
  await expect(page.getByTestId('was')).toContainText('204 mm');
  await expect(page.getByTestId('was').locator('s')).toBeVisible();
  await expect(test(page, 'slump').last()).toContainText('90 mm');
  await expect(test(other, 'slump').last()).toContainText('90 mm', { timeout: 5000 });

  // After a restart everything is as it was, in the same digits.
  await expect(page.locator('km-test-list nav')).not.toContainText('waiting');
  const shown = await page.locator('km-test-list nav').innerText();
  await app.end('SIGTERM');
  await app.start();
  await page.reload();
  await expect(page.locator('km-test-list nav')).toContainText('90 mm');
  expect(await page.locator('km-test-list nav').innerText()).toBe(shown);

  // Rows, straight from the tables: five tests, twenty readings, of which one correction; nothing twice.
  const of = (what: string, where = '') =>
    app.count(`SELECT COUNT(${what}) FROM test t JOIN entry r ON r.owner_id = t.id WHERE t.item_id = ? ${where}`, [sampleId]);
  expect(await of('DISTINCT t.id')).toBe(5);
  expect(await of('*', 'AND r.turn > 0')).toBe(1);
  // Usual values (mold, nothing went wrong, not sieved) are readings too.
  expect(await of('*')).toBe(1 + 7 + (7 + 1) + 2 + 2);
  expect(await app.count('SELECT COUNT(*) FROM evaluation e JOIN test t ON t.id = e.test_id WHERE t.item_id = ?', [sampleId])).toBe(6);
  expect(await app.count('SELECT COUNT(*) FROM test WHERE item_id = ? AND retest_of IS NOT NULL', [sampleId])).toBe(1);
  expect(await app.count("SELECT COUNT(*) FROM entry WHERE owner_id = ? AND path LIKE 'portions.%.at'", [sampleId])).toBe(2);
});

it('says why and what next when a result is out, and judges the pair', async ({ browser }) => {
  const page = await app.device(browser, /Oakhanger/);
  await newLoad(page, 8);
  await takeSample(page, 8);
  for (const centre of ['140', '144']) {
    if (centre === '140') await test(page, 'slump').click();
    else await page.getByTestId('repeat').click();
    await page.getByRole('radio', { name: 'True' }).check();
    await field(page, 'centre').fill(centre);
    await keep(page).click();
    await expect(page.locator('[data-kept="centre"]')).toContainText(centre);
  }
  await test(page, 'slump').first().click();
  await expect(page.getByText('Slump is 35 mm above the upper limit.')).toBeVisible();
  await expect(page.getByText('project specification 03 30 00, 2.4')).toBeVisible();
  await expect(page.getByText('Make a check test at once: water cannot be taken out again.')).toBeVisible();
  await test(page, 'slump').last().click();
  await expect(page.getByTestId('path')).toContainText('First and check test are both out: the load fails this requirement.');
  await expect(page.locator('[data-finding="pair"]')).toContainText('Slump: First and check test are both out');
  await expect(page.getByText('Tell whoever may reject the load').first()).toBeVisible();
  await expect(page.getByText('Make a check test at once')).toHaveCount(0);
  await page.getByRole('link', { name: 'Boardwalk span 4' }).click();
  await expect(page.locator('[data-load="8"] [data-verdict="out"]')).toContainText('Slump 155 mm');
});

it('with the keyboard only, from choosing a person to a kept slump', async ({ browser }) => {
  const page = await (await browser.newContext()).newPage();
  const keys = page.keyboard;
  /** Tab until what has the focus reads like this: no mouse, no script. */
  const tabTo = async (name: RegExp) => {
    for (let i = 0; i < 120; i++) {
      await keys.press('Tab');
      const said = await page.evaluate(() => {
        const e = document.activeElement as HTMLElement | null;
        // From the last to the first the focus is nowhere for a step: all of the page is no thing to press.
        if (!e || e === document.body) return '';
        const label = e instanceof HTMLInputElement ? (e.labels?.[0]?.textContent ?? '') : '';
        return `${e?.getAttribute('aria-label') ?? ''} ${label} ${e?.textContent ?? ''}`.trim();
      });
      if (name.test(said)) return;
    }
    throw new Error(`nothing named ${name} can be reached`);
  };
  await page.goto(`${app.url}/who`);
  await page.getByRole('button', { name: /Sallow/ }).waitFor();
  await tabTo(/Sallow/);
  await keys.press('Enter');
  await page.waitForURL('**/day');
  await tabTo(/^Pours/);
  await keys.press('Enter');
  await page.waitForURL('**/pours');
  await page.getByText('Boardwalk span 4').waitFor();
  await tabTo(/Boardwalk span 4/);
  await keys.press('Enter');
  await page.locator('[data-load="2"]').waitFor();
  await tabTo(/^Sample load 2/);
  await keys.press('Enter');
  await page.getByRole('button', { name: /Another portion/ }).waitFor();
  await tabTo(/Another portion/);
  await keys.press('Enter');
  await tabTo(/Combined and turned/);
  await keys.press('Enter');
  await page.locator('[data-fuse="molding"]').waitFor();
  await tabTo(/^Slump/);
  await keys.press('Enter');
  await page.getByRole('radio', { name: 'True' }).waitFor();
  await tabTo(/True/);
  await keys.press('Space');
  await tabTo(/^Lift/);
  await keys.type('4.8');
  await keys.press('Enter');
  await keys.type('1:52');
  await keys.press('Enter');
  await keys.type('96');
  await expect(page.locator('[data-result="slump"]')).toContainText('95 mm');
  await keys.press('Enter');
  await expect(keep(page)).toBeFocused();
  await keys.press('Enter');
  await expect(page.locator('[data-kept="drop"]')).toContainText('96 mm');
});

it('with gloves: the own keypad keys, changes the unit, goes on', async ({ browser }) => {
  const page = await app.device(browser, /Oakhanger/, { hasTouch: true, viewport: { width: 820, height: 1180 } });
  await newLoad(page, 9);
  await takeSample(page, 9);
  await test(page, 'slump').tap();
  await field(page, 'centre').tap();
  await expect(field(page, 'centre')).toHaveAttribute('inputmode', 'none');
  const pad = page.locator('km-keypad');
  for (const key of ['8', '1', 'erase', 'space, for fractions', '1', 'slash, for fractions', '4'])
    await pad.getByRole('button', { name: key, exact: true }).tap();
  await expect(field(page, 'centre')).toHaveValue('8 1/4');
  await pad.getByRole('button', { name: 'next unit' }).tap();
  await expect(page.getByRole('combobox', { name: 'Unit of Height of the displaced centre' })).toHaveText('in');
  await page.getByRole('radio', { name: 'True' }).check();
  // 300 − 8.25 · 25.4 = 90.45 mm.
  await expect(page.locator('[data-result="slump"]')).toContainText('90 mm');
  for (const target of await page.locator('km-test-in-hand button:visible, km-test-list button:visible, km-keypad button').all()) {
    const box = await target.boundingBox();
    expect(Math.min(box?.height ?? 0, box?.width ?? 0), await target.innerText()).toBeGreaterThanOrEqual(43.5);
  }
});

it('loads to sample are drawn at random before the pour, with a seed that is kept, and marked as they come', async ({ browser }) => {
  const page = await app.device(browser, /Oakhanger/);
  await page.getByRole('link', { name: 'New pour' }).click();
  await page.getByLabel('What is placed').fill('Abutment, second lift');
  await page.getByLabel('Where').fill('South bank');
  await choose(page, 'Mix', 'P-40S Pier mix 40 S');
  await page.getByLabel('Volume planned').fill('310');
  await page.getByRole('button', { name: 'Make this pour' }).click();
  await page.getByRole('link', { name: 'Plan, weather' }).click();
  const begin = async (method: string) => {
    await choose(page, 'Begin a test', method);
    await page.getByRole('heading', { name: method, level: 2 }).waitFor();
  };
  // How many, of the volume that is planned; then which, of how many that were found.
  await begin('How many samples');
  await expect(page.locator('#held-volume')).toHaveValue('310');
  await page.locator('#held-area').fill('720');
  await expect(page.locator('km-answers [data-result="day"]')).toContainText('3');
  await page.getByTestId('keep').click();
  await expect(page.locator('km-in-hand')).toContainText('Kept as it stands.');
  await begin('Which loads, at random');
  await expect(page.locator('#held-samples')).toHaveValue('3');
  await page.locator('#held-loads').fill('40');
  await page.locator('#held-spares').fill('1');
  await page.locator('#held-seed').fill('2611');
  await page.getByTestId('keep').click();
  await expect(page.locator('km-in-hand')).toContainText('Kept as it stands.');
  expect(await seriousOf(page)).toEqual([]);
  await page.goBack();
  const { picks, spares } = drawLoads(40, 3, 2611, 1);
  await expect(page.getByTestId('plan')).toContainText(`loads ${picks.join(', ')}; in reserve ${spares.join(', ')}`);
});
