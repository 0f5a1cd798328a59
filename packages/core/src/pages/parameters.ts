import type { Parameters } from '../methods/definition.js';
import { isUnit, unitLabel } from '../units/units.js';
import { PARAMETER_WORDS } from './parameter-words.js';

/** A table of numbers as it is printed: rows of the same kind. */
export interface ParameterTable {
  readonly title: string;
  readonly head: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

/** One parameter: what it is, and its value with its unit. */
export interface ParameterLine {
  readonly words: string;
  readonly value: string;
}

type Row = Readonly<Record<string, unknown>>;

const isRow = (value: unknown): value is Row => typeof value === 'object' && value !== null && !Array.isArray(value);
const isTable = (value: unknown): value is readonly Row[] => Array.isArray(value) && value.length > 0 && value.every(isRow);
const isSpan = (value: Row): boolean => Object.keys(value).every((key) => key === 'least' || key === 'most');

const DESIGNATION = /^[cd]\d+$/;
const SYSTEMS: Readonly<Record<string, string>> = { si: 'SI', us: 'US' };

/** What a key is called; a unit by its label, a designation by its letter. */
const wordsOf = (key: string): string =>
  SYSTEMS[key] ?? PARAMETER_WORDS[key]?.words ?? DESIGNATION.exec(key)?.[0].toUpperCase() ?? (isUnit(key) ? unitLabel(key) : key);

const withUnit = (text: string, unit: string | undefined): string => (unit === undefined || text === 'none' ? text : `${text} ${unit}`);

function leafText(value: unknown): string {
  if (value === null || value === undefined) return 'none';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value)) return value.map(leafText).join(', ');
  if (isRow(value))
    return isSpan(value) ? `${leafText(value['least'])} to ${leafText(value['most'])}` : Object.entries(value).map(pair).join(', ');
  return typeof value === 'string' ? figures(value) : JSON.stringify(value);
}

/** `~3` is so many significant figures. */
const figures = (text: string): string => (/^~\d$/.test(text) ? `${text.slice(1)} significant figures` : text.replaceAll('_', ' '));

/** `0.1 MPa` of a unit’s increment, `lift 3 to 7 s` of anything else. */
function pair([key, value]: [string, unknown]): string {
  if (isUnit(key) && typeof value === 'string') return /^~/.test(value) ? figures(value) : `${value} ${unitLabel(key)}`.trim();
  return withUnit(`${wordsOf(key)} ${leafText(value)}`.trim(), PARAMETER_WORDS[key]?.unit);
}

function tableOf(title: string, rows: readonly Row[]): ParameterTable {
  const keys = [...new Set(rows.flatMap((row) => Object.keys(row)))];
  const head = keys.map((key) => withUnit(wordsOf(key), PARAMETER_WORDS[key]?.unit && `(${PARAMETER_WORDS[key].unit})`));
  return { title, head, rows: rows.map((row) => keys.map((key) => (row[key] === undefined ? '' : leafText(row[key])))) };
}

/** The unit of a parameter at the end of a path: of its own key, or of the system that the path goes through. */
function unitOf(path: readonly string[]): string | undefined {
  const system = path.find((key): key is 'si' | 'us' => key === 'si' || key === 'us');
  const own = path.map((key) => PARAMETER_WORDS[key]);
  return own.map((word) => word?.unit ?? (system && word?.in?.[system])).findLast((unit) => unit !== undefined);
}

/** What a single figure is called, and its unit; in a table by the number of its row. */
export function parameterWords(path: readonly string[]): { readonly words: string; readonly unit: string } {
  const last = path.at(-1)!;
  const named = isUnit(last) && path.length > 1 ? path.slice(0, -1) : path;
  const words = named.map((key) => (key.startsWith('#') ? `row ${key.slice(1)}` : wordsOf(key))).join(', ');
  return { words, unit: isUnit(last) ? unitLabel(last) : (unitOf(path) ?? '') };
}

/** Parameters as a person reads them: each with its words and unit, lists of rows as tables. */
export function parametersOf(params: Parameters): { lines: readonly ParameterLine[]; tables: readonly ParameterTable[] } {
  const tables: ParameterTable[] = [];
  const lines: ParameterLine[] = [];
  const visit = (value: unknown, path: readonly string[]): void => {
    const words = path.map(wordsOf).join(', ');
    const unit = unitOf(path);
    if (isTable(value)) tables.push(tableOf(words, value));
    else if (isRow(value) && !isSpan(value) && Object.values(value).some((inner) => isTable(inner) || isRow(inner)))
      for (const key in value) visit(value[key], [...path, key]);
    else if (isRow(value) && Object.keys(value).every((key) => SYSTEMS[key] !== undefined))
      for (const key in value) visit(value[key], [...path, key]);
    else lines.push({ words, value: withUnit(leafText(value), isRow(value) && !isSpan(value) ? undefined : unit) });
  };
  for (const key in params) visit(params[key], [key]);
  return { lines, tables };
}
