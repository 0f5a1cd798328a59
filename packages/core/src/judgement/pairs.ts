import { brief, exact } from '../numbers/exact.js';
import { convert, unitLabel } from '../units/units.js';
import { endsTesting, nextStep, say } from '../problems.js';
import type { VerdictState } from '../limits/verdict.js';
import type { AnyMethod } from '../methods/definition.js';
import type { Evaluation } from '../methods/evaluate.js';
import type { CrossCheck } from './cross-checks.js';
import { twoResultsWithin } from './precision.js';

/** What a void or failing test and its linked repeat say together. */
export type PairVerdict = 'repeat-stands' | 'check-passes' | 'load-fails' | 'both-void' | 'waiting' | 'apart';

/**
 * Judges a first test and the test made because of it (C94: first and check both failing fail the load).
 * `apart`: the two are further apart than two results of one concrete may be.
 */
export function judgePair(first: VerdictState, repeat: VerdictState, apart = false): PairVerdict {
  if (repeat === 'open') return 'waiting';
  if (first === 'void') return repeat === 'void' ? 'both-void' : 'repeat-stands';
  if (repeat === 'void') return 'waiting';
  // Both out fail the load, however far apart; where one of them is inside, two so far apart decide nothing.
  if (first === 'out' && repeat === 'out') return 'load-fails';
  return apart ? 'apart' : 'check-passes';
}

/** Whether first and check test are further apart than d2s of their main results; null when they are not, or none is published. */
export function testsApart(m: AnyMethod, first: Evaluation, check: Evaluation): CrossCheck | null {
  for (const id in m.results) {
    const [a, b] = [first, check].map((e) => e.results.find((r) => r.id === id && r.state === 'given'));
    const precision = m.results[id]!.precision;
    if (!a?.exact || !b?.exact || precision === undefined) continue;
    const [x, y] = [exact(a.exact), convert(exact(b.exact), b.unit, a.unit)];
    const most = twoResultsWithin(precision, x, y, a.unit);
    if (most === null || x.sub(y).abs().compare(exact(most)) <= 0) continue;
    const unit = unitLabel(a.unit);
    const params = { apart: `${brief(x.sub(y).abs(), 3, exact(most))} ${unit}`.trim(), most: `${most} ${unit}`.trim() };
    return { code: 'tests-apart', params, causes: [] };
  }
  return null;
}

/**
 * Whether another test of the same sample is the next step: in place of a void one, as a check of one that
 * is out, or as the third that decides. Never after what ends testing, nor once the pair has failed the load.
 * @param last the newest test of a run of repeats and checks
 */
export function asksForAnother(last: {
  readonly state: VerdictState;
  readonly evaluation: Evaluation;
  readonly pair: PairVerdict | null;
}): boolean {
  if (last.evaluation.validity.reasons.some(({ code }) => endsTesting(code)) || last.pair === 'load-fails') return false;
  return last.state === 'void' || last.state === 'out' || last.pair === 'apart';
}

/** What a pair says, and what is left to do. */
export function pairWords(pair: PairVerdict, check: CrossCheck | null): { readonly says: string; readonly next: string | null } | null {
  switch (pair) {
    case 'load-fails':
      return { says: 'First and check test are both out: the load fails this requirement.', next: 'Tell whoever may reject the load.' };
    case 'check-passes':
      return { says: 'The check test is inside: the load meets this requirement.', next: null };
    case 'repeat-stands':
      return { says: 'This test stands in place of the void one before it.', next: null };
    case 'both-void':
      return { says: 'Both tests are void: there is no result yet.', next: 'Put right what made them void, then test once more.' };
    case 'apart':
      return check && { says: say(check.code, check.params), next: nextStep(check.code, check.params) };
    case 'waiting':
      return null;
  }
}
