import { decimalsOf, exact, fixed, toStep, type Exact } from '../numbers/exact.js';

/** How a result meets a limit: `rounded` once to the limit's own last place (E29), or `absolute`. */
export type ComparisonSchool = 'rounded' | 'absolute';

export type Side = 'lower' | 'upper';

export interface Compared {
  /** The value that met the limit. */
  readonly value: Exact;
  /** The same as text, with the decimals it was rounded to; 12 digits when absolute. */
  readonly text: string;
  readonly inside: boolean;
}

/**
 * The place that a value is rounded to before it meets a limit: the limit's last place as it is
 * written, or the method's reporting step where that is coarser (ASTM E29, rounding method).
 */
export function comparisonStep(limit: string, reportingStep?: string): string {
  const decimals = decimalsOf(limit);
  const place = decimals === 0 ? '1' : `0.${'0'.repeat(decimals - 1)}1`;
  return reportingStep !== undefined && exact(reportingStep).compare(exact(place)) > 0 ? reportingStep : place;
}

/** Compares one end; a limit that is exactly met is inside. `limit` is decimal text. */
export function compare(value: Exact, limit: string, side: Side, school: ComparisonSchool, reportingStep?: string): Compared {
  const step = comparisonStep(limit, reportingStep);
  const met = school === 'rounded' ? toStep(value, exact(step)) : value;
  const order = met.compare(exact(limit));
  return {
    value: met,
    text: school === 'rounded' ? fixed(met, Math.max(decimalsOf(step), decimalsOf(limit))) : shortest(value),
    inside: side === 'lower' ? order >= 0 : order <= 0,
  };
}

const shortest = (value: Exact): string => {
  const text = fixed(value, 10).replace(/\.?0+$/, '');
  return exact(text).equals(value) ? text : fixed(value, 4);
};
