import type { KeepAnswer, Problem, Sample, Test } from '@keen-mortar/contract';
import { createConnection } from 'mysql2/promise';
import { idFor } from '../src/demo.js';
import { Harness, id, LOADED_AT, people, urls } from './harness.js';

const by = people.oakhanger;
const at = (seconds: number) => new Date(LOADED_AT.getTime() + seconds * 1000).toISOString();

describe('keeping readings', () => {
  let h: Harness;
  let sampleId: string;
  beforeAll(async () => (h = await Harness.withDemo()));
  afterAll(() => h.stop());
  beforeEach(async () => {
    sampleId = id();
    await h.post('/samples', { id: sampleId, by, loadId: idFor('span-4-6'), firstPortionAt: at(0) });
    await h.post(`/samples/${sampleId}/events`, { id: id(), by, kind: 'portion', at: at(300) });
    await h.post(`/samples/${sampleId}/events`, { id: id(), by, kind: 'finished', at: at(400) });
  });

  async function start(method: string, variant: string, more: Partial<Test> = {}): Promise<string> {
    const testId = id();
    const body = { id: testId, by, method, variant, system: 'si', startedAt: at(420), equipmentId: null, retestOf: null, ...more };
    const answer = await h.post(`/samples/${sampleId}/tests`, body);
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
    return testId;
  }

  const reading = (field: string, text: string, unit: string | null, more = {}) => ({ id: id(), field, text, unit, at: at(500), ...more });
  const heap = (centre: string, shape = 'true') => [
    reading('shape', shape, null),
    reading('mold', '300', 'mm'),
    reading('centre', centre, 'mm'),
  ];
  const keep = <T = KeepAnswer>(testId: string, readings: unknown[], more = {}) =>
    h.post<T>(`/tests/${testId}/readings`, { id: id(), by, readings, ...more });
  const reported = (test: Test, result: string) => test.kept?.evaluation.results.find((r) => r.id === result)?.reported;

  it('computes on the server and comes back in the same digits', async () => {
    const testId = await start('slump', 'us');
    const answer = await keep(testId, heap('204'), { shown: { slump: '95' } });
    expect(answer.status).toBe(201);
    expect([reported(answer.body.test, 'slump'), answer.body.differs]).toEqual(['95', []]);
    const again = (await h.get<Sample>(`/samples/${sampleId}`)).body.tests.find((t) => t.id === testId);
    expect(again).toEqual(answer.body.test);
    expect(again?.kept?.judged[0]?.verdicts[0]?.state).toBe('within');
    expect(again?.kept?.inputs['centre']).toEqual({
      text: '204',
      unit: 'mm',
      reading: again?.readings.find((r) => r.field === 'centre')!.id,
    });
  });

  it('tells the person when the page had shown another digit', async () => {
    const answer = await keep(await start('slump', 'us'), heap('204'), { shown: { slump: '96' } });
    expect(answer.body.differs).toEqual([{ result: 'slump', shown: '96', kept: '95' }]);
  });

  it('takes volume and ticket from the record: density, yield and gravimetric air of one weighing', async () => {
    const testId = await start('yield', 'exact', { equipmentId: idFor('measure-1') });
    const { test } = (await keep(testId, [reading('full', '19.31', 'kg'), reading('empty', '3.21', 'kg')])).body;
    expect(reported(test, 'density')).toBe('2286');
    expect(reported(test, 'relative')).toMatch(/^(0\.99|1\.0[01])$/);
    expect(reported(test, 'air')).toMatch(/^5\.\d$/);
    expect(test.kept?.inputs['volume']).toEqual({ text: '7.043', unit: 'L' });
    expect(test.kept?.evaluation.params['carryReported']).toBeFalse();
  });

  it('refuses an impossible reading whole: nothing is half-saved', async () => {
    const testId = await start('yield', 'exact', { equipmentId: idFor('measure-1') });
    const before = await h.count('entry');
    const answer = await keep<Problem>(testId, [reading('full', '3.21', 'kg'), reading('empty', '19.31', 'kg')]);
    expect([answer.status, answer.body.errors?.[0]?.code, answer.body.errors?.[0]?.path]).toEqual([422, 'lighter-full', 'full']);
    expect(await h.count('entry')).toBe(before);
    expect(await h.count('evaluation', 'test_id = ?', [testId])).toBe(0);
  });

  it('keeps an unlikely reading only with a reason', async () => {
    const testId = await start('temperature', 'c1064');
    const without = await keep<Problem>(testId, [reading('temperature', '68', 'C')]);
    expect([without.status, without.body.code, without.body.errors?.[0]?.offer]).toEqual([422, 'needs-reason', { text: '68', unit: 'F' }]);
    expect((await keep(testId, [reading('temperature', '68', 'C', { reason: 'steam-cured trial' })])).status).toBe(201);
  });

  it('corrects with a reason, and the old reading stays', async () => {
    const testId = await start('slump', 'us');
    const first = (await keep(testId, heap('204'))).body.test;
    const old = first.readings.find((r) => r.field === 'centre')!;
    const silent = await keep<Problem>(testId, [reading('centre', '208', 'mm', { supersedes: old.id })]);
    expect([silent.status, silent.body.code]).toEqual([422, 'needs-reason']);
    const corrected = await keep(testId, [reading('centre', '208', 'mm', { supersedes: old.id, reason: 'read the rule upside down' })]);
    expect(reported(corrected.body.test, 'slump')).toBe('90');
    expect(corrected.body.test.readings.filter((r) => r.field === 'centre').map((r) => r.text)).toEqual(['204', '208']);
    expect(await h.count('evaluation', 'test_id = ?', [testId])).toBe(2);
  });

  it('lets one of two people win, and tells the other', async () => {
    const testId = await start('slump', 'us');
    const answers = await Promise.all([keep<Problem>(testId, heap('204')), keep<Problem>(testId, heap('190'))]);
    expect(answers.map((a) => a.status).sort()).toEqual([201, 409]);
    expect(answers.find((a) => a.status === 409)?.body.code).toBe('already-read');
    expect(await h.count('entry', 'owner_id = ?', [testId])).toBe(3);
  });

  it('keeps once what arrives twice', async () => {
    const testId = await start('slump', 'us');
    const body = { id: id(), by, readings: heap('204'), shown: {} };
    const answers = await Promise.all([1, 2, 3].map(() => h.post<KeepAnswer>(`/tests/${testId}/readings`, body)));
    expect(answers.map((a) => [a.status, reported(a.body.test, 'slump')])).toEqual(Array(3).fill([201, '95']));
    expect(await h.count('entry', 'owner_id = ?', [testId])).toBe(3);
  });

  it('a meter that nobody names is asked for, and stands on the result as one without a calibration does', async () => {
    const begun = { system: 'si', startedAt: at(420), equipmentId: null, retestOf: null };
    const begin = (more: object) =>
      h.post<Problem>(`/items/${sampleId}/tests`, { ...begun, id: id(), by, method: 'pressure-air', variant: 'type-b', ...more });
    const unsaid = (await begin({})).body.errors?.[0];
    expect([unsaid?.code, unsaid?.path, unsaid?.message, unsaid?.next]).toEqual([
      'needs-reason',
      'kitReason',
      'Nobody said with which air meter it was made.',
      'Say which one. If it is not on record, say why.',
    ]);
    const testId = id();
    expect((await begin({ id: testId, kitReason: 'borrowed from the plant' })).status).toBe(201);
    const { validity } = (await keep(testId, [reading('gauge', '6.4', '%')])).body.test.kept!.evaluation;
    expect([validity.state, validity.reasons.map((r) => r.code)]).toEqual(['marked', ['instrument-not-said']]);
    // What is read off no gauge needs none.
    expect((await begin({ method: 'slump', variant: 'us' })).status).toBe(201);
  });

  it('what was read from another instrument of the kind is kept with a reason', async () => {
    const meter = async (name: string) => {
      const equipmentId = id();
      await h.post('/equipment', { id: equipmentId, by, projectId: idFor('quillmouth'), kind: 'air-meter', name, values: [] });
      return equipmentId;
    };
    const [own] = [await meter('Meter 7'), await meter('Meter 8')];
    h.wired.push({ id: 'wired-8', name: 'Meter 8' }, { id: 'wired-7', name: 'Meter 7' });
    const gauge = (device: string, more = {}) => [reading('gauge', '6.4', '%', { device, ...more })];
    const made = async () => start('pressure-air', 'type-b', { equipmentId: own, kitReason: 'the only one' });
    const wrong = (await keep<Problem>(await made(), gauge('wired-8'))).body.errors?.[0];
    expect([wrong?.code, wrong?.path, wrong?.message]).toEqual([
      'needs-reason',
      'gauge',
      'This was read from Meter 8; the test is made with Meter 7.',
    ]);
    for (const readings of [gauge('wired-8', { reason: 'labels were swapped' }), gauge('wired-7'), gauge('unknown')])
      expect((await keep(await made(), readings)).status).toBe(201);
  });

  it('refuses fields, units and repeats that are none', async () => {
    const testId = await start('slump', 'us');
    const code = async (readings: unknown[]) => (await keep<Problem>(testId, readings)).body.errors?.[0]?.code;
    expect(await code([reading('highest', '204', 'mm')])).toBe('unknown-field');
    expect(await code([reading('largest', '25', 'mm')])).toBe('unknown-field');
    expect(await code([reading('centre', '204', null)])).toBe('wrong-unit');
    expect(await code([reading('centre', '204', 'kg')])).toBe('wrong-unit');
    expect(await code([reading('centre', '204', 'mm'), reading('centre', '205', 'mm')])).toBe('twice');
    expect(await code([])).toBe('needs-reading');
    expect((await keep<Problem>(id(), heap('204'))).status).toBe(404);
    const other = await h.post<Problem>(`/samples/${sampleId}/tests`, {
      id: id(),
      by,
      method: 'temperature',
      variant: 'c1064',
      system: 'si',
      startedAt: at(420),
      equipmentId: null,
      retestOf: testId,
    });
    expect(other.body.errors?.[0]?.code).toBe('wrong-retest');
  });

  it('knows the shear before it: sheared twice running lacks cohesion', async () => {
    const first = await start('slump', 'us');
    await keep(first, heap('150', 'shear'));
    const second = await start('slump', 'us', { retestOf: first });
    const { test } = (await keep(second, heap('150', 'shear'))).body;
    expect(test.kept?.evaluation.validity.state).toBe('void');
    expect(test.kept?.evaluation.validity.reasons.map((r) => r.code)).toEqual(['sheared-twice']);
    // What is left to do comes with the answer.
    expect(test.kept?.guidance.flatMap((t) => t.next)).toEqual([jasmine.stringContaining('Make no third slump')]);
    // A third is refused, as a repeat of either and by itself.
    for (const retestOf of [second, null]) {
      const body = { id: id(), by, method: 'slump', variant: 'us', system: 'si', startedAt: at(500), equipmentId: null, retestOf };
      const third = await h.post<Problem>(`/samples/${sampleId}/tests`, body);
      expect([third.body.errors?.[0]?.code, third.body.errors?.[0]?.next]).toEqual([
        'testing-ended',
        jasmine.stringContaining('Make no third slump'),
      ]);
    }
  });

  it('tells of a check test what it says with the first one, as its sheet does', async () => {
    const first = await start('slump', 'us');
    const next = (test: Test) =>
      test
        .kept!.guidance.filter((t) => t.code === 'out')
        .flatMap((t) => t.next)
        .join(' ');
    expect(next((await keep(first, heap('140'))).body.test)).toContain('Make a check test at once');
    const second = await start('slump', 'us', { retestOf: first });
    const { test } = (await keep(second, heap('144'))).body;
    expect(next(test)).not.toContain('Make a check test at once');
    expect(next(test)).toContain('Tell whoever may reject the load.');
    expect((await h.get<Sample>(`/samples/${sampleId}`)).body.tests.find((t) => t.id === second)).toEqual(test);
    const third = { id: id(), by, method: 'slump', variant: 'us', system: 'si', startedAt: at(500), equipmentId: null, retestOf: first };
    expect((await h.post<Problem>(`/samples/${sampleId}/tests`, third)).body.code).toBe('already-exists');
  });

  it('marks a test that started late, by the times of the record', async () => {
    const testId = await start('slump', 'us', { startedAt: at(601) });
    const { test } = (await keep(testId, heap('204'))).body;
    expect(test.kept?.evaluation.validity).toEqual({
      state: 'marked',
      reasons: [{ code: 'late', params: { what: 'Slump test started', took: '5 min 1 s', most: '5 min' } }],
    });
  });

  it('tells open pages at once', async () => {
    const response = await fetch(`${h.base}/samples/${sampleId}/live`);
    const reader = response.body!.getReader();
    let heard = '';
    const listen = (async () => {
      while (!heard.includes('changed') || !heard.includes('keying')) heard += new TextDecoder().decode((await reader.read()).value);
    })();
    await h.post(`/samples/${sampleId}/keying`, { by, testId: id(), method: 'slump' });
    await start('slump', 'us');
    await listen;
    expect(heard).toContain('"kind":"hello"');
    await reader.cancel();
  });

  it('leaves no way to change what was kept: the running account may only read and add', async () => {
    const cx = await createConnection(urls.run);
    for (const sql of [
      'UPDATE entry SET value_text = "1"',
      'UPDATE item SET code = "1"',
      'DELETE FROM evaluation',
      'DROP TABLE entry',
      'CREATE TABLE x (y INT)',
    ]) {
      await expectAsync(cx.query(sql))
        .withContext(sql)
        .toBeRejectedWithError(/denied/);
    }
    await cx.end();
  });
});
