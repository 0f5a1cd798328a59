import { readFileSync } from 'node:fs';
import { expect, test as it, type Page } from '@playwright/test';
import { DateTime } from 'luxon';
import { App, batched, choose, field, keep, keyMoment, takeSample, test } from './app';
import { seriousOf } from './axe';

const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
/** As the boxes take a day: `8 Sep 2026`. */
const inDays = (days: number): string => DateTime.now().plus({ days }).setLocale('en-US').toFormat('d LLL yyyy');
const shelf = (page: Page, place: string) => page.locator('.shelf').getByRole('link', { name: place, exact: true });

/** Pastes a table, looks at it, and brings it in. */
async function bring(page: Page, what: string, csv: string): Promise<void> {
  await page.getByRole('group', { name: 'What is in it' }).getByText(what, { exact: true }).click();
  await page.locator('#csv').fill(csv);
  await page.getByRole('button', { name: 'Look at it' }).click();
  await page.getByTestId('bring').click();
  await page.waitForURL(/\/(mixes|kit)$/);
}

it.describe('an empty installation', () => {
  const app = new App('E2E_EMPTY');
  it.beforeAll(async () => {
    await app.prepare();
    await app.start();
  });
  it.afterAll(() => app.end());

  it('a lab from nothing to its first verdict, through the interface alone', async ({ browser }) => {
    const page = await (await browser.newContext()).newPage();
    page.setDefaultTimeout(15_000);
    await page.goto(`${app.url}/who`);
    await page.getByRole('button', { name: 'Begin' }).click();
    await expect(page.getByText('Key your name.')).toBeVisible();
    expect(await seriousOf(page)).toEqual([]);
    await page.getByLabel('Your name').fill('Wilda Marrow');
    await page.getByLabel('Project', { exact: true }).fill('Sea wall, third bay');
    await page.getByLabel('Its code').fill('SW-3');
    await page.getByLabel('Where it is built').fill('Quillmouth');
    await page.getByRole('button', { name: 'Begin' }).click();
    await page.getByText('The first pour').waitFor();
    expect(await seriousOf(page)).toEqual([]);

    // Somebody else tests too.
    await page.goto(`${app.url}/who`);
    await page.getByRole('button', { name: 'Somebody else' }).click();
    await expect(page.getByLabel('Name', { exact: true })).toBeFocused();
    await page.getByLabel('Name', { exact: true }).fill('Osric Fenn');
    await page.getByRole('button', { name: 'Begin' }).click();
    await page.getByRole('button', { name: /Osric Fenn/ }).click();
    await page.waitForURL('**/day');

    // What it must meet, by hand.
    await shelf(page, 'Mixes').click();
    await page.getByRole('link', { name: 'Write down what it must meet' }).click();
    await page.getByRole('button', { name: 'Keep this specification' }).click();
    await expect(page.getByText('Choose what is limited.')).toBeVisible();
    await page.locator('#name').fill('Wall concrete, 03 30 00');
    await choose(page, 'What is limited', 'Temperature');
    await choose(page, 'How it is written', 'from … to …');
    await page.locator('#lower0').fill('10');
    await page.locator('#upper0').fill('30');
    await page.locator('#source0').fill('03 30 00, 2.6');
    await expect(page.getByText('10 to 30 °C')).toBeVisible();
    // Its strength, later than usual and by another school than the project works to.
    await page.getByRole('button', { name: 'Add a limit' }).click();
    await page.locator('#property1').click();
    await page.getByRole('option', { name: 'Compressive strength', exact: true }).click();
    await page.locator('#how1').click();
    await page.getByRole('option', { name: 'at least', exact: true }).click();
    await page.locator('#lower1').fill('36');
    await page.locator('#source1').fill('03 30 00, 2.1');
    await page.locator('#atDays1').fill('56 d');
    await choose(page, 'Strength is accepted by', 'EN 206');
    await page.getByRole('button', { name: 'Keep this specification' }).click();
    await expect(page.getByText('Key whole days.')).toBeVisible();
    await expect(page.locator('#atDays1')).toHaveValue('56 d');
    await page.locator('#atDays1').fill('56');
    await page.getByRole('button', { name: 'Keep this specification' }).click();
    await page.getByRole('heading', { name: 'Wall concrete, 03 30 00', level: 1 }).waitFor();
    await expect(page.getByText('at least 36 MPa at 56 d')).toBeVisible();
    await expect(page.getByText('Strength is accepted by EN 206.')).toBeVisible();

    // Sources, mixes and kit as tables: what is wrong is told by its line, and nothing comes in half.
    await page.goto(`${app.url}/mixes/import`);
    await bring(page, 'Sources', 'name,pit,kind,nominal\nBrackdown sand,Brackdown,fine,4.75 mm\n');
    await page.getByRole('link', { name: 'From CSV' }).click();
    const mixes = (role: string) =>
      'code,name,largest,nominal,air,must meet,ingredient,role,mass,gravity,source\n' +
      'W-30,Wall mix 30,25 mm,19 mm,6.0,"Wall concrete, 03 30 00",Cement,cement,340 kg,3.15,\n' +
      'W-30,,,,,,Water,water,160 kg,1.000,\n' +
      `W-30,,,,,,Sand,${role},1830 kg,2.63,Brackdown sand\n`;
    await page.getByRole('group', { name: 'What is in it' }).getByText('Mixes', { exact: true }).click();
    await page.locator('#csv').fill(mixes('gravel'));
    await page.getByRole('button', { name: 'Look at it' }).click();
    await expect(page.getByText('line 4, role')).toBeVisible();
    await expect(page.getByTestId('bring')).toHaveCount(0);
    expect(await seriousOf(page)).toEqual([]);
    await bring(page, 'Mixes', mixes('fine'));
    await page.getByRole('link', { name: /W-30/ }).click();
    await expect(page.getByText('0.47')).toBeVisible();
    await page.goto(`${app.url}/mixes/import?what=kit`);
    await bring(page, 'Kit', `kind,name,calibrated\nthermometer,Thermometer 1,${DateTime.now().minus({ days: 30 }).toISODate()}\n`);
    await expect(page.getByText('Thermometer 1')).toBeVisible();

    await shelf(page, 'Pours').click();
    await page.getByRole('link', { name: 'New pour' }).click();
    await page.getByLabel('What is placed').fill('Wall, bay 3');
    await page.getByLabel('Where').fill('Bay 3');
    await choose(page, 'Mix', 'W-30 Wall mix 30');
    await page.getByLabel('Volume planned').fill('36');
    await page.getByRole('button', { name: 'Make this pour' }).click();
    await page.getByRole('link', { name: 'Key the first ticket' }).click();
    await page.getByLabel('Ticket').fill('F-1');
    await page.getByLabel('Truck').fill('Truck 3');
    await batched(page, 0, zone);
    await page.getByLabel('Volume ordered').fill('6.0');
    for (const [name, mass] of Object.entries({ Cement: '2037', Water: '959', Sand: '10990' }))
      await page.getByLabel(`Weighed ${name}`, { exact: true }).fill(mass);
    await page.getByRole('button', { name: 'Keep this ticket' }).click();
    await page.locator('[data-load="1"]').waitFor();
    await takeSample(page, 1);
    await test(page, 'temperature').click();
    await field(page, 'temperature').fill('33.5');
    await keep(page).click();
    await expect(page.locator('[data-kept="temperature"]')).toBeVisible();
    await expect(page.locator('.out').first()).toBeVisible();
    await shelf(page, 'Ledger').click();
    await expect(page.locator('tr[data-test]')).toHaveCount(1);
    await expect(page.locator('tr[data-test]')).toContainText('33.5');
  });
});

it.describe('the office of the demonstration', () => {
  const app = new App();
  it.beforeAll(async () => {
    await app.prepare();
    await app.start();
  });
  it.afterAll(() => app.end());

  it('the ledger is filtered, walked to the reading, exported; a report is issued and, after a correction, replaced', async ({
    browser,
  }) => {
    const page = await app.device(browser, /Oakhanger/);
    await shelf(page, 'Ledger').click();
    const rows = page.locator('tr[data-test]');
    await rows.first().waitFor();
    expect(await seriousOf(page)).toEqual([]);
    // By keys alone: found, opened, walked.
    await page.getByRole('button', { name: /^out / }).press('Enter');
    await expect(page).toHaveURL(/state=out/);
    await page.getByLabel('Find by a code or a name').fill('B-');
    await expect(page).toHaveURL(/text=B-/);
    await expect(rows.first()).toContainText('Absorption');
    await rows.first().focus();
    await page.keyboard.press('Enter');
    const thread = page.getByLabel('Thread');
    await expect(thread).toContainText('Fine aggregate');
    await expect(thread).toContainText('ASTM C128');
    await page.keyboard.press('ArrowDown');
    await expect(page.locator('tr.chosen')).toHaveCount(1);
    expect(await seriousOf(page)).toEqual([]);
    // Columns are chosen, and stay so.
    await page.getByRole('button', { name: '6 columns' }).click();
    await page.getByLabel('By', { exact: true }).uncheck();
    await page.keyboard.press('Escape');
    await page.reload();
    await expect(page.getByRole('button', { name: '5 columns' })).toBeVisible();

    await page.getByRole('button', { name: 'Export' }).click();
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'CSV' }).click()]);
    const csv = readFileSync(await file.path(), 'utf8')
      .trim()
      .split('\r\n');
    expect([csv[0]!.startsWith('day,time,test'), csv.slice(1).every((line) => line.includes('B-'))]).toEqual([true, true]);

    // A report of a load of its own, corrected, and issued again.
    await page.goto(`${app.url}/pours`);
    await page.getByText('Boardwalk span 4').click();
    await page.getByRole('link', { name: 'Report' }).click();
    await page.getByRole('button', { name: 'Make the report' }).click();
    await page.getByRole('link', { name: 'Open the paper' }).waitFor();
    expect(await seriousOf(page)).toEqual([]);
    const first = page.url();
    const paper = await page.request.get(`${first.replace('/reports/', '/api/v1/reports/')}/paper`);
    expect([paper.headers()['content-type'], (await paper.body()).subarray(0, 5).toString()]).toEqual(['application/pdf', '%PDF-']);
    await page.getByLabel('Why it is made again').fill('a reading was read again');
    await page.getByRole('button', { name: 'Make the report' }).click();
    await expect(page.getByText('a reading was read again')).toBeVisible();
    await page.goto(first);
    await expect(page.getByText(/It is not to be used any more/)).toBeVisible();
    // And from any number back to its papers.
    await page.goto(`${app.url}/ledger?text=Q-105&method=temperature`);
    await rows.first().click();
    await expect(thread.locator('li', { hasText: 'not to be used any more' })).toHaveCount(1);
    await thread.getByRole('link', { name: 'R-2' }).click();
    await expect(page).toHaveURL(/\/reports\//);
  });

  it('a mix is revised for a day to come, and nothing shows it before; a specification is replaced', async ({ browser }) => {
    const page = await app.device(browser, /Oakhanger/);
    await shelf(page, 'Mixes').click();
    expect(await seriousOf(page)).toEqual([]);
    await page.getByRole('link', { name: /D-32A/ }).click();
    await expect(page.locator('km-trends canvas').first()).toBeVisible();
    await page.goBack();
    await page.getByRole('link', { name: /P-40S/ }).click();
    await expect(page.getByText('in force').first()).toBeVisible();
    expect(await seriousOf(page)).toEqual([]);
    await page.getByRole('link', { name: 'Revise' }).click();
    const later = inDays(5);
    await keyMoment(page.getByLabel('Batched so from'), `${later} 06:00`);
    await page.getByLabel('Mass of ingredient 1').fill('400');
    await page.getByLabel('What was changed, and why').fill('more cement for the winter');
    await page.getByRole('button', { name: 'Keep this revision' }).click();
    await expect(page.getByRole('heading', { name: 'Revision 2' })).toBeVisible();
    await expect(page.getByText('380 kg')).toBeVisible();
    await page.getByRole('button', { name: 'Look at it' }).click();
    await expect(page.getByText('400 kg')).toBeVisible();
    await page.getByRole('link', { name: 'Pier concrete, 03 31 10' }).click();
    await page.getByRole('link', { name: 'Replace it' }).click();
    await page.locator('#why').fill('letter of the engineer');
    await page.locator('#upper2').fill('30');
    await page.getByRole('button', { name: 'Keep this specification' }).click();
    await expect(page.getByText('letter of the engineer')).toBeVisible();
    await page.goto(`${app.url}/mixes`);
    await page.getByRole('link', { name: /P-40S/ }).click();
    await expect(page.getByRole('button', { name: 'rev. 3' })).toBeVisible();
    // A source: what was found of it, as it was known at a day.
    await page.goto(`${app.url}/mixes`);
    await page.getByRole('link', { name: /Brackdown sand/ }).click();
    await expect(page.locator('[data-property="absorption"]')).toContainText('out');
    expect(await seriousOf(page)).toEqual([]);
    const early = inDays(-80);
    await keyMoment(page.getByLabel('Values as of', { exact: true }), `${early} 12:00`);
    await expect(page.locator('[data-property="absorption"]')).toContainText('within');
  });

  it('the whole record is given to another installation, and is the same there', async ({ browser }) => {
    const other = new App('E2E_EMPTY');
    await other.prepare();
    await other.start();
    const here = await app.device(browser, /Oakhanger/);
    await shelf(here, 'Ledger').click();
    await here.getByRole('button', { name: 'Export' }).click();
    const [record] = await Promise.all([here.waitForEvent('download'), here.getByRole('link', { name: 'The whole record' }).click()]);
    const file = await record.path();

    const there = await (await browser.newContext()).newPage();
    there.setDefaultTimeout(30_000);
    await there.goto(`${other.url}/bring`);
    expect(await seriousOf(there)).toEqual([]);
    // One that was changed on its way is refused at its line.
    const lines = readFileSync(file, 'utf8').split('\n');
    const broken = { name: 'record.ndjson', mimeType: 'application/x-ndjson', buffer: Buffer.from(lines.slice(0, -3).join('\n')) };
    await there.locator('input[type=file]').setInputFiles(broken);
    await expect(there.getByText(/The file ends too early/)).toBeVisible();
    await there.locator('input[type=file]').setInputFiles({ ...broken, buffer: readFileSync(file) });
    await expect(there.getByText('Nothing was brought in yet.')).toBeVisible();
    await expect(there.getByText('readings and facts')).toBeVisible();
    expect(await seriousOf(there)).toEqual([]);
    await there.getByTestId('bring').click();
    await there.getByTestId('open').click();
    await there.getByRole('button', { name: /Oakhanger/ }).click();
    await there.waitForURL('**/day');
    await shelf(there, 'Pours').click();
    await there.waitForURL('**/pours');
    await expect(there.locator('km-pours-list').getByText('Boardwalk span 4')).toBeVisible();
    const project = JSON.parse(lines[0]!) as { project: { id: string } };
    const csv = async (page: Page, url: string) =>
      (await page.request.get(`${url}/api/v1/ledger/export?project=${project.project.id}&format=csv`)).text();
    const [mine, theirs] = [await csv(here, app.url), await csv(there, other.url)];
    expect(theirs.split('\n').length).toBeGreaterThan(100);
    expect(theirs).toBe(mine);
    await other.end();
  });
});
