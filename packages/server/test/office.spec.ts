import type { MixSheet, PourDetail, Problem, Sheet, Specification, Test } from '@keen-mortar/contract';
import { Bench, at, by, projectId, reading } from './bench.js';
import { Harness, id } from './harness.js';
import { idFor } from '../src/demo.js';

const kept = (text: string, unit: string) => ({ text, unit });

describe('mixes and what they must meet', () => {
  let h: Harness;
  let b: Bench;
  beforeAll(async () => {
    h = await Harness.withDemo();
    b = new Bench(h);
  });
  afterAll(() => h.stop());

  const limits = (upper: string) => [{ id: id(), property: 'temperature', unit: 'C', upper, source: 'drawing S-1' }];
  const specify = async (body: object) => {
    const answer = await h.post<Specification & Problem>('/specifications', { id: id(), by, projectId, name: 'Plinths', ...body });
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
    return answer.body;
  };
  const recipe = (specificationIds: string[], effectiveFrom = at(-86_400)) => ({
    id: id(),
    effectiveFrom,
    specificationIds,
    largest: kept('25', 'mm'),
    nominal: kept('19', 'mm'),
    air: '6.0',
    ingredients: [
      { name: 'Cement', role: 'cement', mass: kept('340', 'kg'), sg: '3.15' },
      { name: 'Water', role: 'water', mass: kept('160', 'kg'), sg: '1.000' },
      { name: 'Sand', role: 'fine', mass: kept('720', 'kg'), sg: '2.63' },
    ],
  });
  const mixOf = async (mixId: string) => (await h.get<MixSheet>(`/mixes/${mixId}/sheet`)).body;
  const pourOf = async (pourId: string) => (await h.get<PourDetail>(`/pours/${pourId}`)).body;
  const warmOf = async (pourId: string, more: object = {}) => {
    const loadId = id();
    const made = await h.post<Problem>(`/pours/${pourId}/loads`, {
      id: loadId,
      by,
      number: Math.ceil(Math.random() * 9000),
      ticket: 'F-1',
      reason: 'for a test of its own',
      truck: '1',
      batchedAt: at(-600),
      design: kept('6', 'm3'),
      materials: [{ name: 'All', role: 'coarse', actual: '13000', unit: 'kg' }],
      ...more,
    });
    if (made.status !== 201) throw new Error(JSON.stringify(made.body));
    const testId = await b.start(await b.sample(loadId), 'temperature');
    await b.keep(testId, [reading('temperature', '28.0', 'C')]);
    return testId;
  };
  const verdictOf = async (testId: string) =>
    (await h.get<Test>(`/tests/${testId}`)).body.kept?.judged[0]?.verdicts.find((v) => v.result === 'temperature')?.state;

  it('a mix is made with its first revision in one write, or not at all', async () => {
    const spec = await specify({ limits: limits('25') });
    const body = { id: id(), by, projectId, code: `W-${id().slice(0, 4)}`, name: 'Plinth mix', revision: recipe([spec.id, spec.id]) };
    const twice = await h.post<Problem>('/mixes', body);
    expect([twice.status, twice.body.errors?.[0]]).toEqual([
      422,
      jasmine.objectContaining({ code: 'twice', path: 'revision.specificationIds.1' }),
    ]);
    expect((await h.get(`/mixes/${body.id}`)).status).toBe(404);
    const made = await h.post('/mixes', { ...body, revision: recipe([spec.id]) });
    expect(made.status).toBe(201);
    const { mix, specifications } = await mixOf(body.id);
    expect([mix.revisions[0]?.number, specifications.map((s) => s.id)]).toEqual([1, [spec.id]]);
    const other = await h.post<Problem>(`/mixes/${body.id}/revisions`, { ...recipe([idFor('nobody')]), by });
    expect(other.body.errors?.[0]?.path).toBe('specificationIds.0');
  });

  it('a specification that is replaced is met from its moment on; what was judged by the one before stays judged by it', async () => {
    const strict = await specify({ limits: limits('25') });
    const mixId = id();
    await h.post('/mixes', { id: mixId, by, projectId, code: `W-${id().slice(0, 4)}`, name: 'Plinth mix', revision: recipe([strict.id]) });
    const planned = { ...recipe([strict.id], at(7 * 86_400)), by, air: '5.0' };
    expect((await h.post(`/mixes/${mixId}/revisions`, planned)).status).toBe(201);
    const pourId = id();
    await h.post('/pours', {
      id: pourId,
      by,
      projectId,
      mixId,
      name: 'Plinths',
      element: 'Plinth',
      on: at(0).slice(0, 10),
      planned: kept('20', 'm3'),
    });
    const before = await warmOf(pourId);
    expect(await verdictOf(before)).toBe('out');

    const wide = await specify({ limits: limits('30'), replaces: { id: strict.id, from: at(-300), why: 'letter of the engineer' } });
    const { mix } = await mixOf(mixId);
    // The one that was planned asks for it too, from its own moment.
    expect(mix.revisions.map((r) => [r.number, r.effectiveFrom, r.specificationIds[0], r.air])).toEqual([
      [1, at(-86_400), strict.id, '6.0'],
      [2, at(7 * 86_400), strict.id, '5.0'],
      [3, at(-300), wide.id, '6.0'],
      [4, at(7 * 86_400), wide.id, '5.0'],
    ]);
    expect([await verdictOf(before), await verdictOf(await warmOf(pourId, { batchedAt: at(-200) }))]).toEqual(['out', 'within']);
    expect((await pourOf(pourId)).specifications.map((s) => s.id)).toEqual([wide.id]);
    // It is replaced once; the list has what is in use.
    const again = await h.post<Problem>('/specifications', {
      id: id(),
      by,
      projectId,
      name: 'Plinths',
      limits: limits('35'),
      replaces: { id: strict.id, from: at(0), why: 'once more' },
    });
    expect([again.status, again.body.code]).toEqual([409, 'already-exists']);
    const inUse = (await h.get<{ items: Specification[] }>(`/specifications?project=${projectId}&limit=200`)).body.items.map((s) => s.id);
    expect([inUse.includes(wide.id), inUse.includes(strict.id)]).toEqual([true, false]);
  });

  it('a source meets what was said of it by then, and a test keeps what it was judged by', async () => {
    const fine = (upper: string) => [{ id: id(), property: 'finer-75', unit: '%', upper, source: 'sand 1' }];
    const spec = await specify({ limits: fine('3.0') });
    const { item: sand } = await b.item('source', null, { pit: 'Brackdown', kind: 'fine' }, { name: `Sand ${id()}` });
    const meets = (specificationIds: string[], from: string) =>
      h.post<Problem>(`/items/${sand.id}/specifications`, { id: id(), by, from, specificationIds });
    const washOf = async (takenAt: string) => {
      const { item } = await b.item('field-sample', sand.id, { takenAt, from: 'stockpile' });
      const testId = await b.start(item.id, 'wash', { startedAt: at(600) });
      await b.keep(testId, [reading('before', '500.0', 'g'), reading('after', '480.0', 'g')]);
      return { testId, itemId: item.id };
    };
    const state = async ({ testId, itemId }: { testId: string; itemId: string }) =>
      (await h.get<Sheet>(`/items/${itemId}`)).body.tests.find((t) => t.id === testId)?.kept?.judged[0]?.verdicts[0]?.state;
    expect((await meets([spec.id], at(-3600))).status).toBe(201);
    const early = await washOf(at(-7200));
    const late = await washOf(at(0));
    expect([await state(early), await state(late)]).toEqual(['unjudged', 'out']);
    await meets([], at(-60));
    expect(await state(late)).toBe('out');
    const load = await b.load(1077);
    const refused = await h.post<Problem>(`/items/${load}/specifications`, { id: id(), by, from: at(0), specificationIds: [] });
    expect([refused.status, refused.body.errors?.[0]?.code]).toEqual([422, 'not-on-this']);
  });
});
