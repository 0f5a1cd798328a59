import { methodById, stateOfTest, type AnyMethod, type Evaluation, type ResultField } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type { WorkedOut } from '../queries/tests.js';
import { updateLedger } from '../store/ledger.js';

/** The result that stands for a test in a list: its first main one that was found, or any. */
export function mainOf(m: AnyMethod, { results }: Evaluation): string | null {
  const fields = m.results as Readonly<Record<string, ResultField>>;
  const found = results.filter((r) => r.state === 'given' && !r.series);
  const one = found.find((r) => fields[r.id]?.main) ?? found[0] ?? results.find((r) => fields[r.id]?.main);
  return one?.id ?? null;
}

/** A test’s line of the ledger is made again. */
export async function setLedger(cx: PoolConnection, testId: string, turn: number, now: WorkedOut): Promise<void> {
  const m = methodById(now.evaluation.method);
  if (!m) return;
  await updateLedger(cx, testId, {
    turn,
    main: mainOf(m, now.evaluation),
    state: now.evaluation.validity.state === 'void' ? 'void' : stateOfTest(m, now.evaluation, now.judged),
    marked: now.evaluation.validity.state === 'marked',
  });
}
