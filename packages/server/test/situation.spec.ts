import { entriesOf, situation, type Reading, type Sample, type Test } from '@keen-mortar/contract';
import { evaluate, guidance, methodById, say, type UnitId } from '@keen-mortar/core';

const T0 = Date.parse('2026-11-25T12:00:00Z');
const iso = (minutes: number): string => new Date(T0 + minutes * 60_000).toISOString();
const kg = (text: string) => ({ text, unit: 'kg' as const });

/** A load of 6 m³ of the deck mix with its ticket. */
const base = {
  id: 's',
  project: { id: 'p', system: 'si', practice: 'us-astm', timezone: 'Etc/UTC' },
  revision: {
    aggregate: 'normal',
    air: '6.0',
    ingredients: [
      { name: 'Cement', role: 'cement', mass: kg('340'), sg: '3.15' },
      { name: 'Water', role: 'water', mass: kg('150'), sg: '1' },
      { name: 'Sand', role: 'fine', mass: kg('700'), sg: '2.64' },
      { name: 'Stone', role: 'coarse', mass: kg('1080'), sg: '2.68' },
    ],
  },
  load: {
    batchedAt: iso(0),
    design: { text: '6', unit: 'm3' },
    materials: [
      { name: 'Cement', role: 'cement', actual: '2040', unit: 'kg' },
      { name: 'Water', role: 'water', actual: '700', unit: 'kg' },
      { name: 'Sand', role: 'fine', actual: '4400', unit: 'kg', moisture: '4.7', absorption: '1.2' },
      { name: 'Stone', role: 'coarse', actual: '6500', unit: 'kg', moisture: '0.9', absorption: '0.9' },
    ],
    water: [],
  },
  specifications: [],
  kit: [],
  sources: { 'sample.portions': [{ at: iso(2) }, { at: iso(6) }], 'sample.finished': iso(8) },
  events: [],
  tests: [],
  ownCopies: [],
  given: {},
};
const sampleOf = (more: object = {}): Sample => ({ ...base, ...more }) as unknown as Sample;
const watered = (mass: string, minutes: number) => ({ ...base.load, water: [{ id: 'w', mass: kg(mass), at: iso(minutes), by: 'a' }] });

function worked(sample: Sample, method: string, readings: Record<string, [string, UnitId | null]>, minutes = 20) {
  const list = Object.entries(readings).map(([field, [text, unit]], i): Partial<Reading> => ({
    id: `${method}-${i}`,
    field,
    text,
    unit,
    supersedes: null,
    at: iso(minutes),
  }));
  const variant = Object.keys(methodById(method)!.variants)[0]!;
  const test = { id: method, method, variant, system: 'si', startedAt: iso(minutes), equipmentId: null, retestOf: null, readings: list };
  const here = situation(sample, test as unknown as Test, entriesOf(list as Reading[]))!;
  return evaluate(here.method, here.inputs, here.how);
}
const slump = (sample: Sample, minutes?: number) =>
  worked(sample, 'slump', { shape: ['true', null], mold: ['300', 'mm'], drop: ['95', 'mm'] }, minutes);
const result = (e: ReturnType<typeof worked>, id: string) => e.results.find((r) => r.id === id)?.reported ?? null;

describe('what the record says of a test', () => {
  it('a void composite voids every test of the sample and of what was molded of it, and says why', () => {
    const sources = { 'sample.portions': [{ at: iso(10) }, { at: iso(28) }], 'sample.finished': iso(29) };
    const sample = sampleOf({ sources });
    const cylinder = { d1: ['101.5', 'mm'], d2: ['101.5', 'mm'], length: ['203', 'mm'], load: ['300', 'kN'] } as const;
    for (const e of [slump(sample, 30), worked(sample, 'cylinder', cylinder as never, 28 * 1440)]) {
      expect([e.validity.state, e.validity.reasons.map((r) => r.code)]).toEqual(['void', ['sample-void']]);
      expect(e.results.every((r) => r.reported === null || r.id === 'apart' || r.id === 'diameter')).toBeTrue();
      const said = say(e.validity.reasons[0]!.code, e.validity.reasons[0]!.params);
      expect(said).toContain('18 min');
      expect(said.match(/void/g)?.length).toBe(1);
    }
    expect(guidance(methodById('slump')!, slump(sample, 30))[0]?.next.length).toBe(1);
  });

  it('water after a test leaves the test as it was, and says that it stands for concrete without it', () => {
    const codes = (minutes: number) => slump(sampleOf({ load: watered('30', minutes) }), 20).notes.map((n) => n.code);
    expect([codes(10), codes(25)]).toEqual([[], ['water-after-test']]);
  });

  it('gravimetric air takes what was in the truck, water added before the test too', () => {
    const weighed = { full: ['19.31', 'kg'], empty: ['3.21', 'kg'], volume: ['7.043', 'L'], design: ['6', 'm3'] } as const;
    const air = (load: object) => result(worked(sampleOf({ load }), 'yield', weighed as never), 'air');
    const [dry, wet] = [Number(air(base.load)), Number(air(watered('120', 10)))];
    // ΣM/ΣV falls with the water: the same density holds less air.
    expect(dry - wet).toBeGreaterThan(0.8);
    expect(dry - wet).toBeLessThan(1.6);
    expect(air(watered('120', 25))).toBe(air(base.load));
  });
});
