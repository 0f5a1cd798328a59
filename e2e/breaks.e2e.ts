import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { expect, test as it, type Page } from '@playwright/test';
import { DateTime } from 'luxon';
import { App, choose, putAway, standIns } from './app';
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

async function post(page: Page, path: string, data: object): Promise<unknown> {
  const answer = await page.request.post(`${app.url}/api/v1${path}`, { data });
  if (!answer.ok()) throw new Error(`${path}: ${await answer.text()}`);
  return answer.json();
}

async function whoIn(page: Page): Promise<{ readonly projectId: string; readonly by: string }> {
  const ask = async (path: string) =>
    (await (await page.request.get(`${app.url}/api/v1${path}`)).json()) as { items: { id: string; name: string }[] };
  const by = (await ask('/people')).items.find((p) => p.name.includes('Sallow'))!.id;
  return { projectId: (await ask('/projects')).items[0]!.id, by };
}

const mm = (text: string) => ({ text, unit: 'mm' });
const kg = (text: string) => ({ text, unit: 'kg' });

/** A mix of its own with its f’c: what is broken here moves nothing of the demonstration. */
async function mixOf(page: Page, code: string, lower = '32'): Promise<string> {
  const { projectId, by } = await whoIn(page);
  const [mixId, specificationId] = [randomUUID(), randomUUID()];
  const limit = { id: randomUUID(), property: 'strength', unit: 'MPa', lower, source: 'of this journey' };
  await post(page, '/specifications', {
    id: specificationId,
    by,
    projectId,
    name: `Concrete ${code}`,
    comparison: 'reported',
    limits: [limit],
  });
  await post(page, '/mixes', {
    id: mixId,
    by,
    projectId,
    code,
    name: `Mix ${code}`,
    revision: {
      id: randomUUID(),
      effectiveFrom: DateTime.now().minus({ days: 100 }).toISO(),
      largest: mm('25'),
      nominal: mm('19'),
      air: '6.0',
      specificationIds: [specificationId],
      ingredients: [
        { name: 'Cement', role: 'cement', mass: kg('340'), sg: '3.15' },
        { name: 'Water', role: 'water', mass: kg('160'), sg: '1.000' },
      ],
    },
  });
  return mixId;
}

interface MadeSet {
  readonly id: string;
  readonly code: string;
  readonly specimens: readonly { readonly id: string; readonly code: string }[];
}

/** A set of a trial batch, molded so many hours ago. */
async function setOf(page: Page, mixId: string, hoursAgo: number, ages: readonly (number | null)[]): Promise<MadeSet> {
  const { projectId, by } = await whoIn(page);
  const at = DateTime.now().minus({ hours: hoursAgo });
  const batchId = randomUUID();
  await post(page, '/items', {
    id: batchId,
    by,
    projectId,
    parentId: null,
    kind: 'trial-batch',
    subjectId: mixId,
    facts: { mixedAt: at.minus({ minutes: 20 }).toISO(), volume: { text: '60', unit: 'L' } },
  });
  const setId = randomUUID();
  const sheet = (await post(page, `/items/${batchId}/specimens`, {
    id: setId,
    by,
    facts: { madeAt: at.toISO(), shape: 'cylinder', width: mm('100'), length: mm('200'), curing: 'standard' },
    specimens: ages.map((age) => ({ id: randomUUID(), age: age === null ? null : { text: String(age), unit: 'd' } })),
  })) as { item: { code: string }; children: { id: string; code: string }[] };
  return { id: setId, code: sheet.item.code, specimens: [...sheet.children].sort((a, b) => (a.code < b.code ? -1 : 1)) };
}

/** What a scanner types, faster than any hand, into whatever has the focus; and Enter. */
const scan = (page: Page, text: string): Promise<void> =>
  page.evaluate((typed) => {
    const target = document.activeElement ?? document.body;
    const key = (name: string): boolean =>
      target.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }));
    for (const letter of typed) if (key(letter) && target instanceof HTMLInputElement) document.execCommand('insertText', false, letter);
    key('Enter');
  }, text);

const inHand = (page: Page, code: string) => page.getByRole('heading', { name: code, level: 2 });

/** The readings of one, key by key, as a hand with a keypad does it; counts the keys that are no figures. */
async function breakOne(page: Page, code: string, figures: readonly string[], fracture: string): Promise<number> {
  await inHand(page, code).waitFor();
  await expect(page.locator('#held-d1')).toBeFocused();
  let keys = 0;
  const press = async (key: string): Promise<void> => {
    keys++;
    await page.keyboard.press(key);
  };
  for (const figure of figures) {
    await page.keyboard.type(figure);
    await press('Enter');
  }
  await press(fracture);
  await press('Enter');
  await expect(page.getByTestId('keep')).toBeFocused();
  await press('Enter');
  return keys;
}

const load = (mpa: number): string => (mpa * 8.107).toFixed(1);

it('forty in a queue, by keyboard and scanner: one late, one measured wrong, worn pads, one low', async ({ browser }) => {
  it.setTimeout(240_000);
  const page = await app.device(browser, /Sallow/);
  const mixId = await mixOf(page, 'QUEUE');
  const sets: MadeSet[] = [];
  for (let i = 0; i < 13; i++) sets.push(await setOf(page, mixId, 28 * 24 + i / 4, [28, 28, 28, null]));
  const late = await setOf(page, mixId, 28 * 24 + 21, [28]);
  await page.goto(`${app.url}/breaks`);
  await page.locator('[data-due]').first().waitFor();
  expect(await seriousOf(page)).toEqual([]);
  let most = 0;
  for (const [s, set] of sets.entries()) {
    const [first] = set.specimens;
    await scan(page, s % 2 === 0 ? first!.code.toLowerCase() : `${app.url}/record/${first!.id}`);
    if (s === 1) {
      // On pads that served their time: told before anything is loaded, and others are put in with one press.
      await inHand(page, first!.code).waitFor();
      await choose(page, 'Pair of pads', /^Pads 1,/);
      await expect(page.getByTestId('worn')).toContainText('Change the pads first.');
      await page.getByTestId('new-pads').click();
      await expect(page.getByTestId('worn')).toHaveCount(0);
      await expect(page.getByRole('combobox', { name: 'Pair of pads' })).toContainText('Pads 3, hardness 60');
      await page.locator('#held-d1').focus();
    }
    for (const [i, specimen] of set.specimens.slice(0, 3).entries()) {
      if (s === 0 && i === 1) {
        // Out of round, or a slip of the caliper: it can be measured once more, for it is whole still.
        await inHand(page, specimen.code).waitFor();
        await expect(page.locator('#held-d1')).toBeFocused();
        await page.keyboard.type('101.5');
        await page.keyboard.press('Enter');
        await page.keyboard.type('104.0');
        await page.keyboard.press('Enter');
        await expect(page.getByTestId('never')).toContainText('Do not load it');
        await page.locator('#held-d2').fill('');
        await page.locator('#held-d1').fill('');
        await page.locator('#held-d1').focus();
      }
      const low = s === 12;
      const keys = await breakOne(
        page,
        specimen.code,
        ['101.50', '101.75', '203', load(low ? 27.6 + i / 5 : 36 + ((s * 7 + i * 3) % 11) / 4)],
        low ? '2' : '1',
      );
      most = Math.max(most, keys);
    }
  }
  expect(most).toBeLessThanOrEqual(12);

  // Past its window: said before it is broken, by its label, and not for acceptance afterwards.
  await scan(page, late.specimens[0]!.code);
  await expect(page.getByTestId('not-now')).toContainText('Too late');
  await expect(page.getByTestId('all-the-same')).toBeFocused();
  await page.keyboard.press('Enter');
  await breakOne(page, late.specimens[0]!.code, ['101.50', '101.75', '203', load(37)], '3');
  const kept = () =>
    app.count(
      `SELECT COUNT(*) FROM standing s JOIN item i ON i.id = s.item_id JOIN item p ON p.id = i.parent_id
       WHERE s.property = 'strength' AND s.subject_id = ?`,
      [mixId],
    );
  await expect.poll(kept).toBe(40);
  // A spare is none of those that are due: its set says which are.
  await scan(page, sets[2]!.specimens[3]!.code);
  await expect(page.getByTestId('not-now')).toContainText('is a spare');
  const tests = `SELECT COUNT(*) FROM strength WHERE subject_id = ? AND`;
  expect(await app.count(`${tests} count = 3 AND not_for IS NULL`, [mixId])).toBe(13);
  expect(await app.count(`${tests} not_for = 'off-age'`, [mixId])).toBe(1);
  expect(await seriousOf(page)).toEqual([]);
});
