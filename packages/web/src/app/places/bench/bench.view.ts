import { BENCH_AHEAD_DAYS, type BenchRun, type BenchView } from '@keen-mortar/contract';
import {
  methodById,
  nextRunStep,
  plan,
  planOf,
  runById,
  runSteps,
  stepsOf,
  type Interval,
  type Job,
  type Plan,
  type PlanEvent,
  type RunStep,
} from '@keen-mortar/core';
import { DateTime } from 'luxon';
import { leftWords } from '../../parts/ribbon';

export type LaneState = 'open' | 'later' | 'late' | 'done';

/** A run as it stands at a moment, and how the rest of it would best go. */
export interface Lane {
  readonly run: BenchRun;
  readonly job: Job;
  readonly steps: readonly RunStep[];
  readonly next: RunStep | null;
  readonly state: LaneState;
  /** What it waits for: `18 min`, `from 07:00`. */
  readonly until: string;
  readonly done: readonly { readonly id: string; readonly label: string; readonly at: number }[];
  readonly planned: readonly { readonly id: string; readonly label: string; readonly at: number }[];
  /** Why there is no time for the rest of it; empty where there is. */
  readonly cannot: string;
  /** Sand that the cone does not show at SSD is not put into the flask. */
  readonly locked: boolean;
}

export const clockWords = (ms: number, now: number, zone: string): string => {
  const at = DateTime.fromMillis(ms, { zone });
  const sameDay = at.hasSame(DateTime.fromMillis(now, { zone }), 'day');
  return at.toFormat(sameDay ? 'HH:mm' : Math.abs(ms - now) < 6 * 86_400_000 ? 'ccc HH:mm' : 'd LLL HH:mm');
};

function stateOf(next: RunStep | null, now: number): LaneState {
  if (!next) return 'done';
  if (next.endsAt !== null && next.endsAt < now) return 'late';
  return next.opensAt !== null && next.opensAt > now ? 'later' : 'open';
}

function untilWords(next: RunStep | null, state: LaneState, now: number, zone: string): string {
  if (!next) return 'done';
  if (state === 'late') return `past ${clockWords(next.endsAt!, now, zone)}`;
  if (state === 'later') return `from ${clockWords(next.opensAt!, now, zone)}`;
  return next.endsAt === null ? 'now' : `${leftWords(next.endsAt - now)} left`;
}

interface RunFacts {
  readonly run?: string;
  readonly steps?: unknown;
  /** When its first step is planned. */
  readonly begins?: string;
}
const begunAt = ({ begins }: RunFacts): number | null => (begins === undefined ? null : Date.parse(begins));

/** When the rest of it would best be done, in opening hours. */
function restOf(job: Job, facts: RunFacts, openings: readonly Interval[], now: number): Rest {
  const { events, links } = planOf(job, stepsOf(facts.steps), begunAt(facts));
  return events.length === 0 ? { planned: [], cannot: '' } : madeOf(events, plan(events, links, openings, 'earliest', now), now);
}

/** When each step of a run would be done that ends at a moment, begun as late as it can be. */
export function planBack(job: Job, wish: number, openings: readonly Interval[], now: number): Rest {
  // Later than that, opening hours are not known here: it would be ready long before.
  if (wish > now + BENCH_AHEAD_DAYS * 86_400_000)
    return { planned: [], cannot: `runs are planned ${BENCH_AHEAD_DAYS} days ahead at the most` };
  const { events, links } = planOf(job, []);
  const ended = events.map((e, i) => (i === events.length - 1 ? { ...e, notAfter: wish } : e));
  return madeOf(ended, plan(ended, links, openings, 'latest', now), now);
}

type Rest = Pick<Lane, 'planned' | 'cannot'>;

function madeOf(events: readonly PlanEvent[], made: Plan, now: number): Rest {
  const label = (id: string): string => events.find((e) => e.id === id)?.label ?? id;
  const planned = made.events.filter((e) => e.best >= now - 60_000).map((e) => ({ id: e.id, label: label(e.id), at: e.best }));
  if (made.ok) return { planned, cannot: '' };
  const fails = made.fails;
  if (fails.kind === 'closed') return { planned, cannot: `${fails.events.map(label).join(', ')}: nobody is there then` };
  return { planned, cannot: fails.kind === 'past' ? `${label(fails.event)}: its time is over` : `${label(fails.to)}: no time fits` };
}

export function laneOf(run: BenchRun, { openings, timezone }: BenchView, now: number): Lane | null {
  const facts = run.facts as RunFacts;
  const job = runById(facts.run);
  if (!job) return null;
  const steps = runSteps(job, stepsOf(facts.steps), begunAt(facts));
  const next = nextRunStep(steps);
  const state = stateOf(next, now);
  return {
    run,
    job,
    steps,
    next,
    state,
    until: untilWords(next, state, now, timezone),
    done: steps.flatMap((s) => (s.doneAt === null ? [] : [{ id: s.id, label: s.label, at: s.doneAt }])).sort((a, b) => a.at - b.at),
    ...restOf(job, facts, openings, now),
    locked: coneBefore(job, next) && run.cone !== 'yes' && !run.tests.some((t) => t.method === next!.test),
  };
}

/** Whether the step is the one that the cone opens. */
const coneBefore = (job: Job, next: RunStep | null): boolean => {
  const i = job.events.findIndex((e) => e.id === next?.id);
  return i > 0 && job.events[i - 1]!.test === 'cone';
};

const RANK: Readonly<Record<LaneState, number>> = { open: 0, late: 0, later: 1, done: 2 };
const wanted = ({ next }: Lane): number => next?.endsAt ?? next?.opensAt ?? 0;

/** What can be done now first, what ends sooner before it. */
export const inOrder = (lanes: readonly Lane[]): Lane[] =>
  [...lanes].sort((a, b) => RANK[a.state] - RANK[b.state] || wanted(a) - wanted(b));

/** Within so long nobody does both, ms. */
const TOGETHER = 15 * 60_000;

/** Two whose windows end together: both cannot be the last thing done. */
export function clashOf(lanes: readonly Lane[], now: number): readonly [Lane, Lane] | null {
  const ends = lanes.filter((l) => l.next?.endsAt && l.next.endsAt > now).sort((a, b) => a.next!.endsAt! - b.next!.endsAt!);
  for (let i = 1; i < ends.length; i++)
    if (ends[i]!.next!.endsAt! - ends[i - 1]!.next!.endsAt! <= TOGETHER) return [ends[i - 1]!, ends[i]!];
  return null;
}

export const titleOf = (method: string): string => methodById(method)?.title ?? method;
