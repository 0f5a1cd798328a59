import type { AnyInputs, Field, Shape } from '../methods/definition.js';
import type { Keyed } from '../units/reading.js';
import { dimensionOf, isUnit, type UnitId } from '../units/units.js';

/** Inputs as people write them down: `{ full: '19.31 kg', sieves: [{ opening: '4.75 mm', retained: '12.1 g' }] }`. */
export interface Spelled {
  readonly [id: string]: string | readonly Spelled[];
}

/** Text and unit, with one space between; a plain number has none. */
const spelledReading = ({ text, unit }: Keyed): string => (unit === '1' ? text : `${text} ${unit}`);

function keyedReading(spelled: string, field: Extract<Field, { kind: 'qty' }>): Keyed {
  const cut = spelled.lastIndexOf(' ');
  const last = spelled.slice(cut + 1);
  const fits = (unit: UnitId): boolean =>
    dimensionOf(unit) === field.dimension || (field.kgPerLitre !== undefined && dimensionOf(unit) === 'volume');
  if (cut > 0 && isUnit(last) && fits(last) && last !== '1') return { text: spelled.slice(0, cut), unit: last };
  // Without a unit it is taken as a plain number; another dimension then says so at the field.
  return { text: spelled, unit: field.dimension === 'ratio' ? '1' : field.units.si };
}

/** What was keyed, written down; what is empty is left out. */
export function spell(fields: Shape, inputs: AnyInputs): Spelled {
  const spelled: Record<string, string | readonly Spelled[]> = {};
  for (const [id, field] of Object.entries(fields)) {
    const value = (inputs as Readonly<Record<string, unknown>>)[id];
    if (value === null || value === undefined) continue;
    if (field.kind === 'qty' && (value as Keyed).text.trim() === '') continue;
    if (field.kind === 'rows') spelled[id] = (value as readonly AnyInputs[]).map((row) => spell(field.of as Shape, row));
    else if (field.kind === 'qty') spelled[id] = spelledReading(value as Keyed);
    else spelled[id] = value as string;
  }
  return spelled;
}

/** The inputs that were written down; names that the method does not have are left out. */
export function unspell(fields: Shape, spelled: Spelled): AnyInputs {
  const inputs: Record<string, unknown> = {};
  for (const [id, field] of Object.entries(fields)) {
    const value = spelled[id];
    if (value === undefined) continue;
    if (field.kind === 'rows') {
      if (Array.isArray(value)) inputs[id] = (value as readonly Spelled[]).map((row) => unspell(field.of as Shape, row));
    } else if (typeof value === 'string') {
      inputs[id] = field.kind === 'qty' ? keyedReading(value, field) : value;
    }
  }
  return inputs as AnyInputs;
}
