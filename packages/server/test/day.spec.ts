import type { DayThing, DayView, KeepAnswer, Problem, Sheet, Test } from '@keen-mortar/contract';
import { idFor } from '../src/demo.js';
import { Bench, by, projectId, reading, reported } from './bench.js';
import { Harness, id, people } from './harness.js';
import { wordsOf } from './papers.js';

const HOUR = 3_600_000;
const NOW = Date.now();
const ago = (hours: number) => new Date(NOW - hours * HOUR).toISOString();
const days = (n: string) => ({ text: n, unit: 'd' });

describe('the day', () => {
  let h: Harness;
  let b: Bench;
  beforeAll(async () => {
    h = await Harness.withDemo();
    b = new Bench(h);
  });
  afterAll(() => h.stop());

  const day = async () => (await h.get<DayView>(`/day?project=${projectId}`)).body;
  const CYLINDER = { shape: 'cylinder', width: { text: '100', unit: 'mm' }, length: { text: '200', unit: 'mm' } };
  const batch = async (mixedAt: string) => {
    const facts = { mixedAt, volume: { text: '30', unit: 'L' } };
    return (await b.item('trial-batch', null, facts, { subjectId: idFor('deck') })).item.id;
  };
  /** Molded so many hours ago. */
  const set = async (hours: number, ages: (string | null)[], facts: object = {}, parent?: string) => {
    const body = {
      id: id(),
      by,
      facts: { ...CYLINDER, madeAt: ago(hours), ...facts },
      specimens: ages.map((age) => ({ id: id(), age: age === null ? null : days(age) })),
    };
    const path = `/items/${parent ?? (await batch(ago(hours + 1)))}/specimens`;
    return { body, path, answer: await h.post<Sheet & Problem>(path, body) };
  };
  const thing = (all: readonly DayThing[], of: { specimens: { id: string }[] } | string, due: string) => {
    const ids = typeof of === 'string' ? [of] : of.specimens.map((s) => s.id);
    return all.find((t) => t.due === due && t.itemIds.every((i) => ids.includes(i)) && t.itemIds.length > 0);
  };

  it('a set is molded in one go, once; those of one age wait together, and one that was broken is done', async () => {
    const { body, path, answer } = await set(24, ['1', '1', '28', null]);
    expect([answer.status, answer.body.children.length]).toEqual([201, 4]);
    const { code } = answer.body.item;
    expect((await h.post<Sheet>(path, body)).body.children.length).toBe(4);
    expect(await h.count('item', 'parent_id = ?', [body.id])).toBe(4);

    const breaks = thing((await day()).things, body, 'break')!;
    expect([breaks.label, breaks.what, breaks.window, breaks.itemIds.length]).toEqual(['Break', `${code}, two`, '1 d ± 0.5 h', 2]);
    expect(Date.parse(breaks.endsAt!) - NOW).toBe(0.5 * HOUR);
    expect(thing((await day()).things, body.id, 'fetch')?.endsAt).toBe(new Date(NOW + 24 * HOUR).toISOString());
    const testId = await b.start(body.specimens[0]!.id, 'cylinder', { startedAt: ago(0) });
    await b.keep(testId, [
      reading('d1', '101.5', 'mm'),
      reading('d2', '101.5', 'mm'),
      reading('length', '203', 'mm'),
      reading('load', '94', 'kN'),
    ]);
    const after = await day();
    expect(thing(after.things, body, 'break')?.what).toBe(`${code}-B`);
    expect(after.done.some((t) => t.itemIds.includes(body.specimens[0]!.id))).toBeTrue();
    // What was taken back waits for nothing.
    await h.post(`/items/${body.id}/voiding`, { id: id(), by, voided: true, reason: 'keyed twice', at: ago(0) });
    expect((await day()).things.filter((t) => t.itemIds.some((i) => body.specimens.some((s) => s.id === i)))).toEqual([]);
  });

  it('refuses a set that cannot be: nothing of it is there', async () => {
    const before = await h.count('item');
    const parent = await batch(ago(3));
    for (const [facts, ages, code] of [
      [{ madeAt: ago(-3) }, ['28'], 'not-yet'],
      [{ shape: 'ball' }, ['28'], 'invalid_value'],
      [{ width: { text: '-100', unit: 'mm' } }, ['28'], 'not-possible'],
      [{ demolded: ago(2), madeAt: ago(1) }, ['28'], 'curing-out-of-order'],
      [{}, ['-7'], 'not-possible'],
      [{}, [], 'too_small'],
      [{}, Array.from({ length: 61 }, () => '28'), 'too_big'],
    ] as const) {
      const { answer } = await set(2, [...ages], facts, parent);
      expect([answer.status, answer.body.errors?.[0]?.code ?? ''].join(' ')).toContain('422');
      if (code !== 'not-possible') expect(answer.body.errors?.[0]?.code).toBe(code);
    }
    expect((await set(2, ['28'], {}, id())).answer.status).toBe(404);
    expect(await h.count('item')).toBe(before + 1);
  });

  it('molding of a sample is told by its first set', async () => {
    const planned = { text: '30', unit: 'm3' };
    const pour = await b.item('pour', null, { element: 'Deck', planned }, { name: `Pour of ${id()}`, subjectId: idFor('deck') });
    const sampleId = await b.sample(await b.load(1, pour.item.id));
    expect((await set(1, ['28'], {}, sampleId)).answer.status).toBe(201);
    const { body } = await h.get<Sheet>(`/items/${sampleId}`);
    expect((body.item.facts as { molding?: string }).molding).toBe(ago(1));
    // A test that was begun is waited for no more.
    const waiting = () => h.count('due', "item_id = ? AND due = 'test:slump' AND done_at IS NULL", [sampleId]);
    expect(await waiting()).toBe(1);
    await b.start(sampleId, 'slump');
    expect(await waiting()).toBe(0);
    // What lies in something that was taken back waits for nothing either.
    const ours = async () => (await day()).things.filter((t) => t.where.includes(body.item.code) || t.what.startsWith(body.item.code));
    expect((await ours()).length).toBeGreaterThan(0);
    await h.post(`/items/${sampleId}/voiding`, { id: id(), by, voided: true, reason: 'never taken', at: ago(0) });
    expect(await ours()).toEqual([]);
  });

  it('what a set went through stands on its strengths, also when it is keyed later; and a break out of its window', async () => {
    const { body } = await set(30, ['1'], { low: { text: '11', unit: 'C' } });
    const testId = await b.start(body.specimens[0]!.id, 'cylinder', { startedAt: ago(0) });
    const readings = { d1: '101.5', d2: '101.5', length: '203' };
    const lengths = Object.entries(readings).map(([field, text]) => reading(field, text, 'mm'));
    const kept = await b.keep<KeepAnswer>(testId, [...lengths, reading('load', '94', 'kN')]);
    const codes = (test: Test) => test.kept!.guidance.filter((g) => g.kind === 'mark').map((g) => g.code);
    expect(codes(kept.body.test)).toEqual(['initial-cure-cold', 'outside-age-window']);
    expect(reported(kept.body.test, 'strength')).toBeTruthy();
    const moved = reading('curing', 'field', null, { at: ago(0) });
    await h.post(`/items/${body.id}/entries`, { id: id(), by, readings: [moved] });
    // With the structure it is as cold as that: what remains is what it cannot be used for.
    expect(codes((await h.get<Test>(`/tests/${testId}`)).body)).toEqual(['field-cured', 'outside-age-window']);
  });

  it('is planned: when and by whom; hours of a day close it, and what cannot be met is said', async () => {
    const { body } = await set(1, ['7', '7']);
    const itemIds = body.specimens.map((s) => s.id);
    const due = new Date(Date.parse(ago(1)) + 7 * 24 * HOUR);
    const planned = { id: id(), by, itemIds, due: 'break', at: due.toISOString(), who: people.sallow };
    expect((await h.post<DayView>('/planned', planned)).status).toBe(201);
    await h.post('/planned', planned);
    expect(await h.count('planned', 'id = ?', [planned.id])).toBe(2);
    const shown = thing((await day()).things, body, 'break')!;
    expect([shown.plannedAt, shown.who]).toEqual([due.toISOString(), people.sallow]);
    expect((await h.post<Problem>('/planned', { ...planned, id: id(), due: 'read:1' })).body.errors?.[0]?.code).toBe('not-due');
    expect((await h.post('/planned', { ...planned, id: id(), itemIds: [id()] })).status).toBe(404);
    expect((await h.post('/planned', { ...planned, id: id(), who: id() })).status).toBe(422);

    const [from, to] = [-1, 1].map((d) => new Date(due.getTime() + d * 24 * HOUR).toISOString().slice(0, 10));
    const closed = { id: id(), by, projectId, from, to, week: Array(7).fill(null), why: 'a holiday' };
    const view = (await h.post<DayView>('/hours', closed)).body;
    expect(thing(view.things, body, 'break')!.fit).toEqual({ pieces: [], best: null });
    const all = { ...closed, id: id(), week: Array(7).fill(['00:00', '23:59']) };
    const open = thing((await h.post<DayView>('/hours', all)).body.things, body, 'break')!.fit!;
    // Half an hour from where they close, at most.
    expect(Math.abs(open.best! - due.getTime())).toBeLessThanOrEqual(HOUR / 2 + 60_000);
    const wrong = await h.post<Problem>('/hours', { ...closed, id: id(), week: [null, null, null, null, null, null, ['17:00', '07:00']] });
    expect([wrong.status, wrong.body.errors?.[0]?.path]).toEqual([422, 'week.6']);
  });

  it('prints labels with the code, the age and the day of each', async () => {
    const { body, answer } = await set(1, ['28', null]);
    const words = (await wordsOf(new Uint8Array(await h.bytes(`/items/${body.id}/labels`)))).join(' ');
    for (const text of [`${answer.body.item.code}-A`, `${answer.body.item.code}-B`, '28 d ± 20 h', 'spare']) expect(words).toContain(text);
    expect((await h.get(`/items/${body.specimens[0]!.id}/labels`)).status).toBe(404);
  });
});
