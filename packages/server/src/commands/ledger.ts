import {
  methodById,
  stateOfTest,
  type AnyMethod,
  type Evaluation,
  type ResultField,
  type Verdict,
  type VerdictState,
} from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type { WorkedOut } from '../queries/tests.js';
import { updateLedger } from '../store/ledger.js';
import { verdictsOf } from './standing.js';

/** The result that stands for a test in a list: the one that is out or at the edge, else its first main one that was found. */
function mainOf(m: AnyMethod, { results }: Evaluation, state: VerdictState, verdicts: ReadonlyMap<string, Verdict>): string | null {
  const fields = m.results as Readonly<Record<string, ResultField>>;
  const main = (r: { id: string }): boolean => fields[r.id]?.main === true;
  const found = results.filter((r) => r.state === 'given' && !r.series);
  const worst = state === 'out' || state === 'edge' ? found.filter((r) => verdicts.get(r.id)?.state === state) : [];
  return (worst.find(main) ?? worst[0] ?? found.find(main) ?? found[0] ?? results.find(main))?.id ?? null;
}

/** A test’s line of the ledger is made again. */
export async function setLedger(cx: PoolConnection, testId: string, turn: number, now: WorkedOut): Promise<void> {
  const m = methodById(now.evaluation.method);
  if (!m) return;
  const state = now.evaluation.validity.state === 'void' ? 'void' : stateOfTest(m, now.evaluation, now.judged);
  await updateLedger(cx, testId, {
    turn,
    main: mainOf(m, now.evaluation, state, verdictsOf(now)),
    state,
    marked: now.evaluation.validity.state === 'marked',
  });
}
