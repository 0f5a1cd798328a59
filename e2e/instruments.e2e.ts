import type { ChildProcess } from 'node:child_process';
import { expect, test as it, type Page } from '@playwright/test';
import { App, field, keep, newLoad, putAway, standIns, takeSample, test } from './app';
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

const plate = (page: Page) => page.getByTestId('plate');
const press = (page: Page, name: string) => plate(page).getByRole('button', { name, exact: true }).click();

it('a balance is read as it stands, an air meter tapped until it does; a leak never does, and what is unplugged is keyed by hand', async ({
  browser,
}) => {
  const page = await app.device(browser, /Sallow/);
  await newLoad(page, 95);
  await takeSample(page, 95);
  const sampleId = page.url().split('/').at(-1)!;
  await test(page, 'yield').click();
  await field(page, 'full').click();
  await expect(plate(page)).toContainText('Balance 1, 30 kg');
  await plate(page).getByLabel('How much is put on it').fill('19.31');
  await press(page, 'Put on it');
  await expect(plate(page)).toHaveAttribute('data-state', 'moving');
  await expect(plate(page).getByTestId('take')).toBeDisabled();
  await expect(plate(page).getByTestId('take')).toContainText('Take 19.310 kg');
  await plate(page).getByTestId('take').click();
  await expect(field(page, 'full')).toHaveValue('19.310');
  expect(await seriousOf(page)).toEqual([]);
  await field(page, 'empty').fill('3.21');
  await keep(page).click();
  await expect(page.locator('[data-kept="full"]')).toContainText('from balance-1');

  // The meter: what is done out of its order is refused in words; a leak never stands.
  await test(page, 'pressure-air').click();
  await field(page, 'gauge').click();
  await expect(plate(page)).toContainText('Air meter 1');
  await press(page, 'Open the valve');
  await expect(plate(page)).toContainText('bring it onto the initial line first');
  await press(page, 'Pump');
  await press(page, 'Tap');
  await expect(plate(page)).toContainText('on the initial line');
  await app.tell(page, 'air-meter-1', { does: 'LEAK', with: 'ON' });
  await press(page, 'Open the valve');
  await press(page, 'Tap');
  await press(page, 'Tap');
  await expect(plate(page).getByTestId('take')).toBeDisabled();
  await page.waitForTimeout(1500);
  await expect(plate(page)).toHaveAttribute('data-state', 'moving');
  await app.tell(page, 'air-meter-1', { does: 'LEAK', with: 'OFF' });

  // Unplugged in the middle: said, and it goes on by hand.
  instruments.kill();
  await expect(plate(page)).toHaveAttribute('data-state', 'away');
  await expect(plate(page)).toContainText('key what it shows by hand');
  await field(page, 'gauge').fill('6.4');
  await keep(page).click();
  await expect(page.locator('[data-kept="gauge"]')).not.toContainText('from');
  const devices = (device: string) =>
    app.count('SELECT COUNT(*) FROM entry e JOIN test t ON t.id = e.owner_id WHERE t.item_id = ? AND e.device = ?', [sampleId, device]);
  expect(await devices('balance-1')).toBe(1);
  expect(await devices('air-meter-1')).toBe(0);
});
