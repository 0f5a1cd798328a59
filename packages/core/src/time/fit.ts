import type { Interval } from './plan.js';

/** Where a window lies within opening hours. */
export interface Fit {
  readonly pieces: readonly Interval[];
  /** The best time of them; null where it cannot be met while somebody is there. */
  readonly best: number | null;
}

const MINUTE = 60_000;
/** Nobody is punctual to the minute: so far from an edge, where there is room. */
const ROOM = 30 * MINUTE;

/**
 * What of a window lies in openings, and when to do it: as near to what is wished as somebody is there.
 * @param openings in order of time, not overlapping
 */
export function fitInto(window: Interval, wished: number, openings: readonly Interval[]): Fit {
  const pieces = openings.map((o) => ({ from: Math.max(o.from, window.from), to: Math.min(o.to, window.to) })).filter((p) => p.from < p.to);
  let best: number | null = null;
  for (const { from, to } of pieces) {
    const room = Math.min(ROOM, (to - from) / 4);
    const at = Math.min(Math.max(wished, from + room), to - room);
    if (best === null || Math.abs(at - wished) < Math.abs(best - wished)) best = at;
  }
  return { pieces, best: best === null ? null : Math.round(best / MINUTE) * MINUTE };
}
