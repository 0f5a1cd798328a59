import { lastOf, type Reading } from '@keen-mortar/contract';
import { assemble, rowIdAt, withEmpty, type AnyInputs, type FlatEntry, type Shape } from '@keen-mortar/core';

/** A reading as it is sent: new, a correction of what it names, or without a text what strikes that out. */
export interface Sent {
  readonly id: string;
  readonly field: string;
  readonly text: string | null;
  readonly unit: string | null;
  readonly at: string;
  /** The instrument that it was taken from; none: by hand. */
  readonly device?: string;
  readonly supersedes?: string;
  readonly reason?: string;
}

/** Key under which a row of the inputs carries its id on record; rows without are new. */
export const ROW = 'row';

/** An entry with its place in the form, `track.3.mass`: a new row has no id yet while it is keyed. */
interface PlacedEntry extends FlatEntry {
  readonly place?: string;
}

/** Every value, rows by their ids on record; a new row gets one. */
function taken(shape: Shape, inputs: AnyInputs, newRow: () => string, path = '', place = ''): PlacedEntry[] {
  return Object.entries(shape).flatMap(([id, field]): PlacedEntry[] => {
    const value = (inputs as Readonly<Record<string, unknown>>)[id];
    if (value === null || value === undefined) return [];
    if (field.kind === 'rows') {
      const rows = (value as readonly (AnyInputs & { [ROW]?: string })[]).map((row, i) => {
        const at = `${path}${id}.${row[ROW] ?? newRow()}`;
        return { at, flat: taken(field.of as Shape, row, newRow, `${at}.`, `${place}${id}.${i}.`) };
      });
      return withEmpty(rows);
    }
    if (field.kind !== 'qty') return value === '' ? [] : [{ path: `${path}${id}`, text: value as string, unit: null }];
    const { text, unit } = value as { text: string; unit: FlatEntry['unit'] };
    return text.trim() === '' ? [] : [{ path: `${path}${id}`, text: text.trim(), unit, place: `${place}${id}` }];
  });
}

interface With {
  /** What was taken from an instrument, by its place in the form: of it only while it stands as it was taken. */
  readonly taken?: Readonly<Record<string, { readonly text: string; readonly unit: string; readonly device: string }>>;
  readonly at: number;
  readonly reason: string;
  readonly newId: () => string;
}

/**
 * What has to be sent so that the record holds these inputs: what is new, what differs from what was kept, and
 * what is there no more. A row that is gone is struck out as one.
 * @param fields that are keyed here; what the record gives is never sent
 */
export function changesOf(shape: Shape, fields: ReadonlySet<string>, kept: readonly Reading[], inputs: AnyInputs, how: With): Sent[] {
  const last = lastOf(kept);
  let rows = 0;
  const now = taken(shape, inputs, () => rowIdAt(how.at + rows++, how.newId())).filter(({ path }) => fields.has(path.split('.')[0]!));
  const there = new Set(now.map((e) => e.path));
  const at = new Date(how.at).toISOString();
  const reason = how.reason.trim();
  const because = reason === '' ? {} : { reason };
  const sent = now.flatMap(({ path, text, unit, place }: PlacedEntry): Sent[] => {
    const old = last.get(path);
    if (old && old.text === text && old.unit === unit) return [];
    const by = place === undefined ? undefined : how.taken?.[place];
    const device = by?.text === text && by.unit === unit ? { device: by.device } : {};
    return [{ id: how.newId(), field: path, text, unit, at, ...device, ...(old ? { supersedes: old.id } : {}), ...because }];
  });
  const gone = [...last].filter(([path, r]) => r.text !== null && !there.has(path) && fields.has(path.split('.')[0]!));
  const struckRows = new Set<string>();
  for (const [path, r] of gone) {
    const row = rowOf(path);
    const whole = row !== null && ![...there].some((p) => p.startsWith(`${row}.`));
    if (whole && struckRows.has(row)) continue;
    if (whole) struckRows.add(row);
    const old = whole ? last.get(row) : r;
    sent.push({
      id: how.newId(),
      field: whole ? row : path,
      text: null,
      unit: null,
      at,
      ...(old ? { supersedes: old.id } : {}),
      ...because,
    });
  }
  // A row that was struck out before says nothing any more.
  return sent.filter((s) => s.text !== null || last.get(rowOf(s.field) ?? '')?.text !== null);
}

/** The row that a path lies in, or that it is; null of a plain field. */
function rowOf(path: string): string | null {
  const [field, row] = path.split('.');
  return row === undefined ? null : `${field!}.${row}`;
}

/** Whether something that was kept is changed or struck out: then it needs a reason. */
export const corrects = (sent: readonly Sent[]): boolean => sent.some((s) => s.supersedes !== undefined || s.text === null);

/** The whole that some new readings are, in the shape of its fields. */
export const assembled = (shape: Shape, sent: readonly Sent[]): AnyInputs =>
  assemble(shape, new Map(sent.map((s) => [s.field, { text: s.text, unit: s.unit as FlatEntry['unit'] }]))).inputs;
