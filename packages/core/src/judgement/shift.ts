import { decimalsOf, exact, fixed, type Exact } from '../numbers/exact.js';

/** Fewer results before it, or after, say nothing of a shift. */
const LEAST_BEFORE = 5;
const LEAST_AFTER = 2;
/** So many deviations between the means of before and after are no scatter any more: as far as a gravity test is news to its source. */
const NEWS = 3;
/** Largest of the t of all places at 95 %, a place being sought (sup-F of one break: 8.85). */
const EVIDENCE = 2.97;
/** χ² of one degree of freedom at 95 %: so much worse two means may fit elsewhere. */
const HARDLY = 3.84;
/** Of so many of the newest results. */
const MOST = 120;

/** Where a series of results moved for good. */
export interface Shift {
  /** Index of the first result after it. */
  readonly at: number;
  /** The first and the last place where it may as well lie: there two means fit hardly worse. */
  readonly from: number;
  readonly to: number;
  /** Means of the results before and after, with the decimals of the results. */
  readonly before: string;
  readonly after: string;
}

/**
 * Whether a series moved once, and between which results: where two means fit it best, if they are further apart than results
 * scatter about them. Plain doubles find it; the means are exact.
 * @param reported the results as they were reported, the oldest first
 * @param by how far the means must be apart: in scatters of one result, which is news of a source; or in standard errors, which is evidence
 *   that a long noisy series moved at all
 */
export function shiftOf(reported: readonly string[], by: 'scatter' | 'evidence' = 'scatter'): Shift | null {
  const skipped = Math.max(0, reported.length - MOST);
  const texts = reported.slice(skipped);
  const values = texts.map(Number);
  if (values.some((v) => !Number.isFinite(v)) || values.length < LEAST_BEFORE + LEAST_AFTER) return null;
  const within = (part: readonly number[]): number => {
    const mean = part.reduce((sum, v) => sum + v, 0) / part.length;
    return part.reduce((sum, v) => sum + (v - mean) ** 2, 0);
  };
  let best = { at: 0, sum: Infinity };
  const sums = new Map<number, number>();
  for (let at = LEAST_BEFORE; at <= values.length - LEAST_AFTER; at++) {
    const sum = within(values.slice(0, at)) + within(values.slice(at));
    sums.set(at, sum);
    if (sum < best.sum) best = { at, sum };
  }
  const meanOf = (part: readonly string[]): Exact => part.reduce((sum, text) => sum.add(exact(text)), exact('0')).div(part.length);
  const [before, after] = [meanOf(texts.slice(0, best.at)), meanOf(texts.slice(best.at))];
  const decimals = Math.max(...texts.map(decimalsOf));
  // What a result is reported to is the least that it scatters.
  const spread = Math.max(Math.sqrt(best.sum / (values.length - 2)), 10 ** -decimals);
  const error = by === 'scatter' ? NEWS : EVIDENCE * Math.sqrt(1 / best.at + 1 / (values.length - best.at));
  if (Math.abs(after.sub(before).valueOf()) <= error * spread) return null;
  const worse = best.sum * (1 + HARDLY / (values.length - 2));
  const alike = [...sums].filter(([, sum]) => sum <= worse).map(([at]) => skipped + at);
  return {
    at: skipped + best.at,
    from: Math.min(...alike),
    to: Math.max(...alike),
    before: fixed(before, decimals),
    after: fixed(after, decimals),
  };
}
