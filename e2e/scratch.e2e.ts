import { readFileSync } from 'node:fs';
import { expect, test as it, type Page } from '@playwright/test';
import { DateTime } from 'luxon';
import { exampleOf } from '../packages/core/src/examples/index';
import { answerText, evaluate, METHODS, methodById, type AnyMethod, type Evaluation, type ResultField } from '../packages/core/src/index';
import { App, choose, field, keep, keyMoment, newLoad, takeSample, test } from './app';
import { seriousOf } from './axe';

const app = new App();

it.beforeAll(async () => {
  await app.prepare();
  await app.start();
});
it.afterAll(() => app.end());

const open = async (page: Page, method: string): Promise<void> => {
  await page.goto(`${app.url}/scratch/${method}`);
  await page.locator('h1').waitFor();
};
const onExample = async (page: Page, method: string): Promise<void> => {
  await open(page, method);
  await page.getByTestId('example').click();
};
const exampleWith = (m: AnyMethod, variant = Object.keys(m.variants as object)[0]!): Evaluation =>
  evaluate(m, exampleOf(m), { variant, system: 'si' });
const says = (m: AnyMethod, e: Evaluation, id: string): string =>
  answerText(
    (m.results as Record<string, ResultField>)[id]!,
    e.results.find((r) => r.id === id)!,
  );
const result = (page: Page, id: string) => page.locator(`km-answers [data-result="${id}"]`);
const cell = (page: Page, at: string) => page.locator(`[data-cell="${at}"]`);

async function paste(page: Page, at: string, text: string): Promise<void> {
  await cell(page, at).evaluate((box, pasted) => {
    const data = new DataTransfer();
    data.setData('text/plain', pasted);
    box.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  }, text);
}

it('every computation opens, teaches while it is empty, and gives the core’s answers on its worked example', async ({ page }) => {
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  for (const m of METHODS) {
    await open(page, m.id);
    await expect(page.getByTestId('empty')).toContainText(m.about.slice(0, 40));
    await page.getByTestId('empty').getByRole('button').click();
    await expect(page.getByTestId('empty')).toHaveCount(0);
    const e = exampleWith(m);
    for (const [id, f] of Object.entries(m.results as Record<string, ResultField>)) {
      // Moments are shown by the device's clock; what lies along rows stands beside them.
      if (!f.main || f.along !== undefined || f.moments) continue;
      const text = says(m, e, id);
      if (text.length < 60) await expect(result(page, id), `${m.id} ${id}`).toContainText(text.replace(/ \S+$/, ''));
    }
  }
  expect(errors).toEqual([]);
});

it('is found by any name, answers with each key, says what is wrong at the field, and comes back from its link', async ({ page }) => {
  await page.goto(`${app.url}/scratch`);
  await expect(page.getByRole('link', { name: 'Gradation by sieving' })).toBeVisible();
  await page.getByLabel('Find a computation').fill('unit weight');
  // The likeliest is taken, whether its list is there already or not yet.
  await page.getByRole('option').first().waitFor();
  await page.keyboard.press('Enter');
  await page.waitForURL('**/scratch/density*');
  const box = (id: string) => page.locator(`#scratch-${id}`);
  await expect(box('full')).toBeFocused();
  await box('full').fill('19.31');
  await box('empty').fill('3.21');
  await expect(page.getByTestId('missing')).toContainText('volume of the measure');
  await box('volume').fill('7043');
  await expect(page.getByText('Meant 7.043 L?').or(page.getByText('Meant 7043 mL?')).first()).toBeVisible();
  await expect(box('volume')).toHaveValue('7043');
  await box('volume').fill('7.043');
  await expect(result(page, 'density')).toContainText('2286');
  await expect(page.locator('[data-variant="en"]')).toContainText('2290');
  await page.waitForURL(/readings=.*7\.043/);
  await page.reload();
  await expect(box('full')).toHaveValue('19.31');
  await expect(result(page, 'density')).toContainText('2286');
  // Full and empty exchanged cannot be.
  await box('full').fill('3.21');
  await box('empty').fill('19.31');
  await expect(page.locator('#scratch-empty-why, #scratch-full-why').first()).toBeVisible();
  await expect(result(page, 'density')).toHaveCount(0);
  await page.goto(`${app.url}/scratch/density#readings=%7Bbroken`);
  await expect(page.getByText('The readings in this link cannot be read.')).toBeVisible();
  await page.goto(`${app.url}/scratch/nothing`);
  await expect(page.getByText('There is no computation “nothing”')).toBeVisible();
});

it('copies as text, JSON, CSV and link', async ({ browser }) => {
  const context = await browser.newContext({ permissions: ['clipboard-read', 'clipboard-write'] });
  const page = await context.newPage();
  await onExample(page, 'density');
  const copied = async (kind: string): Promise<string> => {
    await page.getByTestId(`copy-${kind}`).click();
    await expect(page.getByTestId('copied')).toHaveText('Copied.');
    return page.evaluate(() => navigator.clipboard.readText());
  };
  expect(await copied('text')).toContain('Density: 2286 kg/m³');
  expect((JSON.parse(await copied('json')) as { readings: object }).readings).toMatchObject({ full: '19.31 kg', volume: '7.043 L' });
  expect((await copied('csv')).split(/\r?\n/)[1]).toContain('2286');
  await page.goto(await copied('link'));
  await expect(result(page, 'density')).toContainText('2286');
  await context.close();
});

it('over the sheet: filled with what is in hand, closes without a trace, and hands its readings to the sheet', async ({ browser }) => {
  const page = await app.device(browser, /Oakhanger/);
  await newLoad(page, 71);
  await takeSample(page, 71);
  await test(page, 'slump').click();
  await page.locator('h1').click();
  await page.keyboard.press('/');
  const over = page.getByRole('dialog', { name: 'Scratch' });
  await expect(over.getByRole('heading', { name: 'Slump', exact: true })).toBeVisible();
  await over.getByRole('radio', { name: 'True' }).first().check();
  await over.locator('#scratch-centre').fill('204');
  await expect(over.locator('[data-result="slump"]')).toContainText('95');
  // As a page it has the same readings.
  await expect(over.getByTestId('as-page')).toHaveAttribute('href', /\/scratch\/slump#.*204\+mm/);
  await over.locator('#scratch-centre').press('Escape');
  await expect(over).toHaveCount(0);
  await expect(field(page, 'centre')).toHaveValue('');
  // A slash within a field is a fraction's.
  await field(page, 'centre').focus();
  await page.keyboard.press('/');
  await expect(over).toHaveCount(0);
  await expect(field(page, 'centre')).toHaveValue('/');
  await page.getByRole('button', { name: 'Discard what is keyed' }).click();

  const rows = await app.count('SELECT COUNT(*) FROM entry');
  await test(page, 'slump').click();
  await page.getByTestId('scratch').click();
  await over.getByRole('radio', { name: 'True' }).first().check();
  await over.locator('#scratch-centre').fill('204');
  await over.getByTestId('take').click();
  await expect(over).toHaveCount(0);
  await expect(field(page, 'centre')).toHaveValue('204');
  expect(await app.count('SELECT COUNT(*) FROM entry')).toBe(rows);
  await keep(page).click();
  await expect(page.locator('[data-kept="centre"]')).toContainText('204');
  await expect.poll(() => app.count('SELECT COUNT(*) FROM entry')).toBeGreaterThan(rows);
  // What is kept is corrected on the sheet, not overwritten from Scratch.
  await page.locator('h1').click();
  await page.keyboard.press('/');
  await expect(over.getByRole('heading', { name: 'Slump', exact: true })).toBeVisible();
  await expect(over.getByTestId('take')).toHaveCount(0);
});

it('gradation: a spreadsheet is pasted, stands against its band, and is taken back', async ({ page }) => {
  await open(page, 'gradation');
  for (const [id, text] of [
    ['dry', '512.4'],
    ['area', '0.0285'],
    ['washed', '503.1'],
    ['pan', '3.4'],
  ] as const)
    await page.locator(`#scratch-${id}`).fill(text);
  await paste(
    page,
    '0.0',
    'Opening (mm)\tRetained (g)\n9.5\t0\n4.75\t12.8\n2.36\t57.1\n1.18\t95.3\n0.600\t128.6\n0.300\t131.2\n0.150\t58.9\n0.075\t15.4',
  );
  await expect(page.getByTestId('said')).toContainText('8 rows pasted');
  await expect(result(page, 'fineness')).toContainText('2.83');
  await expect(page.locator('[data-answer="reported"]').nth(7)).toHaveText('2.6');
  await choose(page, 'Band', 'Fine aggregate');
  await expect(page.getByTestId('against')).toHaveText('within the band');
  await expect(page.locator('canvas')).toHaveAttribute('aria-label', /4\.75 mm 98 %/);
  await cell(page, '2.1').fill('157.1');
  await cell(page, '5.1').fill('31.2');
  await expect(page.getByTestId('against')).toHaveText('outside the band: below at 2.36, 1.18, 0.600 mm');
  // More on the sieves than went in cannot be.
  await cell(page, '6.1').fill('589');
  await expect(page.locator('#scratch-dry-why')).toContainText('more than went in');
  await expect(page.getByTestId('against')).toHaveCount(0);
  await cell(page, '6.1').fill('58.9');
  // An opening out of order is said at its row, and stays as it was keyed.
  await cell(page, '2.0').fill('0.3');
  await expect(page.locator('.cell.bad')).toHaveCount(1);
  await expect(cell(page, '2.0')).toHaveValue('0.3');
  await page.getByTestId('undo').click();
  await expect(cell(page, '0.0')).toHaveValue('');
  await cell(page, '0.0').fill('9.5');
  await cell(page, '0.0').press('Enter');
  await expect(cell(page, '1.0')).toBeFocused();
});

it('prints all of a computation, not the part that is on the screen, and none of the tools', async ({ page }) => {
  await onExample(page, 'gradation');
  await page.waitForTimeout(500);
  const pages = (await page.pdf({ format: 'A4' })).toString('latin1').match(/\/Type\s*\/Page\b/g)?.length ?? 0;
  expect(pages).toBeGreaterThan(1);
  await page.emulateMedia({ media: 'print' });
  await expect(page.locator('#finder')).toBeHidden();
  await expect(page.locator('nav.shelf')).toBeHidden();
  await expect(page.locator('canvas')).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollHeight > innerHeight)).toBe(true);
  await page.emulateMedia({ media: 'screen' });
  await expect(page.locator('nav.shelf')).toBeVisible();
});

it('cone adviser: pressed as it looks, the log says where the sand stands and how long it stays covered', async ({ page }) => {
  await page.clock.install({ time: new Date('2026-05-13T07:10:00Z') });
  await open(page, 'cone');
  const look = (id: string) => page.locator(`[data-look="${id}"]`);
  await look('slight').click();
  await expect(result(page, 'state')).toContainText('perhaps past SSD');
  await expect(page.getByTestId('covered')).toContainText('30:00');
  await page.clock.fastForward('10:00');
  await look('kept').click();
  await expect(result(page, 'state')).toContainText('still taking up water');
  await page.clock.fastForward('21:00');
  await look('kept').click();
  await expect(result(page, 'state')).toContainText('wetter than SSD');
  await page.clock.fastForward('08:00');
  await look('slight').click();
  await expect(result(page, 'state')).toContainText('SSD: weigh now');
  await expect(page.locator('[data-variant="half"]')).toContainText('wetter than SSD');
  await expect(page.locator('.log li')).toHaveCount(4);
});

it('panels show what the core says: drying, tree, trace, pairs, impacts, map, prisms, flow, weigh-up', async ({ page }) => {
  await onExample(page, 'constant-mass');
  await expect(page.locator('canvas')).toHaveAttribute('aria-label', /120 min 2415\.1 g/);
  await cell(page, '3.0').fill('150');
  await cell(page, '3.1').fill('2416.0');
  await expect(result(page, 'state')).toContainText('went up: find out why');

  await onExample(page, 'reduction-tree');
  const tree = methodById('reduction-tree')!;
  const splits = exampleWith(tree).results.find((r) => r.id === 'splits')!.words!;
  for (const place of splits) await expect(page.locator(`[data-split="${place}"][data-kind="test"]`)).toHaveCount(1);

  await onExample(page, 'loading-rate');
  await expect(result(page, 'rate')).toContainText('0.25');
  await page.getByTestId('simulate-fast').click();
  await expect(page.locator('km-answers .needs')).toContainText('0.38');
  await page.getByTestId('undo').click();
  await expect(result(page, 'rate')).toContainText('0.25');

  await onExample(page, 'early-warning');
  await expect(page.locator('canvas')).toHaveAttribute('aria-label', /9 pairs .* at 23\.9 expect 35\.0/);
  await onExample(page, 'rebound-strength');
  await expect(page.locator('canvas')).toBeVisible();

  await onExample(page, 'rebound');
  const thrown = exampleWith(methodById('rebound')!).results.find((r) => r.id === 'discarded')!.words!;
  await expect(page.locator('[data-out="true"]')).toHaveCount(thrown.length);

  await open(page, 'half-cell-map');
  await choose(page, 'Electrode', /^Copper/);
  await page.locator('#scratch-temperature').fill('22.2');
  await page.locator('#scratch-spacing').fill('0.6');
  await paste(page, '0.0', '-120\t-150\t-180\n-160\t-260\t-210\n-150\t-\t-370');
  await expect(result(page, 'corrosion')).toContainText('12');
  await expect(page.locator('[data-line="-200"]')).toHaveCount(1);
  await page.getByTestId('undo').click();
  await expect(page.locator('km-map rect')).toHaveCount(0);

  await onExample(page, 'length-series');
  await expect(page.locator('canvas')).toHaveAttribute('aria-label', /56 d -0\.037 %/);
  await page.getByTestId('age-scale').getByText('square root of age').click();

  await onExample(page, 'constant-head');
  await expect(page.locator('canvas')).toHaveAttribute('aria-label', /steady from 3600 s/);

  await onExample(page, 'trial-batch');
  await page.locator('km-weigh-up input').first().check({ force: true });
  await expect(page.getByTestId('weighed')).toHaveText('1 of 6');
});

it('a strength series: runs, rules and the next result; a long one is computed away from the page, can be cancelled, and agrees', async ({
  page,
}) => {
  await onExample(page, 'aci-acceptance');
  const m = methodById('aci-acceptance')!;
  await expect(result(page, 'ruleA')).toContainText(says(m, exampleWith(m), 'ruleA'));
  await expect(page.locator('canvas').first()).toHaveAttribute('aria-label', /8 tests, breaking a rule: 5, 6/);
  await expect(page.locator('[data-statistic="mean"]')).toContainText('MPa');

  await page.getByTestId('simulate').click();
  await page.getByTestId('cancel').click();
  await expect(page.getByTestId('doing')).toHaveCount(0);
  await expect(page.getByTestId('long')).toHaveCount(0);

  const tests = Array.from({ length: 5000 }, (_t, i) => (i === 3210 ? '30.9' : `${38 + (i % 7) / 10}`));
  await paste(page, '8.0', tests.join('\n'));
  await expect(page.getByTestId('long')).toContainText('5,000 tests');
  const inputs = { specified: { text: '35', unit: 'MPa' }, tests: tests.map((text) => ({ strength: { text, unit: 'MPa' } })) };
  const e = evaluate(m, inputs as never, { variant: 'aci318', system: 'si' });
  await expect(page.locator('[data-long="ruleB"]')).toContainText(says(m, e, 'ruleB'));
  await expect(page.locator('[data-long="next"]')).toContainText(says(m, e, 'next'));
  await page.getByRole('button', { name: 'Back to the table' }).click();
  await expect(page.getByTestId('long')).toHaveCount(0);
  await expect(cell(page, '7.0')).toHaveValue('38.8');
});

it('plans backwards: the soak falls where it must, the bead moves by keys, a closed lab has no plan, and the plan is a calendar', async ({
  page,
}) => {
  await page.goto(`${app.url}/scratch/plan`);
  // A Wednesday at 7:00 in the browser's own zone, far enough ahead for the whole plan.
  const wednesday = DateTime.local().plus({ weeks: 2 }).set({ weekday: 3 });
  const tuesday = wednesday.minus({ days: 1 }).toFormat('d LLL yyyy');
  const at = (id: string, text: string): Promise<void> => keyMoment(page.locator(`#${id}`), text);
  const wish = (time: string): Promise<void> => at('wished-at', `${wednesday.toFormat('d LLL yyyy')} ${time}`);
  await wish('07:00');
  const row = (id: string) => page.locator(`[data-event="${id}"] td`);
  await expect(row('soak').nth(1)).toContainText(`${tuesday}, 12:00`);
  await expect(row('soak').nth(2)).toContainText(`${tuesday}, 16:00`);
  await page.getByTestId('bead').press('ArrowRight');
  await expect(row('soak').nth(2)).toContainText(`${tuesday}, 16:15`);
  const download = page.waitForEvent('download');
  await page.getByTestId('ics').click();
  const text = readFileSync(await (await download).path(), 'utf8');
  expect(text).toContain('BEGIN:VCALENDAR');
  expect(text.match(/BEGIN:VEVENT/g)?.length).toBe(7);
  expect(text).toContain('SUMMARY:Into the water');
  await wish('22:00');
  await expect(page.getByTestId('conflict')).toContainText('when the lab is closed');
  await at('closes', '06:00');
  await expect(page.getByText('The lab closes before it opens.')).toBeVisible();
});

it('method pages come from the definition, also when the server is gone', async ({ page }) => {
  await onExample(page, 'density');
  await page.getByRole('link', { name: 'What it is and how it is computed' }).click();
  await expect(page.locator('article')).toContainText('D = (Mc − Mm) / Vm');
  await page.goBack();
  // From here on no network at all.
  await page.context().setOffline(true);
  await page.getByLabel('Find a computation').fill('strokes and mallet');
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: 'What it is and how it is computed' }).click();
  await expect(page.locator('article h1')).toHaveText(methodById('rodding')!.title);
  await page.getByRole('link', { name: 'Compute it' }).click();
  await page.getByTestId('example').click();
  await expect(page.locator('km-answers')).toContainText('strokes', { ignoreCase: true });
  await page.context().setOffline(false);
});

const LOOKED_AT = ['density', 'gradation', 'cone', 'half-cell-map', 'aci-acceptance', 'trial-batch', 'reduction-tree', 'plan'];

for (const theme of ['light', 'dark', 'glare'])
  it(`nothing serious for axe, ${theme}`, async ({ page }) => {
    await page.addInitScript((t) => localStorage.setItem('km.theme', t), theme);
    for (const method of LOOKED_AT) {
      await open(page, method);
      if (method !== 'plan') await page.getByTestId('example').click();
      expect(await seriousOf(page), method).toEqual([]);
    }
    await page.goto(`${app.url}/methods/gradation`);
    expect(await seriousOf(page), 'method page').toEqual([]);
  });

it('a phone and 200 % lose nothing; a thumb finds every target', async ({ browser }) => {
  // 1280 × 800 at 200 % is 640 × 400.
  const zoomed = await (await browser.newContext({ viewport: { width: 640, height: 400 } })).newPage();
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })).newPage();
  for (const method of LOOKED_AT) {
    for (const page of [zoomed, phone]) {
      await open(page, method);
      if (method !== 'plan') await page.getByTestId('example').click();
      const sideways = await page.evaluate(() =>
        Math.max(...[document.querySelector('main')!, document.documentElement].map((e) => e.scrollWidth - e.clientWidth)),
      );
      expect(sideways, method).toBeLessThanOrEqual(0);
    }
    const small = await phone.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('main :is(button, input, select, a, summary)')]
        .filter((e) => e.offsetParent !== null && !e.closest('.unseen') && !e.classList.contains('unseen') && !e.closest('p, .title'))
        .map((e) => ({ box: (e.closest('label') ?? e).getBoundingClientRect(), what: e.outerHTML.slice(0, 90) }))
        .filter(({ box }) => box.height > 0 && (box.height < 43.5 || box.width < 43.5))
        .map(({ box, what }) => `${Math.round(box.width)}×${Math.round(box.height)} ${what}`),
    );
    expect(small, method).toEqual([]);
  }
});
