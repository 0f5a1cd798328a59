import { brief, exact } from '../numbers/exact.js';
import { convert, unitLabel } from '../units/units.js';
import { endsTesting, nextStep, say } from '../problems.js';
import type { VerdictState } from '../limits/verdict.js';
import type { AnyMethod } from '../methods/definition.js';
import type { Evaluation } from '../methods/evaluate.js';
import type { CrossCheck } from './cross-checks.js';
import { twoResultsWithin } from './precision.js';

/** What a test says together with those that it was made because of. */
export type PairVerdict =
  'repeat-stands' | 'check-passes' | 'load-fails' | 'both-void' | 'waiting' | 'apart' | 'third-passes' | 'third-fails' | 'unsettled';

/** One of the tests that follow from each other, and how it was judged by itself. */
export interface Tested {
  readonly state: VerdictState;
  readonly evaluation: Given;
}

/** What is read of a test where it is judged together with others. */
type Given = Pick<Evaluation, 'results' | 'validity'>;

/** A test beside those before it. */
export interface Turn {
  readonly pair: PairVerdict;
  /** How far it is from the one that it checks, where that is too far. */
  readonly apart: CrossCheck | null;
  /** What it is made as. */
  readonly as: 'repeat' | 'check' | 'third';
}

/**
 * Judges the newest of some tests that were made because of each other, the first one first; at least two
 * (C94: first and check both failing fail the load). Void ones are out of the count, whatever came between:
 * what follows a void check is the check. Where first and check are further apart than two results of one
 * concrete may be, and one of them is inside, a third decides: with the one that it agrees with.
 */
export function judgeTurn(m: AnyMethod, tests: readonly Tested[]): Turn {
  const [newest, before] = [tests.at(-1)!, tests.slice(0, -1)];
  const counted = before.filter(({ state }) => state !== 'void' && state !== 'open');
  const last = counted.at(-1);
  if (!last) {
    const pair = newest.state === 'open' ? 'waiting' : newest.state === 'void' ? 'both-void' : 'repeat-stands';
    return { pair, apart: null, as: 'repeat' };
  }
  const far = (test: Tested): CrossCheck | null => testsApart(m, test.evaluation, newest.evaluation);
  const pairBefore = counted.length > 1 ? judgeTurn(m, counted).pair : null;
  const as = pairBefore === 'apart' ? 'third' : before.at(-1)!.state === 'void' ? 'repeat' : 'check';
  if (newest.state === 'open' || newest.state === 'void') return { pair: 'waiting', apart: null, as };
  if (pairBefore === 'apart') return { pair: judgeThird([...counted.slice(-2), newest], far), apart: null, as };
  // Both out fail the load, however far apart; where one of them is inside, two so far apart decide nothing.
  if (last.state === 'out' && newest.state === 'out') return { pair: 'load-fails', apart: null, as };
  const apart = far(last);
  return { pair: apart ? 'apart' : 'check-passes', apart, as };
}

function judgeThird(three: readonly Tested[], far: (test: Tested) => CrossCheck | null): PairVerdict {
  if (three.filter(({ state }) => state === 'out').length > 1) return 'third-fails';
  const agreeing = three.slice(0, -1).filter((test) => far(test) === null);
  // One of the three is out: the third stands with one that is inside, or with neither.
  return agreeing.some(({ state }) => state !== 'out') && three.at(-1)!.state !== 'out' ? 'third-passes' : 'unsettled';
}

/** What settles a run of tests: no further one of the same sample is asked for. */
const SETTLED: readonly PairVerdict[] = ['load-fails', 'third-fails', 'third-passes', 'unsettled'];

/** Whether first and check test are further apart than d2s of their main results; null when they are not, or none is published. */
export function testsApart(m: AnyMethod, first: Given, check: Given): CrossCheck | null {
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
 * Whether the newest of several tests of one sample agrees with none of the others within d2s: then a third is asked for. Null
 * where one of them bears it out, or there is none to compare it with.
 */
export function duplicatesApart(m: AnyMethod, before: readonly Given[], now: Given): CrossCheck | null {
  const found = before.filter((e) => e.validity.state !== 'void').map((e) => testsApart(m, e, now));
  const last = found.at(-1);
  return !last || found.includes(null) ? null : { ...last, code: 'duplicates-apart' };
}

/**
 * Whether another test of the same sample is the next step: in place of a void one, as a check of one that
 * is out, or as the third that decides. Never after what ends testing, nor once the pair has failed the load.
 * @param last the newest test of a run of repeats and checks
 */
export function asksForAnother(last: {
  readonly state: VerdictState;
  readonly evaluation: Given;
  readonly pair: PairVerdict | null;
}): boolean {
  if (last.evaluation.validity.reasons.some(({ code }) => endsTesting(code))) return false;
  if (last.pair !== null && SETTLED.includes(last.pair)) return false;
  return last.state === 'void' || last.state === 'out' || last.pair === 'apart';
}

/** The test that is asked for next, and what either outcome of it would mean, in words. */
export interface NextTurn {
  readonly as: Turn['as'];
  readonly within: string;
  readonly out: string;
}

/** @param last the newest test of a run of repeats and checks, and what it was made as; null where no further one is asked for */
export function nextTurn(last: Parameters<typeof asksForAnother>[0] & { readonly as: Turn['as'] | null }): NextTurn | null {
  if (!asksForAnother(last)) return null;
  if (last.pair === 'apart' || last.as === 'third') {
    return { as: 'third', within: WORDS['third-passes'].says, out: WORDS['third-fails'].says };
  }
  // A void test counts for nothing: its repeat is what it was to be itself.
  if (last.state === 'void' && last.pair !== 'waiting') return { as: 'repeat', within: WORDS['repeat-stands'].says, out: CHECKED };
  return { as: last.state === 'void' ? 'repeat' : 'check', within: WORDS['check-passes'].says, out: WORDS['load-fails'].says };
}

/** What a test and those before it say, and what is left to do. */
export interface PairWords {
  readonly says: string;
  readonly next: string | null;
  /** Whether the load fails the requirement. */
  readonly fails: boolean;
}

const REJECT = 'Tell whoever may reject the load.';
const CHECKED = 'It stands in place of the void one, and is checked by one more.';
const WORDS: Readonly<Record<Exclude<PairVerdict, 'apart' | 'waiting'>, PairWords>> = {
  'load-fails': { says: 'First and check test are both out: the load fails this requirement.', next: REJECT, fails: true },
  'check-passes': { says: 'The check test is inside: the load meets this requirement.', next: null, fails: false },
  'repeat-stands': { says: 'The repeat stands in place of the void test.', next: null, fails: false },
  'both-void': {
    says: 'Both tests are void: there is no result yet.',
    next: 'Put right what made them void, then test once more.',
    fails: false,
  },
  'third-passes': {
    says: 'The third test agrees with the one that is inside: the load meets this requirement.',
    next: null,
    fails: false,
  },
  'third-fails': { says: 'Two of the three tests are out: the load fails this requirement.', next: REJECT, fails: true },
  unsettled: {
    says: 'The third test does not agree with the one that is inside: these tests decide nothing.',
    next: 'Make no fourth from this sample. Take a new sample, and have somebody watch how the test is made.',
    fails: false,
  },
};

/** @param apart how far the two are apart, where that is what they say */
export function pairWords(pair: PairVerdict, apart: CrossCheck | null): PairWords | null {
  if (pair === 'waiting') return null;
  if (pair !== 'apart') return WORDS[pair];
  return apart && { says: say(apart.code, apart.params), next: nextStep(apart.code, apart.params), fails: false };
}
