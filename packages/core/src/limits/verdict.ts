import { decimalsOf, exact, fixed, type Exact } from '../numbers/exact.js';
import { convert, dimensionOf, unitLabel, type UnitId } from '../units/units.js';
import { oneSigma } from '../judgement/precision.js';
import type { Evaluation, ValidityState } from '../methods/evaluate.js';
import type { ResultValue } from '../methods/result.js';
import type { AnyMethod } from '../methods/definition.js';
import { compare, type ComparisonSchool, type Compared, type Side } from './compare.js';

/** One limit of a specification. Numbers are decimal text: their last place decides the rounding. */
export interface Limit {
  readonly id: string;
  readonly property: string;
  readonly unit: UnitId;
  readonly lower?: string | undefined;
  readonly upper?: string | undefined;
  readonly target?: string | undefined;
  readonly minus?: string | undefined;
  readonly plus?: string | undefined;
  /** Where it is written, e.g. `project specification 03 30 00, 2.4`. */
  readonly source: string;
  /** What to do when it fails, in the specification's own words. */
  readonly onFail?: string | undefined;
}

export type VerdictState = 'within' | 'edge' | 'out' | 'open' | 'unjudged' | 'void';

export interface Verdict {
  readonly state: VerdictState;
  readonly validity: ValidityState;
  readonly result: string;
  readonly property?: string;
  readonly limit?: string;
  readonly school?: ComparisonSchool;
  readonly unit?: UnitId;
  readonly lower?: string;
  readonly upper?: string;
  /** The value that was compared, in the limit's unit. */
  readonly compared?: string;
  /** The nearer or the failed end. */
  readonly side?: Side;
  /** Distance from that end, in the limit's unit; positive inside. */
  readonly margin?: string;
  /** 1s in the limit's unit: the fringe of the band. */
  readonly sigma?: string;
  /** The other comparison school would say otherwise. */
  readonly schoolsDiffer?: boolean;
}

export interface Bounds {
  readonly lower?: string;
  readonly upper?: string;
}

/** Ends of a limit as decimal text: given, or target less minus and plus plus. */
export function boundsOf(limit: Limit): Bounds {
  const { target, minus, plus, lower, upper } = limit;
  if (target === undefined) return { ...(lower !== undefined ? { lower } : {}), ...(upper !== undefined ? { upper } : {}) };
  const end = (sign: 1 | -1, tolerance: string): string =>
    fixed(exact(target).add(exact(tolerance).mul(sign)), Math.max(decimalsOf(target), decimalsOf(tolerance)));
  return { ...(minus !== undefined ? { lower: end(-1, minus) } : {}), ...(plus !== undefined ? { upper: end(1, plus) } : {}) };
}

/** Judges one result against one limit, or says that nothing limits it. */
export function judge(
  m: AnyMethod,
  result: ResultValue,
  validity: ValidityState,
  limit: Limit | undefined,
  school: ComparisonSchool,
): Verdict {
  const field = m.results[result.id];
  const head = { result: result.id, validity, ...(field?.property !== undefined ? { property: field.property } : {}) };
  if (result.state === 'void') return { ...head, state: 'void', ...(limit ? describe(limit, school) : {}) };
  if (result.state === 'open') return { ...head, state: 'open', ...(limit ? describe(limit, school) : {}) };
  if (!limit || result.exact === null || dimensionOf(limit.unit) !== dimensionOf(result.unit)) return { ...head, state: 'unjudged' };
  const value = convert(exact(result.exact), result.unit, limit.unit);
  return { ...head, ...describe(limit, school), ...weigh(value, limit, school, result, field?.precision) };
}

const describe = (limit: Limit, school: ComparisonSchool): Pick<Verdict, 'limit' | 'unit' | 'school' | 'lower' | 'upper'> => ({
  limit: limit.id,
  unit: limit.unit,
  school,
  ...boundsOf(limit),
});

type Weighed = Pick<Verdict, 'state' | 'compared' | 'side' | 'margin' | 'sigma' | 'schoolsDiffer'>;

function weigh(value: Exact, limit: Limit, school: ComparisonSchool, result: ResultValue, precision: string | undefined): Weighed {
  const step = result.steps[limit.unit];
  const bounds = boundsOf(limit);
  const ends = (['lower', 'upper'] as const).flatMap((side) => {
    const text = bounds[side];
    if (text === undefined) return [];
    const compared = compare(value, text, side, school, step);
    const other = compare(value, text, side, school === 'rounded' ? 'absolute' : 'rounded', step);
    return [{ side, text, compared, differs: other.inside !== compared.inside }];
  });
  const nearest = ends
    .map((end) => ({ ...end, margin: marginOf(end.compared, end.text, end.side) }))
    .sort((a, b) => a.margin.compare(b.margin))[0];
  if (!nearest) return { state: 'unjudged' };
  const sigma = oneSigma(precision, value, limit.unit);
  const close = sigma !== null && nearest.margin.compare(sigma) < 0;
  const decimals = Math.max(decimalsOf(nearest.text), decimalsOf(nearest.compared.text));
  return {
    state: !nearest.compared.inside ? 'out' : close ? 'edge' : 'within',
    compared: nearest.compared.text,
    side: nearest.side,
    margin: fixed(nearest.margin, decimals),
    ...(sigma ? { sigma: fixed(sigma, 3).replace(/\.?0+$/, '') } : {}),
    schoolsDiffer: ends.some((end) => end.differs),
  };
}

const marginOf = (compared: Compared, limit: string, side: Side): Exact =>
  side === 'lower' ? compared.value.sub(exact(limit)) : exact(limit).sub(compared.value);

/** A specification as the core judges with it. */
export interface Specification {
  readonly id: string;
  readonly name: string;
  readonly school: ComparisonSchool;
  readonly limits: readonly Limit[];
}

export interface Judged {
  readonly specification: Specification | null;
  readonly verdicts: readonly Verdict[];
}

/** Every result of a test under every specification of the mix; unjudged where none speaks. */
export function judgeAll(m: AnyMethod, evaluation: Evaluation, specifications: readonly Specification[]): Judged[] {
  const under = (specification: Specification | null): Judged => ({
    specification,
    verdicts: evaluation.results.map((result) => {
      const property = m.results[result.id]?.property;
      const limit = specification?.limits.find((l) => l.property === property);
      return judge(m, result, evaluation.validity.state, limit, specification?.school ?? 'rounded');
    }),
  });
  return specifications.length === 0 ? [under(null)] : specifications.map(under);
}

const WORST: readonly VerdictState[] = ['out', 'void', 'open', 'edge', 'within', 'unjudged'];

/** The one that needs attention first. Void and out never merge: void is not a failure. */
export function worst(states: readonly VerdictState[]): VerdictState {
  return WORST.find((state) => states.includes(state)) ?? 'unjudged';
}

/** What a void or failing test and its linked repeat say together. */
export type PairVerdict = 'repeat-stands' | 'check-passes' | 'load-fails' | 'both-void' | 'waiting';

/** Judges a first test and the test made because of it (C94: first and check both failing fail the load). */
export function judgePair(first: VerdictState, repeat: VerdictState): PairVerdict {
  if (repeat === 'open') return 'waiting';
  if (first === 'void') return repeat === 'void' ? 'both-void' : 'repeat-stands';
  if (repeat === 'void') return 'waiting';
  return first === 'out' && repeat === 'out' ? 'load-fails' : 'check-passes';
}

/** `20 mm above the lower limit`: the margin in words, its unit included. */
export function marginWords(verdict: Verdict): string {
  const { margin, side, unit, state } = verdict;
  if (margin === undefined || side === undefined) return '';
  const amount = `${margin.replace(/^-/, '')}${unit && unitLabel(unit) ? ` ${unitLabel(unit)}` : ''}`;
  if (/^-?[0.]+$/.test(margin)) return `exactly on the ${side} limit`;
  const above = side === 'lower' ? state !== 'out' : state === 'out';
  return `${amount} ${above ? 'above' : 'below'} the ${side} limit`;
}
