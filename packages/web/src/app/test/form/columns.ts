import { offeredUnits, unitLabel, type AnyInputs, type Field, type Issue, type Shape, type System, type UnitId } from '@keen-mortar/core';
import { keyedAt } from './inputs';

/** One column of a table of rows. */
export interface Column {
  readonly id: string;
  readonly field: Field;
  /** The unit that the column is keyed in; empty for what has none. */
  readonly unit: UnitId;
  readonly units: readonly UnitId[];
}

/** Columns of a table: each in the unit of its first keyed cell, else the one chosen for it, else the system's own. */
export function columnsOf(of: Shape, rows: readonly AnyInputs[], system: System, chosen: Readonly<Record<string, UnitId>>): Column[] {
  return Object.entries(of).map(([id, field]): Column => {
    if (field.kind !== 'qty') return { id, field, unit: '1', units: [] };
    const keyed = rows.map((row) => keyedAt(row, id)).find((k) => k !== null);
    const units = offeredUnits(field.dimension, Object.values(field.units));
    return { id, field, unit: keyed?.unit ?? chosen[id] ?? field.units[system], units: units.filter((u) => unitLabel(u) !== '') };
  });
}

/** Fractions and negative lengths need keys that a system's number pad lacks. */
export const keyboardOf = (field: Field): 'text' | 'decimal' => (field.kind === 'qty' && field.dimension !== 'length' ? 'decimal' : 'text');

const NONE: readonly Issue[] = [];

/** Issues at one path. No issues are always the same list: a field that is right is not drawn again with each key. */
export function issuesAt(issues: readonly Issue[], path: string): readonly Issue[] {
  const found = issues.filter((issue) => issue.path === path);
  return found.length === 0 ? NONE : found;
}
