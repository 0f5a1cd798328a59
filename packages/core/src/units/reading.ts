import { decimal, type Exact } from '../numbers/exact.js';
import { spoken, stopwatch } from '../numbers/spoken.js';
import { dimensionOf, isUnit, type Dimension, type UnitId } from './units.js';

/** A reading as a person keyed it: the digits, the unit beside them, and the reading's id for the thread. */
export interface Keyed {
  readonly text: string;
  readonly unit: UnitId;
  readonly reading?: string;
}

export type ReadFault = 'empty' | 'not-a-number' | 'too-long' | 'wrong-unit';

/** Exact value of a keyed reading in its own unit, or what is wrong with it. */
export function read(keyed: Keyed, dimension: Dimension): Exact | ReadFault {
  if (keyed.text.trim() === '') return 'empty';
  if (!isUnit(keyed.unit) || dimensionOf(keyed.unit) !== dimension) return 'wrong-unit';
  const value = parse(keyed.text, dimension);
  if (value) return value;
  return keyed.text.trim().length > 24 ? 'too-long' : 'not-a-number';
}

function parse(text: string, dimension: Dimension): Exact | null {
  if (dimension === 'length') return spoken(text);
  if (dimension === 'time') return stopwatch(text);
  return decimal(text);
}
