import type { LedgerCounts, LedgerPage, LedgerView, Problem, TestTurn } from '@keen-mortar/contract';
import { idFor } from '../src/demo.js';
import { Bench, at, by, projectId, reading } from './bench.js';
import { Harness, id, people } from './harness.js';

describe('the ledger', () => {
  let h: Harness;
  let b: Bench;
  beforeAll(async () => {
    h = await Harness.withDemo();
    b = new Bench(h);
  });
  afterAll(() => h.stop());

  const ask = async (query: Record<string, string> = {}) =>
    h.get<LedgerPage & Problem>(`/ledger?${new URLSearchParams({ project: projectId, ...query }).toString()}`);
  const all = async (query: Record<string, string> = {}, limit = '200') => {
    const rows: LedgerPage['rows'][number][] = [];
    for (let after: string | null = ''; after !== null;) {
      const { status, body } = await ask({ ...query, limit, ...(after === '' ? {} : { after }) });
      if (status !== 200) throw new Error(JSON.stringify(body));
      rows.push(...body.rows);
      after = body.next;
    }
    return rows;
  };
  const count = (where: string, values: unknown[] = []) => h.count('test t JOIN item i ON i.id = t.item_id', where, values);

  it('has every test once, the newest first, whatever size its pages are', async () => {
    const whole = await all();
    expect(whole.length).toBe(await count('i.project_id = ?', [projectId]));
    expect(whole.map((r) => r.at)).toEqual([...whole].map((r) => r.at).sort((a, b2) => b2.localeCompare(a)));
    const order = (rows: typeof whole) => rows.map((r) => r.testId);
    expect(order(await all({}, '7'))).toEqual(order(whole));
    expect(order(await all({ order: 'asc' }, '13'))).toEqual([...order(whole)].reverse());
  });

  it('finds by method, person, place, mix, text, time, kit and state together', async () => {
    const whole = await all();
    const pour = idFor('span-4');
    const found = async (query: Record<string, string>, holds: (r: (typeof whole)[number]) => boolean) => {
      const rows = await all(query);
      expect(rows.map((r) => r.testId))
        .withContext(JSON.stringify(query))
        .toEqual(whole.filter(holds).map((r) => r.testId));
      expect(rows.length).withContext(JSON.stringify(query)).toBeGreaterThan(0);
    };
    await found({ method: 'slump,pressure-air' }, (r) => ['slump', 'pressure-air'].includes(r.method));
    await found({ by: people.sallow }, (r) => r.by === people.sallow);
    await found({ state: 'out', method: 'slump' }, (r) => r.state === 'out' && r.method === 'slump');
    await found({ marked: 'true' }, (r) => r.validity === 'marked');
    await found({ text: 'b-2' }, (r) => /^B-2/.test(r.code));
    const half = whole[Math.floor(whole.length / 2)]!.at;
    await found({ from: half }, (r) => r.at >= half);
    await found({ until: half, method: 'wash' }, (r) => r.at < half && r.method === 'wash');
    const inPour = await all({ in: pour });
    const below =
      'WITH RECURSIVE down AS (SELECT ? AS id UNION SELECT x.id FROM item x JOIN down ON x.parent_id = down.id) SELECT id FROM down';
    expect(inPour.length).toBe(await count(`i.id IN (${below})`, [pour]));
    expect((await all({ in: pour, text: inPour[0]!.code })).every((r) => r.code === inPour[0]!.code)).toBeTrue();
    expect((await all({ of: idFor('deck'), method: 'slump' })).length).toBe(
      await count("i.subject_id = ? AND t.method = 'slump'", [idFor('deck')]),
    );
    expect((await all({ kit: idFor('measure-1') })).length).toBe(await h.count('test', 'equipment_id = ?', [idFor('measure-1')]));
    expect((await all({ kit: idFor('measure-1'), text: 'Q-104' })).length).toBe(1);
    expect(await all({ in: id() })).toEqual([]);
  });

  it('of a property shows that result, judged by itself, and puts it in order', async () => {
    const rows = await all({ property: 'relative-yield' });
    expect([...new Set(rows.map((r) => `${r.method} ${r.result?.id}`))]).toEqual(['yield relative']);
    const values = (await all({ property: 'slump', sort: 'value', order: 'asc' }, '3')).map((r) => Number(r.result?.reported ?? 0));
    expect(values).toEqual([...values].sort((x, y) => x - y));
    expect(values.length).toBe((await all({ property: 'slump' })).length);
    // What is out stands for its test, whatever it was made for.
    const sand = (await all({ method: 'fine-gravity', state: 'out' })).map((r) => [r.result?.id, r.result?.verdict]);
    expect(new Set(sand.map(String))).toEqual(new Set(['absorption,out']));
    const out = await all({ property: 'slump', state: 'out' });
    expect(out.length).toBeGreaterThan(0);
    expect(out.every((r) => r.result?.verdict === 'out' && Number(r.result.compared) > 0)).toBeTrue();
  });

  it('a test has its line when it is started, and what it says moves with each correction', async () => {
    const testId = await b.start(await b.sample(await b.load(1091)), 'temperature', { startedAt: at(600) });
    const line = async () => (await all({ method: 'temperature' })).find((r) => r.testId === testId);
    expect([(await line())?.state, (await line())?.result]).toEqual(['open', null]);
    const first = reading('temperature', '28.0', 'C');
    await b.keep(testId, [first]);
    expect(await line()).toEqual(
      jasmine.objectContaining({
        state: 'within',
        corrected: 0,
        result: jasmine.objectContaining({ reported: '28.0', lower: '10', upper: '30' }),
      }),
    );
    await b.keep(testId, [reading('temperature', '38.0', 'C', { supersedes: first.id, reason: 'read wrong' })]);
    expect(await line()).toEqual(jasmine.objectContaining({ state: 'out', corrected: 1 }));
    const turns = (await h.get<{ items: TestTurn[] }>(`/tests/${testId}/turns`)).body.items;
    expect(turns.map((t) => [t.turn, t.results[0]?.reported, t.results[0]?.verdict])).toEqual([
      [0, '28.0', 'within'],
      [1, '38.0', 'out'],
    ]);
  });

  it('counts what it finds by weeks, as it finds it', async () => {
    const query = { method: 'wash,slump' };
    const { body } = await h.get<LedgerCounts>(`/ledger/counts?${new URLSearchParams({ project: projectId, ...query }).toString()}`);
    const rows = await all(query);
    expect([body.weeks.reduce((sum, w) => sum + w.count, 0), body.more]).toEqual([rows.length, false]);
    const out = body.weeks.filter((w) => w.state === 'out').reduce((sum, w) => sum + w.count, 0);
    expect(out).toBe(rows.filter((r) => r.state === 'out').length);
    expect(body.weeks.every((w) => new Date(`${w.week}T00:00:00Z`).getUTCDay() === 1)).toBeTrue();
  });

  it('refuses what it cannot ask for, and says where', async () => {
    const faults = async (query: Record<string, string>) => {
      const { status, body } = await ask(query);
      return [status, ...(body.errors ?? []).map((e) => e.path)];
    };
    expect(await faults({ method: 'hammer' })).toEqual([422, 'method.0']);
    expect(await faults({ state: 'good' })).toEqual([422, 'state.0']);
    expect(await faults({ sort: 'value' })).toEqual([422, 'sort']);
    expect(await faults({ after: 'nonsense' })).toEqual([422, 'after']);
    const other = (await ask({ limit: '1' })).body.next!;
    expect(await faults({ after: other, sort: 'value', property: 'slump' })).toEqual([422, 'after']);
    expect(await faults({ limit: '5000' })).toEqual([422, 'limit']);
    expect(await faults({ colour: 'red' })).toEqual([422, '']);
  });

  it('keeps somebody’s ways of looking for that person alone', async () => {
    const view = { id: id(), by, projectId, name: 'Out this month', query: { state: 'out' }, columns: ['at', 'test'] };
    expect((await h.post('/ledger/views', view)).status).toBe(201);
    const of = async (person: string) =>
      (await h.get<{ items: LedgerView[] }>(`/ledger/views?project=${projectId}&by=${person}`)).body.items.map((v) => v.name);
    expect([await of(by), await of(people.sallow)]).toEqual([['Out this month'], []]);
    await h.post(`/ledger/views/${view.id}/removal`, { id: id(), by: people.sallow });
    expect(await of(by)).toEqual(['Out this month']);
    await h.post(`/ledger/views/${view.id}/removal`, { id: id(), by });
    expect(await of(by)).toEqual([]);
  });
});
