import { evaluate, methodById, type AnyInputs, type System, type UnitId } from '../src/index.js';

const q = (text: string, unit: UnitId) => ({ text, unit });
const run = (id: string, input: AnyInputs, system: System = 'si', variant?: string) => {
  const m = methodById(id)!;
  return evaluate(m, input, { variant: variant ?? Object.keys(m.variants)[0]!, system });
};
const short = (text: string | null | undefined): string | null => (text ? String(Number(text)) : null);
const of = (e: ReturnType<typeof run>, id: string) => e.results.find((r) => r.id === id);

/** Tables as their sources print them: on each end and just past it. */
describe('printed tables', () => {
  const limits = (form: string, value: string, unit: 'in' | 'mm') => {
    const e = run('slump-limits', { form, value: q(value, unit) }, unit === 'in' ? 'us' : 'si');
    return [short(of(e, 'lower')?.unrounded), short(of(e, 'upper')?.unrounded)];
  };

  it('C94 slump tolerances: by size, inches and millimetres each as quoted', () => {
    expect([
      limits('target', '2', 'in'),
      limits('target', '2.25', 'in'),
      limits('target', '4', 'in'),
      limits('target', '4.25', 'in'),
    ]).toEqual([
      ['1.5', '2.5'],
      ['1.25', '3.25'],
      ['3', '5'],
      ['2.75', '5.75'],
    ]);
    expect([
      limits('target', '50', 'mm'),
      limits('target', '55', 'mm'),
      limits('target', '100', 'mm'),
      limits('target', '105', 'mm'),
    ]).toEqual([
      ['35', '65'],
      ['30', '80'],
      ['75', '125'],
      ['65', '145'],
    ]);
    expect([limits('max', '75', 'mm'), limits('max', '80', 'mm'), limits('max', '3', 'in'), limits('max', '3.25', 'in')]).toEqual([
      ['35', '75'],
      ['15', '80'],
      ['1.5', '3'],
      ['0.75', '3.25'],
    ]);
    // 30 − 40 would be below nothing.
    expect(limits('max', '30', 'mm')).toEqual(['0', '30']);
  });

  it('EN 206 slump classes, by the value as it is reported', () => {
    const slumpClass = (mm: string) => of(run('slump-class', { slump: q(mm, 'mm') }), 'class')?.words?.[0] ?? null;
    expect(['4', '10', '44', '46', '95', '96', '150', '156', '214', '216'].map(slumpClass)).toEqual([
      null,
      'S1',
      'S1',
      'S2',
      'S3',
      'S3',
      'S3',
      'S4',
      'S4',
      'S5',
    ]);
  });

  it('C138 least measures: on each size and just past it', () => {
    const least = (size: string, unit: 'mm' | 'in') =>
      short(of(run('least-measure', { nominal: q(size, unit) }, unit === 'in' ? 'us' : 'si'), 'capacity')?.unrounded);
    expect(['12.5', '25', '25.1', '37.5', '50', '75', '112', '150'].map((s) => least(s, 'mm'))).toEqual([
      '6',
      '6',
      '11',
      '11',
      '14',
      '28',
      '70',
      '100',
    ]);
    expect(['1', '1.5', '2', '3', '4.5', '6'].map((s) => least(s, 'in'))).toEqual(['0.2', '0.4', '0.5', '1', '2.5', '3.5']);
  });

  it('C138 strokes and mallets, counts from an area rounded up', () => {
    const rod = (capacity: string, diameter?: string) => {
      const e = run('rodding', { capacity: q(capacity, 'L'), ...(diameter ? { diameter: q(diameter, 'mm') } : {}) });
      return [of(e, 'strokes')?.reported ?? null, of(e, 'mallet')?.reported];
    };
    expect([rod('7'), rod('14'), rod('14.1'), rod('28')]).toEqual([
      ['25', '0.57'],
      ['25', '0.57'],
      ['50', '1.02'],
      ['50', '1.02'],
    ]);
    // π/4·450²/2000 = 79.52 strokes.
    expect(rod('70', '450')).toEqual(['80', '1.02']);
    expect(rod('70')).toEqual([null, '1.02']);
  });

  it('consolidation by slump: rod above 75 mm, vibrate below 25 mm, either between', () => {
    const by = (use: string, slump: string, unit: 'mm' | 'in') =>
      of(run('consolidation', { use, slump: q(slump, unit) }, unit === 'in' ? 'us' : 'si'), 'allowed')?.words?.join(' or ');
    expect(['24', '25', '75', '76'].map((s) => by('measure', s, 'mm'))).toEqual(['vibrate', 'rod or vibrate', 'rod or vibrate', 'rod']);
    expect(['0.75', '1', '3', '3.25'].map((s) => by('measure', s, 'in'))).toEqual(['vibrate', 'rod or vibrate', 'rod or vibrate', 'rod']);
    expect([by('specimen', '200', 'mm'), by('specimen', '20', 'mm')]).toEqual(['rod or vibrate', 'vibrate']);
  });

  it('alcohol of 2.5 pt or 1.2 L takes the correction, each as quoted', () => {
    const air = (alcohol: string, unit: 'L' | 'pt') => {
      const pct = (text: string) => q(text, '%');
      const e = run('volumetric-air', {
        previous: pct('6'),
        final: pct('6'),
        alcohol: q(alcohol, unit),
        correction: pct('0.5'),
        cups: q('0', '1'),
      });
      return of(e, 'air')?.reported;
    };
    expect([air('2.4', 'pt'), air('2.5', 'pt'), air('1.19', 'L'), air('1.2', 'L')]).toEqual(['6.00', '5.50', '6.00', '5.50']);
  });

  it('ages and their windows, in hours', () => {
    const room = (days: string) => {
      const e = run('age-window', { age: q(days, 'd'), cast: '2026-01-01T12:00:00Z' });
      const [due, to] = ['due', 'to'].map((id) => Date.parse(of(e, id)!.words![0]!)) as [number, number];
      return (to - due) / 3_600_000;
    };
    expect(['1', '3', '7', '28', '56', '90'].map(room)).toEqual([0.5, 2, 6, 20, 40, 48]);
  });

  it('required average strength without data, on both sides of its steps', () => {
    const required = (fc: string) => short(of(run('required-average', { specified: q(fc, 'psi') }, 'us'), 'required')?.unrounded);
    expect([required('2900'), required('3000'), required('5000'), required('6000')]).toEqual(['3900', '4200', '6200', '7300']);
  });

  it('EN 206 continuous production waits for fifteen results', () => {
    const e = run(
      'en-acceptance',
      { specified: q('30', 'MPa'), sigma: q('3', 'MPa'), results: Array.from({ length: 14 }, () => ({ strength: q('40', 'MPa') })) },
      'si',
      'continuous',
    );
    expect(e.missing.length).toBeGreaterThan(0);
    expect(of(e, 'acceptable')?.state).toBe('open');
  });
});
