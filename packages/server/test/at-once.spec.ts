import type { BreakBeside, Problem, Sheet } from '@keen-mortar/contract';
import { judgeLine } from '../src/commands/findings.js';
import { select, transaction } from '../src/db.js';
import { Postponed } from '../src/postponed.js';
import { Bench, by, projectId, reading } from './bench.js';
import { Harness, id, LOADED_AT } from './harness.js';
import { Site } from './site.js';

const mm = (text: string) => ({ text, unit: 'mm' });
const DAY = 86_400_000;
const mixId = id();
const REVISION = {
  id: id(),
  effectiveFrom: '2026-01-01T00:00:00Z',
  specificationIds: [],
  largest: mm('25'),
  nominal: mm('19'),
  air: '6.0',
  ingredients: ['Cement', 'Fly ash'].map((name) => ({ name, role: 'cementitious', mass: { text: '200', unit: 'kg' }, sg: '3.15' })),
};

describe('many who write at once', () => {
  let servers: Harness[];
  let b: Bench;
  beforeAll(async () => {
    servers = [await Harness.withDemo(), await Harness.start()];
    b = new Bench(servers[0]!);
    // A mix of its own: what others count of theirs stays theirs.
    const made = await servers[0]!.post('/mixes', {
      id: mixId,
      by,
      projectId,
      code: `AT-${id().slice(0, 6)}`,
      name: 'At once',
      revision: REVISION,
    });
    if (made.status !== 201) throw new Error(JSON.stringify(made.body));
  });
  afterAll(() => Promise.all(servers.map((h) => h.stop())));

  /** A set of three for 28 days, old enough to be broken. */
  async function threeOfASet(): Promise<readonly string[]> {
    const before = (minutes: number) => new Date(LOADED_AT.getTime() - 28 * DAY - minutes * 60_000).toISOString();
    const m3 = (text: string) => ({ text, unit: 'm3' });
    const pour = await b.item('pour', null, { element: 'Landing', planned: m3('18') }, { name: id(), subjectId: mixId });
    const materials = [{ name: 'All', role: 'coarse', actual: { text: '13000', unit: 'kg' } }];
    const truck = { ticket: 'F-1', truck: 'Truck 2', batchedAt: before(60), design: m3('6'), materials };
    const load = await b.item('load', pour.item.id, truck);
    const sample = await b.item('sample', load.item.id, { portions: [{ at: before(20) }] });
    const answer = await servers[0]!.post<Sheet & Problem>(`/items/${sample.item.id}/specimens`, {
      id: id(),
      by,
      facts: { madeAt: before(0), shape: 'cylinder', width: mm('100'), length: mm('200'), curing: 'standard' },
      specimens: [1, 2, 3].map(() => ({ id: id(), age: { text: '28', unit: 'd' } })),
    });
    return answer.body.children.map((c) => c.id);
  }

  it('three companions that are kept at the same moment by two servers are three of their strength test', async () => {
    const figures = (load: string) => [
      reading('d1', '101.5', 'mm'),
      reading('d2', '101.5', 'mm'),
      reading('length', '203', 'mm'),
      reading('load', load, 'kN'),
    ];
    const counted: (number | undefined)[] = [];
    for (let turn = 0; turn < 6; turn++) {
      const specimens = await threeOfASet();
      const tests = await Promise.all(specimens.map((s) => b.start(s, 'cylinder', { startedAt: LOADED_AT.toISOString() })));
      const kept = await Promise.all(
        tests.map((test, i) => servers[i % 2]!.post(`/tests/${test}/readings`, { id: id(), by, readings: figures(`${294 + i}`) })),
      );
      expect(kept.map((k) => k.status)).toEqual([201, 201, 201]);
      const beside = await servers[0]!.get<BreakBeside>(`/breaks/${specimens[0]!}`);
      counted.push(beside.body.tests[0]?.count);
    }
    expect(counted).toEqual([3, 3, 3, 3, 3, 3]);
  });

  it('whoever wrote, in whatever order: what is derived of lines, their tank and their mix is what it would be afresh', async () => {
    const site = await Site.made(b, 60);
    const tank = (await b.item('storage', null, { kind: 'tank' }, { name: `Tank ${id().slice(0, 6)}` })).item;
    const pour = await site.pour('60');
    const writes: [path: string, body: object][] = [];
    const lines = [tank.id, pour];
    const keepOf = async (itemId: string, method: string, minutes: number, readings: object[]): Promise<void> => {
      const testId = await b.start(itemId, method, { startedAt: site.at(minutes) });
      writes.push([`/tests/${testId}/readings`, { id: id(), by, readings }]);
    };
    for (let n = 0; n < 4; n++) {
      const load = await site.load(pour, n * 20);
      lines.push(load);
      const sample = await site.sample(load, [n * 20 + 10, n * 20 + 14], n * 20 + 16);
      await keepOf(sample, 'slump', n * 20 + 18, [
        reading('shape', 'true', null),
        reading('mold', '300', 'mm'),
        reading('drop', `${40 + n * 50}`, 'mm'),
      ]);
      writes.push([
        `/loads/${load}/water`,
        { id: id(), by, mass: { text: '30', unit: 'L' }, at: site.at(n * 20 + 17), reason: 'asked for' },
      ]);
      const { specimens } = await site.set(sample, [28, 28, 28], { madeAt: site.at(n * 20 + 20), tank: tank.code, cured: site.at(1500) });
      for (const [i, s] of specimens.entries())
        await keepOf(s, 'cylinder', n * 20 + 20 + 28 * 1440, [
          ...['d1', 'd2'].map((field) => reading(field, '101.5', 'mm')),
          reading('length', '203', 'mm'),
          reading('load', `${230 + n * 20 + i}`, 'kN'),
        ]);
    }
    for (const [day, degrees] of [
      [3, '27.4'],
      [9, '22.8'],
      [15, '28.5'],
    ] as const)
      await keepOf(tank.id, 'storage', day * 1440, [reading('temperature', degrees, 'C')]);
    const shuffled = writes.map((w, i) => [(i * 7919) % 31, w] as const).sort(([x], [y]) => x - y);
    const answers = await Promise.all(shuffled.map(([, [path, body]], i) => servers[i % 2]!.post(path, body)));
    expect(answers.filter((a) => a.status !== 201).map((a) => a.body)).toEqual([]);
    const { pool } = servers[0]!;
    await Promise.all(servers.map((h) => new Postponed(h.pool, { error: fail } as never).work()));

    const all = [...lines, site.mixId];
    const derived = async (cx: Parameters<typeof select>[0]) => ({
      found: await select(cx, `SELECT ${FOUND} FROM finding WHERE line_id IN (?) ORDER BY subject_id, finding, part`, [all]),
      strengths: await select(
        cx,
        `SELECT s.item_id, s.age_days, s.mean_text, s.count, s.not_for, s.specimens FROM strength s JOIN item i ON i.id = s.item_id
         WHERE i.line_id IN (?) ORDER BY s.item_id`,
        [all],
      ),
    });
    const now = await derived(pool);
    const afresh = await transaction(pool, async (cx) => {
      await cx.query('DELETE FROM finding WHERE line_id IN (?)', [all]);
      await cx.query('DELETE s FROM strength s JOIN item i ON i.id = s.item_id WHERE i.line_id IN (?)', [all]);
      // Strengths first, and then what stands on those of other lines.
      for (let round = 0; round < 2; round++) for (const line of all) await judgeLine(cx, line);
      return derived(cx);
    });
    expect(now).toEqual(afresh);
    expect(now.strengths.map((s) => Number((s as { count: number }).count))).toEqual([3, 3, 3, 3]);
    expect(new Set(now.found.map((f) => (f as { finding: string }).finding)).has('tank')).toBeTrue();
    // What is counted is what is there.
    const miscounted = await select(
      pool,
      'SELECT i.code FROM item i WHERE i.line_id IN (?) AND i.children <> (SELECT COUNT(*) FROM item c WHERE c.parent_id = i.id AND NOT c.voided)',
      [all],
    );
    const unledgered = await select(
      pool,
      `SELECT t.id FROM test t JOIN item i ON i.id = t.item_id JOIN ledger l ON l.test_id = t.id
       WHERE i.line_id IN (?) AND l.turn <> (SELECT MAX(e.turn) FROM evaluation e WHERE e.test_id = t.id)`,
      [all],
    );
    expect([miscounted, unledgered]).toEqual([[], []]);
  });
});

const FOUND = 'subject_id, finding, part, states, evidence, acceptance, choices, decision_id';
