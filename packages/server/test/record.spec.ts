import type { Item, KeepAnswer, LedgerPage, Pour, Problem, Revision, Sample, Sheet, Test, TestTurn } from '@keen-mortar/contract';
import { ITEM_KINDS } from '@keen-mortar/core';
import { createConnection } from 'mysql2/promise';
import { idFor } from '../src/demo.js';
import { forgetWrites } from '../src/forget.js';
import { Bench, at, by, exampleReadings, projectId, reading, reported } from './bench.js';
import { Harness, id, urls } from './harness.js';

describe('the record of any item', () => {
  let h: Harness;
  let b: Bench;
  beforeAll(async () => {
    h = await Harness.withDemo();
    b = new Bench(h);
  });
  afterAll(() => h.stop());

  it('holds every method on the kinds that its definition names: made, kept, corrected', async () => {
    const source = await b.item('source', null, { pit: 'Brackdown', kind: 'fine' }, { name: `Brackdown sand ${id()}` });
    const field = await b.item('field-sample', source.item.id, { takenAt: at(0), from: 'stockpile' });
    expect(field.line.map((i) => i.kind)).toEqual(['source', 'field-sample']);
    expect([field.item.code.slice(0, 2), field.item.subjectId]).toEqual(['B-', source.item.id]);
    const testId = await b.start(field.item.id, 'gradation');
    const { test } = (await b.keep(testId, exampleReadings('gradation'))).body;
    const rows = (t: Test) => (t.kept!.inputs['sieves'] as unknown[]).length;
    const held = test.readings.find((r) => r.field.endsWith('.retained'))!;
    const row = held.field.split('.').slice(0, 2).join('.');
    const struck = await b.keep<KeepAnswer & Problem>(testId, [reading(row, null, null, { reason: 'not a sieve of this stack' })]);
    expect(struck.status).toBe(201);
    expect(rows(struck.body.test)).toBe(rows(test) - 1);
    const silent = await b.keep<Problem>(testId, [reading(held.field, '1.0', 'g')]);
    expect(silent.body.errors?.[0]?.code).toBe('already-read');
    // A row that was struck out may be put right again, by whoever says which entry that takes back.
    const entry = struck.body.test.readings.find((r) => r.field === row)!;
    expect([entry.text, entry.reason]).toEqual([null, 'not a sieve of this stack']);
  });

  it('takes two hundred rows in one keep, and rows that come later after them', async () => {
    const structure = await b.item('structure', null, {}, { name: `Footbridge ${id()}` });
    const element = await b.item('element', structure.item.id, { kind: 'deck' }, { name: 'Deck 4' });
    const area = await b.item('area', element.item.id, {}, { name: 'North half' });
    const testId = await b.start(area.item.id, 'rebound');
    const rows = Array.from({ length: 12 }, (_r, i) => reading(`readings.${String(i).padStart(4, '0')}.value`, String(36 + (i % 5)), '1'));
    const { test } = (await b.keep(testId, rows)).body;
    expect(test.kept?.evaluation.results.find((r) => r.id === 'number')?.state).toBe('given');
    const more = Array.from({ length: 188 }, (_r, i) =>
      reading(`readings.k${String(i).padStart(4, '0')}.value`, String(36 + (i % 5)), '1'),
    );
    const all = await b.keep(testId, more);
    expect(all.status).toBe(201);
    expect((all.body.test.kept?.inputs['readings'] as unknown[]).length).toBe(200);
  });

  it('refuses a method that is not made on such an item, and an item where it does not lie', async () => {
    const source = await b.item('source', null, { pit: 'Pellick', kind: 'coarse' }, { name: `Pellick 19 ${id()}` });
    const wrong = await h.post<Problem>(`/items/${source.item.id}/tests`, {
      id: id(),
      by,
      method: 'slump',
      variant: 'us',
      system: 'si',
      startedAt: at(0),
      equipmentId: null,
      retestOf: null,
    });
    expect(wrong.body.errors?.[0]?.code).toBe('not-on-this');
    const misplaced = await h.post<Problem>('/items', {
      id: id(),
      by,
      kind: 'specimen',
      projectId: source.item.projectId,
      parentId: source.item.id,
      facts: {},
    });
    expect(misplaced.body.errors?.[0]?.code).toBe('wrong-place');
  });

  it('numbers and letters as people call them', async () => {
    const set = await b.item('specimen-set', idFor('sample span-4-1'), {
      madeAt: at(0),
      shape: 'cylinder',
      width: { text: '100', unit: 'mm' },
      length: { text: '200', unit: 'mm' },
    });
    const codes = [];
    for (let i = 0; i < 3; i++) codes.push((await b.item('specimen', set.item.id)).item.code);
    expect(codes).toEqual(['A', 'B', 'C'].map((letter) => `${set.item.code}-${letter}`));
  });

  it('water keyed late moves the yield, says why, and keeps what it was', async () => {
    const before = (await h.get<Sample>(`/samples/${idFor('sample span-4-1')}`)).body;
    const test = before.tests.find((t) => t.method === 'yield')!;
    // The test of its w/cm takes the ticket as it is: nobody copies it.
    const wcmTest = await b.start(before.load.id, 'actual-wcm', { startedAt: before.load.batchedAt });
    const wcm = (await b.keep<{ test: Test }>(wcmTest, [])).body.test;
    expect(wcm.kept?.evaluation.missing).toEqual([]);
    expect((await b.keep<Problem>(wcmTest, [])).body.errors?.[0]?.code).toBe('needs-reading');
    await h.post(`/loads/${before.load.id}/water`, {
      id: id(),
      by,
      mass: { text: '120', unit: 'L' },
      at: before.load.batchedAt,
      reason: 'told late',
    });
    const after = (await h.get<Sample>(`/samples/${before.id}`)).body.tests.find((t) => t.id === test.id)!;
    expect(reported(after, 'yield')).not.toEqual(reported(test, 'yield'));
    const watered = (await h.get<Test>(`/tests/${wcmTest}`)).body;
    const found = (await h.get<Sheet>(`/items/${before.load.id}`)).body.findings.find((f) => f.finding === 'load-wcm')!;
    expect(Number(reported(watered, 'wcm'))).toBeGreaterThan(Number(reported(wcm, 'wcm')));
    expect(found.says).toContain(`w/cm ${reported(watered, 'wcm')} `);
    expect([after.kept?.cause, after.kept?.turn]).toEqual(['facts', test.kept!.turn + 1]);
    // Its history says what moved it, and by whom; nobody corrected it.
    const { items } = (await h.get<{ items: TestTurn[] }>(`/tests/${test.id}/turns`)).body;
    expect(items.at(-1)!.because).toEqual([
      { says: jasmine.stringMatching(/^Water added on site: how much 120 L, added at \d\d:\d\d$/), by },
    ]);
    const { rows } = (await h.get<LedgerPage>(`/ledger?project=${projectId}&text=${before.label}&method=yield&limit=5`)).body;
    expect(rows.filter((r) => r.testId === test.id).map((r) => r.corrected)).toEqual([0]);
    expect(await h.count('evaluation', 'test_id = ?', [test.id])).toBe(test.kept!.turn + 2);
    // What did not stand on the batch is not made again.
    const slump = (t: Sample) => t.tests.find((x) => x.method === 'temperature')!.kept!.turn;
    expect(slump((await h.get<Sample>(`/samples/${before.id}`)).body)).toBe(slump(before));
  });

  it('amends a ticket with a reason, and keeps what it amends', async () => {
    const load = (await h.get<Sheet>(`/items/${idFor('span-4-2')}`)).body;
    const truck = load.entries.find((e) => e.field === 'truck')!;
    const amend = (more: object) =>
      h.post<Sheet & Problem>(`/items/${load.item.id}/entries`, {
        id: id(),
        by,
        readings: [{ id: id(), field: 'truck', text: 'Truck 99', unit: null, at: at(0), supersedes: truck.id, ...more }],
      });
    expect((await amend({})).body.code).toBe('needs-reason');
    const amended = (await amend({ reason: 'read from the wrong ticket' })).body;
    expect((amended.item.facts as unknown as { truck: string }).truck).toBe('Truck 99');
    expect(amended.entries.filter((e) => e.field === 'truck').map((e) => e.text)).toEqual([truck.text, 'Truck 99']);
  });

  it('a calibration keyed later moves nothing that was started before it', async () => {
    const sample = (await h.get<Sample>(`/samples/${idFor('sample span-4-3')}`)).body;
    const test = sample.tests.find((t) => t.method === 'yield')!;
    await h.post(`/equipment/${test.equipmentId}/calibrations`, {
      id: id(),
      by,
      on: test.startedAt.slice(0, 10),
      values: [{ item: 'measure.volume', value: { text: '7.500', unit: 'L' } }],
    });
    const centre = test.readings.find((r) => r.field === 'full')!;
    const corrected = await b.keep(test.id, [
      { ...reading('full', centre.text, centre.unit), supersedes: centre.id, reason: 'looked at the balance again' },
    ]);
    expect(reported(corrected.body.test, 'density')).toBe(reported(test, 'density'));
    expect(corrected.body.test.kept?.inputs['volume']).toEqual(test.kept?.inputs['volume']);
    const tomorrow = new Date(Date.now() + 3 * 86_400_000).toISOString().slice(0, 10);
    const ahead = await h.post<Problem>(`/equipment/${test.equipmentId}/calibrations`, { id: id(), by, on: tomorrow, values: [] });
    expect(ahead.body.errors?.[0]?.code).toBe('not-yet');
  });

  it('a repeat that is only opened, or void itself, hides no failure', async () => {
    const loadId = idFor('span-4-5');
    const pour = async () =>
      (await h.get<Pour & { sampleList: { id: string; marks: { method: string; state: string }[] }[] }>(`/pours/${idFor('span-4')}`)).body;
    const sampleId = id();
    await h.post('/samples', { id: sampleId, by, loadId, firstPortionAt: at(0) });
    await h.post(`/samples/${sampleId}/events`, { id: id(), by, kind: 'portion', at: at(30), part: 'middle' });
    await h.post(`/samples/${sampleId}/events`, { id: id(), by, kind: 'finished', at: at(60) });
    const heap = (centre: string, shape = 'true') => [
      reading('shape', shape, null),
      reading('mold', '300', 'mm'),
      reading('centre', centre, 'mm'),
    ];
    const outs = (await pour()).out;
    const first = await b.start(sampleId, 'slump', { startedAt: at(120) });
    await b.keep(first, heap('170'));
    const states = async () =>
      (await pour()).sampleList
        .find((s) => s.id === sampleId)!
        .marks.filter((m) => m.method === 'slump')
        .map((m) => m.state);
    expect([await states(), (await pour()).out]).toEqual([['out'], outs + 1]);
    const check = await b.start(sampleId, 'slump', { startedAt: at(180), retestOf: first });
    expect(await states()).toEqual(['out']);
    await b.keep(check, heap('150', 'shear'));
    expect(await states()).toEqual(['out']);
    const again = await b.start(sampleId, 'slump', { startedAt: at(240), retestOf: check });
    await b.keep(again, heap('190'));
    expect([await states(), (await pour()).out]).toEqual([['within'], outs]);
  });

  it('a corrected first test is known to the one that repeats it', async () => {
    const sampleId = id();
    await h.post('/samples', { id: sampleId, by, loadId: idFor('span-4-5'), firstPortionAt: at(0) });
    await h.post(`/samples/${sampleId}/events`, { id: id(), by, kind: 'portion', at: at(30), part: 'middle' });
    await h.post(`/samples/${sampleId}/events`, { id: id(), by, kind: 'finished', at: at(60) });
    const heap = (shape: string) => [reading('shape', shape, null), reading('mold', '300', 'mm'), reading('centre', '150', 'mm')];
    const first = await b.start(sampleId, 'slump', { startedAt: at(120) });
    const made = (await b.keep(first, heap('true'))).body.test;
    const second = await b.start(sampleId, 'slump', { startedAt: at(180), retestOf: first });
    const before = (await b.keep(second, heap('shear'))).body.test;
    const codes = (t: Test) => t.kept!.evaluation.validity.reasons.map((r) => r.code);
    expect(codes(before)).not.toContain('sheared-twice');
    const shape = made.readings.find((r) => r.field === 'shape')!;
    await b.keep(first, [{ ...reading('shape', 'shear', null), supersedes: shape.id, reason: 'Keyed wrong' }]);
    const after = (await h.get<Test>(`/tests/${second}`)).body;
    expect([codes(after).includes('sheared-twice'), after.kept?.cause, after.kept?.turn]).toEqual([true, 'test', 1]);
  });

  it('what was made by mistake is voided with a reason, counts no more, and stays', async () => {
    const pour = async () => (await h.get<Pour & { loadList: { id: string; voided: boolean }[] }>(`/pours/${idFor('span-4')}`)).body;
    const before = await pour();
    const loadId = id();
    await h.post(`/pours/${before.id}/loads`, {
      id: loadId,
      by,
      number: 77,
      ticket: 'X',
      reason: 'for a test',
      truck: '1',
      batchedAt: at(0),
      design: { text: '1', unit: 'm3' },
      materials: [{ name: 'All', role: 'coarse', actual: '1', unit: 'kg' }],
    });
    const put = (voided: boolean) =>
      h.post<Sheet & Problem>(`/items/${loadId}/voiding`, { id: id(), by, voided, reason: 'keyed twice', at: at(0) });
    expect((await put(true)).body.item.voided).toBeTrue();
    expect((await put(true)).body.errors?.[0]?.code).toBe('no-change');
    expect([(await pour()).loads, (await pour()).loadList.find((l) => l.id === loadId)?.voided]).toEqual([before.loads, true]);
    const onIt = await h.post<Problem>('/samples', { id: id(), by, loadId, firstPortionAt: at(10) });
    expect(onIt.body.errors?.[0]?.code).toBe('voided');
    await put(false);
    expect((await pour()).loads).toBe(before.loads + 1);
  });

  it('moments that cannot be are caught', async () => {
    const ahead = new Date(Date.now() + 400 * 86_400_000).toISOString();
    const sample = await h.post<Problem>('/samples', { id: id(), by, loadId: idFor('span-4-1'), firstPortionAt: ahead });
    expect(sample.body.errors?.[0]?.code).toBe('not-yet');
    const water = (when: string) =>
      h.post<Problem>(`/loads/${idFor('span-4-1')}/water`, { id: id(), by, mass: { text: '1', unit: 'L' }, at: when });
    expect((await water('1903-01-01T00:00:00Z')).body.errors?.[0]?.code).toBe('long-ago');
    expect((await water('2026-01-01T00:00:00Z')).body.errors?.[0]?.code).toBe('out-of-order');
  });

  it('happens once however often it is pressed, and the same write is the same on one thing only', async () => {
    const sampleId = id();
    await h.post('/samples', { id: sampleId, by, loadId: idFor('span-4-6'), firstPortionAt: at(0) });
    const presses = await Promise.all(
      Array.from({ length: 20 }, () =>
        h.post(`/samples/${sampleId}/events`, { id: id(), by, kind: 'finished', at: at(60), reason: 'the truck had gone' }),
      ),
    );
    expect(presses.filter((p) => p.status === 201).length).toBe(1);
    expect(await h.count('entry', 'owner_id = ? AND path = "finished"', [sampleId])).toBe(1);
    const [one, other] = [await b.start(sampleId, 'temperature'), await b.start(sampleId, 'temperature')];
    const body = { id: id(), by, readings: [reading('temperature', '18.5', 'C')] };
    expect((await h.post(`/tests/${one}/readings`, body)).status).toBe(201);
    const second = await h.post<Problem>(`/tests/${other}/readings`, body);
    expect([second.status, second.body.code]).toEqual([409, 'id-reused']);
    expect((await h.get(`/tests/${one.toUpperCase()}`)).status).toBe(200);
  });

  it('loads with something out are counted once, however many go out at once, and not again when they are taken back', async () => {
    const load = await b.load(81);
    const out = async () => (await h.get<Pour>(`/pours/${idFor('span-4')}`)).body.out;
    const before = await out();
    const tests: string[] = [];
    for (let i = 0; i < 6; i++) {
      const sampleId = await b.sample(load);
      tests.push(await b.start(sampleId, 'slump', { startedAt: at(120) }));
    }
    const heap = () => [reading('shape', 'true', null), reading('mold', '300', 'mm'), reading('centre', '140', 'mm')];
    const kept = await Promise.all(tests.map((t) => b.keep(t, heap())));
    expect(kept.map((k) => k.status)).toEqual(Array(6).fill(201));
    expect(await out()).toBe(before + 1);
    const put = (voided: boolean) => h.post(`/items/${load}/voiding`, { id: id(), by, voided, reason: 'keyed twice', at: at(0) });
    await put(true);
    expect(await out()).toBe(before);
    // What lies in it counts no more than it does, and nothing is tested there.
    const pour = (await h.get<{ sampleList: { loadId: string; marks: unknown[]; voided: boolean }[] }>(`/pours/${idFor('span-4')}`)).body;
    expect(pour.sampleList.filter((s) => s.loadId === load).every((s) => s.voided && s.marks.length === 0)).toBeTrue();
    await put(false);
    expect(await out()).toBe(before + 1);
  });

  it('a row of a ticket is whole, a moment is one, a name and a day fit: nothing is kept that nobody can read again', async () => {
    const load = await b.load(82);
    const code = async (readings: object[], item = load) =>
      (await h.post<Problem>(`/items/${item}/entries`, { id: id(), by, readings })).body.errors?.[0]?.code;
    const sheet = (await h.get<Sheet>(`/items/${load}`)).body;
    const mass = sheet.entries.find((e) => e.field.endsWith('.actual'))!;
    expect(await code([{ ...reading(mass.field, null, null, { reason: 'not weighed' }), supersedes: mass.id }])).toBe('needs-fact');
    expect(await code([reading('materials.zz.name', 'Sand', null)])).toBe('needs-fact');
    expect(await code([reading('discharged', 'at noon', null)])).toBe('not-a-moment');
    const pour = idFor('span-3');
    expect(await code([reading('on', 'tomorrow', null)], pour)).toBe('already-read');
    const on = (await h.get<Sheet>(`/items/${pour}`)).body.entries;
    const last = (field: string) => ({ supersedes: on.findLast((e) => e.field === field)!.id, reason: 'keyed wrong' });
    expect(await code([reading('on', 'tomorrow', null, last('on'))], pour)).toBe('not-a-day');
    expect(await code([reading('name', 'x'.repeat(150), null, last('name'))], pour)).toBe('too-long');
    const bare = await h.post<Problem>('/items', {
      id: id(),
      by,
      kind: 'load',
      projectId: sheet.item.projectId,
      parentId: sheet.item.parentId,
      facts: { ticket: 'F', truck: '1', batchedAt: at(0), design: { text: '6', unit: 'm3' }, materials: [{ name: 'Sand' }] },
    });
    expect(bare.body.errors?.[0]).toEqual(jasmine.objectContaining({ code: 'needs-fact', path: 'materials.0.role' }));
    expect((await h.get(`/pours/${idFor('span-4')}`)).status).toBe(200);
  });

  it('what was kept by another core stays as it was kept', async () => {
    const sampleId = await b.sample(await b.load(83));
    const testId = await b.start(sampleId, 'temperature');
    await b.keep(testId, [reading('temperature', '18.5', 'C')]);
    const cx = await createConnection(urls.migrate);
    const change = (sql: string) => cx.query(`UPDATE evaluation SET ${sql} WHERE test_id = ?`, [testId]);
    await change(`frozen = REPLACE(frozen, '"reported":"18.5"', '"reported":"19.0"')`);
    const shown = async () => (await h.get<Test>(`/tests/${testId}`)).body.kept!;
    // By the same core it is worked out again; by another it says what it said.
    expect(reported({ kept: await shown() } as Test, 'temperature')).toBe('18.5');
    await change("core = 'another'");
    const kept = await shown();
    expect([reported({ kept } as Test, 'temperature'), kept.coreVersion, kept.evaluation.working]).toEqual(['19.0', 'another', []]);
    await cx.end();
  });

  it('a load that was batched at another time is of the revision of then, and not batched after it was sampled', async () => {
    const load = await b.load(84);
    const sampleId = await b.sample(load);
    const testId = await b.start(sampleId, 'temperature');
    await b.keep(testId, [reading('temperature', '18.5', 'C')]);
    const sheet = async () => (await h.get<Sheet>(`/items/${load}`)).body;
    const before = await sheet();
    const batched = before.entries.find((e) => e.field === 'batchedAt')!;
    const amend = (text: string, of = batched.id) =>
      h.post<Sheet & Problem>(`/items/${load}/entries`, {
        id: id(),
        by,
        readings: [reading('batchedAt', text, null, { supersedes: of, reason: 'read wrong' })],
      });
    expect((await amend(at(10))).body.errors?.[0]?.message).toContain('A portion of Q-');
    const mixId = before.mix!.id;
    const revisions = (await h.get<{ revisions: Revision[] }>(`/mixes/${mixId}`)).body.revisions;
    const { id: _i, mixId: _m, theoretical: _t, madeAt: _a, ...last } = revisions[0]!;
    const from = at(-30 * 86_400);
    await h.post(`/mixes/${mixId}/revisions`, { ...last, id: id(), by, number: 90, effectiveFrom: from, correction: '0.9' });
    const moved = await amend(at(-29 * 86_400));
    expect([moved.status, moved.body.revision?.number, moved.body.item.on] as unknown[]).toEqual([201, 90, at(-29 * 86_400).slice(0, 10)]);
    expect((await amend(at(-40 * 365 * 86_400), moved.body.entries.at(-1)!.id)).body.errors?.[0]?.code).toBe('no-revision');
  });

  it('what was written long ago is not remembered for ever, what it wrote is', async () => {
    const cx = await createConnection(urls.migrate);
    const count = () => h.count('write_log');
    const [all, items] = [await count(), await h.count('item')];
    await cx.query('UPDATE write_log SET written_at = written_at - INTERVAL 500 DAY LIMIT 3');
    await cx.end();
    expect(await forgetWrites(urls.migrate)).toBe(3);
    expect([await count(), await h.count('item')]).toEqual([all - 3, items]);
  });

  it('lists items of a kind', async () => {
    const page = (await h.get<{ items: Item[]; total: number }>(`/items?project=${await b.project()}&kind=load&limit=5`)).body;
    expect([page.items.length, page.items.every((i) => i.kind === 'load'), page.total >= 12]).toEqual([5, true, true]);
    const found = async (begins: string) =>
      (
        await h.get<{ items: Item[]; total: number }>(
          `/items?project=${await b.project()}&kind=field-sample&begins=${encodeURIComponent(begins)}`,
        )
      ).body;
    const some = await found('b-1');
    expect([some.items.length > 3, some.items.every((i) => i.code.startsWith('B-1')), some.total === some.items.length]).toEqual([
      true,
      true,
      true,
    ]);
    // By the name that it has now, too.
    const source = await b.item('source', null, { pit: 'Brackdown', kind: 'fine' }, { name: `Sand ${id()}` });
    const named = { supersedes: source.entries.find((e) => e.field === 'name')!.id, reason: 'keyed wrong' };
    await h.post(`/items/${source.item.id}/entries`, { id: id(), by, readings: [reading('name', 'Creek sand, washed', null, named)] });
    const renamed = (await h.get<{ items: Item[] }>(`/items?project=${await b.project()}&kind=source&begins=creek`)).body.items;
    expect(renamed.map((i) => i.id)).toEqual([source.item.id]);
    // A sign that means something to the database means itself.
    expect([(await found('%')).total, (await found('B_1')).total, (await found('\\')).total]).toEqual([0, 0, 0]);
    expect(Object.keys(ITEM_KINDS).length).toBe(15);
  });
});
