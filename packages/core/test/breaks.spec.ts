import { exampleOf } from '../src/examples/index.js';
import {
  adviseAtPress,
  causesOf,
  ageOfLimit,
  duesOf,
  evaluate,
  FOUND_BY_BREAKING,
  foretell,
  foretoldSoFar,
  judgeMean,
  methodById,
  oddOneOut,
  padsServe,
  remarkWords,
  schoolOf,
  seasonOf,
  seriesView,
  shiftOf,
  simulatedSeries,
  strengthLimit,
  strengthTestOf,
  type AnyInputs,
  type Broken,
  type OfSet,
  type UnitId,
} from '../src/index.js';

const q = (text: string, unit: UnitId) => ({ text, unit });
const MPa = (text: string) => q(text, 'MPa');
const run = (id: string, keyed: AnyInputs, variant?: string, system: 'si' | 'us' = 'si') => {
  const m = methodById(id)!;
  return evaluate(m, { ...exampleOf(m), ...keyed }, { variant: variant ?? Object.keys(m.variants)[0]!, system });
};
const of = (e: ReturnType<typeof run>, id: string) => e.results.find((r) => r.id === id);
const marks = (e: ReturnType<typeof run>) => e.validity.reasons.map((r) => r.code);

describe('a specimen in the machine', () => {
  const pads = (hardness: string, uses: string, load: string, cap = 'pads') =>
    marks(
      run('cylinder', {
        d1: q('100', 'mm'),
        d2: q('100', 'mm'),
        length: q('200', 'mm'),
        load: q(load, 'kN'),
        hardness: q(hardness, '1'),
        uses: q(uses, '1'),
        cap,
      }),
    );

  it('pads serve as often as C1231 prints for their hardness and the strength, and only for that', () => {
    // 38.2 MPa; 51 MPa asks for qualified pads of 70, which serve fifty times.
    expect([pads('60', '100', '300'), pads('60', '101', '300'), pads('70', '100', '300')]).toEqual([[], ['pads-worn'], []]);
    expect([pads('70', '50', '430'), pads('70', '51', '430'), pads('50', '3', '430')]).toEqual([[], ['pads-worn'], ['pads-hardness']]);
    expect(pads('50', '999', '430', 'ground')).toEqual([]);
    expect([padsServe('60'), padsServe('65')]).toEqual([100, null]);
  });

  it('the machine is set to the stress rate over the area: of a cylinder, split, a beam', () => {
    expect(of(run('cylinder', { d1: q('100', 'mm'), d2: q('100', 'mm') }), 'machine')?.reported).toBe('1.96');
    const range = of(run('cylinder', { d1: q('100', 'mm'), d2: q('100', 'mm') }), 'machineRange');
    expect(range?.series?.map((f) => f.reported)).toEqual(['1.57', '2.36']);
    // The same as the machine rate for splitting gives by itself.
    const split = {
      diameters: [{ d: q('150', 'mm') }, { d: q('150', 'mm') }, { d: q('150', 'mm') }],
      lengths: [{ l: q('300', 'mm') }, { l: q('300', 'mm') }],
    };
    const alone = run('splitting-rate', { diameter: q('150', 'mm'), length: q('300', 'mm'), rate: q('1.05', 'MPa/min') });
    expect(Number(of(run('splitting', split), 'machine')?.unrounded)).toBeCloseTo(Number(of(alone, 'rate')?.unrounded), 9);
    expect(of(run('splitting', split, 'en'), 'machine')?.reported).toBe('3.53');
    expect(Number(of(run('flexure', {}, 'third-point'), 'machine')?.unrounded)).toBeCloseTo(
      (1.05 / 60000) * ((150.2 * 149.9 ** 2) / 450),
      6,
    );
  });

  it('a trace gives the rate of the latter half, as the method of the rate gives it; a split one in its own minutes', () => {
    const { trace } = exampleOf(methodById('loading-rate')!) as { trace: never };
    const broken = run('cylinder', { d1: q('101.5', 'mm'), d2: q('101.5', 'mm'), trace });
    expect(of(broken, 'rate')?.reported).toBe(of(run('loading-rate', {}), 'rate')!.reported);
    expect(marks(broken)).not.toContain('rate-outside');
    const slow = [0, 60, 120, 180, 240].map((s) => ({ time: q(String(s), 's'), load: q(String(s), 'kN') }));
    expect(of(run('splitting', { trace: slow }), 'rate')?.reported).toBe('0.85');
    expect(marks(run('splitting', { trace: slow }, 'is'))).toContain('rate-outside');
  });

  it('what is lost is waited for no longer; a tank is read again the next day', () => {
    const made = Date.UTC(2026, 4, 4, 8);
    const base = { events: {}, truckMinutes: null, properties: [] };
    const sources = { 'specimens.made': new Date(made).toISOString(), 'specimens.shape': 'cylinder' };
    const due = (facts: object) => duesOf({ ...base, kind: 'specimen', facts: facts as AnyInputs, tests: [], sources });
    expect([due({ age: q('7', 'd') }).length, due({ age: q('7', 'd'), became: 'lost' }).length]).toEqual([1, 0]);
    const read = { method: 'storage', startedAt: made, kept: true };
    const tank = (tests: (typeof read)[]) => duesOf({ ...base, kind: 'storage', facts: {} as AnyInputs, tests, sources: {} });
    expect([tank([]), tank([read]).map((d) => d.opensAt - made)]).toEqual([[], [20 * 3_600_000]]);
  });
});

describe('the strength test', () => {
  const set: OfSet = { shape: 'cylinder', width: 100, cured: 'standard', laboratory: false, system: 'si' };
  const broken = (text: string, more: Partial<Broken> = {}): Broken => ({
    property: 'strength',
    value: MPa(text),
    void: false,
    remarks: [],
    left: null,
    ...more,
  });
  const three = ['36.4', '36.8', '35.9'].map((t) => broken(t));

  it('is the mean of its companions; what is void, or left out with a cause, is not among them', () => {
    expect(strengthTestOf(set, three)).toEqual(
      jasmine.objectContaining({ reported: '36.4', count: 3, range: '2.5', most: '10.6', apart: false, not: null }),
    );
    const without = strengthTestOf(set, [...three, broken('20.0', { left: 'a cap came off' }), broken('0', { void: true })]);
    expect([without.reported, without.count]).toEqual(['36.4', 3]);
    const wide = strengthTestOf(set, [broken('36.4'), broken('31.7')]);
    expect([wide.reported, wide.range, wide.most, wide.apart, wide.not]).toEqual(['34.0', '13.8', '9.0', true, 'few']);
    expect(strengthTestOf({ ...set, system: 'us' }, [{ ...broken('5280'), value: q('5280', 'psi') }]).reported).toBe('5280');
  });

  it('counts for acceptance only standard-cured, of a production, at its age, of enough companions', () => {
    const not = (of: Partial<OfSet>, all: readonly Broken[]) => strengthTestOf({ ...set, ...of }, all).not;
    expect([not({ cured: 'field' }, three), not({ laboratory: true }, three)]).toEqual(['field', 'trial']);
    expect([
      not(
        {},
        three.map((b) => ({ ...b, remarks: ['outside-age-window'] as const })),
      ),
      not({}, three.slice(1)),
    ]).toEqual(['off-age', 'few']);
    expect([not({ width: 150 }, three.slice(1)), not({ shape: 'cube' }, three.slice(1)), not({ shape: 'core' }, three.slice(1))]).toEqual([
      null,
      null,
      'few',
    ]);
    expect(
      not(
        {},
        three.map((b) => ({ ...b, remarks: ['pads-worn'] as const })),
      ),
    ).toBe('waits');
  });

  it('says while it forms what it must reach, and what its 7 days promised', () => {
    const about = {
      system: 'si' as const,
      specified: MPa('32'),
      school: 'aci' as const,
      before: [MPa('33.0'), MPa('31.0')],
      earlier: 0,
      companions: [MPa('34.0')],
      planned: 3,
      pairs: [],
      early: null,
    };
    // Means of three: 96 − 64 = 32; so (96 − 34) / 2 each.
    expect(adviseAtPress({ ...about, mean: '34.0' })).toEqual(
      jasmine.objectContaining({ floor: '28.5', least: '32.0', each: '31.0', below: null, expected: null }),
    );
    expect(['28.4', '31.9', '33'].map((mean) => adviseAtPress({ ...about, mean }).below)).toEqual(['floor', 'run', null]);
    expect(adviseAtPress({ ...about, before: [MPa('40'), MPa('40')], mean: '31.0' }).below).toBe('specified');
    // 96 − 63.9 − 0.05 would be reported as 32.0, and 32.0 would not do: what must be reached is rounded up.
    expect(adviseAtPress({ ...about, before: [MPa('33.0'), MPa('30.95')], mean: null }).least).toBe('32.1');
    const pairs = Array.from({ length: 12 }, (_p, i) => ({
      early: MPa(String(24 + i / 4)),
      late: MPa((34 + i / 4 + (i % 3) / 10).toFixed(1)),
    }));
    const told = foretell(pairs, MPa('25'), MPa('32'), 'si')!;
    expect([Number(told.text) > 34.5 && Number(told.text) < 35.5, Number(told.low) < Number(told.text), told.chance]).toEqual([
      true,
      true,
      '0',
    ]);
    expect([foretoldSoFar(pairs, 'si').of, foretoldSoFar(pairs.slice(0, 8), 'si').of]).toEqual([4, 0]);
    expect(foretell(pairs.slice(0, 7), MPa('25'), null, 'si')).toBeNull();
  });

  it('the companion that differs is explained by what the record says of it alone', () => {
    const seen = (code: string, strength: number, more: object = {}) => ({
      code,
      strength,
      remarks: ['initial-cure-cold'],
      fracture: '1',
      density: 2350,
      kit: ['press', 'pads'],
      ...more,
    });
    const three = [
      seen('A', 36.4),
      seen('B', 31.7, { remarks: ['initial-cure-cold', 'rate-outside'], fracture: '5', density: 2290 }),
      seen('C', 36.0),
    ];
    expect(oddOneOut(three)).toEqual({
      code: 'B',
      why: ['Loaded at another rate', 'Fracture 5: its sides came off at an end', 'Lighter than the others'],
    });
    expect(oddOneOut([seen('A', 36), seen('B', 31, { kit: ['press', 'others'] })])).toEqual({
      code: 'B',
      why: ['Broken with other equipment'],
    });
    expect([oddOneOut([seen('A', 36), seen('B', 31)])!.why, oddOneOut([seen('A', 36)])]).toEqual([[], null]);
  });

  it('asks of the next what its school asks: a group that it completes, the last fifteen with it, or its own floor', () => {
    const asks = (school: 'en' | 'is', before: readonly string[], more: object = {}) => {
      const a = adviseAtPress({
        system: 'si',
        specified: MPa('30'),
        school,
        before: before.map(MPa),
        earlier: 0,
        companions: [],
        planned: 3,
        pairs: [],
        early: null,
        mean: '33.0',
        ...more,
      });
      return [a.floor, a.least, a.below];
    };
    // Initial production: 3 · 34 − 66 = 36; in the middle of a group its floor alone.
    expect([asks('en', []), asks('en', ['33', '33']), asks('en', ['33', '33', '36'])]).toEqual([
      ['26.0', '26.0', null],
      ['26.0', '36.0', 'run'],
      ['26.0', '26.0', null],
    ]);
    // Continuous, s = 0.9759: 15 · (30 + 1.48 s) − the last fourteen.
    const fifteen = '33 34 33 35 32 33 34 33 35 33 32 34 33 34 33'.split(' ');
    const s = Number(
      of(run('strength-statistics', { tests: fifteen.map((t) => ({ companions: [{ strength: MPa(t) }] })) }), 'deviation')!.unrounded,
    );
    const next = 15 * (30 + 1.48 * s) - fifteen.slice(1).reduce((sum, t) => sum + Number(t), 0);
    expect(asks('en', fifteen)[1]).toBe((Math.ceil(Math.max(26, next) * 10 - 1e-9) / 10).toFixed(1));
    // IS 456: s = 1.0, margin 3: 4 · 33 − 96 = 36; groups go on from those before.
    expect([
      asks('is', ['31', '32', '33']),
      asks('is', ['31', '32', '33'], { earlier: 2 }),
      asks('is', ['30', '31', '32', '33'], { earlier: 3 }),
    ]).toEqual([
      ['27.0', '36.0', 'run'],
      ['27.0', '27.0', null],
      ['27.0', '36.0', 'run'],
    ]);
    expect([
      asks('is', []),
      asks('en', ['4800', '4800'], {
        system: 'us',
        before: [q('4800', 'psi'), q('4800', 'psi')],
        specified: q('4000', 'psi'),
        mean: '4100',
      }),
    ]).toEqual([
      ['27.0', '27.0', null],
      ['3420', '4141', 'run'],
    ]);
  });

  it('the mean of a test is compared with what is asked of it at its age; the specified strength is left to its school', () => {
    const limit = (property: string, lower: string, more: object = {}) => ({
      id: property + lower,
      property,
      unit: 'MPa' as const,
      lower,
      source: 'S',
      ...more,
    });
    const limits = [
      limit('strength', '40', { atDays: 56 }),
      limit('strength', '20', { atDays: 3 }),
      limit('flexure', '4.5'),
      limit('cube-strength', '25'),
    ];
    const judged = (property: string, ageDays: number, reported: string) =>
      judgeMean({ property, ageDays, mean: reported, reported, unit: 'MPa' }, [{ comparison: 'reported', limits }]).map((m) => [
        m.says,
        m.inside,
      ]);
    expect([
      judged('strength', 3, '19.9'),
      judged('flexure', 28, '4.5'),
      judged('flexure', 7, '4.0'),
      judged('strength', 56, '30'),
    ]).toEqual([[['at least 20 MPa at 3 d', false]], [['at least 4.5 MPa', true]], [], []]);
    expect([strengthLimit(limits)?.lower, ageOfLimit({ atDays: 56 }), ageOfLimit({}), strengthLimit([])]).toEqual(['40', 56, 28, null]);
    expect([...FOUND_BY_BREAKING].sort()).toEqual(['cube-strength', 'flexure', 'splitting', 'strength']);
  });
});

describe('the series of a mix', () => {
  const before = '38.1 39.2 37.0 38.5 39.9 36.8 37.9 38.8 40.1 37.2 38.3 39.0 36.9 38.0 37.5 38.9'.split(' ');
  const after = '35.4 36.3 34.9 35.8 34.6 36.0 35.1'.split(' ');
  const tests = (texts: readonly string[]) => texts.map((t) => ({ strength: MPa(t), companions: [MPa(t), MPa(t)] }));
  const view = (texts: readonly string[]) => seriesView(tests(texts), { specified: MPa('32'), system: 'si' });

  it('moved where two means are evidence of it: less than a scatter apart many tests show it, and noise does not', () => {
    const shift = shiftOf([...before, ...after], 'evidence')!;
    expect([shift.at, shift.before, shift.after]).toEqual([16, '38.3', '35.4']);
    expect(shift.from <= 16 && shift.to >= 16).toBeTrue();
    // The news of a source is three scatters of one result, which this is not.
    expect(shiftOf([...before.map((t, i) => (i % 2 ? t : String(Number(t) - 1.5))), ...after])).toBeNull();
    const moved = Array.from({ length: 40 }, (_s, seed) => shiftOf(simulatedSeries(30, 38, 2, 0, seed + 1), 'evidence')).filter(
      (s) => s !== null,
    );
    expect(moved.length).toBeLessThan(6);
  });

  it('is what its methods say, and the school of the contract comes from what the project works to', () => {
    const v = view([...before, ...after]);
    const statistics = run('strength-statistics', {
      tests: tests([...before, ...after]).map((t) => ({ companions: t.companions.map((strength) => ({ strength })) })),
      target: MPa('38.3'),
      specified: MPa('32'),
    });
    expect(v.cusum.at(-1)).toBeCloseTo(Number(of(statistics, 'cusum')!.series!.at(-1)!.unrounded), 6);
    expect([v.count, v.mean, v.floor, v.schools.map((s) => s.passes)]).toEqual([23, '37.4', '28.5', [true, true, true]]);
    expect(Number(v.over)).toBeCloseTo(Number(v.mean) - Number(v.required), 1);
    // The floor of the school that decides stands in the chart.
    expect(seriesView(tests(before), { specified: MPa('32'), system: 'si', school: 'is' }).floor).toBe('29.0');
    expect((['us-astm', 'us-aashto', 'en', 'is'] as const).map(schoolOf)).toEqual(['aci', 'aci', 'en', 'is']);
  });

  it('three schools differ on one series: a low run of three, a margin over the scatter, groups of four', () => {
    const low = ['36.0', '35.0', '31.0', '31.5', '31.9', '36.5', '35.0', '36.0', '35.5', '34.9', '36.2', '35.1'];
    const [aci, en, is] = view(low).schools;
    expect([aci!.passes, en!.how, is!.rules[0]!.holds]).toEqual([false, 'initial, groups of three', false]);
    // One test is no mean of three: nothing passes by it, but one that is too low fails.
    expect(view(['36.0']).schools.map((s) => s.passes)).toEqual([null, null, null]);
    expect(view(['20.0']).schools[0]!.passes).toBeFalse();
    expect(view([])).toEqual(jasmine.objectContaining({ count: 0, mean: null, shift: null }));
  });

  it('what the next test must reach is rounded up: what is told is enough', () => {
    // Two of 31.0 and 31.5 leave 33.5 for a mean of 32; of 31.03 and 31.45 it is 33.52.
    expect(view(['36.0', '31.0', '31.5']).schools[0]!.next).toBe('33.5');
    expect(view(['36.0', '31.03', '31.45']).schools[0]!.next).toBe('33.6');
    // A floor of 500 psi below 4641.2 is 4141.2.
    const psi = seriesView(tests(['31.93', '31.03']), { specified: { text: '32', unit: 'MPa' }, system: 'us' });
    const [aci] = psi.schools;
    expect([psi.unit, aci!.next, aci!.floor]).toEqual(['psi', '4793', '4142']);
  });

  it('of what is new in the tests after it, what began then and is as far off comes first', () => {
    const day = 86_400_000;
    const traits = (i: number): string[] => [
      ...(i >= 16 ? ['sand'] : []),
      ...(i >= 10 ? ['pads'] : []),
      ...(i === 18 ? ['cold'] : []),
      'press',
      ...(i < 8 ? ['truck'] : []),
    ];
    const traced = [...before, ...after].map((t, i) => ({ strength: Number(t), at: i * 4 * day, traits: traits(i) }));
    const trait = (id: string) => ({ id, kind: 'kit' as const, label: id });
    const causes = causesOf(traced, 16, ['press', 'cold', 'pads', 'sand', 'truck'].map(trait));
    expect(causes.map((c) => c.trait.id)).toEqual(['sand', 'pads', 'cold']);
    expect([causes[0]!.after, causes[0]!.before, causes[0]!.which, causes[0]!.when]).toEqual([7, 0, 1, 1]);
    expect(causesOf(traced, 0, [trait('sand')])).toEqual([]);
    expect([seasonOf(q('-2', 'C'), 'si'), seasonOf(q('10', 'C'), 'us')].map((t) => [t.id, t.label])).toEqual([
      ['air:-10C', 'Air at -10 to 0 °C'],
      ['air:40F', 'Air at 40 to 60 °F'],
    ]);
    expect([remarkWords('pads-worn'), remarkWords('some-new-mark')]).toEqual(['Worn pads', 'some new mark']);
  });
});
