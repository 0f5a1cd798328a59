import { asks } from '../methods/asks.js';
import { Exact } from '../numbers/value.js';
import { read, type Keyed } from '../units/reading.js';
import { convert, dimensionOf, isUnit, type System } from '../units/units.js';
import type { AnyInputs, AnyMethod, Field, RowsField, Shape, Source } from '../methods/definition.js';

/** What the record around a test gives: kit, mix, ticket, the sample. Values in the shape of their fields. */
export type Sources = Partial<Record<Source, unknown>> & {
  /** What each item gives that was made of this one, in their order. */
  readonly made?: readonly Partial<Record<Source, unknown>>[];
};

/** Readings by field, as kept or as drafted. */
export type Readings = Readonly<Record<string, unknown>>;

/**
 * The inputs of a method for a test: what was keyed, and for fields with a `from` what the record
 * gives where nothing was keyed. One place, used by page and server, so that both compute the same.
 */
export function inputsOf(m: AnyMethod, readings: Readings, sources: Sources): AnyInputs {
  return Object.fromEntries(
    Object.entries(m.fields as Shape).map(([id, field]) => [id, readings[id] ?? fromRecord(field, sources, readings) ?? null]),
  ) as AnyInputs;
}

/** What the record gives for fields that may be keyed: a form shows it, and it counts until somebody keys another. */
export const takenInputs = (m: AnyMethod, readings: Readings, sources: Sources): AnyInputs =>
  Object.fromEntries(
    Object.entries(m.fields as Shape).flatMap(([id, field]) => {
      const value = field.from === undefined && readings[id] === undefined ? fromRecord(field, sources, readings) : undefined;
      return value === undefined ? [] : [[id, value]];
    }),
  ) as AnyInputs;

/** A ticket gives both the rows of a batch and nothing for a quantity that the rows already hold. */
function fromRecord(field: Field, sources: Sources, readings: Readings): unknown {
  if (field.kind === 'rows' && field.made) return madeRows(field as RowsField<Shape>, sources, readings);
  const source = field.from ?? field.takes;
  if (source === undefined || (source === 'ticket.batch' && field.kind !== 'rows')) return undefined;
  const found = sources[source];
  return field.kind === 'pick' ? wordOf(found) : found;
}

/** A word that a test gave, as a choice; a fact of an item is one already. */
const wordOf = (found: unknown): unknown => (typeof found === 'object' && found !== null && 'text' in found ? found.text : found);

/** A row for each item that was made of this one and gives all that the columns take. */
function madeRows(field: Pick<RowsField<Shape>, 'of' | 'made'>, sources: Sources, readings: Readings): unknown {
  const columns = Object.entries(field.of).flatMap(([id, f]) => (f.takes === undefined ? [] : [[id, f.takes] as const]));
  const same = field.made?.same;
  const unless = field.made?.unless;
  const asked = same && readings[same.of];
  const found = (sources.made ?? [])
    .filter((item) => columns.every(([, source]) => item[source] !== undefined))
    .filter((item) => unless === undefined || item[unless] === undefined)
    .filter((item) => !same || asked === undefined || alike(asked, item[same.as]))
    .map((item) => Object.fromEntries(columns.map(([id, source]) => [id, item[source]])));
  return found.length === 0 ? undefined : found;
}

/** The same quantity, in whatever unit and however spelled: 28 d and 672 h. */
function alike(a: unknown, b: unknown): boolean {
  const [x, y] = [a, b].map((keyed) => {
    const { text, unit } = (keyed ?? {}) as Partial<Keyed>;
    if (text === undefined || unit === undefined || !isUnit(unit)) return null;
    const value = read({ text, unit }, dimensionOf(unit));
    return value instanceof Exact ? { value, unit } : null;
  });
  return !!x && !!y && dimensionOf(x.unit) === dimensionOf(y.unit) && convert(x.value, x.unit, y.unit).equals(y.value);
}

/** Fields that a person keys in this variant, in order: what the record gives is not keyed, where there is a record that gives it. */
export function keyedFields(m: AnyMethod, variant: string, sources?: Sources): [string, Field][] {
  const given = (field: Field): boolean => field.from !== undefined && (!sources || fromRecord(field, sources, {}) !== undefined);
  return Object.entries(m.fields as Shape).filter(([id, field]) => !given(field) && asks(m, variant, id));
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
