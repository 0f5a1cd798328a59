import { decimalsOf, decimalText, exact, fixed, reported, brief, significant, type Exact } from '../numbers/exact.js';
import { spanWords } from '../time/moment.js';
import { convert, dimensionOf, unitLabel, type UnitId } from '../units/units.js';
import { oneSigma } from '../judgement/precision.js';
import type { Evaluation, ValidityState } from '../methods/evaluate.js';
import type { ResultValue } from '../methods/result.js';
import type { AnyMethod } from '../methods/definition.js';
import { compare, COMPARISON_IDS, type Comparison, type Compared, type Figure, type Side } from './compare.js';

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
  /** The age at which it holds, d. Where it does not say: 28 of what is found by breaking specimens, else any. */
  readonly atDays?: number | undefined;
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
  readonly comparison?: Comparison;
  readonly unit?: UnitId;
  readonly lower?: string;
  readonly upper?: string;
  /** The value that was compared, in the limit's unit. */
  readonly compared?: string;
  /** The value as it is reported, in the limit's unit: what stands beside the verdict. */
  readonly shown?: string;
  /** The value as it was found, where only its rounding puts it exactly on the limit. */
  readonly found?: string;
  /** The nearer or the failed end. */
  readonly side?: Side;
  /** Distance from that end, in the limit's unit; positive inside. */
  readonly margin?: string;
  /** 1s in the limit's unit: the fringe of the band. */
  readonly sigma?: string;
  /** What each way of comparing says, where they differ. */
  readonly otherwise?: Readonly<Record<Comparison, VerdictState>>;
  /** Every limit of the property, where there are several: this verdict is the worst of them. */
  readonly each?: readonly Verdict[];
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

/** Where all of several limits on one property are met: the highest lower and the lowest upper end, in a unit of theirs. */
export function strictestOf(limits: readonly Limit[], unit: UnitId): Bounds {
  const ends = (of: 'lower' | 'upper', sign: 1 | -1): string | undefined => {
    const all = limits.flatMap((l) => {
      const end = boundsOf(l)[of];
      return end === undefined ? [] : [{ end, own: l.unit === unit, value: convert(exact(end), l.unit, unit) }];
    });
    const most = all.reduce<(typeof all)[number] | null>((so, e) => (so === null || e.value.compare(so.value) * sign > 0 ? e : so), null);
    return most === null ? undefined : most.own ? most.end : (decimalText(most.value) ?? significant(most.value, 6));
  };
  const [lower, upper] = [ends('lower', 1), ends('upper', -1)];
  return { ...(lower === undefined ? {} : { lower }), ...(upper === undefined ? {} : { upper }) };
}

/** `at most 30 °C`, `100 ± 25 mm`, `5.0 −1.0 +1.5 %`, `at least 40 MPa at 56 d`: a limit as it is written. */
export function limitWords(limit: Omit<Limit, 'id' | 'property' | 'source'>): string {
  return `${endsWords(limit)}${limit.atDays === undefined ? '' : ` at ${limit.atDays} d`}`;
}

function endsWords({ unit, lower, upper, target, minus, plus }: Omit<Limit, 'id' | 'property' | 'source'>): string {
  const label = unitLabel(unit) ? ` ${unitLabel(unit)}` : '';
  if (target !== undefined) {
    if (minus === plus) return `${target} ± ${plus}${label}`;
    return `${target}${minus === undefined ? '' : ` −${minus}`}${plus === undefined ? '' : ` +${plus}`}${label}`;
  }
  if (lower !== undefined && upper !== undefined) return `${lower} to ${upper}${label}`;
  return lower === undefined ? `at most ${upper}${label}` : `at least ${lower}${label}`;
}

/** Judges one result against one limit, or says that nothing limits it. */
export function judge(
  m: AnyMethod,
  result: ResultValue,
  validity: ValidityState,
  limit: Limit | undefined,
  comparison: Comparison,
): Verdict {
  const field = m.results[result.id];
  const head = { result: result.id, validity, ...(field?.property !== undefined ? { property: field.property } : {}) };
  if (result.state === 'void') return { ...head, state: 'void', ...(limit ? describe(limit, comparison) : {}) };
  // What nothing limits, and the test is not made for, is not missing where it was not read.
  if (result.state === 'open' && !limit && field?.main !== true) return { ...head, state: 'unjudged' };
  if (result.state === 'open') return { ...head, state: 'open', ...(limit ? describe(limit, comparison) : {}) };
  if (!limit || result.exact === null || dimensionOf(limit.unit) !== dimensionOf(result.unit)) return { ...head, state: 'unjudged' };
  const value = convert(exact(result.exact), result.unit, limit.unit);
  return { ...head, ...describe(limit, comparison), ...weigh(value, limit, comparison, result, field?.precision) };
}

const describe = (limit: Limit, comparison: Comparison): Pick<Verdict, 'limit' | 'unit' | 'comparison' | 'lower' | 'upper'> => ({
  limit: limit.id,
  unit: limit.unit,
  comparison,
  ...boundsOf(limit),
});

interface End {
  readonly text: string;
  readonly side: Side;
  readonly compared: Compared;
  readonly margin: Exact;
}

/** The end that decides, by one way of comparing: the failed one, else the nearer. */
function deciding(figure: Figure, limit: Limit, comparison: Comparison): End | undefined {
  const bounds = boundsOf(limit);
  return (['lower', 'upper'] as const)
    .flatMap((side): End[] => {
      const text = bounds[side];
      if (text === undefined) return [];
      const compared = compare(figure, text, side, comparison);
      const margin = side === 'lower' ? compared.value.sub(exact(text)) : exact(text).sub(compared.value);
      return [{ side, text, compared, margin }];
    })
    .sort((a, b) => a.margin.compare(b.margin))[0];
}

function figureOf(value: Exact, limit: Limit, result: ResultValue): Figure {
  const [step, own] = [result.increments[limit.unit], result.increments[result.unit]];
  // Reported in another unit than the limit's it is compared as it is reported: converted, and not rounded once more.
  if (own === undefined || result.unit === limit.unit) return { value, step };
  return { value, step, asReported: convert(exact(reported(exact(result.exact!), own)), result.unit, limit.unit) };
}

function weigh(
  value: Exact,
  limit: Limit,
  comparison: Comparison,
  result: ResultValue,
  precision: string | undefined,
): Pick<Verdict, 'state' | 'compared' | 'shown' | 'found' | 'side' | 'margin' | 'sigma' | 'otherwise'> {
  const figure = figureOf(value, limit, result);
  const { step, asReported } = figure;
  const end = deciding(figure, limit, comparison);
  if (!end) return { state: 'unjudged' };
  const sigma = oneSigma(precision, value, limit.unit);
  const stateOf = ({ compared, margin }: End): VerdictState =>
    !compared.inside ? 'out' : sigma !== null && margin.compare(sigma) < 0 ? 'edge' : 'within';
  const others = Object.fromEntries(COMPARISON_IDS.map((id) => [id, stateOf(deciding(figure, limit, id)!)])) as Record<
    Comparison,
    VerdictState
  >;
  const differ = new Set(Object.values(others).map((state) => state === 'out')).size > 1;
  return {
    state: stateOf(end),
    compared: end.compared.text,
    shown: asReported !== undefined ? end.compared.text : step === undefined ? brief(value, 4) : reported(value, step),
    side: end.side,
    margin: fixed(end.margin, Math.max(decimalsOf(end.text), decimalsOf(end.compared.text))),
    ...(end.margin.sign() === 0 && !end.compared.value.equals(value) ? { found: brief(value, 4, exact(end.text)) } : {}),
    ...(sigma ? { sigma: brief(sigma, 3) } : {}),
    ...(differ ? { otherwise: others } : {}),
  };
}

/** A specification as the core judges with it. */
export interface Specification {
  readonly id: string;
  readonly name: string;
  readonly comparison: Comparison;
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
      const field = m.results[result.id];
      // One specimen is no strength test: its set is judged, at the age of acceptance, and the mean of several.
      const property = m.breaks && field?.main ? undefined : field?.property;
      const holds = (l: Limit): boolean => l.property === property && !(field?.atAge === true && l.atDays !== undefined);
      const limits = property === undefined ? [] : (specification?.limits.filter(holds) ?? []);
      const each = (limits.length === 0 ? [undefined] : limits).map((limit) =>
        judge(m, result, evaluation.validity.state, limit, specification?.comparison ?? 'reported'),
      );
      return ofSeveral(each);
    }),
  });
  return specifications.length === 0 ? [under(null)] : specifications.map(under);
}

/** Of several limits the worst verdict, of two alike the one with less room; each stays beside it. */
function ofSeveral(each: readonly Verdict[]): Verdict {
  const room = (v: Verdict): Exact => exact(v.margin ?? '0');
  const sorted = [...each].sort(
    (a, b) => WORST.indexOf(a.state) - WORST.indexOf(b.state) || (a.unit === b.unit ? room(a).compare(room(b)) : 0),
  );
  return each.length === 1 ? each[0]! : { ...sorted[0]!, each };
}

const WORST: readonly VerdictState[] = ['out', 'void', 'open', 'edge', 'within', 'unjudged'];

/** The one that needs attention first. Void and out never merge: void is not a failure. */
export function worst(states: readonly VerdictState[]): VerdictState {
  return WORST.find((state) => states.includes(state)) ?? 'unjudged';
}

/** One verdict for each result that something may limit: under several specifications the one that needs attention first. */
export function verdictOfEach(m: AnyMethod, judged: readonly Judged[]): Verdict[] {
  return Object.entries(m.results as Readonly<Record<string, { readonly property?: string }>>).flatMap(([id, { property }]) => {
    const all = property === undefined ? [] : judged.flatMap((j) => j.verdicts.filter((v) => v.result === id));
    const state = worst(all.map((v) => v.state));
    return all.find((v) => v.state === state) ?? [];
  });
}

/** A distance from a limit: between two per cents it is points, and hours are told as hours. */
function distanceWords(text: string, unit: UnitId | undefined): string {
  if (unit === '%') return `${text} ${text === '1' ? 'point' : 'points'}`;
  if (unit === 'min' && Number(text) >= 120) return spanWords(Number(text) * 60_000);
  return `${text} ${unit ? unitLabel(unit) : ''}`.trim();
}

/** `20 mm above the lower limit`: the margin in words, its unit included; and where it was rounded to, if that is another figure. */
export function marginWords(verdict: Verdict): string {
  const { margin, side, unit, state, compared, shown } = verdict;
  if (margin === undefined || side === undefined) return '';
  const label = unit && unitLabel(unit) ? ` ${unitLabel(unit)}` : '';
  const where = /^-?[0.]+$/.test(margin)
    ? `exactly on the ${side} limit${verdict.found === undefined ? '' : `: ${verdict.found}${label} is reported as ${compared ?? ''}${label}`}`
    : `${distanceWords(margin.replace(/^-/, ''), unit)} ${(side === 'lower' ? state !== 'out' : state === 'out') ? 'above' : 'below'} the ${side} limit`;
  if (compared === undefined || shown === undefined || exact(compared).equals(exact(shown))) return where;
  const how =
    verdict.comparison === 'rounded'
      ? `rounds to ${compared}${label} as the limit is written`
      : `is compared unrounded, as ${compared}${label}`;
  return `${where}: ${shown}${label} ${how}`;
}

const STATE_WORDS: Readonly<Record<VerdictState, string>> = {
  within: 'within',
  edge: 'edge',
  out: 'out',
  open: 'open',
  unjudged: 'not limited',
  void: 'void',
};

export const stateWord = (state: VerdictState): string => STATE_WORDS[state];
