import type { BreakBeside, Problem, Sheet } from '@keen-mortar/contract';
import { Bench, by, projectId, reading } from './bench.js';
import { Harness, id, LOADED_AT } from './harness.js';

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
});
