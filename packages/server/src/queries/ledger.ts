import {
  LEDGER_COUNTED,
  type FindingView,
  type LedgerCounts,
  type LedgerFilter,
  type LedgerPage,
  type LedgerQuery,
} from '@keen-mortar/contract';
import { isTold, METHODS, type ResultField } from '@keen-mortar/core';
import * as z from 'zod';
import type { Cx } from '../db.js';
import { fault } from '../faults.js';
import { Refused } from '../problems.js';
import { ledgerCounts, ledgerLines, type After, type Wanted } from '../store/ledger.js';
import { findingsOnPaths } from './findings.js';

/** Which results are of a property, by the methods that find them. */
const resultsOf = (property: string): { method: string; result: string }[] =>
  METHODS.flatMap((m) =>
    Object.entries(m.results as Readonly<Record<string, ResultField>>).flatMap(([result, field]) =>
      field.property === property ? [{ method: m.id, result }] : [],
    ),
  );

export const wanted = (f: LedgerFilter): Wanted => ({
  projectId: f.project,
  inItem: f.in,
  text: f.text,
  subjectId: f.of,
  methods: f.method,
  results: f.property === undefined ? undefined : resultsOf(f.property),
  states: f.state,
  marked: f.marked === 'true' ? true : undefined,
  personId: f.by,
  equipmentId: f.kit,
  from: f.from === undefined ? undefined : new Date(f.from),
  until: f.until === undefined ? undefined : new Date(f.until),
});

const cursor = z.tuple([z.union([z.iso.datetime(), z.string().regex(/^-?\d{1,28}(\.\d{1,12})?$/)]), z.uuid()]);

/** What the page before said comes next: nobody makes one up. */
function afterOf(text: string | undefined, sort: LedgerQuery['sort']): After | null {
  if (text === undefined) return null;
  try {
    const [key, testId] = cursor.parse(JSON.parse(Buffer.from(text, 'base64url').toString('utf8')));
    if ((sort === 'at') !== key.includes('T')) throw new Error('of another order');
    return { key, testId };
  } catch {
    const message = 'This is no place where a page begins: begin again without it.';
    throw new Refused('invalid-input', message, [fault('bad-cursor', 'after', message)]);
  }
}

const cursorOf = ({ key, testId }: After): string => Buffer.from(JSON.stringify([key, testId])).toString('base64url');

export async function ledgerPage(cx: Cx, q: LedgerQuery, now: Date): Promise<LedgerPage> {
  const { sort, order, after, limit, ...filter } = q;
  const lines = await ledgerLines(cx, wanted(filter), { sort, descending: order === 'desc' }, afterOf(after, sort), limit);
  const last = lines.length === limit ? lines.at(-1)! : null;
  const found = await findingsOnPaths(cx, [...new Set(lines.map((l) => l.itemId))], now);
  const told = (itemId: string): FindingView[] => (found.get(itemId) ?? []).filter(isTold);
  return {
    rows: lines.map(({ key: _key, ...line }) => ({ ...line, findings: told(line.itemId) })),
    next: last ? cursorOf(last) : null,
  };
}

export async function ledgerCounted(cx: Cx, filter: LedgerFilter): Promise<LedgerCounts> {
  const weeks = await ledgerCounts(cx, wanted(filter), LEDGER_COUNTED);
  return { weeks, more: weeks.reduce((sum, w) => sum + w.count, 0) >= LEDGER_COUNTED };
}
