import { evaluate, exact, methodById, simulatedSeries, statisticsOf, type AnyInputs } from '../src/index.js';
import { plain } from '../src/methods/calc.js';
import { normalShare } from '../src/numbers/distributions.js';

const MPa = (text: string) => ({ text, unit: 'MPa' as const });
const seriesOf = (texts: readonly string[]): AnyInputs => ({ specified: MPa('30'), tests: texts.map((text) => ({ strength: MPa(text) })) });
const number = (e: ReturnType<typeof evaluate>, id: string) => Number(e.results.find((r) => r.id === id)?.unrounded);

describe('a long series', () => {
  const texts = simulatedSeries(5000, 34, 3, 1.5, 42);
  const values = texts.map(Number);
  const mean = values.reduce((sum, v) => sum + v, 0) / values.length;

  it('has the mean, the scatter and the sums that plain arithmetic gives it', () => {
    const e = evaluate(methodById('strength-statistics')!, statisticsOf(seriesOf(texts)), { variant: 'aci214', system: 'si' });
    const deviation = Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (values.length - 1));
    expect(number(e, 'mean')).toBeCloseTo(mean, 9);
    expect(number(e, 'deviation')).toBeCloseTo(deviation, 9);
    // A sum against the mean of all ends where it began.
    const cusum = e.results.find((r) => r.id === 'cusum')!.series!;
    expect(exact(cusum.at(-1)!.exact).equals(0)).toBeTrue();
    // The mean sank half-way: the sum turns there.
    const turn = cusum.map((f) => Number(f.unrounded)).reduce((most, v, i, all) => (v > all[most]! ? i : most), 0);
    expect(Math.abs(turn - 2500)).toBeLessThan(100);
  });

  it('tells how far it has come, in order, and no more than there is', () => {
    const told: number[] = [];
    evaluate(methodById('aci-acceptance')!, seriesOf(texts), { variant: 'aci318', system: 'si', progress: (taken) => told.push(taken) });
    // A column of plain figures is read in one go.
    expect(told).toEqual([5000]);
    told.length = 0;
    const inches = texts.map((text, i) => ({ strength: { text, unit: i === 7 ? ('psi' as const) : ('MPa' as const) } }));
    evaluate(methodById('aci-acceptance')!, { ...seriesOf(texts), tests: inches } as AnyInputs, {
      variant: 'aci318',
      system: 'si',
      progress: (taken) => told.push(taken),
    });
    expect(told).toEqual([2000, 4000]);
  });

  it('gives the same digits as a column of doubles and as a list of values, also where a limit is exactly met', () => {
    // 30.0 three times running is exactly f’c; 26.5 exactly the floor.
    const some = [...simulatedSeries(90, 31, 3, 1.5, 7), '30.0', '30.0', '30.0', '26.5', '29.9', '30.1', '30.0', '33.333333333333333333'];
    for (const [method, variant, inputs] of [
      ['aci-acceptance', 'aci318', seriesOf(some)],
      ['en-acceptance', 'continuous', { specified: MPa('27'), sigma: MPa('3'), results: some.map((text) => ({ strength: MPa(text) })) }],
      ['strength-statistics', 'aci214', { ...statisticsOf(seriesOf(some)), target: MPa('30'), specified: MPa('27') }],
    ] as [string, string, AnyInputs][]) {
      const run = (working: boolean) => {
        const e = evaluate(methodById(method)!, inputs, { variant, system: 'si', working });
        return JSON.parse(JSON.stringify(e.results)) as unknown;
      };
      expect(run(false)).withContext(method).toEqual(run(true));
    }
  });

  it('names every test that breaks a rule, and what the next one must be', () => {
    const e = evaluate(methodById('aci-acceptance')!, seriesOf(texts), { variant: 'aci318', system: 'si' });
    const words = (id: string) => e.results.find((r) => r.id === id)!.words!;
    // 30 MPa: no test below 26.5, no mean of three below 30 (in tenths, so that nothing is lost on the way).
    const tenths = texts.map((text) => Math.round(Number(text) * 10));
    expect(words('ruleB')).toEqual(tenths.flatMap((t, i) => (t < 265 ? [String(i + 1)] : [])));
    expect(words('ruleA')).toEqual(tenths.flatMap((t, i) => (i >= 2 && t + tenths[i - 1]! + tenths[i - 2]! < 900 ? [String(i + 1)] : [])));
    expect(number(e, 'next')).toBeCloseTo(90 - values.at(-1)! - values.at(-2)!, 9);
  });

  it('sums exactly, however it is summed, and knows closely what it does not need exactly', () => {
    const tenths = Array.from({ length: 1000 }, () => exact('0.1'));
    expect(plain.sum(tenths).equals(100)).toBeTrue();
    expect(plain.sum(tenths).off).toBeLessThan(1e-12);
    expect(plain.sum([]).equals(0)).toBeTrue();
    expect(plain.sum([exact('7')]).equals(7)).toBeTrue();
  });

  it('a share below is the published one to every digit that is kept', () => {
    // Tables of the standard normal: Φ(1) = 0.841344746…, Φ(−1.96) = 0.024997895…
    expect(normalShare(exact('1')).valueOf()).toBeCloseTo(0.841344746, 9);
    expect(normalShare(exact('-1.96')).valueOf()).toBeCloseTo(0.024997895, 9);
    expect([normalShare(exact('9')).valueOf(), normalShare(exact('-9')).valueOf()]).toEqual([1, 0]);
  });
});

describe('more on the sieves than went in', () => {
  const sieved = (retained: string): AnyInputs =>
    ({
      dry: { text: '1000', unit: 'g' },
      area: { text: '0.03', unit: 'm2' },
      pan: { text: '0', unit: 'g' },
      sieves: [{ opening: { text: '4.75', unit: 'mm' }, retained: { text: retained, unit: 'g' } }],
    }) as unknown as AnyInputs;
  const codes = (retained: string) => {
    const e = evaluate(methodById('gradation')!, sieved(retained), { variant: 'c136', system: 'si' });
    return [...e.issues.map((i) => `${i.code} at ${i.path}`), ...e.validity.reasons.map((r) => r.code)];
  };

  it('is a balance’s play up to 0.3 %, and a wrong mass beyond', () => {
    expect(codes('1003')).toEqual(['sieve-overloaded']);
    expect(codes('1003.1')).toEqual(['more-than-went-in at dry', 'sieve-overloaded']);
  });
});
