import { exampleOf } from '../src/examples/index.js';
import { evaluate, methodById, unspell, type AnyInputs, type Shape, type System, type UnitId } from '../src/index.js';

const q = (text: string, unit: UnitId) => ({ text, unit });
const run = (id: string, input: AnyInputs, variant?: string, system: System = 'si') => {
  const m = methodById(id)!;
  return evaluate(m, input, { variant: variant ?? Object.keys(m.variants)[0]!, system });
};
const of = (e: ReturnType<typeof run>, id: string) => e.results.find((r) => r.id === id);
const reported = (e: ReturnType<typeof run>, id: string) => of(e, id)?.reported;
const number = (e: ReturnType<typeof run>, id: string) => Number(of(e, id)?.unrounded);
const codes = (e: ReturnType<typeof run>) => [...e.issues, ...e.validity.reasons, ...e.notes].map((said) => said.code);

describe('half-cell map', () => {
  const grid = (...lines: string[]): AnyInputs => ({
    electrode: 'cse',
    temperature: q('22', 'C'),
    spacing: q('0.6', 'm'),
    lines: lines.map((line) => ({ cells: line.split(' ').map((e) => ({ potential: e === '-' ? null : q(e, 'mV') })) })),
  });

  it('shares the area among the classes; on a boundary is uncertain; a blank cell counts nowhere', () => {
    const e = run('half-cell-map', grid('-199 -200', '- -350', '-351 -120'));
    expect(of(e, 'where')?.words).toEqual(['1.1', '1.2', '2.2', '3.1', '3.2']);
    expect([reported(e, 'read'), reported(e, 'noCorrosion'), reported(e, 'uncertain'), reported(e, 'corrosion')]).toEqual([
      '5',
      '40',
      '40',
      '20',
    ]);
    expect(e.missing).toEqual([]);
  });

  it('halves the grid where neighbours differ by more than 150 mV, along and across', () => {
    expect(of(run('half-cell-map', grid('-100 -250 -401', '-251 -250 -300')), 'steep')?.words).toEqual(['1.1 and 2.1', '1.2 and 1.3']);
    expect(of(run('half-cell-map', grid('-100 -250')), 'steep')?.words).toEqual([]);
  });

  it('T23 takes an all-positive map for swapped leads, and turns it when told so', () => {
    const positive = grid('130 260', '420 150');
    expect(codes(run('half-cell-map', positive))).toContain('swapped-map');
    const turned = run('half-cell-map', { ...positive, turned: 'yes' });
    expect(codes(turned)).not.toContain('swapped-map');
    expect(of(turned, 'cse')?.series?.map((f) => f.reported)).toEqual(['-130', '-260', '-420', '-150']);
  });

  it('plots cumulative frequency at i/(n + 1), most negative first', () => {
    const e = run('half-cell-map', grid('-100 -300 -200'));
    expect(of(e, 'sorted')?.series?.map((f) => f.reported)).toEqual(['-300', '-200', '-100']);
    expect(of(e, 'frequency')?.series?.map((f) => Number(f.unrounded))).toEqual([25, 50, 75]);
  });

  it('has the widest grid of each system as quoted', () => {
    const wide = (spacing: string, unit: UnitId, system: System) =>
      codes(run('half-cell-map', { ...grid('-100'), temperature: q('72', 'F'), spacing: q(spacing, unit) }, 'c876', system));
    expect(wide('1.2', 'm', 'si')).not.toContain('grid-too-wide');
    expect(wide('48', 'in', 'us')).not.toContain('grid-too-wide');
    expect(wide('48.1', 'in', 'us')).toContain('grid-too-wide');
  });
});

describe('strength from rebound', () => {
  // R 30 … 40, f on 1.5·R − 20 but for ± 0.6 by turns.
  const pairs = [30, 32, 34, 36, 38, 40].map((r, i) => ({
    rebound: q(String(r), '1'),
    strength: q((1.5 * r - 20 + (i % 2 === 0 ? 0.6 : -0.6)).toFixed(1), 'MPa'),
  }));
  const at = (now: string, variant = 'pairs') => run('rebound-strength', { orientation: 'level', pairs, now: q(now, '1') }, variant);

  it('reads the line at the mean where all lines pass, with a band and a wider interval', () => {
    const e = at('35');
    expect(number(e, 'strength')).toBeCloseTo(32.5, 10);
    // Sxx = 70, Sxy = 105 − 1.2·3 … by hand: Σ(R − 35)·e = 0.6·(−5 + 3 − 1 − 1 + 3 − 5) = −3.6.
    expect(number(e, 'slope')).toBeCloseTo(1.5 - 3.6 / 70, 10);
    const residual = 6 * 0.36 - 3.6 ** 2 / 70;
    const s = Math.sqrt(residual / 4);
    expect(number(e, 'high') - number(e, 'strength')).toBeCloseTo(2.132 * s * Math.sqrt(1 + 1 / 6), 8);
    expect(number(e, 'lineHigh') - number(e, 'strength')).toBeCloseTo(2.132 * s * Math.sqrt(1 / 6), 8);
  });

  it('never goes beyond its pairs, nor below six of them', () => {
    expect(codes(at('40'))).toEqual(['estimated-only']);
    expect([codes(at('40.1')), of(at('40.1'), 'strength')?.state]).toEqual([['beyond-correlation'], 'open']);
    expect(run('rebound-strength', { pairs: pairs.slice(0, 5), now: q('35', '1') }).missing).toContain('pairs.5.rebound');
  });

  it('reads a curve between its points, and on them', () => {
    expect([number(at('32', 'curve'), 'strength'), number(at('33', 'curve'), 'strength')]).toEqual([27.4, 29.5]);
    expect(number(at('30', 'curve'), 'strength')).toBe(25.6);
  });

  it('names areas that stand out, and mixes no elements', () => {
    const e = run('rebound-uniformity', exampleOf(methodById('rebound-uniformity')!));
    expect([of(e, 'standOut')?.words, reported(e, 'variation')]).toEqual([['B2'], '8.1']);
  });
});

describe('length change', () => {
  it('has every moment of its regime, from the minute that water met cement', () => {
    const due = (variant: string) => {
      const e = run('length-schedule', { batched: '2026-03-01T08:00:00+01:00', bars: 'prisms' }, variant);
      return of(e, 'due')?.words?.map((iso, i) => `${of(e, 'what')?.words?.[i] ?? ''} ${iso.slice(0, 16)}`);
    };
    expect(due('hybrid')).toEqual([
      'Demold, wipe, mark 2026-03-02T06:30',
      'Initial reading 2026-03-02T07:00',
      '7 days, drying starts 2026-03-08T07:00',
      '28 days of drying 2026-04-05T07:00',
    ]);
    expect([due('air')?.length, due('water')?.length]).toEqual([11, 7]);
    expect(due('air')?.at(-1)).toBe('64 weeks 2027-06-20T07:00');
    expect(due('water')?.at(-1)).toBe('64 weeks 2027-05-23T07:00');
  });

  it('gives 15 min in lime water to mortar bars, 30 to prisms', () => {
    const soak = (bars: string) => number(run('length-schedule', { batched: '2026-03-01T08:00:00Z', bars }), 'soak');
    expect([soak('bars'), soak('prisms')]).toEqual([15, 30]);
  });

  it('looks at a prism that strays by more than 0.005 %, not at one exactly there', () => {
    const mm = (text: string) => q(text, 'mm');
    const with3 = (third: string) =>
      codes(
        run('length-change', {
          gauge: mm('250'),
          initialBar: mm('4'),
          bar: mm('4'),
          prisms: ['4.4', '4.4', third].map((now) => ({ initial: mm('4.5'), now: mm(now) })),
        }),
      );
    // 0.005 % of 250 mm is 0.0125 mm.
    expect([with3('4.4125'), with3('4.4126')]).toEqual([[], ['prism-strays']]);
  });
});

describe('length change over the ages', () => {
  const example = exampleOf(methodById('length-series')!);
  const sets = example['readings'] as unknown as Record<string, { text: string; unit: UnitId }>[];

  it('is what the single age gives, from the initial reading and from the start of drying', () => {
    // By hand: A (3.318 − 1.206) − (3.412 − 1.204) = −0.096; B −0.090; C −0.094 mm over 250 mm; from drying −0.122, −0.114, −0.118.
    const e = run('length-series', example);
    expect([reported(e, 'last'), reported(e, 'fromDrying')]).toEqual(['-0.037', '-0.047']);
    expect(['a', 'b', 'c'].map((id) => Number(of(e, id)!.series!.at(-1)!.unrounded))).toEqual([-0.0384, -0.036, -0.0376]);
    expect(of(e, 'mean')!.series!.map((f) => f.reported)).toEqual(['0.000', '0.010', '-0.008', '-0.017', '-0.028', '-0.037']);
  });

  it('names a prism that strays at the last age, and the cell that lacks or runs backwards', () => {
    const last = { ...sets[5]!, c: q('3.140', 'mm') };
    expect(codes(run('length-series', { ...example, readings: [...sets.slice(0, 5), last] } as AnyInputs))).toContain('prism-strays');
    const gap = run('length-series', { ...example, readings: [sets[0]!, { ...sets[1]!, c: null }] });
    expect(gap.missing).toEqual(['readings.1.c']);
    const back = run('length-series', { ...example, readings: [sets[1]!, sets[0]!] });
    expect(back.issues.map((i) => [i.code, i.path])).toEqual([['times-in-disorder', 'readings.1.age']]);
  });

  it('two prisms and no drying are enough', () => {
    const two = sets.map(({ c: _third, ...set }) => set);
    const e = run('length-series', { gauge: q('250', 'mm'), readings: two });
    expect([reported(e, 'last'), of(e, 'c')?.state, of(e, 'fromDrying')?.state]).toEqual(['-0.037', 'open', 'open']);
  });
});

describe('permeability from a series', () => {
  const cell = {
    area: q('100', 'cm2'),
    thickness: q('150', 'mm'),
    temperature: q('27', 'C'),
    head: q('100', 'm'),
    water: q('1000', 'kg/m3'),
  };
  const series = (mL: string) => mL.split(' ').map((total, i) => ({ time: q(String(i * 1000), 's'), total: q(total, 'mL') }));

  it('fits the steady tail alone', () => {
    // 5, 3, then 2, 2, 2, 2 mL each 1000 s: steady from 2000 s, 0.002 mL/s.
    const e = run('constant-head', { ...cell, series: series('0 5 8 10 12 14 16') });
    expect([number(e, 'steadyFrom'), reported(e, 'steadyPoints'), number(e, 'rate')]).toEqual([2000, '5', 2e-9]);
    // K = q·L/(A·H) = 2e-9·0.15/(0.01·100).
    expect(number(e, 'standard')).toBeCloseTo(3e-10, 20);
  });

  it('is not steady before three intervals agree within 5 %', () => {
    expect(codes(run('constant-head', { ...cell, series: series('0 5 7 9') }))).toEqual(['not-steady-yet']);
    expect(codes(run('constant-head', { ...cell, series: series('0 100 200 304') }))).toEqual([]);
    expect(codes(run('constant-head', { ...cell, series: series('0 100 200 320') }))).toEqual(['not-steady-yet']);
  });

  it('says what is unlikely of its concrete, and where pervious concrete leaves Darcy’s range', () => {
    const e = run('constant-head', { ...cell, volume: q('2', 'mL'), time: q('1000', 's'), concrete: 'pervious' });
    // H/L = 667: hundreds over an open specimen.
    expect(codes(e)).toEqual(['unlikely-permeability', 'beyond-darcy']);
  });
});

describe('what a slip of the day does', () => {
  const keyed = (id: string, readings: Record<string, string>, variant?: string) =>
    run(id, unspell(methodById(id)!.fields as Shape, readings), variant);

  it('a flask that was filled too warm is void, by each edition’s own tolerance; where nobody read it nothing is said', () => {
    const filled = (water: string | null, variant: string) => {
      const { validity } = keyed(
        'fine-gravity',
        { ssd: '500.3 g', flaskWater: '661.8 g', flaskSample: '971.6 g', dry: '493.6 g', ...(water ? { water } : {}) },
        variant,
      );
      return [validity.state, validity.reasons.map((r) => r.code).join()];
    };
    expect(filled('26 C', 'astm')).toEqual(['void', 'flask-temperature']);
    expect([filled('25 C', 'astm')[0], filled('24.8 C', 'aashto')[0]]).toEqual(['valid', 'void']);
    expect(filled(null, 'aashto')[0]).toBe('valid');
  });

  it('a splitter says how many chutes its material takes, and how wide', () => {
    const found = (material: string) =>
      keyed('splitter', { material, largest: '25 mm', chutes: '10', width: '38 mm' }).results.map(
        (r) => `${r.label} ${r.reported ?? Number(r.unrounded)}`,
      );
    expect(found('coarse')).toContain('Chutes that it takes, at least 8');
    expect(found('mixture')).toContain('Width of a chute, at least 37.5');
    expect(found('fine')).toContain('Chutes that it takes, at least 12');
  });

  it('an electrode of another kind is corrected by its maker’s coefficient, and by none where that is not keyed', () => {
    const at = (more: Record<string, string>) => {
      const e = keyed('half-cell', { potential: '-285 mV', electrode: 'agcl', temperature: '9.5 C', ...more });
      return [number(e, 'correction'), e.notes.some((n) => n.code === 'not-corrected-for-temperature')];
    };
    expect(at({})).toEqual([0, true]);
    expect(at({ coefficient: '-0.6' })).toEqual([7.62, false]);
  });
});
