import { chromium } from 'playwright';
const [out, url, w = '1280', h = '900', theme = 'light', ...clicks] = process.argv.slice(2);
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const ctx = await browser.newContext({ viewport: { width: +w!, height: +h! }, hasTouch: +w! < 600 });
const page = await ctx.newPage();
page.on('console', (m) => m.type() === 'error' && console.log('console', m.text()));
page.on('pageerror', (e) => console.log('pageerror', e.message));
const people = (await (await page.request.get('http://localhost:4310/api/v1/people')).json()).items;
await page.addInitScript(([p, t]) => { localStorage.setItem('km.person', p!); localStorage.setItem('km.theme', t!); }, [people[0].id, theme]);
await page.goto('http://localhost:4310' + url);
await page.waitForTimeout(1500);
for (const c of clicks) {
  if (c.startsWith('file:')) { await page.locator('input[type=file]').setInputFiles(c.slice(5)); }
  else if (c.startsWith('type:')) { await page.keyboard.type(c.slice(5)); }
  else if (c.startsWith('full')) {}
  else await page.locator(c).first().click();
  await page.waitForTimeout(700);
}
await page.screenshot({ path: out!, fullPage: clicks.includes('full') });
await browser.close();
