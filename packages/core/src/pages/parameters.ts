import { isUnit, unitLabel, type Parameters } from '../index.js';

/** A table of numbers as it is printed: rows of the same kind. */
export interface ParameterTable {
  readonly title: string;
  readonly head: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

type Row = Readonly<Record<string, unknown>>;

const isRow = (value: unknown): value is Row => typeof value === 'object' && value !== null && !Array.isArray(value);
const isTable = (value: unknown): value is readonly Row[] => Array.isArray(value) && value.length > 0 && value.every(isRow);

const DESIGNATION = /^[cd]\d+$/;
const SYSTEMS: Readonly<Record<string, string>> = { si: 'SI', us: 'US' };

/** `areaPerStroke` → `area per stroke`; a unit by its label, a designation by its letter. */
const wordsOf = (key: string): string =>
  SYSTEMS[key] ??
  DESIGNATION.exec(key)?.[0].toUpperCase() ??
  (isUnit(key) ? unitLabel(key) : key.replace(/([a-z])([A-Z])/g, (_m, a: string, b: string) => `${a} ${b.toLowerCase()}`));

function leafText(value: unknown): string {
  if (value === null || value === undefined) return 'none';
  if (Array.isArray(value)) return value.map(leafText).join(', ');
  if (isRow(value)) return Object.entries(value).map(pair).join(', ');
  return typeof value === 'string' ? value : JSON.stringify(value);
}

const pair = ([key, value]: [string, unknown]): string => `${wordsOf(key)} ${leafText(value)}`.trim();

function tableOf(title: string, rows: readonly Row[]): ParameterTable {
  const keys = [...new Set(rows.flatMap((row) => Object.keys(row)))];
  return { title, head: keys.map(wordsOf), rows: rows.map((row) => keys.map((key) => (row[key] === undefined ? '' : leafText(row[key])))) };
}

/** Parameters as a person reads them: short ones in a line, lists of rows as tables. */
export function parametersOf(params: Parameters): { line: string; tables: readonly ParameterTable[] } {
  const tables: ParameterTable[] = [];
  const line: string[] = [];
  const visit = (value: unknown, path: readonly string[]): void => {
    const title = path.map(wordsOf).join(', ');
    if (isTable(value)) tables.push(tableOf(title, value));
    else if (isRow(value) && Object.values(value).some((inner) => isTable(inner) || isRow(inner)))
      for (const key in value) visit(value[key], [...path, key]);
    else line.push(isRow(value) ? `${title}: ${leafText(value)}` : `${title} ${leafText(value)}`);
  };
  for (const key in params) visit(params[key], [key]);
  return { line: line.join('; '), tables };
}
