import type { Equipment, KitSheet, Problem, Test } from '@keen-mortar/contract';
import { idFor } from '../src/demo.js';
import { Bench, at, by, reading } from './bench.js';
import { Harness, id, LOADED_AT } from './harness.js';

const day = (days: number) => new Date(LOADED_AT.getTime() + days * 86_400_000).toISOString().slice(0, 10);
const keyed = (text: string, unit: string) => ({ text, unit });

describe('the kit', () => {
  let h: Harness;
  let b: Bench;
  beforeAll(async () => {
    h = await Harness.withDemo();
    b = new Bench(h);
  });
  afterAll(() => h.stop());

  const add = async (kind: string, values: object[] = []) => {
    const equipmentId = id();
    const body = { id: equipmentId, by, projectId: await b.project(), kind, name: `${kind} ${equipmentId.slice(0, 6)}`, values };
    const answer = await h.post<Equipment & Problem>('/equipment', body);
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
    return equipmentId;
  };
  const measure = () => add('measure', [{ item: 'measure.nominal', value: keyed('7', 'L') }]);
  const calibrate = (equipmentId: string, more: object) =>
    h.post<Equipment & Problem>(`/equipment/${equipmentId}/calibrations`, { id: id(), by, on: day(-1), ...more });
  const water = (filled: string, empty = '3.187') => [
    {
      item: 'measure.volume',
      variant: 'c29',
      system: 'si',
      inputs: { filled: keyed(filled, 'kg'), empty: keyed(empty, 'kg'), temperature: keyed('21.4', 'C') },
    },
  ];
  const sheet = async (equipmentId: string) => (await h.get<KitSheet>(`/equipment/${equipmentId}/sheet`)).body;

  it('a volume is worked out from the water that was weighed, which stays with it', async () => {
    const one = await measure();
    const { status, body } = await calibrate(one, { worked: water('10.214') });
    expect([status, body.sources['measure.volume'], body.calibratedOn] as unknown[]).toEqual([201, keyed('7.04', 'L'), day(-1)]);
    const [calibration] = (await sheet(one)).calibrations;
    expect([calibration!.until, calibration!.values[0]!.value, calibration!.values[0]!.worked?.inputs['filled']] as unknown[]).toEqual([
      day(364),
      keyed('7.04', 'L'),
      keyed('10.214', 'kg'),
    ]);
  });

  it('what cannot be, is missing or belongs to another kind is refused where it stands, and nothing is kept', async () => {
    const one = await measure();
    const code = async (more: object, of = one) => {
      const { status, body } = await calibrate(of, more);
      return [status, body.errors?.[0]?.code, body.errors?.[0]?.path];
    };
    expect(await code({ worked: water('3.000') })).toEqual([422, 'lighter-full', 'filled']);
    expect(await code({ worked: water('', '3.187') })).toEqual([422, 'needs-reading', 'worked.0.inputs.filled']);
    expect(await code({})).toEqual([422, 'needs-value', 'values']);
    expect(await code({ worked: [{ ...water('10.214')[0], variant: 'none' }] })).toEqual([422, 'unknown-variant', 'worked.0.variant']);
    const value = { item: 'measure.volume', value: keyed('7.04', 'L') };
    expect(await code({ values: [value], worked: water('10.214') })).toEqual([422, 'twice', 'values']);
    expect(await code({ values: [value] }, await add('thermometer'))).toEqual([422, 'wrong-kind', 'values.0.item']);
    expect((await sheet(one)).calibrations).toEqual([]);
    expect((await calibrate(await add('thermometer'), {})).status).toBe(201);
  });

  it('says what was tested with an instrument since it was right, and not what was before', async () => {
    const one = await measure();
    await calibrate(one, { on: day(-10), worked: water('10.214') });
    const sampleId = await b.sample(await b.load(97));
    const tests = [];
    for (const seconds of [600, 700]) {
      const testId = await b.start(sampleId, 'density', { equipmentId: one, startedAt: at(seconds) });
      await b.keep(testId, [reading('full', '19.31', 'kg'), reading('empty', '3.187', 'kg')]);
      tests.unshift(testId);
    }
    const { since, tests: found } = await sheet(one);
    expect([since, found.total, found.items.map((t) => t.testId)]).toEqual([day(-10), 2, tests]);
    expect([found.items[0]!.method, found.items[0]!.says]).toEqual(['density', '2290 kg/m³']);
    const page = (await h.get<KitSheet>(`/equipment/${one}/sheet?limit=1&offset=1`)).body.tests;
    expect([page.total, page.items[0]!.testId]).toEqual([2, tests[1]!]);
    // Right again since today: what came before is in question no more.
    await calibrate(one, { on: new Date().toISOString().slice(0, 10), worked: water('10.215') });
    expect((await sheet(one)).tests.total).toBe(0);
    expect((await h.get(`/equipment/${idFor('span-4')}/sheet`)).status).toBe(404);
  });

  const testOf = async (testId: string) => (await h.get<Test>(`/tests/${testId}`)).body;
  const remarks = async (testId: string) => (await testOf(testId)).kept!.evaluation.validity.reasons.map((r) => r.code);
  let loads = 2000;
  const starting = async (body: object) => {
    const more = { id: id(), by, method: 'density', variant: 'astm', system: 'si', startedAt: at(650), retestOf: null, ...body };
    const { status, body: answer } = await h.post<Problem>(`/items/${await b.sample(await b.load((loads += 1)))}/tests`, more);
    return { status, faults: answer.errors?.map((e) => [e.code, e.path]), id: more.id };
  };
  const weighed = (more: object = {}) => [reading('full', '19.31', 'kg', more), reading('empty', '3.187', 'kg', more)];

  it('past its calibration or without one it is used with a reason, which stands on the result', async () => {
    const [one, balance] = [await measure(), await add('balance')];
    await calibrate(one, { on: day(-500), worked: water('10.214') });
    const kit = { equipmentId: one, alsoIds: [balance] };
    expect((await starting(kit)).faults).toEqual([
      ['needs-reason', 'kitReason'],
      ['needs-reason', 'kitReason'],
    ]);
    const { status, id: testId } = await starting({ ...kit, kitReason: 'no other one on site' });
    expect(status).toBe(201);
    await b.keep(testId, weighed());
    const { kept, also, kitReason } = await testOf(testId);
    expect([kept!.evaluation.validity.state, also.map((k) => k.id), kitReason] as unknown[]).toEqual([
      'marked',
      [balance],
      'no other one on site',
    ]);
    const told = kept!.guidance.filter((g) => g.code.endsWith('-calibration') || g.code.endsWith('-calibrated'));
    expect(told.map((g) => g.code) as string[]).toEqual(['out-of-calibration', 'never-calibrated']);
    expect(told.every((g) => g.says.endsWith('Used all the same: no other one on site.') && g.next.length > 0)).toBe(true);
    // What it is used beside is found by it too.
    expect((await sheet(balance)).tests.items.map((t) => t.testId)).toEqual([testId]);
  });

  it('takes of what is beside it one of each kind that the method asks for', async () => {
    const [one, other, oven] = [await add('balance'), await add('balance'), await add('oven')];
    expect((await starting({ equipmentId: null, alsoIds: [one, other] })).faults).toEqual([['twice', 'alsoIds.1']]);
    expect((await starting({ equipmentId: null, alsoIds: [oven] })).faults).toEqual([['wrong-kind', 'alsoIds.0']]);
    expect((await starting({ equipmentId: one })).faults).toEqual([['wrong-kind', 'equipmentId']]);
  });

  it('is due when the lab says, and never later than the method lets it hold', async () => {
    const [meter, oven] = [await add('air-meter', [{ item: 'meter.division', value: keyed('0.1', '%') }]), await add('oven')];
    expect((await calibrate(meter, { on: day(-10), due: day(200) })).body.errors?.map((e) => e.path)).toEqual(['due']);
    expect((await calibrate(meter, { on: day(-10), due: day(-10) })).status).toBe(422);
    expect((await calibrate(meter, { on: day(-10), due: day(20) })).body.until).toBe(day(20));
    expect((await calibrate(oven, { on: day(-10), due: day(700) })).body.until).toBe(day(700));
  });

  it('found wrong puts what was tested with it in question, from when it was right last, and is out of use until it is calibrated', async () => {
    const one = await measure();
    await calibrate(one, { on: day(-10), worked: water('10.214') });
    const tests = [];
    for (const _time of [1, 2]) {
      const { id: testId } = await starting({ equipmentId: one });
      await b.keep(testId, weighed());
      tests.push(testId);
    }
    const finding = { id: id(), by, since: at(-3600), why: 'the rim is bent' };
    expect((await h.post(`/equipment/${one}/findings`, finding)).status).toBe(201);
    expect(await remarks(tests[0]!)).toContain('found-wrong');
    expect((await testOf(tests[0]!)).kept!.cause).toBe('kit');
    const found = (await h.get<KitSheet>(`/equipment/${one}/sheet?finding=${finding.id}`)).body;
    expect([found.tests.total, found.findings.map((f) => f.why), found.equipment.wrong?.why] as unknown[]).toEqual([
      2,
      ['the rim is bent'],
      'the rim is bent',
    ]);
    // One that was started before it was found, and is kept only now, is in question too; nobody is asked why it was used.
    const late = await starting({ equipmentId: one });
    await b.keep(late.id, weighed());
    expect((await testOf(late.id)).kept!.guidance.find((g) => g.code === 'found-wrong')?.says).toMatch(/: the rim is bent\.$/);
    tests.push(late.id);
    const now = () => new Date(Date.now() + 1000).toISOString();
    expect((await starting({ equipmentId: one, startedAt: now() })).faults).toEqual([['needs-reason', 'kitReason']]);
    // And what was done with it days before is not asked about either.
    expect((await starting({ equipmentId: one, startedAt: at(100) })).status).toBe(201);
    const ledger = await h.get<{ rows: { testId: string }[] }>(`/ledger?project=${await b.project()}&kit=${one}&marked=true`);
    expect(new Set(ledger.body.rows.map((t) => t.testId))).toEqual(new Set(tests));
    // Calibrated again: right from now on; what was in question stays so.
    await calibrate(one, { on: new Date().toISOString().slice(0, 10), worked: water('10.211') });
    expect((await sheet(one)).equipment.wrong).toBeNull();
    expect(await remarks(tests[1]!)).toContain('found-wrong');
    const soon = new Date(Date.now() + 2000).toISOString();
    const later = await starting({ equipmentId: one, startedAt: soon });
    expect(later.status).toBe(201);
    await b.keep(later.id, weighed({ at: soon }));
    expect(await remarks(later.id)).not.toContain('found-wrong');
    expect(
      (await h.post(`/equipment/${one}/findings`, { ...finding, id: id(), since: new Date(Date.now() + 86_400_000).toISOString() })).status,
    ).toBe(422);
    expect((await h.get(`/equipment/${one}/sheet?finding=${id()}`)).status).toBe(404);
  });

  it('an unlikely reading of a calibration is kept with a reason', async () => {
    const one = await measure();
    const cold = [{ ...water('10.214')[0], inputs: { ...water('10.214')[0]!.inputs, temperature: keyed('36', 'C') } }];
    const refused = await calibrate(one, { worked: cold });
    expect(refused.body.errors?.map((e) => [e.code, e.path])).toEqual([['needs-reason', 'temperature']]);
    expect((await calibrate(one, { worked: cold, reason: 'done in the yard in July' })).status).toBe(201);
    expect((await sheet(one)).calibrations[0]!.reason).toBe('done in the yard in July');
  });
});
