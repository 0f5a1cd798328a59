import type { Equipment, KitSheet, Problem } from '@keen-mortar/contract';
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
});
