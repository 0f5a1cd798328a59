import type { AnyInputs, Field, Shape } from '../methods/definition.js';
import type { UnitId } from '../units/units.js';

/** What is in force at a path: a value as keyed, or a row that was struck out. */
export interface EntryInForce {
  readonly text: string | null;
  readonly unit: UnitId | null;
  /** Its id, for the thread from a result back to it. */
  readonly reading?: string;
}

/** A row’s id as a path holds it. Ids sort in the order in which rows were added. */
const ROW = /^[0-9a-z]{1,20}$/;
export const isRowId = (part: string): boolean => ROW.test(part);

/** Ids of rows that come with what they belong to, in their order: before any that is added later. */
export const firstRowId = (index: number): string => index.toString(36).padStart(4, '0');

/** Id of a row that is added later: by its moment, then by whoever made it. */
export const rowIdAt = (ms: number, maker: string): string =>
  `${Math.floor(ms).toString(36).padStart(9, '0')}${maker.replaceAll('-', '').slice(-6)}`;

/** The field at a path of entries, rows by their ids: `full`, `sieves.0003.retained`, a whole row `sieves.0003`. */
export function fieldOnPath(shape: Shape, path: string): Field | undefined {
  let [inner, field]: [Shape | undefined, Field | undefined] = [shape, undefined];
  const parts = path.split('.');
  for (let i = 0; i < parts.length; i++) {
    field = inner && Object.hasOwn(inner, parts[i]!) ? inner[parts[i]!] : undefined;
    if (!field) return undefined;
    inner = field.kind === 'rows' ? (field.of as Shape) : undefined;
    if (inner && i + 1 < parts.length && !isRowId(parts[++i]!)) return undefined;
  }
  return field;
}

/** Whether a path names a whole row. */
export const isRowPath = (shape: Shape, path: string): boolean => path.includes('.') && fieldOnPath(shape, path)?.kind === 'rows';

interface Node {
  entry?: EntryInForce;
  readonly under: Map<string, Node>;
}

function treeOf(entries: ReadonlyMap<string, EntryInForce>): Node {
  const root: Node = { under: new Map() };
  for (const [path, entry] of entries) {
    let node = root;
    for (const part of path.split('.')) {
      const next = node.under.get(part) ?? { under: new Map() };
      node.under.set(part, next);
      node = next;
    }
    node.entry = entry;
  }
  return root;
}

/** Ids of the rows in force of every rows field, by the field’s path, in their order. */
export type RowOrder = ReadonlyMap<string, readonly string[]>;

/**
 * What was keyed, in the shape of its fields: struck rows and values left out, rows in their order.
 * @returns the values, and which row stands where
 */
export function assemble(shape: Shape, entries: ReadonlyMap<string, EntryInForce>): { inputs: AnyInputs; rows: RowOrder } {
  const rows = new Map<string, readonly string[]>();
  return { inputs: valuesOf(shape, treeOf(entries), '', rows), rows };
}

function valuesOf(shape: Shape, node: Node, path: string, rows: Map<string, readonly string[]>): AnyInputs {
  const values: Record<string, unknown> = {};
  for (const [id, field] of Object.entries(shape)) {
    const at = node.under.get(id);
    if (!at) continue;
    if (field.kind === 'rows') {
      const live = [...at.under].filter(([, row]) => !(row.entry && row.entry.text === null)).sort(([a], [b]) => (a < b ? -1 : 1));
      if (live.length === 0) continue;
      rows.set(
        `${path}${id}`,
        live.map(([rowId]) => rowId),
      );
      values[id] = live.map(([rowId, row]) => valuesOf(field.of as Shape, row, `${path}${id}.${rowId}.`, rows));
    } else if (at.entry && at.entry.text !== null) {
      const { text, unit, reading } = at.entry;
      values[id] = unit === null ? text : { text, unit, ...(reading ? { reading } : {}) };
    }
  }
  return values as AnyInputs;
}

/** One value of a whole, by its path. */
export interface FlatEntry {
  readonly path: string;
  readonly text: string;
  readonly unit: UnitId | null;
}

/** What stands at the path of a row that was left empty between others: a cell of a grid that could not be read. */
export const LEFT_EMPTY = '-';

/** Rows with a mark for those that are empty; what is empty at the end is not there. */
export function withEmpty(rows: readonly { readonly at: string; readonly flat: readonly FlatEntry[] }[]): FlatEntry[] {
  const last = rows.findLastIndex(({ flat }) => flat.length > 0);
  return rows
    .slice(0, last + 1)
    .flatMap(({ at, flat }): readonly FlatEntry[] => (flat.length > 0 ? flat : [{ path: at, text: LEFT_EMPTY, unit: null }]));
}

/** A whole taken apart: every value that is there, rows numbered in their order. */
export function flatten(shape: Shape, inputs: AnyInputs, rowId: (index: number) => string = firstRowId, path = ''): FlatEntry[] {
  return Object.entries(shape).flatMap(([id, field]): FlatEntry[] => {
    const value = (inputs as Readonly<Record<string, unknown>>)[id];
    if (value === null || value === undefined) return [];
    if (field.kind === 'rows') {
      const rows = (value as readonly AnyInputs[]).map((row, i) => ({
        at: `${path}${id}.${rowId(i)}`,
        flat: flatten(field.of as Shape, row, rowId, `${path}${id}.${rowId(i)}.`),
      }));
      return withEmpty(rows);
    }
    if (field.kind !== 'qty') return [{ path: `${path}${id}`, text: value as string, unit: null }];
    const { text, unit } = value as { text: string; unit: UnitId };
    return text.trim() === '' ? [] : [{ path: `${path}${id}`, text, unit }];
  });
}

/** The place of an issue (`sieves.3.retained`) as a path of entries; null where its row is not on record. */
export function entryPath(rows: RowOrder, issue: string): string | null {
  let path = '';
  for (const part of issue.split('.')) {
    const id = /^\d+$/.test(part) ? rows.get(path)?.[Number(part)] : part;
    if (id === undefined) return null;
    path = path === '' ? id : `${path}.${id}`;
  }
  return path;
}
