import { exampleOf } from '../src/examples/index.js';
import {
  answerText,
  answerTexts,
  evaluate,
  figureText,
  methodById,
  spell,
  usualInputs,
  type AnyInputs,
  type ResultField,
  type Shape,
} from '../src/index.js';

describe('figures as people read them', () => {
  const table: [unrounded: string, reported: string | null, digits: number | undefined, text: string][] = [
    ['2285.95769', '2286', undefined, '2286'],
    ['2.49804839969', null, undefined, '2.4980'],
    ['2.49804839969', null, 3, '2.50'],
    ['37.5000000000', null, undefined, '37.5'],
    ['12.0000000000', null, undefined, '12'],
    ['0.0780640124902', null, undefined, '0.078064'],
    ['0.000121900000000', null, undefined, '0.0001219'],
    ['0.0000121923456789', null, undefined, '1.219·10⁻⁵'],
    ['-0.000000000121923', null, undefined, '-1.219·10⁻¹⁰'],
    ['0', null, undefined, '0'],
    ['-0.0384000000000', null, undefined, '-0.0384'],
    ['123456', null, undefined, '123456'],
    ['123456.789000', null, undefined, '123457'],
    ['-1234567.50000', null, 3, '-1234568'],
  ];
  for (const [unrounded, reported, digits, text] of table)
    it(`${unrounded} ${reported ?? ''} reads ${text}`, () => expect(figureText({ unrounded, reported }, digits)).toBe(text));
});

describe('answers as people read them', () => {
  const answers = (id: string, moment?: (iso: string) => string) => {
    const m = methodById(id)!;
    const e = evaluate(m, exampleOf(m), { variant: Object.keys(m.variants as object)[0]!, system: 'si' });
    return (result: string) =>
      answerText(
        (m.results as Record<string, ResultField>)[result]!,
        e.results.find((r) => r.id === result)!,
        moment,
      );
  };

  it('are figures with their unit once, words as words, moments by the reader’s clock, and nothing while open', () => {
    expect(answers('density')('density')).toBe('2286 kg/m³');
    expect(answers('loading-rate')('fittedAt')).toBe('80.0, 148.0 s');
    expect(answers('cone')('log')).toBe('wetter than SSD: go on drying; wetter than SSD: go on drying; SSD: weigh now');
    expect(answers('soak-start', (iso) => `at ${iso.slice(11, 16)}`)('latest')).toBe('at 16:00');
    expect(['corrected', 'shift'].map(answers('flask-correction'))).toEqual(['661.63 g', '-0.17 g']);
    // Beside each other with the same places: as many as the largest has room for.
    expect(answers('gradation')('retained')).toBe('0.000, 2.498, 11.144, 18.599, 25.098, 25.605, 11.495, 3.005 %');
    expect(answers('strength-statistics')('tests')).toMatch(/, 33\.1, 34\.0, /);
    expect(answers('constant-mass')('state')).toBe('still losing water');
    const m = methodById('density')!;
    const open = evaluate(m, {}, { variant: 'astm', system: 'si' });
    expect(answerTexts((m.results as Record<string, ResultField>)['density']!, open.results[0]!)).toEqual([]);
  });
});

describe('digits', () => {
  const under = (id: string, inputs: object, system: 'si' | 'us' = 'si') =>
    evaluate(methodById(id)!, inputs as AnyInputs, { variant: Object.keys(methodById(id)!.variants)[0]!, system, working: true });
  const g = (text: string) => ({ text, unit: 'g' });

  it('of an unlikely result are those that the method reports, and more where they would hide that it is unlikely', () => {
    const told = (ssd: string) => {
      const { issues } = under('coarse-gravity', { dry: g('3168'), ssd: g(ssd), inWater: g('2003') });
      return issues.find((i) => i.code === 'unlikely-result')?.params['got'];
    };
    expect([told('3434'), told('3422.5')]).toEqual(['8.4', '8.033']);
  });

  it('in the working are those of its steps: a reading that only a check looked at is none', () => {
    const mm = (text: string) => ({ text, unit: 'mm' });
    const { working } = under('slump', { shape: 'true', mold: mm('300'), centre: mm('204'), largest: mm('25') }, 'us');
    expect(working.map((l) => l.symbol)).toEqual(['H', 'h', 'slump', 'slump']);
  });
});

describe('what is filled in beforehand', () => {
  it('is the usual instrument in the system’s own unit, for the readings that the variant asks for', () => {
    const m = methodById('slump')!;
    const usual = (variant: string, system: 'si' | 'us') => spell(m.fields as Shape, usualInputs(m, variant, system));
    expect(usual('us', 'si')).toEqual({ mold: '300 mm', mishap: 'none', sieved: 'no' });
    expect(usual('us', 'us')['mold']).toBe('12 in');
    expect(usualInputs(methodById('density')!, 'astm', 'si')).toEqual({});
  });

  it('what is empty is not written down', () => {
    const m = methodById('slump')!;
    expect(spell(m.fields as Shape, { centre: { text: ' ', unit: 'mm' }, lift: { text: '4', unit: 's' } })).toEqual({ lift: '4 s' });
  });
});
