import { dayIn, type LedgerFilter, type Project, type Reading } from '@keen-mortar/contract';
import { methodById, unitLabel, type ResultField, type VerdictState } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { Cx } from '../db.js';
import { entriesOf } from '../store/entries.js';
import { ledgerLines, resultsOfTests, type After, type LedgerLine, type StoredResult } from '../store/ledger.js';
import { people } from '../store/people.js';
import { wanted } from './ledger.js';

/** So many tests are read at once, whatever is asked for: what is sent never lies in memory as a whole. */
const AT_ONCE = 500;

/** A test with all of its results and readings. */
export interface Exported {
  readonly line: LedgerLine;
  readonly results: readonly StoredResult[];
  readonly readings: readonly Reading[];
}

/** Every test that is meant, the oldest first, a page at a time. */
export async function* exported(cx: Cx, filter: LedgerFilter): AsyncGenerator<readonly Exported[]> {
  let after: After | null = null;
  do {
    const lines: (LedgerLine & { readonly key: string })[] = await ledgerLines(
      cx,
      wanted(filter),
      { sort: 'at', descending: false },
      after,
      AT_ONCE,
    );
    const ids = lines.map((line) => line.testId);
    const [results, readings] = await Promise.all([resultsOfTests(cx, ids), entriesOf(cx, ids)]);
    yield lines.map(({ key: _key, ...line }) => ({
      line,
      results: results.filter((r) => r.testId === line.testId),
      readings: readings.get(line.testId) ?? [],
    }));
    const last = lines.at(-1);
    after = lines.length === AT_ONCE && last ? { key: last.key, testId: last.testId } : null;
  } while (after !== null);
}

/** Heads of a table of results, in order: what a spreadsheet shows. */
export const HEADS = [
  'day',
  'time',
  'test',
  'variant',
  'of',
  'lies in',
  'result',
  'value',
  'unit',
  'verdict',
  'lowest',
  'highest',
  'limit unit',
  'remark',
  'by',
  'corrected',
  'counts',
  'test id',
] as const;

export type Cells = Readonly<Record<(typeof HEADS)[number], string>>;

/** Names that a project’s tests carry: people by their ids. */
export interface Naming {
  readonly project: Project;
  readonly names: ReadonlyMap<string, string>;
}

export const namingOf = async (cx: Cx, project: Project): Promise<Naming> => ({
  project,
  names: new Map((await people(cx)).map((p) => [p.id, p.name])),
});

/** A row for each result of a test; for one without any, one row all the same. */
export function cellsOf({ line, results }: Exported, { project, names }: Naming): Cells[] {
  const m = methodById(line.method);
  const fields = (m?.results ?? {}) as Readonly<Record<string, ResultField>>;
  const head = {
    day: dayIn(project.timezone, line.at),
    time: DateTime.fromISO(line.at, { zone: project.timezone }).toFormat('HH:mm:ss'),
    test: m?.title ?? line.method,
    variant: line.variant,
    of: line.code,
    'lies in': line.inCode ?? '',
    remark: line.validity === 'valid' ? '' : line.validity,
    by: names.get(line.by) ?? line.by,
    corrected: line.corrected === null ? '' : String(line.corrected),
    counts: line.voided ? 'voided' : 'yes',
    'test id': line.testId,
  };
  const row = (r: StoredResult | null): Cells => ({
    ...head,
    result: r ? (fields[r.result]?.label ?? r.result) : '',
    value: r?.state === 'given' ? (r.reported ?? r.figure ?? '') : '',
    unit: r ? unitLabel(r.unit) : '',
    verdict: wordOf(r, line.state),
    lowest: r?.lower ?? '',
    highest: r?.upper ?? '',
    'limit unit': r?.limitUnit ? unitLabel(r.limitUnit) : '',
  });
  return results.length === 0 ? [row(null)] : results.map(row);
}

const wordOf = (r: StoredResult | null, state: VerdictState): string =>
  r === null ? state : r.state === 'given' ? (r.verdict ?? 'unjudged') : r.state;
