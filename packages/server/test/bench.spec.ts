import type { BenchView, DayView, Problem, Sheet, Test } from '@keen-mortar/contract';
import { Bench, by, projectId, reading } from './bench.js';
import { Harness, id } from './harness.js';

const HOUR = 3_600_000;
const ago = (hours: number) => new Date(Date.now() - hours * HOUR).toISOString();

describe('the bench', () => {
  let h: Harness;
  let b: Bench;
  beforeAll(async () => {
    h = await Harness.withDemo();
    b = new Bench(h);
  });
  afterAll(() => h.stop());

  const run = async (kind: 'fine-aashto' | 'coarse-aashto', steps: Readonly<Record<string, number>>) => {
    const source = await b.item(
      'source',
      null,
      { pit: 'Brackdown', kind: kind === 'fine-aashto' ? 'fine' : 'coarse' },
      { name: `Run ${id()}` },
    );
    const field = await b.item('field-sample', source.item.id, { takenAt: ago(90), from: 'stockpile' });
    const rows = Object.entries(steps).map(([step, hours]) => ({ step, at: ago(hours) }));
    return (await b.item('portion', field.item.id, { run: kind, steps: rows })).item;
  };
  const bench = async (itemId: string) =>
    (await h.get<BenchView>(`/bench?project=${projectId}`)).body.runs.find((r) => r.itemId === itemId);
  const waits = async (itemId: string) =>
    (await h.get<DayView>(`/day?project=${projectId}`)).body.things.filter((t) => t.openId === itemId).map((t) => [t.due, t.group]);
  const step = (itemId: string, name: string, at = ago(0)) => {
    const row = `steps.${Date.now().toString(36)}`;
    return h.post<Sheet & Problem>(`/items/${itemId}/entries`, {
      id: id(),
      by,
      readings: [
        { id: id(), field: `${row}.step`, text: name, unit: null, at },
        { id: id(), field: `${row}.at`, text: at, unit: null, at },
      ],
    });
  };

  it('shows what a run waits for, there and on the day; its next step once one is done, and nothing once it is taken back', async () => {
    const item = await run('fine-aashto', { oven: 30, dry: 26, soak: 17 });
    expect(await waits(item.id)).toEqual([['run:cone', 'bench']]);
    expect((await bench(item.id))!.where).toMatch(/^B-\d+, Run /);
    expect((await step(item.id, 'cone')).status).toBe(201);
    expect(await waits(item.id)).toEqual([['run:flask', 'bench']]);
    expect((await step(item.id, 'distilled')).status).toBe(422);
    await h.post(`/items/${item.id}/voiding`, { id: id(), by, voided: true, reason: 'spilled', at: ago(0) });
    expect([await waits(item.id), await bench(item.id)]).toEqual([[], undefined]);
  });

  it('says of a portion cut many times only its sample and its source, and is gone with the sample that is taken back', async () => {
    const source = await b.item('source', null, { pit: 'Pellick', kind: 'coarse' }, { name: `Deep ${id()}` });
    const field = await b.item('field-sample', source.item.id, { takenAt: ago(30), from: 'belt' });
    let parent = field.item.id;
    for (let cut = 0; cut < 3; cut++) parent = (await b.item('portion', parent, {})).item.id;
    const { item } = await b.item('portion', parent, { run: 'bulk', steps: [{ step: 'oven', at: ago(2) }] });
    expect((await bench(item.id))!.where).toBe(`${field.item.code}, ${source.item.code}`);
    await h.post(`/items/${field.item.id}/voiding`, { id: id(), by, voided: true, reason: 'another stone', at: ago(0) });
    expect(await bench(item.id)).toBeUndefined();
  });

  it('a trial batch goes through its own runs, planned too; what is of an aggregate it is not taken through', async () => {
    const { items } = (await h.get<{ items: { id: string }[] }>(`/mixes?project=${projectId}`)).body;
    const batch = await b.item('trial-batch', null, { mixedAt: ago(3), volume: { text: '60', unit: 'L' } }, { subjectId: items[0]!.id });
    const { id: itemId } = batch.item;
    const say = (facts: Readonly<Record<string, string>>) =>
      h.post<Problem>(`/items/${itemId}/entries`, {
        id: id(),
        by,
        readings: Object.entries(facts).map(([field, text]) => ({ id: id(), field, text, unit: null, at: ago(0) })),
      });
    expect((await say({ run: 'bulk' })).status).toBe(422);
    expect((await say({ run: 'correction', begins: ago(-2) })).status).toBe(201);
    expect([await waits(itemId), (await bench(itemId))!.where]).toEqual([[['run:bowlful', 'bench']], '']);
    expect((await step(itemId, 'bowlful')).status).toBe(201);
    expect(await waits(itemId)).toEqual([['run:inundated', 'bench']]);
  });

  it('what nothing ends waits until somebody is there, and is not among what cannot be met', async () => {
    const own = id();
    const project = {
      id: own,
      by,
      code: `BENCH-${Date.now()}`,
      name: 'Closed',
      site: 'Yard',
      system: 'si',
      practice: 'us-astm',
      timezone: 'Etc/UTC',
    };
    expect((await h.post('/projects', project)).status).toBe(201);
    const make = async (kind: string, parentId: string | null, facts: object, more: object = {}) =>
      (await h.post<Sheet>('/items', { id: id(), by, projectId: own, kind, parentId, facts, ...more })).body.item;
    const source = await make('source', null, { pit: 'Pellick', kind: 'coarse' }, { name: 'Stone' });
    const item = await make('field-sample', source.id, {
      takenAt: ago(9),
      from: 'belt',
      run: 'coarse-aashto',
      steps: [{ step: 'oven', at: ago(1) }],
    });
    const shut = Array<null>(7).fill(null);
    const day = (days: number) => new Date(Date.now() + days * 24 * HOUR).toISOString().slice(0, 10);
    await h.post('/hours', { id: id(), by, projectId: own, from: day(-1), to: day(3), week: shut, why: 'a holiday' });
    const thing = (await h.get<DayView>(`/day?project=${own}`)).body.things.find((t) => t.openId === item.id)!;
    expect([thing.due, thing.endsAt]).toEqual(['run:dry', null]);
    expect(thing.fit!.best!).toBeGreaterThan(Date.now() + 2 * 24 * HOUR);
  });

  it('stone is not scooped from a stockpile, and too little of it says so on what was found', async () => {
    const source = await b.item(
      'source',
      null,
      { pit: 'Pellick', kind: 'coarse', nominal: { text: '19', unit: 'mm' } },
      { name: `Stone ${id()}` },
    );
    const field = await b.item('field-sample', source.item.id, { takenAt: ago(9), from: 'belt', mass: { text: '38.4', unit: 'kg' } });
    expect(field.sources['field.mass']).toEqual(jasmine.objectContaining({ text: '38.4', unit: 'kg' }));
    const portion = (way: string) =>
      h.post<Sheet & Problem>('/items', { id: id(), by, kind: 'portion', projectId, parentId: field.item.id, facts: { way } });
    const refused = (await portion('C')).body;
    expect(refused.errors?.map((e) => [e.code, e.path])).toEqual([['method-unfit', 'way']]);
    const split = (await portion('A')).body;
    const testId = await b.start(split.item.id, 'moisture');
    const kept = await b.keep<{ test: Test }>(testId, [reading('wet', '1204', 'g'), reading('dry', '1195', 'g')]);
    expect(kept.body.test.kept!.guidance.map((g) => g.code)).toContain('tested-too-little');
  });

  it('sand is weighed at SSD: what the cone says goes to the gravity, a reason without it, and a soak too long stands on it', async () => {
    const item = await run('fine-aashto', { soak: 20, cone: 0.5 });
    const gravity = async (more: object = {}) => {
      const testId = await b.start(item.id, 'fine-gravity', { variant: 'aashto', startedAt: ago(0.1) });
      const masses = { ssd: '500.3', flaskWater: '661.8', flaskSample: '971.6', dry: '493.6' };
      const readings = Object.entries(masses).map(([field, text]) =>
        reading(field, text, 'g', { at: ago(0), ...(field === 'ssd' ? more : {}) }),
      );
      return b.keep<{ test: Test } & Problem>(testId, readings);
    };
    const trial = async (looks: readonly string[]) => {
      const testId = await b.start(item.id, 'cone', { startedAt: ago(0.4) });
      const rows = looks.flatMap((look, i) => [
        reading(`trials.000${i}.at`, ago(0.4 - i / 100), null, { at: ago(0) }),
        reading(`trials.000${i}.look`, look, null, { at: ago(0) }),
      ]);
      await b.keep(testId, rows);
    };
    const codes = (t: Test) => t.kept!.guidance.filter((g) => g.kind === 'mark').map((g) => g.code);
    const asked = async () => (await gravity()).body.errors?.map((e) => [e.code, e.path]);
    expect(await asked()).toEqual([['needs-reason', 'ssd']]);
    const blind = (await gravity({ reason: 'judged by the eye' })).body;
    expect(codes(blind.test)).toEqual(['step-late', 'no-cone-trial']);
    await trial(['slight']);
    expect((await bench(item.id))!.cone).toBe('no');
    expect(await asked()).toEqual([['needs-reason', 'ssd']]);
    expect(codes((await gravity({ reason: 'fines let go on one side' })).body.test)).toEqual(['step-late']);
    await trial(['kept', 'slight']);
    expect((await bench(item.id))!.cone).toBe('yes');
    const shown = (await gravity()).body.test;
    expect(codes(shown)).toEqual(['step-late']);
    // Wetted again, the trials before it say nothing of what is weighed next; what was weighed stands.
    await step(item.id, 'wetted');
    expect((await bench(item.id))!.cone).toBeNull();
    expect((await h.get<Sheet>(`/items/${item.id}`)).body.given['fine-gravity']?.sources['test.cone']).toEqual({
      text: 'no',
      unit: '1',
    });
    expect(codes((await h.get<Test>(`/tests/${shown.id}`)).body)).toEqual(['step-late']);
  });
});
