import { randomUUID } from 'node:crypto';
import { expect, test as it, type Page } from '@playwright/test';
import { App, batched, choose, field, keep, newLoad, takeSample, test } from './app';
import { seriousOf } from './axe';

const app = new App();

it.beforeAll(async () => {
  await app.prepare();
  await app.start();
});
it.afterAll(() => app.end());

async function post(page: Page, path: string, body: object): Promise<void> {
  const people = (await (await page.request.get(`${app.url}/api/v1/people`)).json()) as { items: { id: string }[] };
  const answer = await page.request.post(`${app.url}/api/v1${path}`, { data: { by: people.items[0]!.id, ...body } });
  expect(answer.status(), await answer.text()).toBe(201);
}

/** A project in US customary units, made through the interface as a lab would. */
async function inchSite(page: Page): Promise<void> {
  const [project, spec, mix, measure, pour] = [randomUUID(), randomUUID(), randomUUID(), randomUUID(), randomUUID()];
  await post(page, '/projects', {
    id: project,
    code: 'ZZ-IN',
    name: 'Inch site',
    site: 'Quillmouth',
    system: 'us',
    practice: 'us-aashto',
    timezone: 'Etc/UTC',
  });
  const limits = [
    { id: randomUUID(), property: 'slump', unit: 'in', target: '4', minus: '1', plus: '1', source: 'spec 2.1' },
    { id: randomUUID(), property: 'temperature', unit: 'F', upper: '95', source: 'spec 2.2' },
  ];
  await post(page, '/specifications', { id: spec, projectId: project, name: 'Inch spec', limits });
  await post(page, '/mixes', { id: mix, projectId: project, code: 'I-1', name: 'Inch mix' });
  const lb = (text: string) => ({ text, unit: 'lb' });
  const inch = (text: string) => ({ text, unit: 'in' });
  const ingredients = [
    { name: 'Cement', role: 'cementitious', mass: lb('564'), sg: '3.15' },
    { name: 'Water', role: 'water', mass: lb('270'), sg: '1.000' },
    { name: 'Sand', role: 'fine', mass: lb('1250'), sg: '2.63' },
    { name: 'Stone', role: 'coarse', mass: lb('1800'), sg: '2.68' },
  ];
  await post(page, `/mixes/${mix}/revisions`, {
    id: randomUUID(),
    number: 1,
    effectiveFrom: '2026-01-01T00:00:00Z',
    specificationIds: [spec],
    largest: inch('1'),
    nominal: inch('0.75'),
    air: '6.0',
    correction: '0.3',
    ingredients,
  });
  await post(page, '/equipment', {
    id: measure,
    projectId: project,
    kind: 'measure',
    name: 'Quarter foot',
    values: [{ item: 'measure.nominal', value: { text: '0.25', unit: 'ft3' } }],
  });
  const on = new Date().toISOString().slice(0, 10);
  await post(page, `/equipment/${measure}/calibrations`, {
    id: randomUUID(),
    on,
    values: [{ item: 'measure.volume', value: { text: '0.2487', unit: 'ft3' } }],
  });
  await post(page, '/pours', {
    id: pour,
    projectId: project,
    mixId: mix,
    name: 'Inch slab',
    element: 'West',
    on,
    planned: { text: '40', unit: 'yd3' },
  });
}

it('works in inches, pounds and yards, fractions keyed as they are spoken', async ({ browser }) => {
  const page = await app.device(browser, /Oakhanger/);
  await inchSite(page);
  await page.reload();
  await choose(page, 'Project', 'Inch site');
  await page.getByText('Inch slab').click();
  await page.getByRole('link', { name: 'Key the first ticket' }).click();
  await page.getByLabel('Ticket').fill('I-1');
  await page.getByLabel('Truck').fill('1');
  await batched(page, 20, 'Etc/UTC');
  await page.getByLabel('Volume ordered, yd³').fill('8');
  for (const [name, mass] of Object.entries({ Cement: '4512', Water: '2160', Sand: '10000', Stone: '14400' }))
    await page.getByLabel(`Weighed ${name}`, { exact: true }).fill(mass);
  await page.getByRole('button', { name: 'Keep this ticket' }).click();
  await takeSample(page, 1);
  await test(page, 'slump').click();
  await page.getByRole('radio', { name: 'True' }).check();
  await expect(field(page, 'mold')).toHaveValue('12');
  await field(page, 'centre').fill('8-1/8');
  // 12 − 8.125 = 3.875: a tie between 3.75 and 4.00 goes to the even quarter.
  await expect(page.locator('[data-result="slump"]')).toContainText('4.00 in');
  await keep(page).click();
  await expect(page.locator('[data-kept="centre"]')).toContainText('8-1/8 in');
  await test(page, 'yield').click();
  await field(page, 'full').fill('44.32');
  await field(page, 'empty').fill('8.14');
  await expect(page.locator('[data-result="density"]')).toContainText('145.5 lb/ft³');
  await expect(page.locator('.others div', { hasText: 'Cement content' }).first()).toContainText('lb/yd³');
  await keep(page).click();
  await expect(page.locator('[data-kept="full"]')).toContainText('44.32 lb');
  await test(page, 'temperature').click();
  await field(page, 'temperature').fill('72.5');
  await expect(page.locator('[data-result="temperature"]')).toContainText('72 °F');
});

it('another variant asks for its own reading, and the record says which was used and why', async ({ browser }) => {
  const page = await app.device(browser, /Sallow/);
  await newLoad(page, 31);
  await takeSample(page, 31);
  const sampleId = page.url().split('/').at(-1)!;
  await test(page, 'slump').click();
  await choose(page, 'Variant', /highest point, to 10 mm/);
  await page.getByRole('radio', { name: 'True' }).check();
  await expect(field(page, 'centre')).toHaveCount(0);
  await field(page, 'highest').fill('208');
  await expect(page.locator('[data-result="slump"]')).toContainText('90 mm');
  await expect(page.locator('km-test-side')).toContainText('needs slump, measured');
  await keep(page).click();
  await expect(page.locator('[data-kept="highest"]')).toContainText('208 mm');
  expect(await app.count("SELECT COUNT(*) FROM test WHERE item_id = ? AND variant = 'en'", [sampleId])).toBe(1);

  await test(page, 'pressure-air').click();
  await choose(page, 'Variant', /type A/i);
  await field(page, 'h1').fill('6.8');
  await field(page, 'h2').fill('7.2');
  await expect(page.getByText('The level after release cannot be above the level under pressure.')).toBeVisible();
  await field(page, 'h2').fill('0.3');
  await expect(page.locator('[data-result="air"]')).toContainText('6.1 %');
});

it('a meter past its calibration marks the result, a leak voids it', async ({ browser }) => {
  const page = await app.device(browser, /Sallow/);
  await newLoad(page, 32);
  await takeSample(page, 32);
  await test(page, 'pressure-air').click();
  await field(page, 'gauge').fill('6.4');
  await choose(page, 'Air meter', /^Air meter 2/);
  await expect(page.locator('[data-told="out-of-calibration"]')).toContainText(/Take another one\..*Reported with a remark/s);
  await page.getByRole('button', { name: 'something went wrong' }).click();
  await choose(page, 'What went wrong', 'Gauge did not hold or settle');
  await expect(page.locator('[data-result="air"]')).toHaveAttribute('data-verdict', 'void');
  await expect(keep(page)).toBeDisabled();
  await page.locator('#kit-reason').fill('the other one is at the pier');
  await keep(page).click();
  await expect(test(page, 'pressure-air')).toContainText('void: repeat');
});

it('two people at one reading: one is kept, the other is told and loses nothing', async ({ browser }) => {
  const [one, two] = [await app.device(browser, /Oakhanger/), await app.device(browser, /Sallow/)];
  await newLoad(one, 33);
  await takeSample(one, 33);
  await test(one, 'temperature').click();
  await field(one, 'temperature').fill('19.5');
  await keep(one).click();
  await two.goto(one.url());
  for (const [page, text] of [
    [one, '20'],
    [two, '21'],
  ] as const) {
    await test(page, 'temperature').click();
    await page.getByRole('button', { name: 'Correct Temperature' }).click();
    await field(page, 'temperature').fill(text);
    await page.getByLabel('Reason for the correction').fill('read again');
  }
  await keep(one).click();
  await expect(one.locator('[data-kept="temperature"]')).toContainText('20 °C');
  // The other page has heard of it meanwhile: what it corrects now is the newer reading, and it says so.
  await expect(two.getByTestId('was').first()).toContainText('19.5 °C');
  await expect(field(two, 'temperature')).toHaveValue('21');
  await keep(two).click();
  await expect(two.locator('[data-kept="temperature"]')).toContainText('21 °C');
  await expect(two.getByTestId('was')).toHaveCount(2);
});

it('a device without a network goes on, and catches up', async ({ browser }) => {
  const page = await app.device(browser, /Oakhanger/);
  await newLoad(page, 34);
  await takeSample(page, 34);
  const sampleId = page.url().split('/').at(-1)!;
  // What was told with one tap has gone its way.
  await expect(page.locator('km-held-events .one')).toHaveCount(0, { timeout: 15_000 });
  await expect(page.getByTestId('waiting')).toHaveCount(0);
  await page.context().setOffline(true);
  await page.getByRole('button', { name: 'Molding started' }).click();
  await test(page, 'temperature').click();
  await field(page, 'temperature').fill('18.5');
  await keep(page).click();
  await test(page, 'slump').click();
  await page.getByRole('radio', { name: 'True' }).check();
  await field(page, 'centre').fill('200');
  await keep(page).click();
  await expect(page.getByTestId('waiting')).toContainText('5 kept here, waiting for the network');
  await expect(test(page, 'slump')).toContainText('kept here, waiting');
  await page.context().setOffline(false);
  await expect(page.getByTestId('waiting')).toHaveCount(0, { timeout: 15_000 });
  await expect(page.locator('[data-kept="centre"]')).toContainText('200 mm');
  expect(await app.count('SELECT COUNT(*) FROM test WHERE item_id = ?', [sampleId])).toBe(2);
  expect(await app.count("SELECT COUNT(*) FROM entry WHERE owner_id = ? AND path = 'molding'", [sampleId])).toBe(1);
});

it('a lab’s own slump to 10 mm: seen on the worked example, frozen into results, and back to the print', async ({ browser }) => {
  const page = await app.device(browser, /Sallow/);
  await newLoad(page, 77);
  await takeSample(page, 77);
  const sheet = page.url();
  await page.goto(`${app.url}/mixes`);
  await page.getByRole('link', { name: 'How this lab tests' }).click();
  expect(await seriousOf(page)).toEqual([]);
  await page.getByRole('link', { name: /three layers by volume/ }).click();
  await page.locator('[data-path="increments|mm"]').fill('10');
  await expect(page.locator('[data-result="slump"] .differs')).toContainText('100 mm');
  await page.goto(`${app.url}/practice`);
  await page.getByRole('link', { name: /four layers by height/ }).click();
  const step = page.locator('[data-path="increments|mm"]');
  await expect(step).toHaveValue('5');
  await expect(page.getByTestId('keep-own')).toBeDisabled();
  await step.fill('15');
  await expect(page.getByText(/rounded to 1, 2, 2.5 or 5/)).toBeVisible();
  await step.fill('10');
  await page.getByTestId('keep-own').click();
  await expect(page.getByText('Say in a few words whose rule it is.')).toBeVisible();
  await page.getByLabel('Why').fill('the client reads to 10 mm');
  expect(await seriousOf(page)).toEqual([]);
  await page.getByTestId('keep-own').click();
  await expect(page.getByTestId('so-far')).toContainText('reported to 10 mm (in print 5 mm)');

  await page.goto(sheet);
  await test(page, 'slump').click();
  await choose(page, 'Variant', /four layers/);
  await page.getByRole('radio', { name: 'True' }).check();
  await field(page, 'highest').fill('197');
  await expect(page.locator('[data-result="slump"]')).toContainText('100 mm');
  await expect(page.locator('km-test-side')).toContainText('as printed');
  await keep(page).click();
  await expect(page.locator('[data-kept="highest"]')).toContainText('197 mm');
  await expect(page.getByText(/lab’s own copy of four layers/)).toBeVisible();

  // Back to the print: the result keeps what it was found by.
  await page.goto(`${app.url}/practice/slump/four_layer`);
  await step.fill('5');
  await page.getByLabel('Why').fill('as printed again');
  await page.getByRole('button', { name: 'Back to the print' }).click();
  await expect(page.getByTestId('so-far').locator('li')).toHaveCount(2);
  await page.goto(sheet);
  await test(page, 'slump').click();
  await expect(page.locator('[data-result="slump"]')).toContainText('100 mm');
});
