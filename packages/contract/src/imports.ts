import {
  ACCEPTED_AT_DAYS,
  COMPARISON_IDS,
  ITEM_KINDS,
  KIT_KINDS,
  MATERIAL_ROLES,
  PROPERTY_IDS,
  SCHOOL_IDS,
  type Shape,
} from '@keen-mortar/core';
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
  /** What one thing is, where it takes several lines: those with the same of these columns. */
  readonly by?: readonly string[];
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
    by: ['name'],
    columns: [
      { head: 'name', needed: true, says: 'the same on each line of one specification' },
      { head: 'comparison', says: `${COMPARISON_IDS.join(', ')}; empty: ${COMPARISON_IDS[0]}` },
      { head: 'school', says: `${SCHOOL_IDS.join(', ')}: by whose rules strength is accepted; empty: as the project works` },
      { head: 'property', needed: true, says: PROPERTY_IDS.join(', ') },
      { head: 'unit', says: 'of the limit, as mm; empty where it has none' },
      { head: 'lower', says: 'lowest' },
      { head: 'upper', says: 'highest' },
      { head: 'target', says: 'or a target' },
      { head: 'minus', says: 'less this' },
      { head: 'plus', says: 'plus this' },
      { head: 'at days', says: `of a strength, its age; empty: ${ACCEPTED_AT_DAYS}` },
      { head: 'where', needed: true, says: 'where it is written' },
      { head: 'on fail', says: 'what to do when it fails' },
    ],
    example: [
      ['Deck concrete', 'reported', '', 'slump', 'mm', '', '', '100', '25', '25', '', '03 30 00, 2.4', 'Check test at once.'],
      ['Deck concrete', '', '', 'air', '%', '4.5', '7.5', '', '', '', '', '03 30 00, 2.5', ''],
      ['Deck concrete', '', '', 'strength', 'MPa', '32', '', '', '', '', '56', '03 30 00, 2.1', ''],
    ],
  },
  mixes: {
    label: 'Mixes',
    by: ['code'],
    columns: [
      { head: 'code', needed: true, says: 'the same on each line of one mix' },
      { head: 'name', needed: true, says: 'on its first line' },
      { head: 'from', says: 'day from which it is batched so, as 2026-11-02; empty: today' },
      { head: 'largest', needed: true, says: 'largest size with its unit, as 25 mm' },
      { head: 'nominal', needed: true, says: 'nominal maximum size, as 19 mm' },
      { head: 'air', needed: true, says: 'design air, %' },
      { head: 'correction', says: 'aggregate correction factor, %' },
      { head: 'correction on', says: 'day on which that was found, as 2026-11-02' },
      { head: 'must meet', says: 'names of specifications, with ; between them' },
      { head: 'ingredient', needed: true, says: 'a line for each' },
      { head: 'role', needed: true, says: Object.keys(MATERIAL_ROLES).join(', ') },
      { head: 'mass', needed: true, says: 'for 1 m³ in kg, or 1 yd³ in lb, with its unit: 340 kg' },
      { head: 'gravity', says: 'specific gravity; empty: the newest of its source' },
      { head: 'source', says: 'name of its source' },
    ],
    example: [
      ['D-32A', 'Deck mix 32 A', '', '25 mm', '19 mm', '6.0', '0.4', '', 'Deck concrete', 'Cement', 'cement', '340 kg', '3.15', ''],
      ['D-32A', '', '', '', '', '', '', '', '', 'Water', 'water', '160 kg', '1.000', ''],
      ['D-32A', '', '', '', '', '', '', '', '', 'Sand', 'fine', '720 kg', '2.63', 'Brackdown sand'],
    ],
  },
  kit: {
    label: 'Kit',
    columns: [
      { head: 'kind', needed: true, says: KIT_KINDS.join(', ') },
      { head: 'name', needed: true, says: 'what is written on it' },
      {
        head: 'nominal',
        says: 'nominal size or dial division with its unit, where its kind has one: 7 L, 0.1 %; of a splitter chutes and their width: 12; 38 mm',
      },
      { head: 'calibrated', says: 'day of the last calibration, as 2026-08-31' },
      { head: 'due', says: 'last day that the lab lets it hold; empty: as long as its method does' },
      { head: 'found', says: 'what was found then, with its unit: 7.043 L' },
    ],
    example: [
      ['measure', 'Measure 1, 7 L', '7 L', '2026-08-31', '', '7.043 L'],
      ['balance', 'Balance 1, 30 kg', '', '2026-05-21', '2027-05-20', ''],
      ['splitter', 'Splitter 1, 12 chutes', '12; 38 mm', '2026-05-21', '', ''],
    ],
  },
  loads: {
    label: 'Tickets',
    by: ['pour', 'number'],
    columns: [
      { head: 'pour', needed: true, says: 'its name, as it stands on record' },
      { head: 'number', needed: true, says: 'of the load in its pour; the same on each line of one ticket' },
      { head: 'ticket', needed: true, says: 'number of the ticket, on its first line' },
      { head: 'truck', needed: true, says: 'which truck' },
      { head: 'plant', says: 'where it was batched' },
      { head: 'batched', needed: true, says: 'when water met cement, as 2026-11-12 08:05' },
      { head: 'volume', needed: true, says: 'with its unit: 6.0 m3' },
      { head: 'material', needed: true, says: 'a line for each' },
      { head: 'role', needed: true, says: Object.keys(MATERIAL_ROLES).join(', ') },
      { head: 'target mass', says: 'what was meant, with its unit' },
      { head: 'batched mass', needed: true, says: 'as scaled, with its unit; water and admixtures also in L or gal: 828 kg' },
      { head: 'moisture', says: 'total, %' },
      { head: 'absorption', says: '%' },
      { head: 'reason', says: 'why what is unlikely on it is so, on its first line' },
    ],
    example: [
      [
        'Deck west',
        '1',
        'F-4200',
        'Truck 11',
        'Fernhaul',
        '2026-11-12 08:05',
        '6.0 m3',
        'Cement',
        'cement',
        '2040 kg',
        '2036 kg',
        '',
        '',
        '',
      ],
      ['Deck west', '1', '', '', '', '', '', 'Water', 'water', '829 kg', '828 kg', '', '', ''],
      ['Deck west', '1', '', '', '', '', '', 'Sand', 'fine', '4390 kg', '4386 kg', '4.1', '1.3', ''],
    ],
  },
  tests: {
    label: 'Tests',
    by: ['of', 'method', 'started'],
    columns: [
      { head: 'of', needed: true, says: 'code of what was tested, as it stands on record: B-12' },
      { head: 'method', needed: true, says: 'as the program calls it, or its short id: moisture' },
      { head: 'variant', says: 'its id; empty: the one that is usual here' },
      { head: 'started', needed: true, says: 'day and time, as 2026-08-31 09:20' },
      { head: 'reading', needed: true, says: 'what was read, as its field is called; of a table with its row: Sieves 2, Retained' },
      { head: 'value', needed: true, says: 'with its unit: 1204.6 g' },
      { head: 'reason', says: 'why an unlikely one is kept' },
    ],
    example: [
      ['B-1', 'moisture', '', '2026-08-31 09:20', 'Mass as received', '1204.6 g', ''],
      ['B-1', 'moisture', '', '2026-08-31 09:20', 'Oven-dry mass', '1151.3 g', ''],
    ],
  },
} as const satisfies Readonly<Record<string, ImportTable>>;

/** What came of bringing a project’s whole record in. */
export interface RecordTaken {
  readonly project: { readonly id: string; readonly code: string; readonly name: string };
  readonly rows: number;
  /** How many rows of each table. */
  readonly tables: Readonly<Record<string, number>>;
  readonly dry: boolean;
}

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
