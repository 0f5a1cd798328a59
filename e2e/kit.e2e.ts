import { expect, test as it } from '@playwright/test';
import { App, choose, field, keep, newLoad, takeSample, test } from './app';
import { seriousOf } from './axe';

const app = new App();
it.beforeAll(async () => {
  await app.prepare();
  await app.start();
});
it.afterAll(() => app.end());

it('a measure from the shop to the shelf: its volume from water, in a density, and its tests in question should it be wrong', async ({
  browser,
}) => {
  const page = await app.device(browser, /Oakhanger/);
  await page.getByRole('link', { name: 'Kit', exact: true }).click();
  await expect(page.locator('[data-state="past"]')).toContainText('Air meter 2');
  expect(await seriousOf(page)).toEqual([]);
  await page.getByRole('link', { name: 'Add one' }).click();
  await choose(page, 'What it is', 'Density measure');
  await page.locator('#scratch-nominal').fill('14');
  await page.getByTestId('keep').click();
  await expect(page.getByText('Say what is written on it.')).toBeVisible();
  await page.locator('#name').fill('Measure 9, 14 L');
  await page.getByTestId('keep').click();
  await page.getByRole('heading', { name: 'Measure 9, 14 L', level: 1 }).waitFor();
  await expect(page.getByTestId('lasting')).toHaveText('never calibrated');

  // Lighter full than empty: said at the reading, and nothing to keep.
  await page.locator('#scratch-filled').fill('5.100');
  await page.locator('#scratch-empty').fill('6.210');
  await page.locator('#scratch-temperature').fill('21.4');
  await expect(page.getByTestId('calibrate')).toBeDisabled();
  await page.locator('#scratch-filled').fill('20.301');
  await expect(page.locator('km-answers [data-result="volume"]')).toContainText('14.12');
  await page.getByTestId('calibrate').click();
  await expect(page.getByTestId('calibrations')).toContainText('14.12 L');
  await expect(page.getByTestId('calibrations')).toContainText('measure, plate and water 20.301 kg');
  await expect(page.getByTestId('lasting')).toContainText('to ');
  await expect(page.getByTestId('tested')).toContainText('Nothing yet.');
  expect(await seriousOf(page)).toEqual([]);
  const sheet = page.url();

  await page.goto(`${app.url}/pours`);
  await newLoad(page, 61);
  await takeSample(page, 61);
  await test(page, 'yield').click();
  await choose(page, 'Density measure', /^Measure 9/);
  await field(page, 'full').fill('38.54');
  await field(page, 'empty').fill('6.21');
  await keep(page).click();
  await page.locator('[data-kept="full"]').waitFor();
  await page.goto(sheet);
  await expect(page.getByTestId('tested').locator('li')).toHaveCount(1);
  await expect(page.getByTestId('tested')).toContainText('2290 kg/m³');

  // It was found wrong: its test is in question, and it is not used again without a reason.
  await page.getByRole('button', { name: 'It was found wrong' }).click();
  await page.getByTestId('keep-wrong').click();
  await expect(page.getByText('Say what is wrong with it.')).toBeVisible();
  await page.getByLabel('What is wrong with it').fill('the rim is bent');
  expect(await seriousOf(page)).toEqual([]);
  await page.getByTestId('keep-wrong').click();
  await expect(page.getByTestId('finding')).toContainText('the rim is bent');
  await expect(page.getByTestId('lasting')).toContainText('found wrong');
  await expect(page.getByTestId('tested').locator('li')).toHaveCount(1);
  await page.getByTestId('tested').getByRole('link').click();
  await expect(page.getByText(/Measure 9, 14 L was found wrong/).first()).toBeVisible();
  await page.goto(`${app.url}/pours`);
  await newLoad(page, 62);
  await takeSample(page, 62);
  await test(page, 'yield').click();
  await choose(page, 'Density measure', /^Measure 9/);
  await field(page, 'full').fill('38.54');
  await field(page, 'empty').fill('6.21');
  await expect(keep(page)).toBeDisabled();
  await expect(keep(page)).toContainText('Say why Measure 9, 14 L is used');
  await page.locator('#kit-reason').fill('it is only for a trial');
  await keep(page).click();
  await page.locator('[data-kept="full"]').waitFor();
  await expect(page.getByText(/Used all the same: it is only for a trial/).first()).toBeVisible();
});
