import type { Judged, Verdict } from '../limits/verdict.js';
import { marginWords, stateWord } from '../limits/verdict.js';
import { COMPARISON_IDS, COMPARISONS } from '../limits/compare.js';
import type { Advice, AnyMethod, Exchange, Offer } from '../methods/definition.js';
import type { Evaluation } from '../methods/evaluate.js';
import { countsWords, nextStep, say, type Code, type Params } from '../problems.js';
import { fieldAt } from '../record/sources.js';
import { unitLabel } from '../units/units.js';
import type { PairVerdict } from './pairs.js';

/** Something that a technician is told about a test, and what can be done about it. */
export interface Told {
  readonly kind: 'refusal' | 'doubt' | 'void' | 'mark' | 'verdict' | 'note';
  readonly code: Code | 'out' | 'edge';
  readonly says: string;
  /** What to do, in order. */
  readonly next: readonly string[];
  /** What a mark means for acceptance. */
  readonly counts?: string;
  /** The reading that it is about. */
  readonly path?: string;
  readonly offer?: Offer;
  readonly exchange?: Exchange;
  /** What was meant, as a button says it: `Exchange SSD mass and mass in water`. */
  readonly offers?: string;
  /** The result that a verdict is about, where its limit is written, what could be changed. */
  readonly result?: string;
  readonly source?: string;
  readonly levers?: readonly string[];
}

/**
 * Everything that is worth saying about a test, the most pressing first, each with the next thing that a
 * technician can do: the same on the sheet, in Scratch, and in the interface's answers.
 * @param judged verdicts under each specification; none without a record
 * @param pair what the test and the one before it say together
 */
export function guidance(
  m: AnyMethod,
  e: Pick<Evaluation, 'issues' | 'validity' | 'notes'>,
  judged: readonly Judged[] = [],
  pair: PairVerdict | null = null,
): Told[] {
  const isVoid = e.validity.state === 'void';
  return [
    ...e.issues.map((issue): Told => {
      const offers = offerWords(m, issue);
      return {
        kind: issue.severity === 'impossible' ? 'refusal' : 'doubt',
        ...remark(issue.code, issue.params),
        path: issue.path,
        ...(issue.offer ? { offer: issue.offer } : {}),
        ...(issue.exchange ? { exchange: issue.exchange } : {}),
        ...(offers === null ? {} : { offers }),
      };
    }),
    ...e.validity.reasons.map(({ code, params }): Told => ({ kind: isVoid ? 'void' : 'mark', ...remark(code, params) })),
    ...judged.flatMap((j) => j.verdicts.flatMap((v) => (v.each ?? [v]).flatMap((one) => verdictTold(m, one, j, pair)))),
    ...e.notes.map(({ code, params }): Told => ({ kind: 'note', ...remark(code, params) })),
  ];
}

function remark(code: Code, params: Params): Pick<Told, 'code' | 'says' | 'next' | 'counts'> {
  const [next, counts] = [nextStep(code, params), countsWords(code)];
  return { code, says: say(code, params), next: next === null ? [] : [next], ...(counts === null ? {} : { counts }) };
}

/** What was meant, in words for a button; null where nothing is offered. */
export function offerWords(m: AnyMethod, issue: { readonly offer?: Offer; readonly exchange?: Exchange }): string | null {
  const label = (path: string): string => (fieldAt(m, path)?.label ?? path).replace(/^[A-Z](?=[a-z])/, (c) => c.toLowerCase());
  if (issue.exchange) return `Exchange ${label(issue.exchange[0])} and ${label(issue.exchange[1])}`;
  return issue.offer ? meantWords(issue.offer) : null;
}

/** `Meant 42.6 lb`; where one slip went through several readings, all of them. */
export function meantWords({ text, unit, also = [] }: Offer): string {
  const all = [{ text, unit }, ...also];
  // Of one unit it is said once.
  const said = all.map((o, i) => (all[i + 1]?.unit === o.unit ? o.text : `${o.text} ${unitLabel(o.unit)}`.trim()));
  return `Meant ${said.length === 1 ? said[0]! : `${said.slice(0, -1).join(', ')} and ${said.at(-1)!}`}`;
}

/** What a definition says of a result that is out on a side. */
export const adviceOn = (m: AnyMethod, result: string, side: Advice['side']): Advice | undefined =>
  ((m.advice ?? []) as readonly Advice[]).find((a) => a.result === result && a.side === side);

const USUAL_STEPS: Advice = {
  result: '',
  side: 'high',
  steps: ['Check the readings, then repeat the test.', 'If it stands, tell whoever may reject it, and go by what the specification says.'],
};

function verdictTold(m: AnyMethod, v: Verdict, { specification }: Judged, pair: PairVerdict | null): Told[] {
  if (v.state !== 'out' && v.state !== 'edge') return [];
  const label = m.results[v.result]?.label ?? v.result;
  const limit = specification?.limits.find((l) => l.id === v.limit);
  const otherwise = v.otherwise
    ? ` Compared otherwise: ${COMPARISON_IDS.map((id) => `${COMPARISONS[id]} ${stateWord(v.otherwise![id])}`).join(', ')}.`
    : '';
  const head = {
    kind: 'verdict',
    result: v.result,
    says: `${label} is ${marginWords(v)}.${otherwise}`,
    ...(limit ? { source: limit.source } : {}),
  } as const;
  if (v.state === 'edge')
    return [
      { ...head, code: 'edge', next: ['Inside, but a repeat could land outside: be sure of the readings, and watch the next ones.'] },
    ];
  const side = v.side === 'lower' ? 'low' : 'high';
  const advice = adviceOn(m, v.result, side) ?? USUAL_STEPS;
  // Once the check test is out too, the steps that ask for one are stale; while the two disagree, a third decides.
  const failed = pair === 'load-fails' || pair === 'third-fails';
  const steps = failed ? (advice.bothOut ?? advice.steps) : pair === 'apart' || pair === 'unsettled' ? [] : advice.steps;
  return [
    {
      ...head,
      code: 'out',
      next: [...(limit?.onFail ? [limit.onFail] : []), ...steps],
      ...(advice.levers ? { levers: advice.levers } : {}),
    },
  ];
}
