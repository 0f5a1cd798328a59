import { METHODS, PROPERTIES, type VerdictState } from '@keen-mortar/core';

/** What is asked of the ledger, as its address says it: names as the server takes them. */
export const ASKED = ['in', 'of', 'text', 'method', 'property', 'state', 'marked', 'by', 'kit', 'from', 'until', 'sort', 'order'] as const;
export type AskedFor = (typeof ASKED)[number];
export type Asked = Readonly<Partial<Record<AskedFor, string>>>;

export const STATES: readonly VerdictState[] = ['within', 'edge', 'out', 'void', 'open', 'unjudged'];

export const methodOptions = METHODS.filter((m) => m.on !== undefined).map((m) => ({ id: m.id, label: m.title }));
export const propertyOptions = PROPERTIES.map((p) => ({ id: p.id, label: p.label }));

export const manyOf = (text: string | undefined): string[] => (text === undefined || text === '' ? [] : text.split(','));

/** Without what is empty; an order of results goes with the property that it is of. */
export function tidy(asked: Asked): Asked {
  const { sort, ...rest } = Object.fromEntries(Object.entries(asked).filter(([, v]) => v !== '')) as Asked;
  return sort === 'value' && rest.property !== undefined ? { ...rest, sort } : rest;
}

/** What can stand in a column, in the usual order; those that are not usual are chosen. */
export const COLUMNS = {
  at: 'Time',
  test: 'Test',
  of: 'Of',
  result: 'Result',
  limits: 'Against its limits',
  by: 'By',
  variant: 'Variant',
  turns: 'Corrected',
} as const;
export type Column = keyof typeof COLUMNS;
export const COLUMN_IDS = Object.keys(COLUMNS) as Column[];
export const USUAL: readonly Column[] = ['at', 'test', 'of', 'result', 'limits', 'by'];

const KEY = 'km.ledger.columns';

export function rememberedColumns(): readonly Column[] {
  try {
    const kept = (JSON.parse(localStorage.getItem(KEY) ?? 'null') ?? USUAL) as string[];
    const known = kept.filter((c): c is Column => Object.hasOwn(COLUMNS, c));
    return known.length > 0 ? known : USUAL;
  } catch {
    return USUAL;
  }
}

export const rememberColumns = (columns: readonly Column[]): void => localStorage.setItem(KEY, JSON.stringify(columns));
