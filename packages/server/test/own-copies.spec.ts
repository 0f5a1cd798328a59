import type { OwnCopy, Problem, Sheet, Test } from '@keen-mortar/contract';
import { at, Bench, by, projectId, reading, reported } from './bench.js';
import { Harness, id } from './harness.js';

describe('a lab’s own copy of a variant', () => {
  let h: Harness;
  let b: Bench;
  beforeAll(async () => {
    h = await Harness.withDemo();
    b = new Bench(h);
  });
  afterAll(() => h.stop());

  const copy = (more: object = {}) => ({
    id: id(),
    by,
    projectId,
    method: 'slump',
    variant: 'us',
    why: 'the client reads to 10 mm',
    figures: { 'increments|mm': '10' },
    ...more,
  });
  const own = (body: object) => h.post<OwnCopy & Problem>('/own-copies', body);
  const testOf = async (testId: string) => (await h.get<Test>(`/tests/${testId}`)).body;
  const begin = async (sampleId: string, more: object = {}) =>
    b.start(sampleId, 'slump', { variant: 'us', startedAt: new Date(Date.now() + 1000).toISOString(), ...more });
  const slumped = (testId: string) =>
    b.keep(testId, [reading('shape', 'true', null), reading('mold', '300', 'mm'), reading('drop', '103', 'mm')]);

  it('is what a test is started by, for good; what was started before it stays as printed', async () => {
    const sampleId = await b.sample(await b.load(71));
    const before = await begin(sampleId, { startedAt: at(600) });
    const made = await own(copy());
    expect(made.status).toBe(201);
    const after = await begin(sampleId);
    for (const testId of [before, after]) expect((await slumped(testId)).status).toBe(201);
    const [old, now] = [await testOf(before), await testOf(after)];
    expect([reported(old, 'slump'), reported(now, 'slump')]).toEqual(['105', '100']);
    expect(now.own).toEqual({ id: made.body.id, why: 'the client reads to 10 mm', figures: { 'increments|mm': '10' } });
    expect(now.kept?.guidance.map((g) => g.says).join()).toContain('reported to 10 mm (in print 5 mm)');
    expect(old.kept?.guidance.map((g) => g.code)).not.toContain('own-copy');

    // Back to the print: what was kept by the own copy keeps saying so, worked out again or not.
    const back = await own(copy({ figures: {}, why: 'as printed again' }));
    expect(back.status).toBe(201);
    await b.keep(after, [
      reading('drop', '104', 'mm', { supersedes: now.readings.find((r) => r.field === 'drop')!.id, reason: 'misread' }),
    ]);
    expect(reported(await testOf(after), 'slump')).toBe('100');
    const sheet = (await h.get<Sheet>(`/items/${sampleId}`)).body;
    expect(sheet.ownCopies.map((c) => c.id)).toEqual([back.body.id]);
    const all = await h.get<OwnCopy[]>(`/own-copies?project=${projectId}&method=slump&variant=us`);
    expect(all.body.map((c) => c.why)).toEqual(['as printed again', 'the client reads to 10 mm']);
  });

  it('of tomorrow does not show today', async () => {
    const tomorrow = new Date(Date.now() + 86_400_000).toISOString();
    const planned = await own(copy({ method: 'temperature', variant: 'c1064', from: tomorrow, figures: { 'increments|C': '1' } }));
    expect(planned.body.from).toBe(tomorrow);
    const sampleId = await b.sample(await b.load(72));
    // Now, as it was pressed, is a moment ago once it comes.
    const pressed = new Date(Date.now() - 2000).toISOString();
    expect((await own(copy({ method: 'slump-flow', variant: 'c1611', from: pressed, figures: { 'increments|mm': '5' } }))).status).toBe(
      201,
    );
    const testId = await b.start(sampleId, 'temperature');
    await b.keep(testId, [reading('temperature', '24.5', 'C')]);
    expect(reported(await testOf(testId), 'temperature')).toBe('24.5');
  });

  it('is refused at the figure that cannot be, and for what is not on record or over', async () => {
    const wrong = await own(copy({ figures: { 'increments|mm': '3', 'lift|least': '-1' } }));
    expect(wrong.status).toBe(422);
    expect(wrong.body.errors?.map((e) => [e.path, e.code])).toEqual(
      [
        ['figures.lift|least', 'own-far'],
        ['figures.increments|mm', 'own-increment'],
      ].reverse(),
    );
    const refusals = [
      { method: 'rodding', variant: 'c138' },
      { variant: 'nowhere' },
      { from: new Date(Date.now() - 600_000).toISOString() },
      { projectId: id() },
      { figures: Object.fromEntries(Array.from({ length: 401 }, (_f, i) => [`f${i}`, '1'])) },
    ];
    for (const more of refusals)
      expect((await own(copy(more))).status)
        .withContext(JSON.stringify(more).slice(0, 60))
        .toBeGreaterThanOrEqual(400);
  });
});
