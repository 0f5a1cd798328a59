import { decimal, decimalText, exact, LONGEST_NUMBER, ZERO, type Exact } from '../numbers/exact.js';
import { Exact as Value } from '../numbers/value.js';
import { spoken, stopwatch } from '../numbers/spoken.js';
import { notASieve, sieveNamed } from './sieves.js';
import { convert, dimensionOf, isUnit, unitNamed, type Dimension, type UnitId } from './units.js';

/** A reading as a person keyed it: the digits, the unit beside them, and the reading's id for the thread. */
export interface Keyed {
  readonly text: string;
  readonly unit: UnitId;
  readonly reading?: string;
}

/** What cannot be read, and, where it can be guessed, what was meant. */
export interface Unread {
  readonly fault: 'empty' | 'not-a-number' | 'too-long' | 'wrong-unit' | 'two-ways' | 'other-unit';
  readonly offer?: { readonly text: string; readonly unit: UnitId };
}

const unread = (fault: Unread['fault'], offer?: Unread['offer']): Unread => ({ fault, ...(offer ? { offer } : {}) });

/** How a field is read beyond plain figures. */
export interface ReadAs {
  /** Sieves by name: `No. 4`, `3/8 in`, `75 µm`, `Pan`. */
  readonly sieve?: boolean;
  /** A liquid that is weighed or measured: litres and gallons stand for a mass, at so many kg a litre. */
  readonly kgPerLitre?: string;
}

const PLAIN = /^[+-]?(\d+(\.\d*)?|\.\d+)$/;

/** Whether a text is figures alone, and short enough to be taken as they stand. */
export const isPlain = (text: string): boolean => text.length <= 15 && PLAIN.test(text);

/** Exact value of a keyed reading in its own unit, or what is wrong with it. */
export function read(keyed: Keyed, dimension: Dimension, as: ReadAs = {}): Exact | Unread {
  const { text, unit } = keyed;
  if (!isUnit(unit) || !fits(unit, dimension, as)) return text.trim() === '' ? unread('empty') : unread('wrong-unit');
  // What nearly every reading is: nothing to find out.
  if (text.length <= LONGEST_NUMBER && PLAIN.test(text)) return Value.decimal(text);
  return readLong(text.trim(), unit, dimension, as);
}

/** Whether a reading in this unit is of the dimension, or a volume of a liquid whose mass is asked for. */
function fits(unit: UnitId, dimension: Dimension, as: ReadAs): boolean {
  const own = dimensionOf(unit);
  return own === dimension || (as.kgPerLitre !== undefined && dimension === 'mass' && own === 'volume');
}

function readLong(text: string, unit: UnitId, dimension: Dimension, as: ReadAs): Exact | Unread {
  if (text === '') return unread('empty');
  if (as.sieve) {
    if (notASieve(text)) return ZERO;
    const opening = sieveNamed(unit === 'in' && /\d$/.test(text) ? `${text} in` : text);
    if (opening) return convert(opening, 'mm', unit);
  }
  const value = parse(text, dimension);
  if (value) return value instanceof Value ? value : unread('two-ways');
  const behind = /^([+-]?[\d.,'’\s/:-]*\d\.?)\s*([^\d\s.,:/-].*)$/.exec(text);
  const named = behind ? unitNamed(behind[2]!, dimension) : null;
  const figure = behind && named ? parse(behind[1]!.trim(), dimensionOf(named)) : null;
  if (!behind || !named || !(figure instanceof Value)) return unread(digitsIn(text) > LONGEST_NUMBER ? 'too-long' : 'not-a-number');
  if (named === unit) return figure;
  if (!fits(named, dimension, as)) return unread('wrong-unit');
  // A sieve has its own unit in its name; anything else keeps one unit, so that what is shown is what was meant.
  return as.sieve ? convert(figure, named, unit) : unread('other-unit', { text: behind[1]!.trim(), unit: named });
}

const digitsIn = (text: string): number => text.replace(/\D/g, '').length;

/** A figure as people write it; `two-ways` where a comma can be a decimal point or part thousands. */
function parse(text: string, dimension: Dimension): Exact | 'two-ways' | null {
  const plain = withPoint(text);
  if (plain === null) return null;
  if (plain === 'two-ways') return plain;
  if (dimension === 'length') return spoken(plain);
  if (dimension === 'time') return stopwatch(plain);
  return decimal(plain);
}

/** `12,5` → `12.5`; `1 234.5`, `1,234.5`, `1.234,5` and `1’234` → `1234.5`; `1,234` can be either. */
function withPoint(text: string): string | null {
  if (/^[+-]?\d{1,3}(?:[ '’\u00a0\u202f]\d{3})+(?:[.,]\d*)?$/.test(text)) return text.replace(/[ '’\u00a0\u202f]/g, '').replace(',', '.');
  if (!text.includes(',')) return text;
  if (/^[+-]?[1-9]\d{0,2},\d{3}$/.test(text)) return 'two-ways';
  if (/^[+-]?\d*,\d+$/.test(text)) return text.replace(',', '.');
  if (/^[+-]?\d{1,3}(?:,\d{3})+(?:\.\d*)?$/.test(text)) return text.replaceAll(',', '');
  if (/^[+-]?\d{1,3}(?:\.\d{3})+,\d*$/.test(text)) return text.replaceAll('.', '').replace(',', '.');
  return null;
}

/** A figure as people write it, `3/4` or `12,5`, as decimal text; null for what is none, has none, or can be read two ways. */
export function writtenDecimal(text: string): string | null {
  const plain = text.length <= LONGEST_NUMBER ? withPoint(text.trim()) : null;
  const value = plain === null || plain === 'two-ways' ? null : spoken(plain);
  return value && decimalText(value);
}

/** A reading in `to`: volumes of a liquid as its mass. Throws across dimensions otherwise. */
export function inUnit(value: Exact, from: UnitId, to: UnitId, kgPerLitre?: string): Exact {
  if (kgPerLitre === undefined || dimensionOf(from) === dimensionOf(to)) return convert(value, from, to);
  return convert(convert(value, from, 'L').mul(exact(kgPerLitre)), 'kg', to);
}
