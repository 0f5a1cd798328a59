import type { AnyMethod, Advice } from '../../methods/definition.js';
import { endsTesting, nextStep, say } from '../../problems.js';
import { adviceOn, guidance, type Told } from '../guidance.js';
import { judgeTurn, pairWords, type PairVerdict, type Turn } from '../pairs.js';
import { always, finding, type Finding, type Found, type FindingGrade } from './finding.js';
import { itemsOf, testsOf, type Line, type LineItem, type LineTest } from './line.js';
import type { Evaluation } from '../../methods/evaluate.js';

/** What is read of a test to judge it with those that it was made because of. */
type InTurn = Pick<LineTest, 'id' | 'method' | 'retestOf' | 'state'> & {
  readonly outcome: Pick<Evaluation, 'results' | 'validity'> | null;
};

/** A test that gave something, with what it says together with those that it was made because of. */
export interface ChainedTest<T extends InTurn = LineTest> {
  readonly test: T;
  readonly turn: Turn | null;
}

/** Tests of one method that were made because of each other, the first one first: a list for each that was made by itself. */
export function chainsOf<T extends InTurn>(tests: readonly T[]): ChainedTest<T>[][] {
  const after = new Map(tests.flatMap((t) => (t.retestOf === null ? [] : [[t.retestOf, t] as const])));
  return tests
    .filter((t) => t.retestOf === null || !tests.some((other) => other.id === t.retestOf))
    .map((root) => {
      const chain: ChainedTest<T>[] = [{ test: root, turn: null }];
      for (let next = after.get(root.id); next; next = after.get(next.id)) {
        const made = [...chain.map((c) => c.test), next].map(({ state, outcome }) => ({ state, evaluation: outcome ?? NOTHING }));
        chain.push({ test: next, turn: judgeTurn(next.method, made) });
      }
      return chain;
    });
}

const NOTHING: Pick<Evaluation, 'results' | 'validity'> = { results: [], validity: { state: 'valid', reasons: [] } };

/** What a definition says of the result that is out of a test; of the first where several are. */
function adviceOf(m: AnyMethod, told: readonly Told[], test: LineTest): Advice | undefined {
  const out = told.find((t) => t.code === 'out');
  const side = test.judged.flatMap((j) => j.verdicts).find((v) => v.result === out?.result && v.state === 'out')?.side;
  return out?.result === undefined || side === undefined ? undefined : adviceOn(m, out.result, side === 'lower' ? 'low' : 'high');
}

const outOf = (test: LineTest, pair: PairVerdict | null): Told[] =>
  test.outcome ? guidance(test.method, test.outcome, test.judged, pair).filter((t) => t.code === 'out') : [];

/** In words of its method what a pair says, with the next steps of the result that is out. */
export function pairSays(chain: readonly ChainedTest[]): { grade: FindingGrade; says: string; next: readonly string[] } | null {
  const kept = chain.filter((c) => c.test.outcome !== null);
  const last = kept.at(-1);
  if (!last?.test.outcome) return null;
  const { test, turn } = last;
  const m = test.method;
  const reasons = test.outcome!.validity.reasons;
  const ended = reasons.filter(({ code }) => endsTesting(code));
  if (ended.length > 0)
    return {
      grade: 'watch',
      says: ended.map(({ code, params }) => say(code, params)).join(' '),
      next: ended.flatMap(({ code, params }) => nextStep(code, params) ?? []),
    };
  const pair = turn?.pair ?? null;
  const own = outOf(test, pair);
  const says = own.map((t) => t.says).join(' ');
  const steps = [...new Set(own.flatMap((t) => t.next))];
  if (pair === null || pair === 'waiting' || pair === 'both-void') {
    if (test.state === 'void') {
      const why = reasons.map(({ code, params }) => say(code, params)).join(' ');
      const next = [...new Set(reasons.flatMap(({ code, params }) => nextStep(code, params) ?? []))];
      return { grade: 'open', says: pair === 'both-void' ? `Both tests are void: there is no result yet. ${why}` : why, next };
    }
    return test.state === 'out' ? { grade: 'open', says, next: steps } : null;
  }
  if (pair === 'repeat-stands' && test.state === 'out')
    return { grade: 'open', says: `The repeat stands in place of the void test. ${says}`, next: steps };
  const words = pairWords(pair, turn!.apart);
  if (words === null) return null;
  const advice = adviceOf(
    m,
    outOf(kept.find((c) => c.test.state === 'out')?.test ?? test, null),
    kept.find((c) => c.test.state === 'out')?.test ?? test,
  );
  const next = words.next === null ? [] : [words.next];
  if (pair === 'load-fails' || pair === 'third-fails') {
    const both = advice?.outTwice;
    return { grade: both === undefined ? 'out' : 'watch', says: `${both ?? words.says} ${says}`.trim(), next: advice?.bothOut ?? next };
  }
  if (pair === 'check-passes' || pair === 'third-passes') return { grade: 'fine', says: advice?.checked ?? words.says, next: [] };
  if (pair === 'repeat-stands') return { grade: 'fine', says: words.says, next: [] };
  return { grade: pair === 'apart' ? 'open' : 'watch', says: words.says, next };
}

function ofItem(line: Line, item: LineItem): Found[] {
  const tests = testsOf(line, item);
  const methods = [...new Set(tests.map((t) => t.method))].filter((m) => m.work?.on === 'fresh');
  return methods.flatMap((m) => {
    const chains = chainsOf(tests.filter((t) => t.method === m));
    return chains.flatMap((chain, i): Found[] => {
      const found = pairSays(chain);
      if (!found) return [];
      return [
        {
          subjectId: item.id,
          part: i === 0 ? m.id : `${m.id} ${i + 1}`,
          states: always(found.grade, `${m.title}: ${found.says}`, found.next),
          stoodOn: chain.map((c) => c.test.id),
        },
      ];
    });
  });
}

const PAIR = 'pair';

/** Whether a finding of an item speaks of its tests by a method: what test and check test say is of their own method alone. */
export const speaksOf = ({ finding: kind, part }: Pick<Finding, 'finding' | 'part'>, method: string): boolean =>
  kind !== PAIR || part.split(' ')[0] === method;

export const pairFinding = finding({
  id: PAIR,
  title: 'Test and check test',
  about:
    'What a test that is void or out says together with its repeat, its check test, and a third: each property has its own steps, and only some of them fail the load.',
  reads: 'The tests of one method on a sample, their verdicts, and the sample’s composite.',
  follows: [{ designation: 'ASTM C94/C94M', edition: '2023', part: 'slump and air outside their limits' }],
  beside: 'pair',
  find: (line, before) =>
    itemsOf(line, 'sample').flatMap((item) =>
      // Of a void sample nothing is repeated: another one is taken.
      before('composite', item.id).some((f) => f.acceptance === 'excluded') ? [] : ofItem(line, item),
    ),
});
