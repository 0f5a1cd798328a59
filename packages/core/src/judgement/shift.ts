import { decimalsOf, exact, fixed, type Exact } from '../numbers/exact.js';

/** Fewer results before it, or after, say nothing of a shift. */
const LEAST_BEFORE = 5;
const LEAST_AFTER = 2;
/** So many deviations between the means of before and after are no scatter any more: as far as a gravity test is news to its source. */
const NEWS = 3;
/** Of so many of the newest results. */
const MOST = 120;

/** Where a series of results moved for good. */
export interface Shift {
  /** Index of the first result after it. */
  readonly at: number;
  /** Means of the results before and after, with the decimals of the results. */
  readonly before: string;
  readonly after: string;
}

/**
 * Whether a series moved once, and between which results: where two means fit it best, if they are further apart than results
 * scatter about them. Plain doubles find it; the means are exact.
 * @param reported the results as they were reported, the oldest first
 */
export function shiftOf(reported: readonly string[]): Shift | null {
  const skipped = Math.max(0, reported.length - MOST);
  const texts = reported.slice(skipped);
  const values = texts.map(Number);
  if (values.some((v) => !Number.isFinite(v)) || values.length < LEAST_BEFORE + LEAST_AFTER) return null;
  const within = (part: readonly number[]): number => {
    const mean = part.reduce((sum, v) => sum + v, 0) / part.length;
    return part.reduce((sum, v) => sum + (v - mean) ** 2, 0);
  };
  let best = { at: 0, sum: Infinity };
  for (let at = LEAST_BEFORE; at <= values.length - LEAST_AFTER; at++) {
    const sum = within(values.slice(0, at)) + within(values.slice(at));
    if (sum < best.sum) best = { at, sum };
  }
  const meanOf = (part: readonly string[]): Exact => part.reduce((sum, text) => sum.add(exact(text)), exact('0')).div(part.length);
  const [before, after] = [meanOf(texts.slice(0, best.at)), meanOf(texts.slice(best.at))];
  const decimals = Math.max(...texts.map(decimalsOf));
  // What a result is reported to is the least that it scatters.
  const spread = Math.max(Math.sqrt(best.sum / (values.length - 2)), 10 ** -decimals);
  if (Math.abs(after.sub(before).valueOf()) <= NEWS * spread) return null;
  return { at: skipped + best.at, before: fixed(before, decimals), after: fixed(after, decimals) };
}
