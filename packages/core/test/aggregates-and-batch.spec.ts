import fc from 'fast-check';
import {
  crossCheckDensity,
  crossCheckSpecimen,
  crossCheckStrength,
  crossCheckYield,
  diagnose,
  evaluate,
  exact,
  methodById,
  statisticsOf,
  type AnyInputs,
  type System,
  type UnitId,
} from '../src/index.js';
import { bestShares } from '../src/methods/gradation/shares.js';
import { branches } from '../src/methods/reduction/tree.js';
import { normalShare, studentShare } from '../src/numbers/distributions.js';

const q = (text: string, unit: UnitId) => ({ text, unit });
const kg = (text: string) => q(text, 'kg');
const run = (id: string, input: AnyInputs, variant?: string, system: System = 'si') => {
  const m = methodById(id)!;
  return evaluate(m, input, { variant: variant ?? Object.keys(m.variants)[0]!, system });
};
const of = (e: ReturnType<typeof run>, id: string) => e.results.find((r) => r.id === id);
const number = (e: ReturnType<typeof run>, id: string) => Number(of(e, id)?.unrounded);
const figures = (e: ReturnType<typeof run>, id: string) => of(e, id)?.series?.map((f) => Number(f.unrounded));
const codes = (e: ReturnType<typeof run>) => [...e.issues, ...e.validity.reasons, ...e.notes].map((said) => said.code);

const shareBelow = (df: number, t: string): number => studentShare(exact(t), df).valueOf();
const normal = (z: string): number => normalShare(exact(z)).valueOf();

describe('one bulk for several tests', () => {
  const tree = (bulk: string, ...tests: string[]) =>
    run('reduction-tree', { bulk: kg(bulk), nominal: q('19', 'mm'), leaves: tests.map((test) => ({ test })) });

  it('gives each test its split, as small as its least mass allows, and keeps the rest', () => {
    // 19 mm: gradation 5 kg, coarse gravity 3 kg. 24 kg: a quarter (6) and an eighth (3).
    const e = tree('24', 'c136', 'c127');
    expect([of(e, 'splits')?.words, figures(e, 'masses'), of(e, 'kept')?.words, figures(e, 'keptMasses')]).toEqual([
      ['LL', 'LRL'],
      [6, 3],
      ['R', 'LRR'],
      [12, 3],
    ]);
  });

  it('asks for the least bulk that feeds them all', () => {
    // 9 kg: 5 kg whole, 3 kg half: together more than the whole. From 10 kg a half each.
    const e = tree('9.9', 'c136', 'c127');
    expect([codes(e), number(e, 'needed')]).toEqual([['bulk-too-small-for-all'], 10]);
    expect(of(tree('10', 'c136', 'c127'), 'splits')?.words).toEqual(['L', 'R']);
  });

  it('hands out places of which none holds another, and all of the bulk is accounted for', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 7 }), { minLength: 1, maxLength: 8 }), (depths) => {
        const plan = branches(depths);
        const whole = depths.reduce((sum, d) => sum + 2 ** -d, 0);
        if (whole > 1) return expect(plan).toBeNull();
        const all = [...plan!.leaves, ...plan!.kept];
        expect(plan!.leaves.map((place) => place.length)).toEqual(depths);
        expect(all.some((a, i) => all.some((b, k) => i !== k && b.startsWith(a)))).toBeFalse();
        expect(all.reduce((sum, place) => sum + 2 ** -place.length, 0)).toBe(1);
      }),
    );
  });

  it('offers the next best where halving leaves far too much: once more, with a part of the last reject', () => {
    const next = (bulk: string) =>
      of(run('reduction', { bulk: kg(bulk), least: kg('5'), material: 'coarse', wet: 'no' }), 'nextBest')?.unrounded;
    // 9.5 kg would be 4.75 halved: 4.75 + 1/4 of 4.75.
    expect([next('9.5'), next('8.5'), next('8.4')]).toEqual(['5.93750000000', '5.31250000000', null]);
  });
});

describe('splitter', () => {
  const fits = (variant: string, width: string, more: AnyInputs = {}) =>
    of(
      run('splitter', { material: 'coarse', largest: q('19', 'mm'), chutes: q('8', '1'), width: q(width, 'mm'), ...more }, variant),
      'fits',
    )?.words?.[0];

  it('wants chutes half as wide again as the largest particle; a lab may want more', () => {
    expect([fits('text', '28.5'), fits('text', '28.4'), fits('twice', '28.5'), fits('thrice', '57')]).toEqual(['yes', 'no', 'no', 'yes']);
  });

  it('wants chutes of 12.5 to 20 mm for dry fine passing 9.5 mm, twelve of them', () => {
    const fine = { material: 'fine', largest: q('4.75', 'mm'), chutes: q('12', '1') };
    expect([fits('text', '12.5', fine), fits('text', '20', fine), fits('text', '20.1', fine)]).toEqual(['yes', 'yes', 'no']);
    expect(fits('text', '13', { ...fine, chutes: q('10', '1') })).toBe('no');
  });
});

describe('drying', () => {
  const track = (...weighings: [string, string][]): AnyInputs => ({
    track: weighings.map(([minute, mass]) => ({ minute: q(minute, 'min'), mass: q(mass, 'g') })),
  });

  it('says when the loss will be small enough, if its rate goes on falling', () => {
    // Losses 16 and 8 g in 30 min: halved every 30 min. 0.1 % of 2000 g is 2 g: two halvings on.
    const e = run('constant-mass', track(['60', '2024'], ['90', '2008'], ['120', '2000']));
    expect(number(e, 'estimate')).toBeCloseTo(180, 6);
    const steady = run('constant-mass', track(['60', '2020'], ['90', '2010'], ['120', '2000']));
    expect(of(steady, 'estimate')?.state).toBe('open');
  });

  it('never before the next weighing may be', () => {
    const e = run('constant-mass', track(['60', '2040'], ['90', '2002.2'], ['120', '2000']));
    expect([of(e, 'state')?.words, number(e, 'estimate')]).toEqual([['not_yet'], 150]);
  });

  it('takes 15 h overnight without checks', () => {
    const state = (minutes: string) => of(run('constant-mass', track([minutes, '2000']), 'overnight'), 'state')?.words?.[0];
    expect([state('899'), state('900')]).toEqual(['not_yet', 'constant']);
  });
});

describe('proportions by loose volume', () => {
  it('are parts by mass times the ratio of the bulk densities', () => {
    const parts = (fine: string, coarse: string, more: AnyInputs = {}): AnyInputs => ({
      fineParts: q(fine, '1'),
      coarseParts: q(coarse, '1'),
      wc: q('0.5', '1'),
      sgCement: q('3.15', '1'),
      sgFine: q('2.6', '1'),
      sgCoarse: q('2.7', '1'),
      air: q('2', '%'),
      water: q('1000', 'kg/m3'),
      ...more,
    });
    const dry = (c: string, f: string, k: string) => ({
      looseCement: q(c, 'kg/m3'),
      looseFine: q(f, 'kg/m3'),
      looseCoarse: q(k, 'kg/m3'),
    });
    const byVolume = run('proportions', parts('2', '4', dry('1500', '1650', '1575')), 'loose_volume');
    const byMass = run('proportions', parts('2.2', '4.2'));
    expect(number(byVolume, 'cement')).toBeCloseTo(number(byMass, 'cement'), 8);
    expect(run('proportions', parts('2', '4'), 'loose_volume').missing).toEqual(['looseFine', 'looseCement', 'looseCoarse']);
  });
});

describe('trial batch, damp', () => {
  it('weighs damp aggregate, takes its free water off, and splits the coarse', () => {
    const e = run('trial-batch', {
      cylinders: q('0', '1'),
      diameter: q('100', 'mm'),
      height: q('200', 'mm'),
      vessels: [{ volume: q('10', 'L') }],
      waste: q('0', '%'),
      ingredients: [
        { name: 'stone', kind: 'coarse', mass: kg('1010'), moisture: q('2', '%'), absorption: q('1', '%') },
        { name: 'sand', kind: 'fine', mass: kg('707'), moisture: q('5', '%'), absorption: q('1', '%') },
        { name: 'cement', kind: 'cementitious', mass: kg('400') },
        { name: 'water', kind: 'water', mass: kg('170') },
      ],
      sizes: [{ share: q('55', '%') }, { share: q('45', '%') }],
    });
    // 10 L of a m³: 10.10·102/101 = 10.20, 7.07·105/101 = 7.35; free 0.10 + 0.28; water 1.70 − 0.38.
    expect(of(e, 'masses')?.series?.map((f) => f.reported)).toEqual(['10.20', '7.35', '4.00', '1.32']);
    expect(of(e, 'sizes')?.series?.map((f) => f.reported)).toEqual(['5.61', '4.59']);
    expect([of(e, 'total')?.reported, of(e, 'density')?.reported]).toEqual(['22.87', '2290']);
    expect(of(e, 'order')?.words).toEqual(['stone', 'part of water', 'sand', 'cement', 'rest of water']);
  });
});

describe('statistics of a series', () => {
  const tests = (...x: string[]) => x.map((f) => ({ companions: [{ strength: q(f, 'MPa') }, { strength: q(f, 'MPa') }] }));

  it('sums up against the target, or the mean, and ends at nothing against the mean', () => {
    const input = { tests: tests('38', '36', '40') };
    expect(figures(run('strength-statistics', { ...input, target: q('37', 'MPa') }), 'cusum')).toEqual([1, 0, 3]);
    expect(figures(run('strength-statistics', input), 'cusum')).toEqual([0, -2, 0]);
  });

  it('expects 9.1 % below f’c at 1.335 standard deviations', () => {
    // Mean 38, s = 2: (35.33 − 38)/2 = −1.335; Φ(−1.335) = 0.0909.
    const e = run('strength-statistics', { tests: tests('36', '38', '40'), specified: q('35.33', 'MPa') });
    expect(of(e, 'below')?.reported).toBe('9.1');
  });

  it('runs the mean range over ten', () => {
    const sets = Array.from({ length: 11 }, (_s, i) => ({
      companions: [q('30', 'MPa'), q(String(30 + i), 'MPa')].map((strength) => ({ strength })),
    }));
    expect(figures(run('strength-statistics', { tests: sets }), 'rangeRuns')).toEqual([4.5, 5.5]);
  });
});

describe('early warning’s chances', () => {
  // As in the pairs of the early-warning test: ŷ(23.5) = 34.075.
  const pairs = Array.from({ length: 8 }, (_p, i) => ({
    early: q(String(20 + i), 'MPa'),
    late: q(((20 + i) * 1.45 + (i % 2 === 0 ? 0.8 : -0.8)).toFixed(2), 'MPa'),
  }));
  const at = (specified: string, more: AnyInputs = {}) =>
    run('early-warning', { pairs, now: q('23.5', 'MPa'), specified: q(specified, 'MPa'), ...more });

  it('are even at what is expected, and 5 % at the lower end of nine in ten', () => {
    expect(number(at('34.075'), 'chance')).toBe(50);
    const low = of(at('34.075'), 'low')!.unrounded!;
    expect(number(at(low), 'chance')).toBeCloseTo(5, 1);
  });

  it('ask of the mean of three what the last two leave', () => {
    // 3·34 − (36 + 31.925) = 34.075: as likely as not.
    expect(number(at('34', { before: q('36', 'MPa'), beforeThat: q('31.925', 'MPa') }), 'chanceMean')).toBe(50);
  });
});

describe('cross-checks', () => {
  it('density against the mix at its air: further than d2s, lighter or heavier', () => {
    const at = (density: string) => crossCheckDensity({ density, theoretical: '2400', airPercent: '5', unit: 'kg/m3' });
    // 2400 · 0.95 = 2280; d2s 29.6.
    expect([at('2309.6'), at('2250.4')]).toEqual([null, null]);
    expect([at('2250.3')?.causes[0]?.code, at('2309.7')?.params['side']]).toEqual(['cause-extra-water', 'more']);
    expect(at('2309.7')?.causes.map((c) => c.code)).not.toContain('cause-extra-water');
  });

  it('yield, specimens and strength, each silent exactly at its limit', () => {
    expect([crossCheckYield('1.02'), crossCheckYield('0.98'), crossCheckSpecimen('2300', '2254')]).toEqual([null, null, null]);
    expect([crossCheckYield('1.021')?.code, crossCheckSpecimen('2300', '2253.9')?.code]).toEqual(['yield-off-ticket', 'specimen-light']);
    const history = { mean: '37', deviation: '2', ratio: '1.45', ratioDeviation: '0.05' };
    expect(crossCheckStrength({ late: '31', early: null, history })).toEqual([]);
    expect(crossCheckStrength({ late: '30.9', early: '25', history }).map((c) => c.code)).toEqual([
      'strength-off-ratio',
      'strength-off-history',
    ]);
  });

  it('diagnosis knows curing, sand and the comparator', () => {
    const first = (signs: Parameters<typeof diagnose>[0]) => diagnose(signs)[0]?.id;
    expect(first({ early: 'usual', strength: 'low' })).toBe('curing');
    expect(first({ early: 'low', strength: 'usual' })).toBe('early-curing');
    expect(first({ fineness: 'moved' })).toBe('sand-changed');
    expect(first({ prisms: 'together', bar: 'moved' })).toBe('comparator');
    expect(first({ airs: 'apart' })).toBe('airs-apart');
    expect(diagnose({ fineness: 'usual' })).toEqual([]);
  });
});

describe('shares of a population', () => {
  // Published points: two-sided 90 % of t, and of the normal.
  it('agree with the published tables of t and of the normal', () => {
    const { t90 } = methodById('early-warning')!.variants['pairs']!.params as { t90: readonly { df: number; t: string }[] };
    for (const { df, t } of t90) expect(shareBelow(df, t)).withContext(`t with ${df}`).toBeCloseTo(0.95, 3);
    expect(shareBelow(1, '1')).toBeCloseTo(0.75, 10);
    expect(shareBelow(2, '0')).toBe(0.5);
    expect(normal('1.96')).toBeCloseTo(0.975, 4);
    expect([normal('-1.645'), normal('-9'), normal('9')].map((p) => Number(p.toFixed(4)))).toEqual([0.05, 0, 1]);
  });
});

describe('methods that go together', () => {
  it('a gradation is put against a band by what passes as reported, so 9.96 % of fines is 10.0', () => {
    const sieves = (fines: string): AnyInputs => ({
      dry: q('1000', 'g'),
      pan: q(fines, 'g'),
      area: q('0.03', 'm2'),
      sieves: [
        ['9.5', '0'],
        ['4.75', '100'],
        ['0.075', String(900 - Number(fines))],
      ].map(([opening, retained]) => ({ opening: q(opening!, 'mm'), retained: q(retained!, 'g') })),
    });
    const graded = run('gradation', { ...sieves('99.6'), band: 'fine' });
    expect(of(graded, 'reported')?.words).toEqual(['100', '90', '10.0']);
    expect([of(graded, 'below')?.words, of(graded, 'above')?.words, of(graded, 'inside')?.words]).toEqual([['4.75'], ['0.075'], ['no']]);
    expect(of(run('gradation', sieves('99.6')), 'inside')?.words).toBeUndefined();
    // A lab's own band is the one that it is held against.
    const wider = structuredClone(methodById('gradation')!.variants['c136']!.params) as {
      neighboursMost: string;
      bands: { fine: { least: string; most: string }[] };
    };
    wider.neighboursMost = '100';
    wider.bands.fine.forEach((row) => Object.assign(row, { least: '0', most: '100' }));
    const own = evaluate(methodById('gradation')!, { ...sieves('99.6'), band: 'fine' } as AnyInputs, {
      variant: 'c136',
      system: 'si',
      params: wider,
    });
    expect(of(own, 'inside')?.words).toEqual(['yes']);
  });

  it('masses that were added up from the coarsest say the same as those of each sieve', () => {
    const openings = ['4.75', '2.36', '0.075'];
    const of = (masses: readonly string[], pan: string, more: object = {}) =>
      run('gradation', {
        dry: q('500', 'g'),
        pan: q(pan, 'g'),
        sieves: openings.map((opening, i) => ({ opening: q(opening, 'mm'), retained: q(masses[i]!, 'g') })),
        ...more,
      } as AnyInputs);
    const [each, summed] = [of(['20', '130', '340'], '10'), of(['20', '150', '490'], '500', { masses: 'summed' })];
    for (const id of ['retained', 'passing']) expect(figures(summed, id)).toEqual(figures(each, id));
    expect([number(summed, 'loss'), number(each, 'loss')]).toEqual([0, 0]);
    expect(codes(of(['20', '150', '490'], '10', { masses: 'summed' }))).toContain('masses-fall');
  });

  it('aggregates together pass by their shares; where some shares lie in the band, those that lie best are among them', () => {
    const sieves = ['50/100/100', '37.5/92/100', '19.0/8/95', '9.5/1/38', '4.75/0.5/4'].map((row) => {
      const [opening, first, second] = row.split('/');
      return { opening: q(opening!, 'mm'), first: q(first!, '%'), second: q(second!, '%') };
    });
    const shared = (a: string, b: string) =>
      run('combined-grading', { band: '467', parts: [{ share: q(a, '%') }, { share: q(b, '%') }], sieves } as AnyInputs);
    const even = shared('50', '50');
    expect([of(even, 'reported')?.words, of(even, 'inside')?.words]).toEqual([['100', '96', '52', '20', '2'], ['yes']]);
    const off = shared('80', '20');
    expect([of(off, 'below')?.words, of(off, 'possible')?.words]).toEqual([['37.5', '19.0', '9.5'], ['yes']]);
    const best = figures(off, 'best')!.map(String);
    expect(of(shared(best[0]!, best[1]!), 'inside')?.words).toEqual(['yes']);
    // What is offered does not hang on what is keyed, and stands where the shares do not add up.
    const whole = shared('70', '20');
    expect([figures(whole, 'best')?.map(String), codes(whole)]).toEqual([best, ['shares-not-whole']]);
    expect(of(run('combined-grading', { parts: [{ share: q('100', '%') }], sieves } as AnyInputs), 'passing')?.state).toBe('open');
  });

  it('shares of four are searched as far as single per cents, in bounded work', () => {
    const band = [
      { opening: '9.5', least: '40', most: '41' },
      { opening: '4.75', least: '20', most: '21' },
    ];
    const { shares, inside } = bestShares(
      [
        [100, 90],
        [60, 5],
        [10, 2],
        [0, 0],
      ],
      band,
    );
    expect([shares.reduce((a, b) => a + b), inside, shares.length]).toEqual([100, true, 4]);
  });

  it('a series for acceptance gives its statistics, each test a set of its own', () => {
    const series = { specified: q('28', 'MPa'), tests: ['30', '34', '29'].map((x) => ({ strength: q(x, 'MPa') })) } as AnyInputs;
    const e = run('strength-statistics', statisticsOf(series));
    expect([number(e, 'mean'), of(e, 'below')?.state]).toEqual([31, 'given']);
    expect(figures(e, 'cusum')).toEqual([-1, 2, 0]);
  });
});
