/* The part of npm run bench that needs a browser: what a keystroke costs on a slow device, and what a long series does to the page. */
import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { extname, join } from 'node:path';
import { chromium, type Browser, type Page } from '@playwright/test';
import { asks, methodById, spell, type Shape } from '@keen-mortar/core';
import { exampleOf } from '@keen-mortar/core/examples';

const WEB = process.env['WEB'] ?? join(import.meta.dirname, '../dist/web/browser');
const TYPES: Readonly<Record<string, string>> = { '.js': 'text/javascript', '.css': 'text/css', '.html': 'text/html' };
const SLOW_DOWN = 4;
const KEYS = Number(process.env['KEYS'] ?? 100);
/** Before the code is warm; and ms between two keys of a person who reads figures off a display. */
const WARM = 10;
const BETWEEN = 250;

/** The built page alone: Scratch asks no server for anything. */
function serve(): Promise<{ url: string; close: () => void }> {
  const server = createServer((request, response) => {
    const path = (request.url ?? '/').split('?')[0]!;
    if (path.startsWith('/api/')) return void response.writeHead(503).end();
    const file = extname(path) === '' ? '/index.html' : path;
    try {
      const body = readFileSync(join(WEB, file));
      response.writeHead(200, { 'content-type': TYPES[extname(file)] ?? 'application/octet-stream' }).end(body);
    } catch {
      response.writeHead(404).end();
    }
  });
  return new Promise((resolve) => {
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      resolve({ url: `http://127.0.0.1:${port}`, close: () => server.close() });
    });
  });
}

interface Costs {
  /** ms of work from each key until its answer stood in the document, without the wait for the browser’s turn. */
  readonly work: number[];
  /** Answers that were not yet there when the first picture after the key was painted. */
  readonly late: number;
}

declare global {
  interface Window {
    taskFrom: number;
    bench: { work: number[]; late: number };
  }
}

/** Told by every timer and frame when it begins: what the page waits for is no work. */
const watchTasks = (page: Page): Promise<unknown> =>
  page.addInitScript(() => {
    window.taskFrom = 0;
    const told =
      <A extends unknown[]>(callback: (...args: A) => void) =>
      (...args: A): void => {
        window.taskFrom = performance.now();
        callback(...args);
      };
    const [timeout, frame] = [window.setTimeout.bind(window), window.requestAnimationFrame.bind(window)];
    window.setTimeout = ((callback: () => void, ms?: number) => timeout(told(callback), ms)) as typeof window.setTimeout;
    window.requestAnimationFrame = (callback) => frame(told(callback));
  });

async function keystrokes(page: Page, box: string, at: 'Home' | 'End'): Promise<Costs> {
  await page.evaluate(() => {
    window.bench = { work: [], late: 0 };
    let from = 0;
    let heard = 0;
    addEventListener(
      'input',
      () => {
        from = performance.now();
        queueMicrotask(() => (heard = performance.now()));
        // The second frame from here begins when the first one is painted.
        requestAnimationFrame(() => requestAnimationFrame(() => (window.bench.late += from > 0 ? 1 : 0)));
      },
      { capture: true },
    );
    new MutationObserver(() => {
      if (from === 0) return;
      const now = performance.now();
      window.bench.work.push(window.taskFrom > from ? heard - from + (now - window.taskFrom) : now - from);
      from = 0;
    }).observe(document.querySelector('km-answers')!, { subtree: true, childList: true, characterData: true });
  });
  await page.focus(box);
  await page.keyboard.press(at);
  for (let i = 0; i < KEYS + WARM; i++) {
    if (i === WARM) await page.evaluate(() => (window.bench = { work: [], late: 0 }));
    await page.keyboard.press(i % 2 === 0 ? '7' : 'Backspace');
    await page.waitForTimeout(BETWEEN);
  }
  return page.evaluate(() => window.bench);
}

const share = (values: readonly number[], part: number): string =>
  ([...values].sort((a, b) => a - b)[Math.floor(values.length * part)] ?? NaN).toFixed(1);

/** Figures that a key moves in a table of the usual length. */
const MOVED = 60;

/** The bare operation: a key of which a listener writes as many figures into a page without a framework, and works out nothing. */
async function bareKey(page: Page): Promise<number[]> {
  await page.setContent(
    `<input id="bare"><km-answers>${'<p><b>0</b></p>'.repeat(MOVED)}</km-answers>
     <script>
       const figures = [...document.querySelectorAll('b')].map((b) => b.firstChild);
       document.querySelector('input').addEventListener('input', (e) => figures.forEach((f, i) => (f.data = e.target.value + i)));
     </script>`,
  );
  return (await keystrokes(page, '#bare', 'End')).work;
}

async function measureKeys(page: Page, url: string): Promise<void> {
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Emulation.setCPUThrottlingRate', { rate: SLOW_DOWN });
  const bare = await bareKey(page);
  await cdp.send('Emulation.setCPUThrottlingRate', { rate: 1 });
  console.log(
    `${`key to ${MOVED} figures written, bare page, CPU ${SLOW_DOWN}× slower`.padEnd(62)} median ${share(bare, 0.5)}, p95 ${share(bare, 0.95)} ms of ${bare.length}`,
  );
  // Keyed where the answer moves with every key.
  for (const [method, box, at] of [
    ['density', '#scratch-full', 'End'],
    ['yield', '#scratch-full', 'End'],
    ['gradation', '#scratch-dry', 'Home'],
    ['early-warning', '#scratch-now', 'End'],
    ['constant-head', '#scratch-thickness', 'End'],
  ] as const) {
    await page.goto(`${url}/scratch/${method}`);
    await page.getByTestId('example').click();
    await page.waitForTimeout(400);
    await cdp.send('Emulation.setCPUThrottlingRate', { rate: SLOW_DOWN });
    const costs = await keystrokes(page, box, at);
    await cdp.send('Emulation.setCPUThrottlingRate', { rate: 1 });
    console.log(
      `${`keystroke to answer, ${method}, CPU ${SLOW_DOWN}× slower`.padEnd(62)} median ${share(costs.work, 0.5)}, p95 ${share(costs.work, 0.95)} ms of ${costs.work.length} (aim ≤ 16); after the next picture: ${costs.late}`,
    );
  }
}

/** The ten most usual computations, by the name that a person types; what is keyed is the worked example. */
const USUAL = [
  'slump',
  'temperature',
  'density',
  'yield',
  'pressure-air',
  'gravimetric-air',
  'coarse-gravity',
  'fine-gravity',
  'moisture',
  'cylinder',
];
const COLD_AIM = 3000;

/** By keys alone: to the next field, until it is the one that is wanted. */
async function tabTo(page: Page, id: string): Promise<void> {
  const there = () => page.evaluate((wanted) => new RegExp(`^scratch-${wanted}(-|$)`).test(document.activeElement?.id ?? ''), id);
  // Forwards as a rule; what stands before the first reading is gone back to.
  for (const [key, most] of [
    ['Tab', 12],
    ['Shift+Tab', 40],
  ] as const) {
    for (let pressed = 0; pressed < most && !(await there()); pressed++) await page.keyboard.press(key);
  }
  if (!(await there())) throw new Error(`no key leads to ${id}`);
}

/** ms from opening Scratch on a cold page until the answer stands, found and keyed by keys alone. */
async function coldAnswer(browser: Browser, url: string, method: string): Promise<number> {
  const m = methodById(method)!;
  const example = spell(m.fields as Shape, exampleOf(m));
  const page = await (await browser.newContext({ locale: 'en-GB', viewport: { width: 1280, height: 800 } })).newPage();
  const from = Date.now();
  await page.goto(`${url}/scratch`);
  await page.locator('#finder').waitFor();
  // Open, it has the focus already; else its key takes it there.
  if (!(await page.evaluate(() => document.activeElement?.id === 'finder'))) await page.keyboard.press('/');
  await page.keyboard.type(m.title);
  await page.getByRole('option').first().waitFor();
  await page.keyboard.press('Enter');
  await page.waitForURL(`**/scratch/${method}*`);
  // The first reading that is missing takes the focus.
  await page.waitForFunction(() => document.activeElement?.id.startsWith('scratch-'));
  const answer = page.locator('km-answers .main [data-result]');
  const fields = Object.entries(m.fields as Shape).filter(
    ([id]) => typeof example[id] === 'string' && asks(m, Object.keys(m.variants)[0]!, id),
  );
  for (const [id, field] of fields) {
    const keyed = example[id] as string;
    if (field.kind !== 'qty' && !(field.kind === 'pick' && field.usual === undefined)) continue;
    await tabTo(page, id);
    if (field.kind === 'qty') await page.keyboard.type(keyed.split(' ')[0]!);
    else await page.keyboard.press('Space');
    if (await answer.first().isVisible()) break;
  }
  await answer.first().waitFor();
  const took = Date.now() - from;
  await page.context().close();
  return took;
}

async function measureCold(browser: Browser, url: string): Promise<void> {
  const took: string[] = [];
  for (const method of USUAL) took.push(`${method} ${await coldAnswer(browser, url, method)}`);
  console.log(`${'cold answers in Scratch by keys alone, ms'.padEnd(62)} ${took.join(', ')} (aim ≤ ${COLD_AIM} each)`);
}

async function measureLong(page: Page, url: string): Promise<void> {
  await page.goto(`${url}/scratch/aci-acceptance`);
  await page.getByTestId('example').click();
  await page.waitForTimeout(500);
  await page.evaluate(() => {
    const tasks: number[] = [];
    new PerformanceObserver((list) => tasks.push(...list.getEntries().map((e) => e.duration))).observe({ type: 'longtask' });
    (window as unknown as { tasks: number[] }).tasks = tasks;
  });
  const from = Date.now();
  await page.getByTestId('simulate').click();
  await page.getByTestId('long').waitFor({ timeout: 60_000 });
  const took = Date.now() - from;
  await page.waitForTimeout(300);
  const tasks = await page.evaluate(() => (window as unknown as { tasks: number[] }).tasks);
  console.log(
    `${'100 000 tests evaluated in the worker'.padEnd(62)} ${took} ms; tasks over 50 ms on the page: ${tasks.length === 0 ? 'none' : tasks.map((t) => t.toFixed(0)).join(', ')}`,
  );
}

const server = await serve();
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-dev-shm-usage'] });
try {
  const page = await browser.newPage({ locale: 'en-GB', viewport: { width: 1280, height: 800 } });
  await watchTasks(page);
  await measureKeys(page, server.url);
  await measureLong(page, server.url);
  await measureCold(browser, server.url);
} finally {
  await browser.close();
  server.close();
}
