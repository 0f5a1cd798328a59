/** Something that has a time: put in the oven, drain, weigh, break. Times are ms since the epoch. */
export interface PlanEvent {
  readonly id: string;
  readonly label: string;
  /** Somebody must be there: only during opening hours. */
  readonly attended: boolean;
  readonly notBefore?: number;
  readonly notAfter?: number;
}

/** `to` follows `from` after at least `least` ms, and at most `most`. */
export interface PlanLink {
  readonly from: string;
  readonly to: string;
  readonly least: number;
  readonly most?: number;
}

export interface Interval {
  readonly from: number;
  readonly to: number;
}

export interface PlannedEvent {
  readonly id: string;
  /** Earliest and latest at which the whole plan still works. */
  readonly feasible: Interval;
  /** In the plan that is offered. */
  readonly best: number;
}

export type Plan =
  { readonly ok: true; readonly events: readonly PlannedEvent[] } | { readonly ok: false; readonly between: readonly string[] };

type Windows = Map<string, Interval>;

/**
 * Tightens every event's window by the links, over and over until nothing moves: the earliest and
 * latest times then are a plan each. Returns the ids that cannot be reconciled, or null.
 */
function tighten(windows: Windows, links: readonly PlanLink[]): readonly string[] | null {
  // A network of n events settles within n rounds; one that still moves has a cycle that cannot be met.
  for (let round = 0; round <= windows.size; round++) {
    let moved = false;
    for (const { from, to, least, most = Infinity } of links) {
      const [a, b] = [windows.get(from)!, windows.get(to)!];
      const next = {
        a: { from: Math.max(a.from, b.from - most), to: Math.min(a.to, b.to - least) },
        b: { from: Math.max(b.from, a.from + least), to: Math.min(b.to, a.to + most) },
      };
      if (next.a.from > next.a.to || next.b.from > next.b.to) return [from, to];
      moved ||= next.a.from !== a.from || next.a.to !== a.to || next.b.from !== b.from || next.b.to !== b.to;
      windows.set(from, next.a);
      windows.set(to, next.b);
    }
    if (!moved) return null;
  }
  return [...windows.keys()];
}

/** Windows in which every attended event lies within one opening, found by trying openings in order. */
function solve(
  windows: Windows,
  events: readonly PlanEvent[],
  links: readonly PlanLink[],
  openings: readonly Interval[],
  order: 'earliest' | 'latest',
): Windows | null {
  const tight: Windows = new Map(windows);
  if (tighten(tight, links)) return null;
  // Already inside one opening: nothing to choose.
  const open = events.find((e) => e.attended && !openings.some((o) => o.from <= tight.get(e.id)!.from && tight.get(e.id)!.to <= o.to));
  if (!open) return tight;
  const window = tight.get(open.id)!;
  const choices = openings
    .map((o) => ({ from: Math.max(o.from, window.from), to: Math.min(o.to, window.to) }))
    .filter((o) => o.from <= o.to);
  for (const choice of order === 'earliest' ? choices : choices.reverse()) {
    const found = solve(new Map(tight).set(open.id, choice), events, links, openings, order);
    if (found) return found;
  }
  return null;
}

/**
 * Plans forwards or backwards: events linked by least and most delays, against opening hours. Gives
 * every event's feasible interval and a time to take, or the events between which none exists.
 * @param openings in order of time, not overlapping
 */
export function plan(
  events: readonly PlanEvent[],
  links: readonly PlanLink[],
  openings: readonly Interval[],
  prefer: 'earliest' | 'latest' = 'earliest',
): Plan {
  const start: Windows = new Map(
    events.map((e) => [e.id, { from: e.notBefore ?? openings[0]?.from ?? 0, to: e.notAfter ?? openings.at(-1)?.to ?? 0 }]),
  );
  const conflict = tighten(new Map(start), links);
  if (conflict) return { ok: false, between: conflict };
  const chosen = solve(start, events, links, openings, prefer);
  if (!chosen) return { ok: false, between: events.filter((e) => e.attended).map((e) => e.id) };
  return {
    ok: true,
    events: events.map((e) => {
      // The event asked about is tried first: its earliest opening is then its earliest of all.
      const first = [e, ...events.filter((other) => other !== e)];
      const [early, late] = [solve(start, first, links, openings, 'earliest'), solve(start, first, links, openings, 'latest')];
      const window = chosen.get(e.id)!;
      return {
        id: e.id,
        feasible: { from: early!.get(e.id)!.from, to: late!.get(e.id)!.to },
        best: prefer === 'earliest' ? window.from : window.to,
      };
    }),
  };
}
