import {
  evaluate,
  methodById,
  otherVariants,
  simulatedSeries,
  simulatedTrace,
  type AnyInputs,
  type System,
  type UnitId,
} from '../src/index.js';

const q = (text: string, unit: UnitId) => ({ text, unit });
const MPa = (text: string) => q(text, 'MPa');
const run = (id: string, input: AnyInputs, variant?: string, system: System = 'si') => {
  const m = methodById(id)!;
  return evaluate(m, input, { variant: variant ?? Object.keys(m.variants)[0]!, system });
};
const of = (e: ReturnType<typeof run>, id: string) => e.results.find((r) => r.id === id);

describe('workability guide', () => {
  it('names every class that fits, by each variant in its own unit', () => {
    const input = { slump: q('80', 'mm') };
    expect(of(run('workability', input), 'classes')?.words).toEqual(['medium: heavily reinforced', 'medium: pumped']);
    const others = otherVariants(methodById('workability')!, input, { variant: 'is456', system: 'si' });
    // 80 mm is 3.15 in.
    expect(others.map((s) => s.evaluation.results[0]?.words)).toEqual([['medium (0.92)'], ['beams, reinforced walls, columns']]);
  });
});

describe('trial batch', () => {
  it('weighs up what is to be filled, with its waste', () => {
    const kg = (text: string) => ({ name: null, mass: q(text, 'kg') });
    const input = {
      cylinders: q('6', '1'),
      diameter: q('100', 'mm'),
      height: q('200', 'mm'),
      vessels: [{ name: 'measure', volume: q('7', 'L') }],
      waste: q('10', '%'),
      ingredients: [kg('400'), kg('160')],
    };
    const e = run('trial-batch', input);
    // 6 · π/4 · 0.1² · 0.2 = 9.42478 L, and 7 L, and a tenth more: 18.0673 L.
    expect([of(e, 'volume')?.reported, of(e, 'masses')?.series?.map((f) => f.reported)]).toEqual(['18.1', ['7.23', '2.89']]);
  });

  it('does the same in inches, pounds and yards', () => {
    const input = {
      cylinders: q('3', '1'),
      diameter: q('6', 'in'),
      height: q('12', 'in'),
      waste: q('0', '%'),
      ingredients: [{ name: null, mass: q('2700', 'lb') }],
    };
    // 3 · π/4 · 6² · 12 in³ = 0.589049 ft³; of 27 ft³ that is 58.9049 lb.
    const e = run('trial-batch', input, 'c192', 'us');
    expect([of(e, 'volume')?.reported, of(e, 'masses')?.series?.[0]?.reported]).toEqual(['0.59', '58.90']);
  });
});

describe('companions and control', () => {
  const set = (...f: string[]) => ({ companions: f.map((strength) => ({ strength: MPa(strength) })) });

  it('a range exactly at its limit holds, wider is marked; three have more room than two', () => {
    // 8 % of 40 is 3.2.
    expect(run('companions', set('38.4', '41.6')).validity.state).toBe('valid');
    expect(run('companions', set('38.3', '41.7')).validity.state).toBe('marked');
    expect(run('companions', set('38.3', '40.0', '41.7')).validity.state).toBe('valid');
    expect(run('companions', set('38.4', '41.6'), 'lab-6x12').validity.state).toBe('marked');
    expect(of(run('companions', set('38.4', '41.6')), 'mean')?.reported).toBe('40.0');
  });

  it('grades by s up to 5000 psi and by V above, on each side of a step', () => {
    const grade = (fc: string, s: string, v = '8') =>
      of(run('control-grade', { specified: q(fc, 'psi'), deviation: q(s, 'psi'), variation: q(v, '%') }, 'aci214', 'us'), 'overall')
        ?.words?.[0];
    expect([grade('5000', '399'), grade('5000', '400'), grade('5000', '699'), grade('5000', '700')]).toEqual([
      'excellent',
      'very good',
      'fair',
      'poor',
    ]);
    expect([grade('5001', '399', '6.9'), grade('5001', '399', '14')]).toEqual(['excellent', 'poor']);
    const within = (v1: string) => of(run('control-grade', { within: q(v1, '%') }), 'within')?.words?.[0];
    expect([within('2.9'), within('3'), within('6')]).toEqual(['excellent', 'very good', 'poor']);
  });
});

describe('early warning', () => {
  // By hand: x̄ = 23.5, ȳ = 34.075; Sxx = 42, Sxy = 60.9 − 3.2 = 57.7 … with ±0.8 by turns.
  const pairs = Array.from({ length: 8 }, (_p, i) => ({
    early: MPa(String(20 + i)),
    late: MPa(((20 + i) * 1.45 + (i % 2 === 0 ? 0.8 : -0.8)).toFixed(2)),
  }));

  it('waits for eight pairs', () => {
    const e = run('early-warning', { pairs: pairs.slice(0, 7), now: MPa('22') });
    expect([of(e, 'expected')?.state, e.missing]).toEqual(['open', ['pairs.7.early', 'pairs.7.late']]);
  });

  it('expects what the least-squares line says, and less narrowly away from its middle', () => {
    const at = (now: string) => run('early-warning', { pairs, now: MPa(now) });
    const figure = (e: ReturnType<typeof run>, id: string) => Number(of(e, id)?.unrounded);
    // Σdx·dy = 1.45·42 + 0.8·Σ(±dx) = 60.9 − 3.2; b = 57.7/42.
    expect(figure(at('23.5'), 'slope')).toBeCloseTo(57.7 / 42, 10);
    expect(figure(at('23.5'), 'expected')).toBeCloseTo(34.075, 10);
    const width = (now: string) => figure(at(now), 'high') - figure(at(now), 'low');
    expect(width('23.5')).toBeLessThan(width('26'));
    // s² = Σe²/6 with Σe² = Syy − b·Sxy; half width at the middle is t·s·√(1 + 1/8), t(6) = 1.943.
    const dy = pairs.map((p) => Number(p.late.text) - 34.075);
    const s2 = (dy.reduce((sum, d) => sum + d * d, 0) - 57.7 ** 2 / 42) / 6;
    expect(width('23.5') / 2).toBeCloseTo(1.943 * Math.sqrt(s2 * 1.125), 8);
  });
});

describe('simulated machine', () => {
  it('is loaded at the rate that it was told, the same again from the same seed, and breaks', () => {
    const told = { diameter: 150, strength: 38, rate: 0.25, seed: 7 };
    const trace = simulatedTrace(told);
    expect(simulatedTrace(told)).toEqual(trace);
    expect(simulatedTrace({ ...told, seed: 8 })).not.toEqual(trace);
    const m = methodById('loading-rate')!;
    const rate = (of: typeof trace) => {
      const rows = of.map(({ time, load }) => ({
        time: { text: `${time}`, unit: 's' as const },
        load: { text: `${load}`, unit: 'kN' as const },
      }));
      const e = evaluate(m, { diameter: { text: '150', unit: 'mm' }, trace: rows }, { variant: 'c39', system: 'si' });
      return [e.results.find((r) => r.id === 'rate')?.reported, e.validity.state];
    };
    expect(rate(trace)).toEqual(['0.25', 'valid']);
    expect(rate(simulatedTrace({ ...told, rate: 0.4 }))).toEqual(['0.40', 'marked']);
  });

  it('a simulated production has the mean and the scatter that it was told', () => {
    const values = simulatedSeries(4000, 34, 3, 0, 11).map(Number);
    const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
    const deviation = Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (values.length - 1));
    // Four standard errors either side.
    expect(Math.abs(mean - 34)).toBeLessThan(0.19);
    expect(Math.abs(deviation - 3)).toBeLessThan(0.14);
  });
});
