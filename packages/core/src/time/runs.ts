import type { Remark } from '../methods/running.js';
import { withinSentence } from './due-groups.js';
import { JOBS, type Job } from './jobs.js';
import type { PlanEvent } from './plan.js';
import { spanWords } from './moment.js';

/** Jobs that are made at the bench, over days: what a portion goes through. */
export const RUNS: readonly Job[] = JOBS.filter((j) => j.tests !== undefined);

export const RUN_LABELS: Readonly<Record<string, string>> = Object.fromEntries(RUNS.map((j) => [j.id, j.label]));

/** Those that one kind of item goes through: a trial batch, or what was cut from an aggregate. */
export const runsOn = (kind: 'trial-batch' | 'portion'): Readonly<Record<string, string>> =>
  Object.fromEntries(RUNS.filter((j) => (j.on ?? 'portion') === kind).map((j) => [j.id, j.label]));

/** Every step of every run by its name: as its moment is kept on record. */
export const STEP_LABELS: Readonly<Record<string, string>> = Object.fromEntries(
  RUNS.flatMap((j) => [...j.events, ...(j.backs ?? [])].map((e) => [e.id, e.label])),
);

export const runById = (id: unknown): Job | undefined => RUNS.find((j) => j.id === id);

/** A step as it was done; `at` in ms. */
export interface StepDone {
  readonly step: string;
  readonly at: number;
}

/** A step of a run as its record says it stands. Moments are ms since the epoch. */
export interface RunStep {
  readonly id: string;
  readonly label: string;
  readonly attended: boolean;
  /** The test that it is kept by, where it is one. */
  readonly test: string | null;
  readonly doneAt: number | null;
  /** When it may be done, and until when; null while what it follows is not done, or where nothing ends it. */
  readonly opensAt: number | null;
  readonly endsAt: number | null;
  /** What it waits for, as a sentence has it. */
  readonly why: string;
  /** What is so once its time is over; empty where nothing is in print. */
  readonly late: string;
  /** Whether its window is the method’s own, and not only a lab’s usual one. */
  readonly judged: boolean;
}

interface Position {
  /** When each step was done last, those that a step back has undone left out. */
  readonly at: ReadonlyMap<string, number>;
  /** Back in the water, for a step that has to wait for it. */
  readonly back: { readonly step: string; readonly at: number; readonly to: string } | null;
}

/** Where a run stands: a step that is done again, or one back, undoes what came after it. */
function positionOf(job: Job, log: readonly StepDone[]): Position {
  const order = job.events.map((e) => e.id);
  const at = new Map<string, number>();
  let back: Position['back'] = null;
  for (const { step, at: when } of [...log].sort((a, b) => a.at - b.at)) {
    const branch = job.backs?.find((b) => b.id === step);
    const from = order.indexOf(branch ? branch.to : step);
    if (from < 0) continue;
    for (const later of order.slice(from)) at.delete(later);
    if (branch) back = { step, at: when, to: branch.to };
    else {
      at.set(step, when);
      if (back && order.indexOf(back.to) >= from) back = back.to === step ? back : null;
    }
  }
  return { at, back };
}

/**
 * Every step of a run in its order, with its window where what it follows is done.
 * @param begins when the first of them is planned, ms; null where it is not
 */
export function runSteps(job: Job, log: readonly StepDone[], begins: number | null = null): RunStep[] {
  const { at, back } = positionOf(job, log);
  return job.events.map((event, n) => {
    const links = job.links.filter((l) => l.to === event.id);
    const known = links.filter((l) => at.has(l.from));
    const waits = back?.to === event.id ? job.backs?.find((b) => b.id === back.step) : undefined;
    // Back in the water it is what it waits for now; the first soak has been.
    const planned = n === 0 && begins !== null && !at.has(event.id);
    const opens = planned ? begins : waits ? back!.at + waits.least : Math.max(-Infinity, ...known.map((l) => at.get(l.from)! + l.least));
    const ends = waits ? Infinity : Math.min(Infinity, ...known.flatMap((l) => (l.most === undefined ? [] : [at.get(l.from)! + l.most])));
    const judged = known.some((l) => l.late !== undefined) || waits !== undefined;
    return {
      id: event.id,
      label: event.label,
      attended: event.attended,
      test: event.test ?? null,
      doneAt: at.get(event.id) ?? null,
      opensAt: Number.isFinite(opens) ? opens : null,
      endsAt: Number.isFinite(ends) ? ends : null,
      why: planned ? 'as it was planned' : (waits?.why ?? links.map((l) => l.why).join(', ')),
      late: waits ? '' : (known.find((l) => l.late !== undefined)?.late ?? ''),
      judged,
    };
  });
}

/** What a run waits for; null once all of it is done. */
export const nextRunStep = (steps: readonly RunStep[]): RunStep | null => steps[steps.findLastIndex((s) => s.doneAt !== null) + 1] ?? null;

/** What is left of a run, to be planned: each step no sooner and no later than what was done lets it. */
export function planOf(
  job: Job,
  log: readonly StepDone[],
  begins: number | null = null,
): { readonly events: readonly PlanEvent[]; readonly links: Job['links'] } {
  const steps = runSteps(job, log, begins);
  const left = steps.slice(steps.findLastIndex((s) => s.doneAt !== null) + 1);
  const isLeft = (id: string): boolean => left.some((s) => s.id === id);
  return {
    events: left.map(({ id, label, attended, opensAt, endsAt }): PlanEvent => ({
      id,
      label,
      attended,
      ...(opensAt === null ? {} : { notBefore: opensAt }),
      ...(endsAt === null ? {} : { notAfter: endsAt }),
    })),
    links: job.links.filter((l) => isLeft(l.from) && isLeft(l.to)),
  };
}

/**
 * From when on a trial at the cone says something of what is weighed: since it was wetted, soaked or dried last. Null for a run
 * without a cone.
 * @param before ms; what was done to it later does not take back what was weighed
 */
export function trialsCountFrom(job: Job, log: readonly StepDone[], before = Infinity): number | null {
  const cone = job.events.findIndex((e) => e.test === 'cone');
  if (cone < 0) return null;
  const undoes = new Set([...job.events.slice(0, cone), ...(job.backs ?? [])].map((e) => e.id));
  return Math.max(-Infinity, ...log.filter(({ step, at }) => undoes.has(step) && at <= before).map(({ at }) => at));
}

/** What strayed from the method, for the tests that the run ends in. */
export function runMarks(job: Job, log: readonly StepDone[]): Remark[] {
  return runSteps(job, log).flatMap(({ label, judged, doneAt, opensAt, endsAt, why }): Remark[] => {
    if (!judged || doneAt === null) return [];
    const step = withinSentence(label);
    if (opensAt !== null && doneAt < opensAt) return [{ code: 'step-early', params: { step, by: spanWords(opensAt - doneAt), why } }];
    return endsAt !== null && doneAt > endsAt ? [{ code: 'step-late', params: { step, by: spanWords(doneAt - endsAt), why } }] : [];
  });
}
