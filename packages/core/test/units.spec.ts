import fc from 'fast-check';
import { convert, convertDifference, dimensionOf, exact, read, significant, UNIT_IDS, unitsOf } from '../src/index.js';

const value = fc.integer({ min: -1_000_000, max: 1_000_000 }).map((n) => exact(`${n}/1000`));
const pairs = UNIT_IDS.flatMap((a) => unitsOf(dimensionOf(a)).map((b) => [a, b] as const));

describe('units', () => {
  it('come back unchanged from a round trip, digit for digit', () => {
    fc.assert(fc.property(value, fc.constantFrom(...pairs), (x, [a, b]) => convert(convert(x, a, b), b, a).equals(x)));
  });

  it('are exact where the definition is', () => {
    expect(convert(exact('1'), 'lb', 'g').toString()).toBe('45359237/100000');
    expect(convert(exact('1'), 'yd3', 'ft3').toString()).toBe('27');
    expect(significant(convert(exact('1'), 'psi', 'Pa'), 10)).toBe('6894.757293');
    expect(convert(exact('1'), 'kgf/cm2', 'kPa').toString()).toBe('196133/2000');
    expect(significant(convert(exact('10'), 'bar', 'kgf/cm2'), 6)).toBe('10.1972');
  });

  it('move temperatures with their offset and differences without it', () => {
    expect(convert(exact('-40'), 'F', 'C').valueOf()).toBe(-40);
    expect(convert(exact('35'), 'C', 'F').valueOf()).toBe(95);
    // The classic mistake: ±3 °F is ±1.7 °C, not −16 °C.
    expect(significant(convertDifference(exact('3'), 'F', 'C'), 3)).toBe('1.67');
  });

  it('do not convert across dimensions', () => {
    expect(() => convert(exact('1'), 'kg', 'mm')).toThrowError(/kg is a mass, mm a length/);
  });
});

describe('a keyed reading', () => {
  it('is read in the way of its dimension', () => {
    expect(String(read({ text: '3 1/4', unit: 'in' }, 'length'))).toBe('13/4');
    expect(String(read({ text: '1:52', unit: 's' }, 'time'))).toBe('112');
    expect(read({ text: '3 1/4', unit: 'kg' }, 'mass')).toBe('not-a-number');
  });

  it('says what is wrong with it', () => {
    expect(read({ text: '  ', unit: 'kg' }, 'mass')).toBe('empty');
    expect(read({ text: '5', unit: 'mm' }, 'mass')).toBe('wrong-unit');
    expect(read({ text: '5', unit: 'stone' as never }, 'mass')).toBe('wrong-unit');
    expect(read({ text: '1'.repeat(30), unit: 'kg' }, 'mass')).toBe('too-long');
  });
});
