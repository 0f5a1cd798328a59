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

/** What stands in the way: one step, or one delay. */
export type Failure =
  /** Somebody must be there, and within its window the lab is closed; more than one only where no single one is to blame. */
  | { readonly kind: 'closed'; readonly events: readonly string[] }
  /** It would have had to be done by now. */
  | { readonly kind: 'past'; readonly event: string; readonly by: number }
  /** Its delay fits between no two openings, or contradicts the times that are fixed. */
  | { readonly kind: 'delay'; readonly from: string; readonly to: string };

/** Without a plan the windows are those that would be left if what fails were otherwise: so that it can be seen by how much. */
export type Plan =
  | { readonly ok: true; readonly events: readonly PlannedEvent[] }
  | { readonly ok: false; readonly fails: Failure; readonly events: readonly PlannedEvent[] };

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

/** What a search may cost: so many windows are tried, then it is taken for not to be had. */
interface Search {
  left: number;
}
const MOST_TRIED = 4000;

interface Task {
  readonly events: readonly PlanEvent[];
  readonly links: readonly PlanLink[];
  readonly openings: readonly Interval[];
}

type Order = 'earliest' | 'latest';

/** Windows in which every attended event lies within one opening, found by trying openings in order. */
function solve(windows: Windows, task: Task, order: Order, search: Search = { left: MOST_TRIED }): Windows | null {
  const { events, links, openings } = task;
  const tight: Windows = new Map(windows);
  if (search.left-- <= 0 || tighten(tight, links)) return null;
  // Already inside one opening: nothing to choose.
  const open = events.find((e) => e.attended && !openings.some((o) => o.from <= tight.get(e.id)!.from && tight.get(e.id)!.to <= o.to));
  if (!open) return tight;
  const window = tight.get(open.id)!;
  const choices = openings
    .map((o) => ({ from: Math.max(o.from, window.from), to: Math.min(o.to, window.to) }))
    .filter((o) => o.from <= o.to);
  for (const choice of order === 'earliest' ? choices : choices.reverse()) {
    const found = solve(new Map(tight).set(open.id, choice), task, order, search);
    if (found) return found;
  }
  return null;
}

const startOf = ({ events, openings }: Task): Windows =>
  new Map(events.map((e) => [e.id, { from: e.notBefore ?? openings[0]?.from ?? 0, to: e.notAfter ?? openings.at(-1)?.to ?? 0 }]));

const MINUTE = 60_000;
/** Nobody is punctual to the minute: a time to take keeps so far from the edge of what is allowed, where there is room. */
const SLACK = { most: 30 * MINUTE, share: 1 / 8, open: 15 * MINUTE, step: 5 * MINUTE };

const fixed = (e: PlanEvent): boolean => e.notBefore !== undefined && e.notBefore === e.notAfter;

/** The same task with its delays and openings drawn in: what is in its windows has room on both sides. */
function drawnIn(task: Task, share: number): { task: Task; start: Windows } {
  const round = (ms: number): number => Math.floor((ms * share) / SLACK.step) * SLACK.step;
  const links = task.links.map((l) => {
    const slack = round(l.most === undefined ? SLACK.open : Math.min(SLACK.most, (l.most - l.least) * SLACK.share));
    return { ...l, least: l.least + slack, ...(l.most === undefined ? {} : { most: l.most - slack }) };
  });
  const edge = round(SLACK.open);
  const openings = task.openings.map((o) => ({ from: o.from + edge, to: o.to - edge })).filter((o) => o.from <= o.to);
  // A moment that was wished for stands where it was wished.
  const events = task.events.map((e) => (fixed(e) ? { ...e, attended: false } : e));
  return { task: { events, links, openings }, start: startOf(task) };
}

/** A time to take for every event, with as much slack as there is room for. */
function timesToTake(task: Task, prefer: Order): Windows | null {
  for (const share of [1, 0.5, 0.2]) {
    const tried = drawnIn(task, share);
    const found = solve(tried.start, tried.task, prefer);
    if (found) return found;
  }
  return solve(startOf(task), task, prefer);
}

function planned(task: Task, prefer: Order): PlannedEvent[] | null {
  const start = startOf(task);
  if (!solve(start, task, prefer)) return null;
  const take = timesToTake(task, prefer)!;
  return task.events.map((e) => {
    // The event asked about is tried first: its earliest opening is then its earliest of all.
    const first = { ...task, events: [e, ...task.events.filter((other) => other !== e)] };
    const [early, late, window] = [solve(start, first, 'earliest'), solve(start, first, 'latest'), take.get(e.id)!];
    const best = prefer === 'earliest' ? window.from : window.to;
    return { id: e.id, feasible: { from: early?.get(e.id)?.from ?? best, to: late?.get(e.id)?.to ?? best }, best };
  });
}

/**
 * Plans forwards or backwards: events linked by least and most delays, against opening hours. Gives
 * every event's feasible interval and a time to take, or the one step that stands in the way.
 * @param openings in order of time, not overlapping
 * @param now nothing is planned before it
 */
export function plan(
  events: readonly PlanEvent[],
  links: readonly PlanLink[],
  openings: readonly Interval[],
  prefer: Order = 'earliest',
  now = -Infinity,
): Plan {
  const whenever: Task = { events, links, openings };
  const task: Task = { ...whenever, events: events.map((e) => fromNow(e, now, openings)) };
  const made = planned(task, prefer);
  if (made) return { ok: true, events: made };
  const past = solve(startOf(whenever), whenever, 'latest');
  if (past) {
    const late = events.find((e) => past.get(e.id)!.to < now)!;
    // The wished moment gives way: the rest cannot.
    const free = { ...task, events: task.events.map((e, i) => (fixed(events[i]!) ? freed(e, now) : e)) };
    return { ok: false, fails: { kind: 'past', event: late.id, by: past.get(late.id)!.to }, events: planned(free, 'earliest') ?? [] };
  }
  for (const e of task.events.filter(({ attended }) => attended)) {
    const without = planned({ ...task, events: unattended(task.events, new Set([e.id])) }, prefer);
    if (without) return { ok: false, fails: { kind: 'closed', events: [e.id] }, events: without };
  }
  for (const link of links) {
    const without = planned({ ...task, links: links.filter((other) => other !== link) }, prefer);
    if (without) return { ok: false, fails: { kind: 'delay', from: link.from, to: link.to }, events: without };
  }
  const closed = closedFor(task);
  const without = planned({ ...task, events: unattended(task.events, closed) }, prefer);
  return { ok: false, fails: { kind: 'closed', events: [...closed] }, events: without ?? [] };
}

const unattended = (events: readonly PlanEvent[], closed: ReadonlySet<string>): PlanEvent[] =>
  events.map((e) => (closed.has(e.id) ? { ...e, attended: false } : e));

/** As few steps as must fall outside the opening hours: each that can be kept inside them is. */
function closedFor(task: Task): ReadonlySet<string> {
  const closed = new Set(task.events.filter((e) => e.attended).map((e) => e.id));
  for (const id of [...closed]) {
    const fewer = new Set([...closed].filter((other) => other !== id));
    const tried = { ...task, events: unattended(task.events, fewer) };
    if (solve(startOf(tried), tried, 'earliest')) closed.delete(id);
  }
  return closed;
}

function fromNow(e: PlanEvent, now: number, openings: readonly Interval[]): PlanEvent {
  const from = Math.max(e.notBefore ?? openings[0]?.from ?? 0, now);
  return now === -Infinity ? e : { ...e, notBefore: from };
}

function freed({ notBefore: _wished, notAfter: _too, ...e }: PlanEvent, now: number): PlanEvent {
  return { ...e, notBefore: now };
}
