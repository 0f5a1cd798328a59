import { worst, type Judged, type VerdictState } from '../limits/verdict.js';
import type { AnyMethod, ResultField } from '../methods/definition.js';
import type { Evaluation } from '../methods/evaluate.js';
import { judgeTurn } from './pairs.js';

/** A test of one item as the record holds it. */
export interface OnRecord {
  readonly id: string;
  readonly retestOf: string | null;
  /** Null while nothing was kept. */
  readonly evaluation: Evaluation | null;
  /** The worst that a specification says of it; void or open where it gives no figure. */
  readonly state: VerdictState;
}

/**
 * What needs attention first of a test by itself: of the results that it gives, and of those that it is made
 * for where it does not give them. That something optional was not read leaves nothing open.
 */
export function stateOfTest(m: AnyMethod, e: Evaluation, judged: readonly Judged[]): VerdictState {
  const results = m.results as Readonly<Record<string, ResultField>>;
  const counted = new Set(e.results.filter((r) => r.state !== 'open' || results[r.id]?.main).map((r) => r.id));
  return worst(judged.flatMap((j) => j.verdicts.filter((v) => counted.has(v.result)).map((v) => v.state)));
}

/** Pairs in which the newest decides nothing by itself: the worst of those that count stands. */
const UNDECIDED: ReadonlySet<string> = new Set(['apart', 'waiting', 'third-fails', 'unsettled']);

const counts = (test: OnRecord): boolean => test.evaluation !== null && test.state !== 'void' && test.state !== 'open';

/**
 * The tests that stand for an item, of one method: of each run of repeats and checks one. A repeat that is only
 * opened, or void itself, hides nothing: the one before it stands. Tests that were not made because of each
 * other stand each by itself.
 * @param tests in the order in which they were made
 */
export function standingOf<T extends OnRecord>(m: AnyMethod, tests: readonly T[]): T[] {
  const after = new Map(tests.flatMap((t) => (t.retestOf === null ? [] : [[t.retestOf, t] as const])));
  return tests
    .filter((t) => t.retestOf === null || !tests.some((other) => other.id === t.retestOf))
    .flatMap((first) => {
      const run = [first];
      for (let next = after.get(first.id); next; next = after.get(next.id)) run.push(next);
      const stands = standsOf(m, run);
      return stands ? [stands] : [];
    });
}

function standsOf<T extends OnRecord>(m: AnyMethod, run: readonly T[]): T | undefined {
  const counted = run.filter(counts);
  const newest = counted.at(-1);
  // Nothing counts: what was made last says why.
  if (!newest) return run.findLast((t) => t.evaluation !== null);
  if (counted.length === 1) return newest;
  const turns = counted.map(({ state, evaluation }) => ({ state, evaluation: evaluation! }));
  if (!UNDECIDED.has(judgeTurn(m, turns).pair)) return newest;
  const state = worst(counted.map((t) => t.state));
  return counted.findLast((t) => t.state === state) ?? newest;
}
