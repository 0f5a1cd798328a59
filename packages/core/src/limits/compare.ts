import { brief, decimalsOf, exact, figuresOf, fixed, reported, toStep, type Exact } from '../numbers/exact.js';

/**
 * How a result meets a limit: `reported` as the method reports it, `rounded` once to the limit's own last
 * place (ASTM E29, rounding method), or `absolute` as it is.
 */
export type Comparison = 'reported' | 'rounded' | 'absolute';

/** The first is the usual one. */
export const COMPARISONS: Readonly<Record<Comparison, string>> = {
  reported: 'as reported',
  rounded: 'rounded to the limit’s last place',
  absolute: 'unrounded',
};

export const COMPARISON_IDS = Object.keys(COMPARISONS) as [Comparison, ...Comparison[]];

export type Side = 'lower' | 'upper';

export interface Compared {
  /** The value that met the limit. */
  readonly value: Exact;
  /** The same as text, with the decimals it was rounded to. */
  readonly text: string;
  readonly inside: boolean;
}

/**
 * The place that a value is rounded to before it meets a limit: the limit's last place as it is
 * written, or the method's reporting increment where that is coarser (ASTM E29, rounding method).
 */
export function comparisonStep(limit: string, reportingStep?: string): string {
  const decimals = decimalsOf(limit);
  const place = decimals === 0 ? '1' : `0.${'0'.repeat(decimals - 1)}1`;
  return reportingStep !== undefined && figuresOf(reportingStep) === null && exact(reportingStep).compare(exact(place)) > 0
    ? reportingStep
    : place;
}

/** A value that is to be compared, in the limit's unit. */
export interface Figure {
  readonly value: Exact;
  /** The reporting increment of the limit's unit, where the method has one. */
  readonly step?: string | undefined;
  /** As it is reported in its own unit, where it has none in the limit's: 92 min is not 1.5 h. */
  readonly asReported?: Exact | undefined;
}

/** The value that meets `limit`, and its text. A method without any reporting increment compares as rounded. */
function met({ value, step: reportingStep, asReported }: Figure, limit: string, comparison: Comparison): { value: Exact; text: string } {
  if (comparison === 'absolute') return { value, text: shortest(value, exact(limit)) };
  if (comparison === 'reported' && asReported !== undefined) return { value: asReported, text: shortest(asReported, exact(limit)) };
  if (comparison === 'reported' && reportingStep !== undefined) {
    const text = reported(value, reportingStep);
    return { value: exact(text), text };
  }
  const step = comparisonStep(limit, reportingStep);
  const rounded = toStep(value, exact(step));
  return { value: rounded, text: fixed(rounded, Math.max(decimalsOf(step), decimalsOf(limit))) };
}

/** Compares one end; a limit that is exactly met is inside. `limit` is decimal text. */
export function compare(figure: Figure, limit: string, side: Side, comparison: Comparison): Compared {
  const found = met(figure, limit, comparison);
  const order = found.value.compare(exact(limit));
  return { ...found, inside: side === 'lower' ? order >= 0 : order <= 0 };
}

const shortest = (value: Exact, limit: Exact): string => brief(value, 5, limit);
