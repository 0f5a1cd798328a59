import { COMPARISON_IDS, ITEM_KINDS, KIT_KINDS, MATERIAL_ROLES, PROPERTY_IDS, type Shape } from '@keen-mortar/core';
import * as z from 'zod';
import { id, written } from './parts.js';

/** A column of a table that is brought in: its head, and what stands in it. */
export interface ImportColumn {
  readonly head: string;
  readonly needed?: boolean;
  readonly says: string;
}

export interface ImportTable {
  readonly label: string;
  /** What one thing is, where it takes several lines: those with the same of this column. */
  readonly by?: string;
  readonly columns: readonly ImportColumn[];
  readonly example: readonly (readonly string[])[];
}

const kinds = (shape: Shape, field: string): string => {
  const f = shape[field];
  return f?.kind === 'pick' ? Object.keys(f.options).join(', ') : '';
};

/** What a lab can bring in on its first day, as CSV with these heads. */
const IMPORTS = {
  sources: {
    label: 'Sources',
    columns: [
      { head: 'name', needed: true, says: 'how the source is called' },
      { head: 'pit', needed: true, says: 'pit or quarry' },
      { head: 'kind', needed: true, says: kinds(ITEM_KINDS.source.facts, 'kind') },
      { head: 'nominal', says: 'nominal maximum size with its unit, as 19 mm' },
    ],
    example: [['Brackdown sand', 'Brackdown', 'fine', '4.75 mm']],
  },
  specifications: {
    label: 'Specifications',
    by: 'name',
    columns: [
      { head: 'name', needed: true, says: 'the same on each line of one specification' },
      { head: 'comparison', says: `${COMPARISON_IDS.join(', ')}; empty: ${COMPARISON_IDS[0]}` },
      { head: 'property', needed: true, says: PROPERTY_IDS.join(', ') },
      { head: 'unit', says: 'of the limit, as mm; empty where it has none' },
      { head: 'lower', says: 'lowest' },
      { head: 'upper', says: 'highest' },
      { head: 'target', says: 'or a target' },
      { head: 'minus', says: 'less this' },
      { head: 'plus', says: 'plus this' },
      { head: 'where', needed: true, says: 'where it is written' },
      { head: 'on fail', says: 'what to do when it fails' },
    ],
    example: [
      ['Deck concrete', 'reported', 'slump', 'mm', '', '', '100', '25', '25', '03 30 00, 2.4', 'Check test at once.'],
      ['Deck concrete', '', 'air', '%', '4.5', '7.5', '', '', '', '03 30 00, 2.5', ''],
    ],
  },
  mixes: {
    label: 'Mixes',
    by: 'code',
    columns: [
      { head: 'code', needed: true, says: 'the same on each line of one mix' },
      { head: 'name', needed: true, says: 'on its first line' },
      { head: 'from', says: 'day from which it is batched so, as 2026-11-02; empty: today' },
      { head: 'largest', needed: true, says: 'largest size with its unit, as 25 mm' },
      { head: 'nominal', needed: true, says: 'nominal maximum size, as 19 mm' },
      { head: 'air', needed: true, says: 'design air, %' },
      { head: 'correction', says: 'aggregate correction factor, %' },
      { head: 'must meet', says: 'names of specifications, with ; between them' },
      { head: 'ingredient', needed: true, says: 'a line for each' },
      { head: 'role', needed: true, says: Object.keys(MATERIAL_ROLES).join(', ') },
      { head: 'mass', needed: true, says: 'for 1 m³ in kg, or 1 yd³ in lb, with its unit: 340 kg' },
      { head: 'gravity', says: 'specific gravity; empty: the newest of its source' },
      { head: 'source', says: 'name of its source' },
    ],
    example: [
      ['D-32A', 'Deck mix 32 A', '', '25 mm', '19 mm', '6.0', '0.4', 'Deck concrete', 'Cement', 'cement', '340 kg', '3.15', ''],
      ['D-32A', '', '', '', '', '', '', '', 'Water', 'water', '160 kg', '1.000', ''],
      ['D-32A', '', '', '', '', '', '', '', 'Sand', 'fine', '720 kg', '2.63', 'Brackdown sand'],
    ],
  },
  kit: {
    label: 'Kit',
    columns: [
      { head: 'kind', needed: true, says: KIT_KINDS.join(', ') },
      { head: 'name', needed: true, says: 'what is written on it' },
      { head: 'nominal', says: 'nominal size or dial division with its unit, where its kind has one: 7 L, 0.1 %' },
      { head: 'calibrated', says: 'day of the last calibration, as 2026-08-31' },
      { head: 'found', says: 'what was found then, with its unit: 7.043 L' },
    ],
    example: [
      ['measure', 'Measure 1, 7 L', '7 L', '2026-08-31', '7.043 L'],
      ['thermometer', 'Thermometer 1', '', '2026-05-21', ''],
    ],
  },
} as const satisfies Readonly<Record<string, ImportTable>>;

export type ImportWhat = keyof typeof IMPORTS;
export const IMPORT_IDS = Object.keys(IMPORTS) as [ImportWhat, ...ImportWhat[]];
export const importTable = (what: ImportWhat): ImportTable => IMPORTS[what];

/** More lines are brought in by several files. */
export const MOST_LINES = 1000;

export const newImport = z.strictObject({
  ...written,
  projectId: id,
  what: z.enum(IMPORT_IDS),
  csv: z.string().min(1).max(2_000_000),
  /** Everything is done, looked at, and taken back. */
  dry: z.boolean(),
});
export type NewImport = z.infer<typeof newImport>;

/** What was made, or would be. */
export interface ImportAnswer {
  readonly lines: number;
  readonly made: readonly string[];
  readonly dry: boolean;
}

export const newPerson = z.strictObject({ ...written, name: z.string().trim().min(2).max(120), role: z.string().trim().min(2).max(60) });
