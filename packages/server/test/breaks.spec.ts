import type { BreakBeside, BreaksView, MixSeries, Problem, Report, Sheet, Specification, Test, WholeSeries } from '@keen-mortar/contract';
import { idFor } from '../src/demo.js';
import { seriesOf } from '../src/queries/series.js';
import { Bench, by, reading, reported } from './bench.js';
import { Harness, id, LOADED_AT } from './harness.js';
import { wordsOf } from './papers.js';

const DAY = 86_400_000;
const ago = (days: number) => new Date(LOADED_AT.getTime() - days * DAY).toISOString();
const mm = (text: string) => ({ text, unit: 'mm' });

describe('breaks and the series that they feed', () => {
  let h: Harness;
  let b: Bench;
  beforeAll(async () => {
    h = await Harness.withDemo();
    b = new Bench(h);
  });
  afterAll(() => h.stop());

  /** A set of a load of its own, cast so many days before the demonstration was loaded. */
  async function setOf(days: number, ages: readonly (number | null)[], more: object = {}, mixId = idFor('deck')) {
    const before = (minutes: number) => new Date(LOADED_AT.getTime() - days * DAY - minutes * 60_000).toISOString();
    const m3 = (text: string) => ({ text, unit: 'm3' });
    const pour = await b.item('pour', null, { element: 'Landing', planned: m3('18') }, { name: `Landing ${id()}`, subjectId: mixId });
    const materials = [{ name: 'All', role: 'coarse', actual: { text: '13000', unit: 'kg' } }];
    const truck = { ticket: 'F-1', truck: 'Truck 2', batchedAt: before(60), design: m3('6'), materials };
    const load = await b.item('load', pour.item.id, truck);
    const sample = await b.item('sample', load.item.id, { portions: [{ at: before(20) }] });
    const set = id();
    const answer = await h.post<Sheet & Problem>(`/items/${sample.item.id}/specimens`, {
      id: set,
      by,
      facts: { madeAt: ago(days), shape: 'cylinder', width: mm('100'), length: mm('200'), curing: 'standard', ...more },
      specimens: ages.map((age) => ({ id: id(), age: age === null ? null : { text: String(age), unit: 'd' } })),
    });
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
    return { set, specimens: [...answer.body.children].sort((x, y) => (x.code < y.code ? -1 : 1)).map((c) => c.id) };
  }
  const figures = (load: string) => [
    reading('d1', '101.5', 'mm'),
    reading('d2', '101.5', 'mm'),
    reading('length', '203', 'mm'),
    reading('load', load, 'kN'),
  ];
  async function breakOne(specimen: string, load: string, more: object = {}): Promise<Test> {
    const testId = await b.start(specimen, 'cylinder', { startedAt: LOADED_AT.toISOString(), ...more });
    const answer = await b.keep<{ test: Test } & Problem>(testId, figures(load));
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
    return answer.body.test;
  }
  const beside = async (specimen: string) => (await h.get<BreakBeside>(`/breaks/${specimen}`)).body;

  it('a strength test follows its specimens: the mean, a correction, one left out with a cause, one taken back', async () => {
    const { specimens } = await setOf(28, [28, 28, 28, null]);
    const tests: Test[] = [];
    for (const [i, load] of ['294', '300', '240'].entries()) tests.push(await breakOne(specimens[i]!, load));
    const now = async () => (await beside(specimens[0]!)).tests[0]!;
    const first = await now();
    expect([first.reported, first.count, first.planned, first.apart, first.notFor]).toEqual(['34.4', 3, 3, true, 'waits']);
    const load = tests[2]!.readings.find((r) => r.field === 'load')!;
    await b.keep(tests[2]!.id, [reading('load', '246', 'kN', { supersedes: load.id, reason: 'read wrong' })]);
    expect((await now()).reported).toBe('34.6');
    const left = { id: id(), field: 'left', text: 'a cap came off', unit: null, at: LOADED_AT.toISOString() };
    expect((await h.post(`/items/${specimens[2]!}/entries`, { id: id(), by, readings: [left] })).status).toBe(201);
    const after = await now();
    expect([after.reported, after.count, after.apart, after.notFor]).toEqual(['36.7', 2, false, 'few']);
    await h.post(`/items/${specimens[1]!}/voiding`, { id: id(), by, voided: true, reason: 'another’s label', at: LOADED_AT.toISOString() });
    expect([(await now()).reported, (await now()).count]).toEqual(['36.3', 1]);
  });

  it('nothing is broken twice, whoever asks; what is lost leaves the queue; with the structure is for no acceptance', async () => {
    const { set, specimens } = await setOf(28, [28, 28, 28]);
    const [one, other] = [await b.start(specimens[0]!, 'cylinder'), await b.start(specimens[0]!, 'cylinder')];
    expect((await b.keep(one, figures('300'))).status).toBe(201);
    // Both were begun before either was kept.
    const refused = await b.keep<Problem>(other, figures('290'));
    expect([refused.status, refused.body.code]).toEqual([409, 'already-broken']);
    const begun = {
      id: id(),
      by,
      method: 'cylinder',
      variant: 'c39',
      system: 'si',
      startedAt: LOADED_AT.toISOString(),
      equipmentId: null,
      retestOf: null,
    };
    expect((await h.post<Problem>(`/items/${specimens[0]!}/tests`, begun)).body.code).toBe('already-broken');
    const waiting = async () =>
      (await h.get<BreaksView>(`/breaks?project=${await b.project()}`)).body.queue
        .find((q) => q.setId === set)
        ?.specimens.map((s) => s.id) ?? [];
    const dues = () => h.count('due', `item_id = ? AND due = 'break'`, [specimens[1]!]);
    expect(await dues()).toBe(1);
    const became = { id: id(), field: 'became', text: 'damaged', unit: null, at: LOADED_AT.toISOString() };
    await h.post(`/items/${specimens[1]!}/entries`, { id: id(), by, readings: [became] });
    expect([await dues(), await waiting()].flat()).not.toContain(specimens[1]!);
    const field = await setOf(7, [7, 7], { curing: 'field' });
    await breakOne(field.specimens[0]!, '210');
    expect((await beside(field.specimens[0]!)).tests[0]!.notFor).toBe('field');
  });

  it('pads are counted use by use, and the count stands on the test', async () => {
    const pads = id();
    const values = [{ item: 'pads.hardness', value: { text: '60', unit: '1' } }];
    const shelved = await h.post<Problem>('/equipment', {
      id: pads,
      by,
      projectId: await b.project(),
      kind: 'pads',
      name: `Pads ${pads.slice(0, 8)}`,
      values,
    });
    expect(shelved.status).toBe(201);
    const { specimens } = await setOf(28, [28, 28]);
    const used = [];
    for (const [i, s] of specimens.entries()) {
      const startedAt = new Date(LOADED_AT.getTime() - (2 - i) * 60_000).toISOString();
      used.push((await breakOne(s, '300', { alsoIds: [pads], startedAt })).kept?.inputs['uses']);
    }
    expect(used).toEqual(['1', '2'].map((text) => jasmine.objectContaining({ text })));
    // In the demonstration somebody counted too late.
    const worn = await h.count('evaluation e JOIN test t ON t.id = e.test_id', `t.method = 'cylinder' AND e.frozen LIKE '%pads-worn%'`);
    expect(worn).toBe(6);
  });

  it('the series of the deck mix comes with what the record says of each test, and as columns', async () => {
    const { body } = await h.get<MixSeries>(`/mixes/${idFor('deck')}/series`);
    const counted = body.tests.filter((t) => t.notFor === null);
    const label = (id: string) => body.traits.find((t) => t.id === id)?.label ?? '';
    const of = (words: string) => counted.filter((t) => t.traits.some((one) => label(one).includes(words))).length;
    // The one after the cold night counts since somebody decided so; the one on worn pads waits.
    expect([body.accepted.specified?.text, of('Press 1'), of('Cold in the first two days')]).toEqual(['32', counted.length, 1]);
    expect(body.tests.filter((t) => t.notFor === 'waits').length).toBe(1);
    // All from one plant; the season went by degrees.
    expect(of('Plant Fernhaul')).toBe(counted.length);
    expect(of('Air at 10 to 20 °C') + of('Air at 20 to 30 °C')).toBe(counted.length);
    expect(of('absorption 1.3 to 2.1 %')).toBeGreaterThan(3);
    expect(of('absorption 1.3 to 2.1 %')).toBeLessThan(counted.length / 3);
    const { waiting } = await seriesOf(h.pool, idFor('deck'), LOADED_AT);
    expect([body.field.length >= 2, waiting.some((w) => w.early !== null)]).toEqual([true, true]);
    const whole = (await h.get<WholeSeries>(`/mixes/${idFor('deck')}/series/whole`)).body;
    expect(whole.strength).toEqual(counted.map((t) => t.strength.text));
    const csv = await h.text(`/mixes/${idFor('deck')}/series.csv`);
    expect(csv.split('\r\n').length).toBe(body.tests.length + 2);
  });

  it('the specification says at which age and by whose rules; other ages and kinds have limits of their own', async () => {
    const projectId = await b.project();
    const limit = (property: string, lower: string, more: object = {}) => ({
      id: id(),
      property,
      unit: 'MPa',
      lower,
      source: 'S',
      ...more,
    });
    const specification = { id: id(), by, projectId, name: `Late ${id()}`, comparison: 'reported', school: 'is' };
    const refused = await h.post<Problem>('/specifications', {
      ...specification,
      limits: [{ id: id(), property: 'slump', unit: 'mm', upper: '120', source: 'S', atDays: 28 }],
    });
    expect([refused.status, refused.body.errors?.[0]?.path]).toEqual([422, 'limits.0.atDays']);
    const limits = [limit('strength', '36', { atDays: 56 }), limit('strength', '20', { atDays: 3 }), limit('flexure', '4.5')];
    expect((await h.post<Specification>('/specifications', { ...specification, limits })).body).toEqual(
      jasmine.objectContaining({ school: 'is', limits }),
    );
    const mixId = id();
    const ingredients = [
      { name: 'Cement', role: 'cement', mass: { text: '340', unit: 'kg' }, sg: '3.15' },
      { name: 'Water', role: 'water', mass: { text: '160', unit: 'kg' }, sg: '1.000' },
    ];
    const revision = {
      id: id(),
      effectiveFrom: ago(200),
      largest: mm('25'),
      nominal: mm('19'),
      air: '6.0',
      specificationIds: [specification.id],
      ingredients,
    };
    expect((await h.post('/mixes', { id: mixId, by, projectId, code: `L-${mixId.slice(0, 4)}`, name: 'Late', revision })).status).toBe(201);
    const late = await setOf(56, [56, 56, 56], {}, mixId);
    for (const s of late.specimens) await breakOne(s, '300');
    const young = await setOf(28, [28, 28, 28], {}, mixId);
    for (const s of young.specimens) await breakOne(s, '200');
    const { accepted, before, tests } = await beside(young.specimens[0]!);
    expect([accepted, before, tests[0]!.reported]).toEqual([
      { specified: { text: '36', unit: 'MPa' }, ageDays: 56, school: 'is' },
      [{ text: '37.1', unit: 'MPa' }],
      '24.7',
    ]);
    // Of 28 days nobody asks anything: it is low for no one.
    expect((await h.get(`/breaks/${young.specimens[0]!}/letter`)).status).toBe(404);
    const series = (await h.get<MixSeries>(`/mixes/${mixId}/series`)).body;
    expect([series.accepted.ageDays, series.tests.map((t) => t.strength.text), series.earlier]).toEqual([56, ['37.1'], 0]);
    expect((await h.get<WholeSeries>(`/mixes/${mixId}/series/whole`)).body.strength).toEqual(['37.1']);
    // At another age nothing is accepted: said, and never taken for the one that is.
    const none = await h.get<Problem>(`/mixes/${mixId}/series?age=28`);
    expect([none.status, none.body.errors?.[0]?.path, none.body.errors?.[0]?.message]).toEqual([
      422,
      'age',
      'Nothing is accepted at 28 days; this mix is accepted at 56.',
    ]);
    // A beam is compared with what is asked of beams, and says so in the report.
    const bent = await setOf(28, [28, 28], { shape: 'beam', width: mm('150'), length: mm('500') }, mixId);
    const rows = (field: string, column: string) => [1, 2, 3].map((n) => reading(`${field}.00000000${n}abcdef.${column}`, '150', 'mm'));
    for (const s of bent.specimens) {
      const testId = await b.start(s, 'flexure', { startedAt: LOADED_AT.toISOString() });
      const kept = await b.keep(testId, [
        reading('span', '450', 'mm'),
        reading('load', '31.5', 'kN'),
        ...rows('widths', 'b'),
        ...rows('depths', 'd'),
        reading('at', '160', 'mm'),
      ]);
      expect(kept.status).toBe(201);
    }
    const report = { id: id(), by, projectId, scope: { of: 'item', itemId: bent.set } };
    expect((await h.post('/reports', report)).status).toBe(201);
    const words = (await wordsOf(new Uint8Array(await h.bytes(`/reports/${report.id}/paper`)))).join(' ');
    expect(words).toContain('At 28 days: 4.20 MPa, the mean of 2 of 2 companions. It must be at least 4.5 MPa.');
    // What several tests mean together stands at the head, before any of them.
    expect(words).toMatch(/not limited\. Strength test: At 28 days: 4\.20 MPa, [^.]+\. It must be at least 4\.5 MPa\. Strength tests/);
    // Asked for at two ages: each is a series of its own.
    const both = { ...specification, id: id(), limits: [limit('strength', '20', { atDays: 28 }), limit('strength', '36', { atDays: 56 })] };
    expect((await h.post('/specifications', both)).status).toBe(201);
    const again = { ...revision, id: id(), effectiveFrom: ago(100), specificationIds: [both.id], why: 'asked for at 28 days too' };
    expect((await h.post(`/mixes/${mixId}/revisions`, { ...again, by })).status).toBe(201);
    for (const [age, strength] of Object.entries({ 28: '24.7', 56: '37.1' })) {
      const { body } = await h.get<MixSeries>(`/mixes/${mixId}/series?age=${age}`);
      expect([body.ages, body.accepted.ageDays, body.tests.map((t) => t.strength.text)]).toEqual([[28, 56], Number(age), [strength]]);
    }
  });

  it('a report of breaks says whether it is the last word; a letter tells of a low one, and of no other', async () => {
    const { set, specimens } = await setOf(28, [7, 28, 28, 28, null], { tank: 'Tank at the shed' });
    for (const [i, s] of specimens.slice(1, 4).entries()) await breakOne(s, String(220 + i));
    const report = async (why?: string) => {
      const body = {
        id: id(),
        by,
        projectId: await b.project(),
        scope: { of: 'item', itemId: set },
        ...(why === undefined ? {} : { why }),
      };
      const made = await h.post<Report & Problem>('/reports', body);
      return { title: made.body.title, words: (await wordsOf(new Uint8Array(await h.bytes(`/reports/${made.body.id}/paper`)))).join(' ') };
    };
    const interim = await report();
    expect(interim.title).toContain('interim');
    expect(interim.words).toContain('Still to come');
    expect(interim.words).toMatch(/28 d ± 20 h\s+27\.3 MPa/);
    await breakOne(specimens[0]!, '200');
    expect((await report('the seven days came')).title).toContain('final');
    // What it lay in: before it was cast nothing of it matters.
    const tank = await b.item('storage', null, { kind: 'tank' }, { name: 'Tank at the shed' });
    for (const [days, temperature] of Object.entries({ 3: '27.4', 9: '22.8', 40: '28.5' })) {
      const testId = await b.start(tank.item.id, 'storage', { startedAt: ago(Number(days)) });
      expect((await b.keep(testId, [reading('temperature', temperature, 'C')])).status).toBe(201);
    }
    const words = (await wordsOf(new Uint8Array(await h.bytes(`/breaks/${specimens[1]!}/letter`)))).join(' ').replace(/\s+/g, ' ');
    expect(words).toMatch(/Tank at the shed was not as asked on \d+ \w+ 20\d\d\. It is 27\.4 °C where the specimens lie/);
    expect(words).toContain('below the least that a single test may be, 28.5 MPa');
    expect(words).toContain('The engineer');
    expect((await h.get(`/breaks/${specimens[0]!}/letter`)).status).toBe(404);
    expect(reported(await breakOne((await setOf(28, [28])).specimens[0]!, '300'), 'strength')).toBe('37.1');
  });
});
