import fc from 'fast-check';
import {
  convert,
  convertDifference,
  dimensionOf,
  exact,
  read,
  significant,
  UNIT_IDS,
  unitLabel,
  unitNamed,
  unitsOf,
  type Exact,
  type Unread,
  type UnitId,
} from '../src/index.js';
import { inUnit } from '../src/units/reading.js';

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

/** What was read as a fraction, or the fault. */
const shown = (found: Exact | Unread): string => ('fault' in found ? found.fault : found.toString());

describe('a keyed reading', () => {
  it('is read in the way of its dimension', () => {
    expect(shown(read({ text: '3 1/4', unit: 'in' }, 'length'))).toBe('13/4');
    expect(shown(read({ text: '1:52', unit: 's' }, 'time'))).toBe('112');
    expect(read({ text: '3 1/4', unit: 'kg' }, 'mass')).toEqual({ fault: 'not-a-number' });
  });

  it('is read as people write it: a comma, thousands, a unit behind the figure', () => {
    const text = (keyed: string, unit: UnitId = 'kg') => shown(read({ text: keyed, unit }, 'mass'));
    expect(['12,5', '0,051', '1 234.5', '1,234.5', '1.234,5', '1’234', '12.5 kg', '12,5kg'].map((t) => text(t))).toEqual([
      '25/2',
      '51/1000',
      '2469/2',
      '2469/2',
      '2469/2',
      '1234',
      '25/2',
      '25/2',
    ]);
    expect(shown(read({ text: '8"', unit: 'in' }, 'length'))).toBe('8');
    // Read two ways, or with another unit than the one beside it: asked about, never guessed.
    expect(read({ text: '1,234', unit: 'kg' }, 'mass')).toEqual({ fault: 'two-ways' });
    expect(read({ text: '42.6 lbs', unit: 'kg' }, 'mass')).toEqual({ fault: 'other-unit', offer: { text: '42.6', unit: 'lb' } });
    expect(read({ text: '12 psi', unit: 'kg' }, 'mass')).toEqual({ fault: 'wrong-unit' });
    // Every unit is taken as the program writes it itself; what two units share means the one that is asked for.
    for (const id of UNIT_IDS) if (unitLabel(id) !== '') expect([id, unitNamed(unitLabel(id), dimensionOf(id))]).toEqual([id, id]);
    expect(['°C', '°F'].map((label) => unitNamed(label))).toEqual(['C', 'F']);
    expect(shown(read({ text: '21 °C', unit: 'C' }, 'temperature'))).toBe('21');
  });

  it('water and admixtures may be keyed by volume, sieves by name', () => {
    const water = { kgPerLitre: '1' };
    expect(
      String(
        inUnit(read({ text: '10', unit: 'gal' }, 'mass', water) as Exact, 'gal', 'kg', '1')
          .valueOf()
          .toFixed(3),
      ),
    ).toBe('37.854');
    expect(read({ text: '10', unit: 'gal' }, 'mass')).toEqual({ fault: 'wrong-unit' });
    const mm = (keyed: string, unit: UnitId = 'mm') => (read({ text: keyed, unit }, 'length', { sieve: true }) as Exact).valueOf();
    expect(['No. 4', '#200', '3/8 in', '1 1/2"', '75 µm', '9.5', '0.375 in', 'Pan', 'Total'].map((t) => mm(t))).toEqual([
      4.75, 0.075, 9.5, 37.5, 0.075, 9.5, 9.5, 0, 0,
    ]);
    expect(read({ text: 'No. 7', unit: 'mm' }, 'length', { sieve: true })).toEqual({ fault: 'not-a-number' });
  });

  it('says what is wrong with it', () => {
    expect(read({ text: '  ', unit: 'kg' }, 'mass')).toEqual({ fault: 'empty' });
    expect(read({ text: '5', unit: 'mm' }, 'mass')).toEqual({ fault: 'wrong-unit' });
    expect(read({ text: '5', unit: 'stone' as never }, 'mass')).toEqual({ fault: 'wrong-unit' });
    expect(read({ text: '1'.repeat(30), unit: 'kg' }, 'mass')).toEqual({ fault: 'too-long' });
  });
});
