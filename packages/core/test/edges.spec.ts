import { exampleOf } from '../src/examples/index.js';
import {
  clock,
  crossCheckAir,
  crossCheckStrength,
  crossCheckYield,
  evaluate,
  exact,
  crossCheckGravities,
  methodById,
  type AnyInputs,
  type QtyField,
  type StrengthEvidence,
  type System,
  type UnitId,
} from '../src/index.js';
import { recording } from '../src/methods/calc.js';
import { slips } from '../src/methods/slips.js';

const q = (text: string, unit: UnitId) => ({ text, unit });
const mm = (text: string) => q(text, 'mm');
const run = (id: string, input: AnyInputs, variant?: string, system: System = 'si') => {
  const m = methodById(id)!;
  return evaluate(m, input, { variant: variant ?? Object.keys(m.variants)[0]!, system });
};
const of = (e: ReturnType<typeof run>, id: string) => e.results.find((r) => r.id === id);
const number = (e: ReturnType<typeof run>, id: string) => Number(of(e, id)?.unrounded);
const said = (e: ReturnType<typeof run>, code: string) =>
  [...e.issues, ...e.validity.reasons, ...e.notes].find((remark) => remark.code === code)?.params;

/** What mutation testing found that nobody looked at: each of these fails when an operation of its formula is exchanged. */
describe('figures within remarks, and thresholds from both sides', () => {
  it('a beam that broke outside says by how many per cent of the span', () => {
    // Third of 450 is 150; broke at 120: 30/450 = 6.67 % outside.
    const beam = { load: q('20', 'kN'), span: mm('450'), widths: [{ b: mm('150') }], depths: [{ d: mm('150') }], at: mm('120') };
    const e = run('flexure', beam as AnyInputs, 'third-point');
    expect([e.validity.state, said(e, 'broke-outside')?.['by']]).toEqual(['void', '6.67']);
  });

  it('a fine grading is too steep between two sieves by their difference, not by their sum', () => {
    const band = (...passing: string[]) =>
      ['9.5', '4.75', '2.36', '1.18', '0.600', '0.300', '0.150', '0.075'].map((o, i) => ({
        opening: mm(o),
        passing: q(passing[i]!, '%'),
      }));
    const fine = (...passing: string[]) => run('grading-band', { band: 'fine', sieves: band(...passing) } as AnyInputs);
    const even = fine('100', '98', '86', '68', '43', '17', '6', '2.6');
    expect([said(even, 'too-much-between'), of(even, 'inside')?.words]).toEqual([undefined, ['yes']]);
    // 85 − 40 = 45 is allowed, 85 − 39 = 46 is not.
    expect(said(fine('100', '98', '86', '85', '40', '17', '6', '2.6'), 'too-much-between')).toBeUndefined();
    expect(said(fine('100', '98', '86', '85', '39', '17', '6', '2.6'), 'too-much-between')).toBeDefined();
  });

  it('a potential of another electrode is put against copper sulfate, without the copper electrode’s own temperature coefficient', () => {
    // SCE 241 − 316 = −75 mV; at 32 °C a copper electrode would add 8.82 mV, another one has a coefficient of its own.
    const cell = (turned: 'yes' | 'no', potential: string): AnyInputs => ({
      electrode: 'sce',
      temperature: q('32', 'C'),
      spacing: q('0.6', 'm'),
      turned,
      lines: [{ cells: [{ potential: q(potential, 'mV') }] }],
    });
    expect(Number(of(run('half-cell-map', cell('no', '-200')), 'cse')!.series![0]!.unrounded)).toBeCloseTo(-275, 9);
    expect(Number(of(run('half-cell-map', cell('yes', '200')), 'cse')!.series![0]!.unrounded)).toBeCloseTo(-275, 9);
    expect(number(run('half-cell', { electrode: 'sce', temperature: q('32', 'C'), potential: q('-200', 'mV') }), 'cse')).toBeCloseTo(
      -275,
      9,
    );
  });

  it('a reference bar that moved says by how much, and one that is not repeated is marked from a thousandth of a per cent', () => {
    const prisms = (bar: string, again: string) =>
      run('length-change', {
        gauge: mm('250'),
        initialBar: mm('4.000'),
        bar: mm(bar),
        barAgain: mm(again),
        prisms: [{ initial: mm('5.000'), now: mm('4.950') }],
      } as AnyInputs);
    // 0.03/250 = 0.012 %; 0.0025/250 is a thousandth, allowed; 0.0026 is not.
    expect(said(prisms('4.030', '4.030'), 'bar-moved')?.['by']).toBe('0.012');
    expect(said(prisms('4.025', '4.025'), 'bar-moved')).toBeUndefined();
    expect(said(prisms('4.000', '4.0025'), 'bar-not-repeated')).toBeUndefined();
    expect(said(prisms('4.000', '4.0026'), 'bar-not-repeated')).toBeDefined();
    const series = (last: string) => {
      const example = exampleOf(methodById('length-series')!);
      const sets = example['readings'] as unknown as Record<string, unknown>[];
      return run('length-series', { ...example, readings: [...sets.slice(0, 5), { ...sets[5], bar: mm(last) }] } as AnyInputs);
    };
    // From 1.204: 0.030/250 = 0.012 %, 0.025/250 = 0.010 % is allowed.
    expect(said(series('1.234'), 'bar-moved')?.['by']).toBe('0.012');
    expect(said(series('1.229'), 'bar-moved')).toBeUndefined();
  });

  it('the line of a loading trace runs through loads that lie on one', () => {
    const trace = ['0', '60', '120', '160', '200', '240'].map((load, i) => ({ time: q(String(10 * i), 's'), load: q(load, 'kN') }));
    const e = run('loading-rate', { diameter: mm('150'), trace } as AnyInputs);
    const figures = (id: string) => of(e, id)!.series!.map((f) => Number(f.unrounded));
    expect([figures('fittedAt'), figures('fitted')]).toEqual([
      [20, 50],
      [120, 240],
    ]);
  });

  it('the interval of an early warning widens away from the middle of its pairs, by the published formula', () => {
    const [x, y] = [
      [20, 21, 22, 23, 24, 25, 26, 27],
      [30.2, 31.1, 33.4, 33.0, 35.9, 35.8, 38.1, 38.4],
    ];
    const n = x.length;
    const mean = (values: readonly number[]) => values.reduce((sum, v) => sum + v, 0) / n;
    const [mx, my] = [mean(x), mean(y)];
    const sxx = x.reduce((sum, v) => sum + (v - mx) ** 2, 0);
    const b = x.reduce((sum, v, i) => sum + (v - mx) * (y[i]! - my), 0) / sxx;
    const a = my - b * mx;
    const s = Math.sqrt(y.reduce((sum, v, i) => sum + (v - a - b * x[i]!) ** 2, 0) / (n - 2));
    for (const now of [20, 23.5, 27]) {
      const pairs = x.map((v, i) => ({ early: q(String(v), 'MPa'), late: q(String(y[i]), 'MPa') }));
      const e = run('early-warning', { pairs, now: q(String(now), 'MPa') } as AnyInputs);
      // t of six degrees of freedom, 90 % two-sided.
      const half = 1.943 * s * Math.sqrt(1 + 1 / n + (now - mx) ** 2 / sxx);
      expect(number(e, 'low')).toBeCloseTo(a + b * now - half, 8);
      expect(number(e, 'high')).toBeCloseTo(a + b * now + half, 8);
    }
  });

  it('a yield that the worksheet’s rounded density changes says what it would be', () => {
    // 36.06 lb in 0.25 ft³ is 144.24 lb/ft³: 27065/144.24/27 = 6.9496 yd³, but over the rounded 144.2 it is 6.9515.
    const worksheet = (mass: string) =>
      run(
        'yield',
        {
          full: q('44.06', 'lb'),
          empty: q('8', 'lb'),
          volume: q('0.25', 'ft3'),
          design: q('7', 'yd3'),
          batch: [{ name: 'all', role: 'cementitious', mass: q(mass, 'lb') }],
        },
        'worksheet',
        'us',
      );
    expect([of(worksheet('27065'), 'yield')?.reported, said(worksheet('27065'), 'worksheet-differs')?.['other']]).toEqual([
      '7.0',
      '6.9 yd³',
    ]);
    expect(said(worksheet('27300'), 'worksheet-differs')).toBeUndefined();
  });

  it('water on site: what w/cm leaves, downwards to whole doses, never a drop above; or why not', () => {
    // 0.45 · 400 = 180; 150 batched, 4 added, sand 700 at 5 % with 1 % absorbed gives 700·4/105 = 26.667.
    const load = (most: string) =>
      run('water-on-site', {
        ...exampleOf(methodById('water-on-site')!),
        cementitious: q('400', 'kg'),
        batched: q('150', 'kg'),
        added: q('4', 'kg'),
        aggregates: [{ name: 'sand', batched: q('700', 'kg'), moisture: q('5', '%'), absorption: q('1', '%') }],
        most: q(most, '1'),
      } as AnyInputs);
    // 184 − 154 − 26.667 = 3.333 L; at 0.45 it is −0.667.
    expect([of(load('0.46'), 'may')?.words, of(load('0.46'), 'amount')?.reported]).toEqual([['yes'], '3']);
    expect([of(load('0.45'), 'may')?.words, said(load('0.45'), 'water-no-room')]).toEqual([['no'], {}]);
    // 48 of the 90 minutes are gone; one minute more and the last is over.
    expect(of(load('0.46'), 'minutes')?.reported).toBe('42');
  });

  it('a trial batch weighs what a cubic metre or yard of its design weighs', () => {
    const batch = (system: System, unit: UnitId) =>
      run(
        'trial-batch',
        {
          ...exampleOf(methodById('trial-batch')!),
          ingredients: ['1000', '1106'].map((m) => ({ mass: q(m, unit) })),
        },
        undefined,
        system,
      );
    expect(number(batch('si', 'kg'), 'density')).toBe(2106);
    expect(number(batch('us', 'lb'), 'density')).toBe(78);
  });

  it('a flow that is not steady yet says how far its last two rates are apart', () => {
    // Rates 4.0, 3.0 and 2.4 mL in 600 s: the last two are 20 % apart.
    const series = ['0', '4', '7', '9.4'].map((total, i) => ({ time: q(String(600 * i), 's'), total: q(total, 'mL') }));
    const e = run('constant-head', { ...exampleOf(methodById('constant-head')!), series });
    expect(said(e, 'not-steady-yet')?.['apart']).toBe('20');
    // The same rates over intervals of 600, 300 and 900 s: it is rates that are compared, not volumes times time.
    const uneven = (
      [
        ['0', '0'],
        ['600', '4'],
        ['900', '5.5'],
        ['1800', '9.1'],
      ] as const
    ).map(([time, total]) => ({ time: q(time, 's'), total: q(total, 'mL') }));
    expect(said(run('constant-head', { ...exampleOf(methodById('constant-head')!), series: uneven }), 'not-steady-yet')).toEqual(
      jasmine.objectContaining({ apart: '20' }),
    );
  });

  it('the steady line of a flow that is even runs through its totals', () => {
    const series = ['0', '3', '6', '9', '12'].map((total, i) => ({ time: q(String(600 * i), 's'), total: q(total, 'mL') }));
    const e = run('constant-head', { ...exampleOf(methodById('constant-head')!), series });
    expect(['fittedAt', 'fitted'].map((id) => of(e, id)!.series!.map((f) => Number(f.unrounded)))).toEqual([
      [0, 2400],
      [0, 12],
    ]);
    expect(number(e, 'rate')).toBeCloseTo(5e-9, 15);
  });

  it('a strength from rebound has its point and its line between bands of the published widths', () => {
    const [x, y] = [
      [30, 32, 35, 37, 40, 42],
      [24.1, 27.3, 30.2, 34.4, 37.1, 41.2],
    ];
    const n = x.length;
    const mean = (values: readonly number[]) => values.reduce((sum, v) => sum + v, 0) / n;
    const [mx, my] = [mean(x), mean(y)];
    const sxx = x.reduce((sum, v) => sum + (v - mx) ** 2, 0);
    const b = x.reduce((sum, v, i) => sum + (v - mx) * (y[i]! - my), 0) / sxx;
    const s = Math.sqrt(y.reduce((sum, v, i) => sum + (v - my - b * (x[i]! - mx)) ** 2, 0) / (n - 2));
    const pairs = x.map((v, i) => ({ rebound: q(String(v), '1'), strength: q(String(y[i]), 'MPa') }));
    const e = run('rebound-strength', { orientation: 'level', pairs, now: q('33', '1') } as AnyInputs, 'pairs');
    const [at, spread] = [my + b * (33 - mx), 1 / n + (33 - mx) ** 2 / sxx];
    // t of four degrees of freedom, 90 % two-sided.
    const [point, line] = [2.132 * s * Math.sqrt(1 + spread), 2.132 * s * Math.sqrt(spread)];
    const found = ['low', 'lineLow', 'strength', 'lineHigh', 'high'].map((id) => number(e, id));
    [at - point, at - line, at, at + line, at + point].forEach((expected, i) => expect(found[i]).toBeCloseTo(expected, 8));
  });

  it('a rebound is far from the median beyond 30 % of it, and the area is void when more than a fifth is', () => {
    const area = (...values: string[]) => run('rebound', { readings: values.map((v) => ({ value: q(v, '1') })) } as AnyInputs, 'en');
    // Median 40: 28 is 30 % off, 27 is further.
    expect(of(area('40', '40', '40', '40', '40', '40', '40', '40', '28'), 'far')?.words).toEqual([]);
    const one = area('40', '40', '40', '40', '40', '40', '40', '40', '27');
    expect([of(one, 'far')?.words, one.validity.state]).toEqual([['27'], 'valid']);
    expect(area('40', '40', '40', '40', '40', '40', '40', '27', '27').validity.state).toBe('void');
    // Two of ten are a fifth, and a fifth may be.
    expect(area('40', '40', '40', '40', '40', '40', '40', '40', '27', '27').validity.state).toBe('valid');
  });

  it('a leaf is far above its least mass from 1.7 times on', () => {
    const tree = (bulk: string) =>
      run('reduction-tree', {
        bulk: q(bulk, 'kg'),
        nominal: mm('9.5'),
        leaves: [{ test: 'other', least: q('1', 'kg') }],
      });
    expect([said(tree('3.39'), 'far-above-least'), said(tree('3.4'), 'far-above-least')]).toEqual([undefined, {}]);
  });

  it('a strength is off its usual ratio to seven days by standard deviations of that ratio', () => {
    const evidence = (late: string) => ({
      late,
      early: '25',
      history: { mean: '35', deviation: '4', ratio: '1.4', ratioDeviation: '0.05' },
    });
    const codes = (late: string) => crossCheckStrength(evidence(late) as StrengthEvidence).map((c) => c.code);
    // 36.25/25 = 1.45, one deviation up; 30/25 = 1.2 is four down, though within the mix's own scatter.
    expect(codes('36.25')).toEqual([]);
    expect(codes('30')).toEqual(['strength-off-ratio']);
  });

  it('permeability goes from the water’s temperature to 27 °C by each variant’s own factor', () => {
    const at = (variant: string, t: string) => {
      const cell = { ...exampleOf(methodById('constant-head')!), temperature: q(t, 'C') } as AnyInputs;
      const e = run('constant-head', cell, variant);
      return number(e, 'standard') / number(e, 'measured');
    };
    // 10 % in 5 °C: 22 °C is 0.9, so up by 1/0.9 one way and down to 0.9 the other.
    expect(at('linear_down', '22')).toBeCloseTo(1 / 0.9, 9);
    expect(at('linear_up', '22')).toBeCloseTo(0.9, 9);
    expect(at('viscosity', '22')).toBeCloseTo(10 ** (247.8 / (22 + 133.15) - 247.8 / (27 + 133.15)), 9);
    expect(at('viscosity', '27')).toBeCloseTo(1, 11);
  });

  it('inflow and outflow agree within 5 %, and say by how much they do not', () => {
    const cell = (inflow: string): AnyInputs => {
      const { series: _timed, ...example } = exampleOf(methodById('constant-head')!);
      return { ...example, volume: q('100', 'mL'), time: q('3600', 's'), inflow: q(inflow, 'mL') };
    };
    expect(said(run('constant-head', cell('105')), 'flows-disagree')).toBeUndefined();
    expect(said(run('constant-head', cell('106')), 'flows-disagree')?.['apart']).toBe('6');
  });

  it('cross-checks speak from just beyond their thresholds', () => {
    const air = (pressure: string) =>
      crossCheckAir({
        pressure,
        gravimetric: '5',
        meterAge: 1,
        measureAge: 1,
        gravitiesAge: 1,
        correction: true,
        fromDesign: false,
        waterAdded: null,
      })?.code;
    expect([air('6'), air('4'), air('6.001'), air('3.999')]).toEqual([undefined, undefined, 'airs-disagree', 'airs-disagree']);
    expect([crossCheckYield('1.02'), crossCheckYield('1.0201')?.code]).toEqual([null, 'yield-off-ticket']);
    // 1/2.5 − 1/2.6 is 1.538 %, so that 1.338 % is 0.002 off.
    expect([crossCheckGravities('2.5', '2.6', '1.339'), crossCheckGravities('2.5', '2.6', '1.338')?.code]).toEqual([
      null,
      'gravities-do-not-fit',
    ]);
    const strength = (late: string) =>
      crossCheckStrength({ late, early: null, history: { mean: '40', deviation: '2', ratio: '1.4', ratioDeviation: '0.1' } }).length;
    expect([strength('34'), strength('46'), strength('33.99'), strength('46.01')]).toEqual([0, 0, 1, 1]);
  });

  it('a slip is one of unit, or of one, two or three places', () => {
    const field = (methodById('density')!.fields as Readonly<Record<string, QtyField>>)['volume']!;
    const tried = slips({ text: '7.043', unit: 'L' }, exact('7.043'), field).map(({ text, unit }) => `${text} ${unit}`);
    expect(tried.slice(-6)).toEqual(['70.43 L', '0.7043 L', '704.3 L', '0.07043 L', '7043 L', '0.007043 L']);
    expect(tried).toContain('7.043 m3');
  });

  it('shares of a map are of its readings', () => {
    const potentials = ['-100', '-250', '-260', '-400'].map((mV) => ({ potential: q(mV, 'mV') }));
    const e = run('half-cell-map', {
      electrode: 'cse',
      temperature: q('22.2', 'C'),
      spacing: q('0.6', 'm'),
      lines: [{ cells: potentials }],
    } as AnyInputs);
    expect(['noCorrosion', 'uncertain', 'corrosion'].map((id) => of(e, id)?.unrounded)).toEqual([25, 50, 25].map((n) => `${n}.0000000000`));
  });

  it('a flow is unstable from index 2 on, and what did not slump slumped by nothing', () => {
    const flow = (vsi: string) => said(run('slump-flow', { vsi } as AnyInputs), 'unstable-flow') !== undefined;
    expect(['0', '1', '2', '3'].map(flow)).toEqual([false, false, true, true]);
    expect(of(run('slump', { shape: 'zero', mold: mm('300') }), 'slump')?.exact).toBe('0/1');
  });

  it('small things that are written out: seconds under ten, a sum of nothing', () => {
    expect([clock(65), clock(600)]).toEqual(['1:05', '10:00']);
    const c = recording([]);
    expect(c.value(c.sum([])).toString()).toBe('0');
  });
});
