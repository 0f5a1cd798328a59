import { PassThrough } from 'node:stream';
import type { Problem, Project, Report, Sheet } from '@keen-mortar/contract';
import { METHODS, PROPERTIES, evaluate, lineWords, unitLabel, type ResultField, type Variant } from '@keen-mortar/core';
import { exampleOf } from '@keen-mortar/core/examples';
import { openSync, type Font } from 'fontkit';
import ExcelJs from 'exceljs';
import Papa from 'papaparse';
import { idFor } from '../src/demo.js';
import { send } from '../src/exchange.js';
import { FONTS, printable, printableFormula } from '../src/reports/paper.js';
import { Bench, at, by, projectId, reading } from './bench.js';
import { Harness, id } from './harness.js';
import { wordsOf } from './papers.js';

describe('what leaves the program', () => {
  let h: Harness;
  let b: Bench;
  beforeAll(async () => {
    h = await Harness.withDemo();
    b = new Bench(h);
  });
  afterAll(() => h.stop());

  const issue = (scope: object, more: object = {}) => h.post<Report & Problem>('/reports', { id: id(), by, projectId, scope, ...more });
  const paper = async (reportId: string) => new Uint8Array(await h.bytes(`/reports/${reportId}/paper`));
  const sampleId = idFor('sample span-4-1');

  it('a report of a sample has the digits of the screen, whose they are, and what they were found by', async () => {
    const { status, body } = await issue({ of: 'item', itemId: sampleId }, { client: 'Tarrowby Works' });
    expect([status, body.replaces, body.title.includes('Sample')]).toEqual([201, null, true]);
    const testId = (await h.get<Sheet>(`/items/${sampleId}`)).body.tests[0]!.id;
    expect((await h.get<{ items: Report[] }>(`/tests/${testId}/reports`)).body.items.map((r) => r.id)).toContain(body.id);
    const pages = await wordsOf(await paper(body.id));
    const text = pages.join(' ');
    const { tests } = (await h.get<Sheet>(`/items/${sampleId}`)).body;
    expect(tests.length).toBeGreaterThan(2);
    for (const t of tests.filter((one) => one.kept && one.kept.evaluation.validity.state !== 'void'))
      for (const r of t.kept!.evaluation.results.filter((one) => one.reported !== null))
        expect(text).toContain(printable(`${r.reported!} ${unitLabel(r.unit)}`.trim()));
    for (const words of [
      `R-${body.number}`,
      'Tarrowby Works',
      'ASTM C143/C143M',
      'Rosalind Oakhanger',
      'D-32A',
      'Measure 1',
      'F-42',
      'wind from the sea, air temperature 15',
    ])
      expect(text).toContain(words);
    // A worksheet: how the figures came of the readings.
    const slump = tests.find((t) => t.method === 'slump')!.kept!.evaluation;
    for (const line of slump.working) expect(text).toContain(printableFormula(lineWords(line)));
    // A stopwatch shows minutes and seconds: no unit stands behind them.
    expect(text).toMatch(/Whole test \d:\d\d\. /);
    expect(pages.map((p, i) => p.includes(`Page ${i + 1} of ${pages.length}`))).toEqual(pages.map(() => true));
  });

  it('is issued again after a correction with why, says what it replaces, and the one before stays as it was', async () => {
    const load = await b.load(1077 + 20);
    const sample = await b.sample(load);
    const testId = await b.start(sample, 'temperature');
    const first = reading('temperature', '18.0', 'C');
    await b.keep(testId, [first]);
    const before = (await issue({ of: 'item', itemId: sample })).body;
    await b.keep(testId, [reading('temperature', '19.5', 'C', { supersedes: first.id, reason: 'two digits had changed places' })]);
    const refused = await issue({ of: 'item', itemId: sample });
    expect([refused.status, refused.body.errors?.[0]?.path]).toEqual([422, 'why']);
    const after = (await issue({ of: 'item', itemId: sample }, { why: 'a reading was corrected' })).body;
    const [old, now] = [(await wordsOf(await paper(before.id))).join(' '), (await wordsOf(await paper(after.id))).join(' ')];
    expect([after.replaces, (await h.get<Report>(`/reports/${before.id}`)).body.replacedBy]).toEqual([before.number, after.number]);
    expect([old.includes('18.0 °C'), old.includes('19.5 °C')]).toEqual([true, false]);
    for (const words of [`Replaces R-${before.number}`, 'a reading was corrected', '19.5 °C', 'two digits had changed places'])
      expect(now).toContain(words);
  });

  it('of a day and of a month it has every test of then, and what is out stands first', async () => {
    const month = (await issue({ of: 'month', subjectId: idFor('source sand'), month: '2026-11' })).body;
    const text = (await wordsOf(await paper(month.id))).join(' ');
    const rows = await h.count(
      'ledger l JOIN item i ON i.id = l.item_id',
      "l.subject_id = ? AND l.at >= '2026-11-01' AND l.at < '2026-12-01'",
      [idFor('source sand')],
    );
    expect([month.tests, month.title]).toEqual([rows, 'Brackdown sand, November 2026']);
    expect(text.indexOf('Absorption 2.')).toBeGreaterThan(0);
    expect(text.indexOf('Absorption 2.')).toBeLessThan(text.indexOf('Fine aggregate'));
    expect((await issue({ of: 'day', day: '2026-11-25' })).body.tests).toBeGreaterThan(5);
  });

  it('says by whose figures, with which kit and why all the same a test was made', async () => {
    const b = new Bench(h);
    const measure = id();
    await h.post('/equipment', {
      id: measure,
      by,
      projectId,
      kind: 'measure',
      name: 'Measure 8',
      values: [{ item: 'measure.nominal', value: { text: '7', unit: 'L' } }],
    });
    await h.post('/own-copies', {
      id: id(),
      by,
      projectId,
      method: 'density',
      variant: 'en',
      why: 'the client reads to 5',
      figures: { 'increments|kg/m3': '5' },
    });
    const sample = await b.sample(await b.load(3081));
    const more = {
      variant: 'en',
      equipmentId: measure,
      alsoIds: [idFor('balance-1')],
      kitReason: 'no other on site',
      startedAt: new Date(Date.now() + 1000).toISOString(),
    };
    const testId = await b.start(sample, 'density', more);
    await b.keep(testId, [reading('full', '19.31', 'kg'), reading('empty', '3.187', 'kg'), reading('volume', '7.04', 'L')]);
    const { body } = await issue({ of: 'item', itemId: sample });
    const text = (await wordsOf(await paper(body.id))).join(' ');
    for (const words of [
      'Measure 8, not calibrated; Balance 1, 30 kg, calibrated 2026',
      'Used all the same: no other on site',
      'reported to 5 kg/m³ (in print 10 kg/m³)',
    ])
      expect(text).toContain(printable(words));
  });

  it('refuses what there is nothing of, and another project’s', async () => {
    expect((await issue({ of: 'day', day: '1990-01-01' })).body.errors?.[0]?.code).toBe('nothing');
    expect((await issue({ of: 'item', itemId: id() })).body.errors?.[0]?.path).toBe('scope.itemId');
    expect((await issue({ of: 'month', subjectId: id(), month: '2026-11' })).body.errors?.[0]?.path).toBe('scope.subjectId');
    expect((await issue({ of: 'month', subjectId: idFor('deck'), month: '2026-13' })).status).toBe(422);
  });

  it('prints a field sheet of every test, and every name that there is', async () => {
    const pages = await wordsOf(new Uint8Array(await h.bytes('/field-sheets/density')));
    for (const words of ['Density', 'ASTM C138/C138M', 'Started at', 'kg', 'Steps']) expect(pages.join(' ')).toContain(words);
    expect((await h.get('/field-sheets/hammer')).status).toBe(404);
    const names = [
      ...PROPERTIES.map((p) => p.label),
      ...METHODS.flatMap((m) => [
        m.title,
        ...Object.values(m.results as Readonly<Record<string, ResultField>>).map((r) => r.label),
        ...Object.values(m.variants as Readonly<Record<string, Variant<never>>>).flatMap((v) => [v.label, v.source.designation]),
      ]),
    ];
    const worked = METHODS.flatMap((m) => {
      const how = { variant: Object.keys(m.variants)[0]!, system: 'si', working: true } as const;
      return evaluate(m, exampleOf(m), how).working.map((line) => printableFormula(lineWords(line)));
    });
    expect(worked.length).toBeGreaterThan(300);
    names.push(...worked);
    const fonts = Object.values(FONTS).map((path) => openSync(path) as Font);
    const drawn = (text: string) => [...text].every((c) => fonts.every((f) => f.hasGlyphForCodePoint(c.codePointAt(0)!)));
    expect(names.filter((n) => (printable(n).includes('?') && !n.includes('?')) || !drawn(printable(n)))).toEqual([]);
  });

  it('what is filtered leaves as CSV, JSON and a workbook, the same tests in each', async () => {
    const query = `project=${projectId}&method=slump`;
    const csv = Papa.parse<Record<string, string>>((await h.text(`/ledger/export?${query}&format=csv`)).trimEnd(), { header: true });
    const json = JSON.parse(await h.text(`/ledger/export?${query}&format=json`)) as {
      testId: string;
      results: { reported: string | null }[];
      readings: object[];
    }[];
    expect([csv.errors, json.length]).toEqual([[], await h.count('ledger', "project_id = ? AND method = 'slump'", [projectId])]);
    expect([...new Set(csv.data.map((r) => r['test id']))]).toEqual(json.map((t) => t.testId));
    const reported = json.flatMap((t) => t.results.flatMap((r) => r.reported ?? []));
    expect(csv.data.map((r) => r['value']).filter((v) => reported.includes(v!)).length).toBe(reported.length);
    const book = new ExcelJs.Workbook();
    await book.xlsx.load(await h.bytes(`/ledger/export?${query}&format=xlsx`));
    const sheet = book.worksheets[0]!;
    expect([sheet.rowCount - 1, typeof sheet.getRow(2).getCell(8).value]).toEqual([csv.data.length, 'number']);
    expect((await h.get(`/ledger/export?${query}&format=pdf`)).status).toBe(422);
  });

  it('whoever hangs up ends it: nothing more is read, and nothing is said to have failed', async () => {
    let read = 0;
    const to = new PassThrough();
    const pages = (async function* () {
      for (; read < 1000; read++)
        yield await Promise.resolve(Array.from({ length: 200 }, () => ({ line: { method: 'slump' }, results: [], readings: [] }) as never));
    })();
    to.once('data', () => to.destroy());
    await send('json', pages, { project: {} as Project, names: new Map() }, to);
    expect(read).toBeLessThan(50);
  });

  it('what a spreadsheet would work out leaves as text', async () => {
    const name = '=HYPERLINK("http://x")';
    const { item } = await b.item('source', null, { pit: 'x', kind: 'fine' }, { name });
    const sample = await b.item('field-sample', item.id, { takenAt: at(0), from: 'stockpile' });
    await b.keep(await b.start(sample.item.id, 'wash'), [reading('before', '500.0', 'g'), reading('after', '490.0', 'g')]);
    const text = await h.text(`/ledger/export?project=${projectId}&of=${item.id}&format=csv`);
    expect(text).toContain(`"'=HYPERLINK(""http://x"")"`);
    expect(text.split('\r\n').length).toBeGreaterThan(2);
  });
});
