import { asks } from '../methods/asks.js';
import type { Keyed } from '../units/reading.js';
import type { System } from '../units/units.js';
import type { AnyInputs, AnyMethod, Field, Shape, Source } from '../methods/definition.js';

/** What the record around a test gives: kit, mix, ticket, the sample. Values in the shape of their fields. */
export type Sources = Partial<Record<Source, unknown>>;

/** Readings by field, as kept or as drafted. */
export type Readings = Readonly<Record<string, unknown>>;

/**
 * The inputs of a method for a test: what was keyed, and for fields with a `from` what the record
 * gives where nothing was keyed. One place, used by page and server, so that both compute the same.
 */
export function inputsOf(m: AnyMethod, readings: Readings, sources: Sources): AnyInputs {
  return Object.fromEntries(
    Object.entries(m.fields as Shape).map(([id, field]) => [id, readings[id] ?? fromRecord(field, sources) ?? null]),
  ) as AnyInputs;
}

/** A ticket gives both the rows of a batch and nothing for a quantity that the rows already hold. */
function fromRecord(field: Field, sources: Sources): unknown {
  if (field.from === undefined || (field.from === 'ticket.batch' && field.kind !== 'rows')) return undefined;
  return sources[field.from];
}

/** Fields that a person keys in this variant, in order. */
export function keyedFields(m: AnyMethod, variant: string): [string, Field][] {
  return Object.entries(m.fields as Shape).filter(([id, field]) => field.from === undefined && asks(m, variant, id));
}

/** What an instrument of the usual size and a test without mishap would give: filled in beforehand. */
export function usualInputs(m: AnyMethod, variant: string, system: System): AnyInputs {
  return Object.fromEntries(
    Object.entries(m.fields as Shape).flatMap(([id, field]): [string, Keyed | string][] => {
      if (!asks(m, variant, id)) return [];
      if (field.kind === 'qty' && field.usual) return [[id, { text: field.usual[system], unit: field.units[system] }]];
      return field.kind === 'pick' && field.usual !== undefined ? [[id, field.usual]] : [];
    }),
  ) as AnyInputs;
}

/** A field as a path names it: `full`, `batch.2.mass`. */
/** A reading as a sentence asks for it: its name, and what tells it from others of that name. */
export function askedAs(m: AnyMethod, path: string): string {
  const field = fieldAt(m, path);
  return [field?.label.toLowerCase() ?? path, field?.hint].filter(Boolean).join(' ');
}

export function fieldAt(m: AnyMethod, path: string): Field | undefined {
  let shape: Shape | undefined = m.fields as Shape;
  let field: Field | undefined;
  for (const part of path.split('.')) {
    if (/^\d+$/.test(part)) continue;
    field = shape && Object.hasOwn(shape, part) ? shape[part] : undefined;
    shape = field?.kind === 'rows' ? (field.of as Shape) : undefined;
  }
  return field;
}
