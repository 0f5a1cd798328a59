/* The part of npm run bench that keys into the whole pour sheet of the demonstration, on a slow device, beside a bare box. */
import { chromium, type Page } from '@playwright/test';
import { servedDemo } from './lib/served.js';

const SLOW_DOWN = 4;
const KEYS = Number(process.env['KEYS'] ?? 100);
/** Before the code is warm; and ms between two keys of a person who reads figures off a display. */
const WARM = 60;
const BETWEEN = 250;

declare global {
  interface Window {
    keyed: { readonly turns: number[] };
  }
}

/** Of each key: ms from its press until its turn is over, and of all work until the next. */
async function keys(page: Page): Promise<{ cold: number[]; turns: number[]; all: number[] }> {
  await page.evaluate(() => {
    window.keyed = { turns: [] };
    let from = 0;
    addEventListener('keydown', () => (from = performance.now()), { capture: true });
    addEventListener('input', () => queueMicrotask(() => window.keyed.turns.push(performance.now() - from)), { capture: true });
  });
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Performance.enable');
  const script = async (): Promise<number> =>
    1000 * ((await cdp.send('Performance.getMetrics')).metrics.find((m) => m.name === 'ScriptDuration')?.value ?? NaN);
  await cdp.send('Emulation.setCPUThrottlingRate', { rate: SLOW_DOWN });
  const all: number[] = [];
  for (let i = 0; i < KEYS + WARM; i++) {
    const before = await script();
    await page.keyboard.press(i % 2 === 0 ? '7' : 'Backspace');
    await page.waitForTimeout(BETWEEN);
    all.push((await script()) - before);
  }
  await cdp.send('Emulation.setCPUThrottlingRate', { rate: 1 });
  const turns = await page.evaluate(() => window.keyed.turns);
  return { cold: turns.slice(0, WARM), turns: turns.slice(WARM), all: all.slice(WARM) };
}

const share = (values: readonly number[], part: number): string =>
  ([...values].sort((a, b) => a - b)[Math.floor(values.length * part)] ?? NaN).toFixed(1);
const say = (what: string, ms: readonly number[], aim = ''): void =>
  console.log(`${what.padEnd(62)} median ${share(ms, 0.5)}, p95 ${share(ms, 0.95)} ms of ${ms.length}${aim}`);

/** A sample of today's pour with its first tests kept; the next one is in hand, all but one reading keyed. */
async function openSheet(page: Page): Promise<void> {
  const keep = async (method: string, readings: Readonly<Record<string, string>>): Promise<void> => {
    await page.locator(`button[data-method="${method}"]`).click();
    if (method === 'slump') await page.getByRole('radio', { name: 'True' }).check();
    for (const [id, text] of Object.entries(readings)) await page.locator(`#reading-${id}`).fill(text);
    await page.getByTestId('keep').click();
    await page.locator(`[data-kept="${Object.keys(readings)[0]}"]`).waitFor();
  };
  await page.goto(`${app.url}/who`);
  await page.getByRole('button', { name: /Sallow/ }).click();
  await page.waitForURL('**/day');
  await page.getByRole('link', { name: 'Pours', exact: true }).click();
  await page.waitForURL('**/pours');
  await page.getByText('Boardwalk span 4').click();
  await page.getByRole('button', { name: 'Sample load 6', exact: true }).click();
  await page.getByRole('button', { name: /Another portion/ }).click();
  await page.getByRole('button', { name: /2 so far/ }).waitFor();
  await page.getByRole('button', { name: 'Combined and turned' }).click();
  await keep('temperature', { temperature: '19.5' });
  await keep('slump', { lift: '4.8', total: '1:52', drop: '96' });
  await page.locator('button[data-method="yield"]').click();
  await page.locator('#reading-empty').fill('7.68');
  await page.locator('#reading-full').fill('24.1');
  await page.keyboard.press('End');
}

const app = await servedDemo(4386);
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-dev-shm-usage'] });
try {
  const page = await browser.newPage({ locale: 'en-GB', viewport: { width: 1280, height: 800 } });
  await page.setContent('<input>');
  await page.focus('input');
  const bare = await keys(page);
  say(`key into a bare box, CPU ${SLOW_DOWN}× slower`, bare.turns);
  await openSheet(page);
  const sheet = await keys(page);
  say(`key into the whole pour sheet, CPU ${SLOW_DOWN}× slower`, sheet.turns, ' (aim ≤ 16)');
  say('  its first keys, before the code is warm', sheet.cold);
  say('  script until the next key: its answer, once it is painted', sheet.all);
  console.log(
    `  key on the sheet to key into a bare box: ${(Number(share(sheet.turns, 0.5)) / Number(share(bare.turns, 0.5))).toFixed(1)}`,
  );
} finally {
  await browser.close();
  await app.end();
}
