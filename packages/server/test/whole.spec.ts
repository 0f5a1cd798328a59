import { entriesOf, situation, wholeOf, type Made, type Reading, type Sample, type Test } from '@keen-mortar/contract';
import { evaluate, guidance, judgeAll, methodById, say, type UnitId } from '@keen-mortar/core';

const T0 = Date.parse('2026-11-25T12:00:00Z');
const iso = (minutes: number): string => new Date(T0 + minutes * 60_000).toISOString();
const kg = (text: string) => ({ text, unit: 'kg' as const });

/** A load of 6 m³ of the deck mix with its ticket, and moistures on it. */
const base = {
  id: 's',
  createdAt: iso(0),
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
    theoretical: { text: '2433', unit: 'kg/m3' },
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
  specifications: [
    {
      id: 'spec',
      name: 'Deck',
      comparison: 'reported',
      limits: [
        { id: 'l1', property: 'slump', unit: 'mm', lower: '75', upper: '125', source: '2.4' },
        { id: 'l2', property: 'wcm', unit: '1', upper: '0.45', source: '2.3' },
        { id: 'l3', property: 'time-in-truck', unit: 'h', upper: '1.5', source: '3.6' },
      ],
    },
  ],
  kit: [],
  sources: {},
  events: [],
  tests: [],
  ownCopies: [],
  given: {},
  history: {},
};
const sampleOf = (more: object = {}): Sample => ({ ...base, ...more }) as unknown as Sample;
const watered = (mass: string, minutes: number) => ({
  ...base.load,
  water: [{ id: 'w', mass: kg(mass), at: iso(minutes), by: 'a', revolutions: null }],
});

const made = (sample: Sample, method: string, readings: Record<string, [string, UnitId | null]>, minutes = 20): Made => {
  const list = Object.entries(readings).map(([field, [text, unit]], i): Partial<Reading> => ({
    id: `${method}-${i}`,
    field,
    text,
    unit,
    supersedes: null,
    at: iso(minutes),
  }));
  const test = {
    id: method,
    method,
    variant: Object.keys(methodById(method)!.variants)[0]!,
    system: 'si',
    startedAt: iso(minutes),
    equipmentId: null,
    retestOf: null,
    readings: list as Reading[],
  } as unknown as Test;
  const here = situation(sample, test, entriesOf(test.readings))!;
  const evaluation = evaluate(here.method, here.inputs, here.how);
  return { method: here.method, evaluation, judged: judgeAll(here.method, evaluation, sample.specifications), equipmentId: null };
};
const slump = (sample: Sample, drop: string, minutes?: number): Made =>
  made(sample, 'slump', { shape: ['true', null], mold: ['300', 'mm'], drop: [drop, 'mm'] }, minutes);
const result = (e: { results: readonly { id: string; reported: string | null; words?: readonly string[] }[] } | null, id: string) => {
  const r = e?.results.find((found) => found.id === id);
  return r?.words?.join() ?? r?.reported ?? null;
};

describe('what a sample says as a whole', () => {
  it('water on site: asked for by a slump that is too low, and how much is what w/cm leaves', () => {
    const sample = sampleOf();
    expect(wholeOf(sample, [slump(sample, '95')], T0 + 30 * 60_000).water).toBeNull();
    const { water, wcm } = wholeOf(sample, [slump(sample, '40')], T0 + 30 * 60_000);
    // Free water 700 + 4400/1.047·(4.7 − 1.2) % = 847.1 kg, w/cm 0.415; 0.45 · 2040 = 918 kg leaves 70.9 kg.
    expect([result(water, 'may'), result(water, 'amount'), result(water, 'minutes')]).toEqual(['yes', '70', '60']);
    expect(result(wcm, 'wcm')).toBe('0.42');
    expect(
      guidance(methodById('water-on-site')!, water!)
        .map((t) => t.says)
        .join(' '),
    ).toContain('70 L');
  });

  it('water on site: once, not past the time, not past w/cm, each with its reason', () => {
    const why = (sample: Sample, minutes: number) => {
      const { water } = wholeOf(sample, [slump(sample, '40', minutes)], T0 + minutes * 60_000);
      return [result(water, 'may'), ...water!.notes.map((n) => n.code)];
    };
    expect(why(sampleOf({ load: watered('30', 10) }), 30)).toEqual(['no', 'water-once']);
    expect(why(sampleOf(), 95)).toEqual(['no', 'water-too-late']);
    const wet = base.load.materials.map((m) => (m.name === 'Water' ? { ...m, actual: '775' } : m));
    expect(why(sampleOf({ load: { ...base.load, materials: wet } }), 30)).toEqual(['no', 'water-no-room']);
  });

  it('time in the truck is judged against its limit in the limit’s own unit: open before it, out after it', () => {
    const at = (minutes: number, events: object[] = []) => {
      const truck = wholeOf(sampleOf({ events }), [], T0 + minutes * 60_000).truck!;
      return [truck.evaluation.missing.length > 0, truck.judged[0]!.verdicts.find((v) => v.property === 'time-in-truck')?.state];
    };
    expect(at(60)).toEqual([true, 'open']);
    // 1.5 h is no 1.5 min, and 92 min is above it.
    expect(at(92)).toEqual([false, 'out']);
    const empty = { id: 'e', kind: 'discharged', at: iso(80), by: 'a' };
    expect(at(300, [empty])).toEqual([false, 'within']);
  });

  it('a void composite voids the tests of fresh concrete made from it, and says why', () => {
    const events = [
      { id: 'p1', kind: 'portion', at: iso(10), part: 'middle', by: 'a' },
      { id: 'p2', kind: 'portion', at: iso(28), part: 'middle', by: 'a' },
      { id: 'f', kind: 'finished', at: iso(29), by: 'a' },
    ];
    const sources = {
      'sample.portions': [
        { at: iso(10), part: 'middle' },
        { at: iso(28), part: 'middle' },
      ],
      'sample.finished': iso(29),
    };
    const e = slump(sampleOf({ events, sources }), '95', 30).evaluation;
    expect([e.validity.state, e.validity.reasons.map((r) => r.code), result(e, 'slump')]).toEqual(['void', ['sample-void'], null]);
    expect(say(e.validity.reasons[0]!.code, e.validity.reasons[0]!.params)).toContain('18 min');
    const [told] = guidance(methodById('slump')!, e);
    expect([told?.kind, told!.next.length]).toEqual(['void', 1]);
  });

  it('water after a test leaves the test as it was, and says that it stands for concrete without it', () => {
    const codes = (minutes: number) => slump(sampleOf({ load: watered('30', minutes) }), '95', 20).evaluation.notes.map((n) => n.code);
    expect([codes(10), codes(25)]).toEqual([[], ['water-after-test']]);
  });

  it('gravimetric air takes what was in the truck, water added before the test too', () => {
    const weighed = { full: ['19.31', 'kg'], empty: ['3.21', 'kg'], volume: ['7.043', 'L'], design: ['6', 'm3'] } as const;
    const air = (load: object) => result(made(sampleOf({ load }), 'yield', weighed as never).evaluation, 'air');
    const [dry, wet] = [Number(air(base.load)), Number(air(watered('120', 10)))];
    // ΣM/ΣV falls with the water: the same density holds less air.
    expect(dry - wet).toBeGreaterThan(0.8);
    expect(dry - wet).toBeLessThan(1.6);
    expect(air(watered('120', 25))).toBe(air(base.load));
  });

  it('cross-checks and likely causes come with their evidence, and water on the ticket is among the causes', () => {
    // A material without a gravity: the air-free density is the design's, which knows no water of the site.
    const load = {
      ...watered('120', 10),
      materials: [...base.load.materials, { name: 'Slag', role: 'cementitious', actual: '300', unit: 'kg' }],
    };
    const sample = sampleOf({ load, sources: { 'mix.theoretical': { text: '2433', unit: 'kg/m3' } } });
    const weighed = { full: ['18.80', 'kg'], empty: ['3.21', 'kg'], volume: ['7.043', 'L'], design: ['6', 'm3'] } as const;
    const rows = [
      slump(sample, '180'),
      made(sample, 'pressure-air', { gauge: ['5.0', '%'], correction: ['0.4', '%'] }),
      made(sample, 'yield', weighed as never),
    ];
    const { checks, diagnoses } = wholeOf(sample, rows, T0 + 30 * 60_000);
    const airs = checks.find((c) => c.code === 'airs-disagree')!;
    const causes = airs.causes.map((c) => say(c.code, c.params)).join(' ');
    expect(causes).toContain('120 kg');
    expect([causes, say(airs.code, airs.params)].join(' ')).not.toMatch(/\?|undefined|null|NaN/);
    expect(diagnoses.map((d) => d.id)).toContain('airs-apart');
    expect(diagnoses.every((d) => d.supports.length >= 1 && d.ask !== '')).toBeTrue();
  });
});
