import { expect, test as it, type Page } from '@playwright/test';
import { DateTime } from 'luxon';
import { seriousOf } from './axe';
import { App, choose, keyMoment } from './app';

const app = new App();
it.beforeAll(async () => {
  await app.prepare();
  await app.start();
});
it.afterAll(() => app.end());

const keep = (page: Page) => page.getByTestId('keep').click();

/** A new item of a kind in the one that is open, or at the top; its facts are keyed by `facts`. */
async function make(page: Page, kind: string, facts: () => Promise<void>, heading: RegExp): Promise<void> {
  await page.getByRole('link', { name: `New ${kind}` }).click();
  await page.getByTestId('keep').waitFor();
  await facts();
  await keep(page);
  await page.locator('km-item-page').getByRole('heading', { name: heading, level: 1 }).waitFor();
}

async function record(page: Page, kinds: string): Promise<void> {
  await page.getByRole('link', { name: 'Record', exact: true }).click();
  await choose(page, 'Kind', kinds);
}

async function begin(page: Page, method: string): Promise<void> {
  await choose(page, 'Begin a test', method);
  await page.getByRole('heading', { name: method, level: 2 }).waitFor();
}

const fill = async (page: Page, values: Readonly<Record<string, string>>): Promise<void> => {
  for (const [id, text] of Object.entries(values)) await page.locator(`#held-${id}`).fill(text);
};
const cells = async (page: Page, values: Readonly<Record<string, string>>): Promise<void> => {
  for (const [at, text] of Object.entries(values)) await page.locator(`[data-cell="${at}"]`).first().fill(text);
};

const settled = (page: Page) => expect(page.locator('km-in-hand')).toContainText('Kept as it stands.');

async function correct(page: Page, how: () => Promise<void>, reason: string): Promise<void> {
  await how();
  await expect(page.getByTestId('keep')).toBeDisabled();
  await page.locator('#held-reason').fill(reason);
  await page.keyboard.press('Escape');
  await keep(page);
  await settled(page);
}

/** The measure of the first pour is calibrated once more, as of the day before the demonstration's last pour. */
async function calibrateLate(page: Page): Promise<void> {
  const on = DateTime.now().minus({ days: 3 }).toISODate();
  const status = await page.evaluate(async (day) => {
    const of = async (path: string) => (await (await fetch(`/api/v1${path}`)).json()) as { items: { id: string; kind: string }[] };
    const project = (await of('/projects')).items[0]!.id;
    const measure = (await of(`/equipment?project=${project}`)).items.find((e) => e.kind === 'measure')!.id;
    const body = {
      id: crypto.randomUUID(),
      by: localStorage.getItem('km.person'),
      on: day,
      values: [{ item: 'measure.volume', value: { text: '7.9', unit: 'L' } }],
    };
    const sent = await fetch(`/api/v1/equipment/${measure}/calibrations`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    return sent.status;
  }, on);
  expect(status).toBe(201);
}

const answer = (page: Page, id: string) => page.locator(`km-answers [data-result="${id}"]`);

it('an aggregate from its pit to its gradation and gravity, each kept and corrected', async ({ browser }) => {
  const page = await app.device(browser, /Oakhanger/);
  await record(page, 'Sources');
  await make(
    page,
    'source',
    async () => {
      await page.getByLabel('Name').fill(`Brackdown sand ${Date.now()}`);
      await page.locator('#held-pit').fill('Brackdown');
      await choose(page, 'What it gives', 'Fine aggregate');
    },
    /^Brackdown sand/,
  );
  await make(
    page,
    'field sample',
    async () => {
      await page.getByRole('button', { name: 'now' }).click();
      await choose(page, 'From', 'Stockpile');
    },
    /^B-/,
  );
  await begin(page, 'Gradation by sieving');
  await fill(page, { dry: '512.4', washed: '503.1', pan: '3.4', area: '0.0285' });
  await page.locator('[data-cell="0.0"]').evaluate((at) => {
    const data = new DataTransfer();
    const rows = '9.5\t0\n4.75\t12.8\n2.36\t57.1\n1.18\t95.3\n0.600\t128.6\n0.300\t131.2\n0.150\t58.9\n0.075\t15.4';
    data.setData('text/plain', `Opening (mm)\tRetained (g)\n${rows}`);
    at.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(answer(page, 'fineness')).toContainText('2.83');
  await keep(page);
  await settled(page);
  await correct(page, () => page.locator('[data-cell="1.1"]').fill('22.8'), 'Keyed wrong');
  await expect(answer(page, 'fineness')).not.toContainText('2.83');
  const path = page.url();
  await begin(page, 'Fine aggregate: specific gravity and absorption');
  await fill(page, { ssd: '500.3', flaskWater: '661.8', flaskSample: '971.6', dry: '493.6' });
  // The battery was flat: what was begun is there, under its name, as it was keyed.
  await page.waitForTimeout(600);
  await page.reload();
  await page.locator('[data-method="fine-gravity"]').click();
  await expect(page.locator('#held-dry')).toHaveValue('493.6');
  await keep(page);
  await settled(page);
  await correct(page, () => page.locator('#held-dry').fill('493.9'), 'Read wrong');
  await expect(answer(page, 'absorption')).toContainText('1.3');
  expect(await seriousOf(page)).toEqual([]);
  // Out of Scratch onto the sheet, without keying again.
  await page.locator('h1').click();
  await page.keyboard.press('/');
  const over = page.locator('km-scratch-over');
  await over.getByTestId('example').click();
  await over.getByTestId('take').click();
  await expect(page.locator('#held-ssd')).toHaveValue('500.3');
  await keep(page);
  await settled(page);
  // It is all there for whoever opens it next, with what was corrected.
  await page.goto(path);
  await page.locator('[data-method="gradation"]').click();
  await expect(page.locator('[data-cell="1.1"]')).toHaveValue('22.8');
  expect(await app.count("SELECT COUNT(*) FROM entry WHERE turn = 1 AND reason IN ('Keyed wrong', 'Read wrong')")).toBe(2);
});

it('a cylinder of a set, an area under the hammer, and prisms on the comparator', async ({ browser }) => {
  const page = await app.device(browser, /Sallow/);
  await page.goto(`${app.url}/record`);
  await choose(page, 'Kind', 'Trial batches');
  await make(
    page,
    'trial batch',
    async () => {
      await choose(page, 'Mix', /D-32A/);
      await page.getByRole('button', { name: 'now' }).click();
      await page.locator('#held-volume').fill('40');
    },
    /^T-/,
  );
  // Weighed up by the recipe of its mix: what is usual stands there, and what was measured of the stockpiles is keyed.
  await begin(page, 'Trial batch');
  await expect(page.locator('[data-cell="3.0"]')).toHaveValue('Brackdown sand');
  await expect(page.locator('#held-diameter')).toHaveValue('100');
  await fill(page, { cylinders: '6' });
  await expect(page.locator('.come')).toContainText('total moisture in row 4');
  await expect(page.getByTestId('weighed')).toHaveCount(0);
  await cells(page, { '3.3': '5.1', '4.3': '1.4' });
  await page.getByText('Cement', { exact: true }).last().click();
  await expect(page.getByTestId('weighed')).toHaveText('1 of 6');
  await keep(page);
  await settled(page);
  const trial = page.url();
  await page.reload();
  await page.locator('[data-method="trial-batch"]').click();
  await expect(page.getByTestId('weighed')).toHaveText('1 of 6');
  await page.goto(trial);
  await make(
    page,
    'set of prisms',
    async () => {
      await page.getByRole('button', { name: 'now' }).first().click();
      await page.locator('#held-gauge').fill('250');
    },
    /^L-/,
  );
  await begin(page, 'Length change of prisms');
  await fill(page, { initialBar: '1.200', bar: '1.204' });
  await cells(page, { '0.0': '2.100', '0.1': '2.010', '1.0': '2.300', '1.1': '2.214', '2.0': '2.250', '2.1': '2.160' });
  await keep(page);
  await settled(page);
  await correct(page, () => page.locator('[data-cell="0.1"]').fill('2.012'), 'Read wrong');

  await record(page, 'Structures');
  await make(page, 'structure', () => page.getByLabel('Name').fill(`Footbridge ${Date.now()}`), /^Footbridge/);
  await make(
    page,
    'element',
    async () => {
      await page.getByLabel('Name').fill('Deck, span 4');
      await choose(page, 'What it is', 'Deck or slab');
    },
    /^Deck/,
  );
  const element = page.url();
  await make(
    page,
    'area',
    () =>
      page
        .getByLabel('Name')
        .fill('North half')
        .then(() => page.locator('#held-extent').fill('3 m by 2 m')),
    /^North/,
  );
  await begin(page, 'Rebound number');
  await cells(page, Object.fromEntries([38, 41, 39, 40, 37, 42, 39, 40, 36, 38].map((r, i) => [`${i}.0`, String(r)])));
  await keep(page);
  await settled(page);
  await correct(page, () => page.locator('[data-cell="8.0"]').fill('37'), 'Read wrong');
  await page.goto(element);
  await make(
    page,
    'set of specimens',
    async () => {
      await page.getByRole('button', { name: 'now' }).first().click();
      await choose(page, 'Shape', 'Core');
      await page.locator('#held-width').fill('100');
    },
    /^D-/,
  );
  await make(page, 'specimen', () => page.locator('#held-note').fill('from bay 2'), /^D-\d+-A/);
  await page.getByTestId('mistake').click();
  await page.locator('#void-reason').fill('Keyed twice');
  await page.keyboard.press('Escape');
  await page.getByTestId('void').click();
  await expect(page.getByText('Voided', { exact: true })).toBeVisible();
  await expect(page.getByTestId('begin')).toHaveCount(0);
  await page.getByTestId('mistake').click();
  await page.locator('#void-reason').fill('It was right');
  await page.keyboard.press('Escape');
  await page.getByTestId('void').click();
  await begin(page, 'Compressive strength of a cylinder or core');
  await fill(page, { d1: '101.5', d2: '101.75', length: '203', load: '336.4' });
  await expect(answer(page, 'strength')).toContainText('41.6');
  await keep(page);
  await settled(page);
  await correct(page, () => page.locator('#held-load').fill('346.4'), 'Keyed wrong');
  await expect(answer(page, 'strength')).toContainText('42.8');
  expect(await seriousOf(page)).toEqual([]);
});

it('a strength test takes what its specimens gave, corrected in gloves; a note and a photo go with it', async ({ browser }) => {
  const page = await app.device(browser, /Oakhanger/, { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
  await record(page, 'Sets of specimens');
  await page.getByLabel('Find by its code or name').fill('D-1');
  await page.getByText('D-1', { exact: true }).click();
  const companions = page.locator('button[data-method="companions"]');
  await companions.click();
  await expect(page.getByTestId('given')).toContainText('D-1-A, D-1-B, D-1-C');
  await expect(page.locator('[data-cell="2.0"]')).toHaveValue(/^4\d\.\d$/);
  // Nothing of it is keyed: nothing of it is to be kept.
  await settled(page);
  const before = await companions.innerText();

  await page.getByTestId('note').fill('Cylinder C stood on worn pads.');
  await page.getByTestId('add-note').click();
  await expect(page.locator('.note')).toContainText('worn pads.');
  const picture = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAIAAACQd1PeAAAACXBIWXMAAAPoAAAD6AG1e1JrAAAADElEQVQImWPo6OgAAAM0AZmUse0HAAAAAElFTkSuQmCC',
    'base64',
  );
  await page.locator('input[type=file]').setInputFiles({ name: 'Pads.png', mimeType: 'image/png', buffer: picture });
  await expect(page.getByRole('img', { name: 'Pads.png' })).toBeVisible();
  await expect.poll(() => page.getByRole('img', { name: 'Pads.png' }).evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(1);

  await page.getByRole('link', { name: 'D-1-C' }).first().click();
  await page.locator('button[data-method="cylinder"]').click();
  await page.locator('#held-load').tap();
  await page.locator('#held-load').press('Control+a');
  for (const key of ['3', '9', '9', 'erase', '5']) await page.locator('km-keypad').getByRole('button', { name: key, exact: true }).tap();
  await expect(page.locator('#held-load')).toHaveValue('395');
  await correct(page, () => Promise.resolve(), 'Read wrong');
  await page.getByLabel('What it lies in').getByRole('link', { name: 'D-1' }).click();
  await companions.click();
  await expect(page.getByTestId('cause')).toContainText('a test that it stands on was made or corrected');
  expect(await companions.innerText()).not.toBe(before);
  expect(await seriousOf(page)).toEqual([]);
});

it('two servers on one database: two hundred rows kept at one are heard at the other, which is killed and comes back', async ({
  browser,
}) => {
  const other = new App();
  await other.start();
  const [page, far] = [await app.device(browser, /Oakhanger/), await other.device(browser, /Sallow/)];
  await record(page, 'Structures');
  await make(page, 'structure', () => page.getByLabel('Name').fill(`Footbridge ${Date.now()}`), /^Footbridge/);
  await make(page, 'area', () => page.getByLabel('Name').fill('South half'), /^South/);
  const path = new URL(page.url()).pathname;
  await far.goto(other.url + path);
  await expect(far.locator('km-item-page h1')).toContainText('South half');

  await begin(page, 'Rebound number');
  await page.locator('[data-cell="0.0"]').evaluate((at) => {
    const data = new DataTransfer();
    data.setData('text/plain', Array.from({ length: 200 }, (_r, i) => String(36 + (i % 5))).join('\n'));
    at.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(answer(page, 'number')).toContainText('38');
  await keep(page);
  await settled(page);
  await expect(far.locator('button[data-method="rebound"]')).toContainText('38');
  const held = new URL(path, app.url).pathname.split('/').at(-1);
  expect(await app.count('SELECT COUNT(*) FROM entry e JOIN test t ON t.id = e.owner_id WHERE t.item_id = ?', [held])).toBe(200);

  await other.end('SIGKILL');
  await far.getByTestId('note').fill('Ground smooth with the stone first.');
  await far.getByTestId('add-note').click();
  await expect(far.getByTestId('waits')).toBeVisible();
  await other.start();
  // What waited there is heard here, once.
  await expect(page.locator('.note')).toHaveText([/Ground smooth/]);
  await expect(far.locator('.note')).toHaveText([/Ground smooth/]);
  await other.end();
});

it('out of Scratch onto an item that is found, without keying again', async ({ browser }) => {
  const page = await app.device(browser, /Sallow/);
  await page.goto(`${app.url}/scratch/gradation`);
  await page.getByTestId('example').click();
  await page.getByTestId('carry').click();
  await expect(page.getByTestId('carried')).toContainText('Find or make what it was made on: a field sample or a test portion.');
  // It outlives a reload, and looks among what it may be made on.
  await page.reload();
  await page.getByLabel('Find by its code or name').fill('b-20');
  await expect(page.locator('km-record-list li')).toHaveCount(1);
  expect(await seriousOf(page)).toEqual([]);
  await page.getByText('B-20', { exact: true }).click();
  await page.getByTestId('put-here').click();
  await expect(page.getByTestId('carried')).toHaveCount(0);
  await expect(page.locator('#held-dry')).toHaveValue('512.4');
  await expect(answer(page, 'fineness')).toContainText('2.83');
  await keep(page);
  await settled(page);
  await expect(page.locator('button[data-method="gradation"]')).toHaveCount(2);
});

it('water keyed late moves the yield, and says why; a sheet that is not there is said', async ({ browser }) => {
  const page = await app.device(browser, /Sallow/);
  await page.getByText('Boardwalk span 3').click();
  await page.getByText('Q-103').first().click();
  const yields = page.locator('button[data-method="yield"]').first();
  await yields.click();
  const before = await yields.innerText();
  await expect(page.getByTestId('cause')).toHaveCount(0);
  // A measure that was found larger since, on a day before the test: what it was then is what counts.
  await calibrateLate(page);
  await page.reload();
  await yields.click();
  expect(await yields.innerText()).toBe(before);
  await expect(page.getByTestId('cause')).toHaveCount(0);
  await page.goBack();
  const load = page.locator('[data-load="5"]');
  await load.getByText('water added').click();
  await page.getByLabel('Water added on site').fill('90');
  // Before it was tested, and told only now.
  const yesterday = DateTime.now().minus({ days: 1 }).set({ hour: 11, minute: 20 });
  await keyMoment(page.getByLabel('Added at'), yesterday.toFormat('d MMM yyyy HH:mm', { locale: 'en' }));
  await page.getByRole('button', { name: 'Add it to the ticket' }).click();
  // The form closes with the answer, and what is beneath it moves.
  await expect(load.getByText(/water added .*: 90 L/)).toBeVisible();
  await page.getByText('Q-103').first().click();
  await yields.click();
  await expect(page.getByTestId('cause')).toContainText('something that it stands on was added');
  expect(await yields.innerText()).not.toBe(before);
  await page.goto(`${app.url}/record/00000000-0000-4000-8000-000000000000`);
  await expect(page.getByText('No item 00000000')).toBeVisible();
});

it('a queue with a poisoned write goes on without it, and a person finds it set aside', async ({ browser }) => {
  const page = await app.device(browser, /Oakhanger/);
  // As an older page could have left it: the sheet that it is of is not there.
  const poison = () =>
    page.evaluate(
      () =>
        new Promise<boolean>((resolve) => {
          const asked = indexedDB.open('keen-mortar');
          asked.onsuccess = () => {
            const db = asked.result;
            if (!db.objectStoreNames.contains('commands')) return resolve((db.close(), false));
            const put = db.transaction('commands', 'readwrite');
            const id = crypto.randomUUID();
            const body = { id, by: localStorage.getItem('km.person'), kind: 'finished', at: new Date().toISOString() };
            const path = '/samples/00000000-0000-4000-8000-000000000000/events';
            put.objectStore('commands').put({ id, order: 1, itemId: 'gone', opens: '/pours', kind: 'event', path, body });
            localStorage.setItem('km.waits', '1');
            put.oncomplete = () => resolve((db.close(), true));
          };
        }),
    );
  // A place that writes has made the store.
  await page.getByRole('link', { name: 'Record', exact: true }).click();
  await expect.poll(poison).toBe(true);
  await page.reload();
  await page.getByTestId('look-aside').click();
  await expect(page.locator('[data-aside]')).toContainText('What happened to a sample');
  // It slides in; while it does, nothing has its colour yet.
  await page.waitForTimeout(500);
  expect(await seriousOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'Not needed any more' }).click();
  await expect(page.getByText('Nothing is set aside any more.')).toBeVisible();
});

it('a field sheet is printed, and keyed afterwards with the times that were written on it', async ({ browser }) => {
  const page = await app.device(browser, /Sallow/);
  const paper = await page.request.get(`${app.url}/api/v1/field-sheets/moisture?variant=c566&system=si`);
  expect([paper.headers()['content-type'], (await paper.body()).subarray(0, 5).toString()]).toEqual(['application/pdf', '%PDF-']);
  await record(page, 'Field samples');
  await page.locator('a[href^="/record/"]').first().click();
  await begin(page, 'Total and surface moisture of aggregate');
  await page.getByTestId('paper').click();
  // One now for what is keyed and what is looked for: the minute may turn between them.
  const now = DateTime.now().startOf('minute');
  const at = (hours: number) => now.minus({ hours });
  const keyed = (moment: DateTime) => moment.setLocale('en-US').toFormat('d LLL yyyy HH:mm');
  await keyMoment(page.getByLabel('Started at, as it was written'), keyed(at(20)));
  await keyMoment(page.getByLabel('Read at, as it was written'), keyed(at(26)));
  await expect(page.getByText('It cannot be read before it was started.').first()).toBeVisible();
  await fill(page, { wet: '1204.6', dry: '1151.3' });
  await expect(page.getByTestId('keep')).toBeDisabled();
  await keyMoment(page.getByLabel('Read at, as it was written'), keyed(at(4)));
  expect(await seriousOf(page)).toEqual([]);
  await keep(page);
  await settled(page);
  const utc = (moment: DateTime) => moment.toUTC().toFormat('yyyy-MM-dd HH:mm');
  const kept = await app.count(
    `SELECT COUNT(*) FROM entry e JOIN test t ON t.id = e.owner_id
     WHERE t.method = 'moisture' AND DATE_FORMAT(t.started_at, '%Y-%m-%d %H:%i') = ? AND DATE_FORMAT(e.read_at, '%Y-%m-%d %H:%i') = ?`,
    [utc(at(20)), utc(at(4))],
  );
  expect(kept).toBe(2);
});
