import { C31, CURING_PARAMS } from '../methods/curing/curing.js';
import { C157 } from '../methods/length-change/length-change.js';
import { regimeOf, SCHEDULES } from '../methods/length-change/schedule.js';
import type { AnyInputs, Citation } from '../methods/definition.js';
import { duration, type Events } from '../methods/evaluate.js';
import { CALIBRATION, type KitKind } from '../record/kit.js';
import { testsFor, testsOn, type Asked } from '../record/order.js';
import type { ItemKind } from '../record/items.js';
import { convert, isUnit } from '../units/units.js';
import { read, type Keyed } from '../units/reading.js';
import { Exact } from '../numbers/value.js';
import type { DueGroup } from './due-groups.js';
import { ageTolerance } from './age-tolerances.js';
import { fuse, SAMPLE_WINDOWS, truckWindow, type ListedWindow, type Window } from './fuses.js';
import { momentOf, spanWords } from './moment.js';
import type { Job } from './jobs.js';
import { nextRunStep, runById, runSteps, type RunStep, type StepDone } from './runs.js';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

/** Something that an item waits for. Moments are ms since the epoch. */
export interface Due {
  /** One of a kind on its item. */
  readonly id: string;
  readonly opensAt: number;
  /** None where no window is in print: it is due when it opens. */
  readonly endsAt: number | null;
  readonly doneAt: number | null;
}

/** What it is, in words. */
export interface DueWords {
  readonly group: DueGroup;
  readonly label: string;
  /** Its window: `28 d ± 20 h`. */
  readonly window: string;
  /** What is so once it has ended. */
  readonly then: string;
  /** Whether somebody must be there in opening hours; what belongs to a pour is done when the truck comes. */
  readonly attended: boolean;
  readonly source: Citation | null;
}

/** What the record says of an item that may wait for something. */
export interface DueItem extends Asked {
  readonly kind: ItemKind;
  readonly facts: AnyInputs;
  readonly events: Events;
  /** Tests that were begun; kept: with what was found. */
  readonly tests: readonly { readonly method: string; readonly startedAt: number; readonly kept: boolean }[];
  /** min from batching to an empty truck; null where nothing limits it. */
  readonly truckMinutes: number | null;
}

type Facts = Readonly<Record<string, unknown>>;

const C39: Citation = { designation: 'ASTM C39/C39M', edition: '2024', part: 'permissible age tolerances' };
const plain = (w: ListedWindow, group: DueGroup): DueWords => ({
  group,
  label: w.todo,
  window: `at most ${duration(w.mostSeconds)}`,
  then: w.then,
  attended: false,
  source: null,
});

function windowDue(w: Window, events: Events): Due[] {
  // Time is an argument of a fuse; what is due does not move with it.
  const f = fuse(w, events, 0);
  return f ? [{ id: w.id, opensAt: f.startedAt, endsAt: f.dueAt, doneAt: f.doneAt ?? null }] : [];
}

/** What a sample waits for until a test of it is begun. */
export const testDue = (method: string): string => `test:${method}`;

/** Tests of fresh concrete that must be begun so soon after something, of those that are asked for. */
function testDues({ kind, events, tests, ...asked }: DueItem): Due[] {
  return testsFor(kind, asked)
    .filter((m) => m.work?.on === 'fresh')
    .flatMap((m): Due[] =>
      (m.windows ?? [])
        .filter((w) => w.must === 'test.started')
        .flatMap((w): Due[] => {
          const from = events[w.starts];
          if (from === undefined) return [];
          const begun = tests.filter((t) => t.method === m.id).map((t) => t.startedAt);
          return [
            {
              id: testDue(m.id),
              opensAt: from,
              endsAt: from + w.mostSeconds * 1000,
              doneAt: begun.length === 0 ? null : Math.min(...begun),
            },
          ];
        }),
    );
}

const { initialMostHours, moveAfterHours, finalWithinMinutes } = CURING_PARAMS;

function setDues({ facts }: DueItem): Due[] {
  const { madeAt, arrived, demolded, cured, shape, curing } = facts as Facts as Record<string, string | undefined>;
  const made = momentOf(madeAt);
  // Cured with the structure it stays there, in its molds, until it is broken.
  if (made === null || shape === 'core' || curing === 'field') return [];
  const done = [arrived, demolded, cured].map(momentOf).find((at) => at !== null) ?? null;
  const out = momentOf(demolded);
  return [
    { id: 'fetch', opensAt: made + moveAfterHours * HOUR, endsAt: made + initialMostHours * HOUR, doneAt: done },
    ...(out === null ? [] : [{ id: 'cure', opensAt: out, endsAt: out + finalWithinMinutes * MINUTE, doneAt: momentOf(cured) }]),
  ];
}

/** Days of an age as keyed; null for what is none. */
export function daysOf(age: unknown): number | null {
  const { text, unit } = (age ?? {}) as Partial<Keyed>;
  if (text === undefined || unit === undefined || !isUnit(unit)) return null;
  const value = read({ text, unit }, 'time');
  return value instanceof Exact ? Number(convert(value, unit, 'd').valueOf()) : null;
}

/** When a specimen of an age may be broken; null where nothing says when. */
export function breakWindow(made: number, days: number): { readonly opensAt: number; readonly endsAt: number | null } {
  const [due, tolerance] = [made + days * DAY, ageTolerance(days)];
  return tolerance === null ? { opensAt: due, endsAt: null } : { opensAt: due - tolerance, endsAt: due + tolerance };
}

const BREAKING: ReadonlySet<string> = new Set(
  testsOn('specimen')
    .filter((m) => m.breaks)
    .map((m) => m.id),
);

function specimenDues({ facts, sources, tests }: DueItem): Due[] {
  const [made, days] = [momentOf(sources['specimens.made'] as string | undefined), daysOf((facts as Facts)['age'])];
  // A core was drilled then, and cast long before: its age is not counted from there.
  if (made === null || days === null || sources['specimens.shape'] === 'core' || (facts as Facts)['became'] !== undefined) return [];
  const broken = tests.filter((t) => t.kept && BREAKING.has(t.method)).map((t) => t.startedAt);
  return [{ id: 'break', ...breakWindow(made, days), doneAt: broken.length === 0 ? null : Math.min(...broken) }];
}

function prismDues({ facts, tests }: DueItem): Due[] {
  const { castAt, drying, demolded, initialAt } = facts as Facts as Record<string, string | undefined>;
  const cast = momentOf(castAt);
  if (cast === null) return [];
  const { readings, wetUntilDays } = SCHEDULES[regimeOf(facts)];
  const dried = momentOf(drying) ?? (wetUntilDays === null ? null : cast + wetUntilDays * DAY);
  const dues = readings.map((d, i) => {
    const at = (d.from === 'batched' ? cast : dried!) + d.hours * HOUR;
    const within = (d.within ?? 0) * HOUR;
    return { id: `read:${i}`, at, opensAt: at - within, endsAt: d.within === undefined ? null : at + within };
  });
  // A reading is the one whose time it was taken nearest to.
  const read = new Map<string, number>();
  for (const { startedAt } of tests.filter((t) => t.kept && t.method === 'length-change')) {
    const nearest = [...dues.slice(1)].sort((a, b) => Math.abs(a.at - startedAt) - Math.abs(b.at - startedAt))[0];
    if (nearest) read.set(nearest.id, Math.min(read.get(nearest.id) ?? Infinity, startedAt));
  }
  return dues.map(({ id, opensAt, endsAt }, i) => ({
    id,
    opensAt,
    endsAt,
    doneAt:
      (i > 1 ? null : momentOf(i === 0 ? (demolded ?? initialAt) : initialAt)) ?? read.get(i === 0 ? (dues[1]?.id ?? '') : id) ?? null,
  }));
}

/** The moments of a run’s steps among the facts of what goes through it. */
export const stepsOf = (steps: unknown): StepDone[] =>
  ((steps ?? []) as readonly { readonly step?: string; readonly at?: string }[]).flatMap(({ step, at }) => {
    const done = momentOf(at);
    return step === undefined || done === null ? [] : [{ step, at: done }];
  });

const RUN_DUE = /^run:(\w+)$/;

/** Steps of a run as its facts have them, from when it is planned on. */
function stepsNow(facts: AnyInputs): { readonly job: Job; readonly steps: RunStep[] } | null {
  const { run, steps, begins } = facts as Facts;
  const job = runById(run);
  return job ? { job, steps: runSteps(job, stepsOf(steps), momentOf(begins as string | undefined)) } : null;
}

/** What a run waits for, and what of it was done. Nothing is due before its first step, unless that was planned: nobody has begun it. */
function runDues({ facts }: DueItem): Due[] {
  const found = stepsNow(facts);
  if (!found) return [];
  const { steps } = found;
  const next = nextRunStep(steps);
  return steps
    .filter((s) => s.doneAt !== null || s.id === next?.id)
    .flatMap(({ id, opensAt, endsAt, doneAt }): Due[] => {
      const opens = opensAt ?? doneAt;
      return opens === null ? [] : [{ id: `run:${id}`, opensAt: opens, endsAt, doneAt }];
    });
}

/** A tank or a moist room is read once a day: after so many hours it is due again. */
const READ_AGAIN = 20 * HOUR;

function storageDues({ tests }: DueItem): Due[] {
  const read = tests.filter((t) => t.kept && t.method === 'storage').map((t) => t.startedAt);
  return read.length === 0 ? [] : [{ id: 'read', opensAt: Math.max(...read) + READ_AGAIN, endsAt: null, doneAt: null }];
}

const STORAGE_WORDS: DueWords = {
  group: 'curing',
  label: 'Read its temperature',
  window: 'once a day',
  then: 'nobody knows how warm the specimens lie',
  attended: true,
  source: null,
};

function runWords(id: string, facts: AnyInputs): DueWords | null {
  const found = stepsNow(facts);
  const step = found?.steps.find((s) => s.id === RUN_DUE.exec(id)?.[1]);
  if (!found || !step) return null;
  const { job } = found;
  const then = step.late === '' ? 'it waits on' : step.late;
  return { group: 'bench', label: step.label, window: step.why, then, attended: step.attended, source: job.source };
}

/** Kinds of item that go through runs at the bench. */
const IN_RUNS: readonly ItemKind[] = ['field-sample', 'portion', 'trial-batch'];

/** All that an item waits for, done or not; from what its kind and the definitions of its tests say. */
export function duesOf(item: DueItem): Due[] {
  const { kind, events, truckMinutes } = item;
  if (kind === 'load') return truckMinutes === null ? [] : windowDue(truckWindow(truckMinutes), events);
  if (kind === 'sample') return [...SAMPLE_WINDOWS.flatMap((w) => windowDue(w, events)), ...testDues(item)];
  if (kind === 'specimen-set') return setDues(item);
  if (kind === 'specimen') return specimenDues(item);
  if (IN_RUNS.includes(kind)) return runDues(item);
  if (kind === 'storage') return storageDues(item);
  return kind === 'prism-set' ? prismDues(item) : [];
}

/** Kinds of item that wait for what a test finds; a sample waits for it to be begun. */
export const WAIT_FOR_RESULTS: readonly ItemKind[] = ['specimen', 'prism-set', 'storage'];

/** Kinds of item that wait for something. */
export const DUE_KINDS: readonly ItemKind[] = ['load', 'sample', 'specimen-set', 'specimen', 'prism-set', 'storage', ...IN_RUNS];

/**
 * What a due of an item is, in words; null for one that there is not.
 * @param lasts ms from when it opens until it ends
 */
export function dueWords(kind: ItemKind, id: string, facts: AnyInputs, lasts: number | null = null): DueWords | null {
  if (kind === 'load')
    return id === 'truck'
      ? { ...plain(truckWindow(0), 'pour'), window: `${lasts === null ? '' : `${spanWords(lasts)} `}from batching` }
      : null;
  const window = SAMPLE_WINDOWS.find((w) => w.id === id);
  if (kind === 'sample' && window) return plain(window, 'pour');
  if (kind === 'sample') return testWords(id);
  if (kind === 'specimen-set') return SET_WORDS[id] ?? null;
  if (kind === 'specimen') return id === 'break' ? breakWords(facts) : null;
  if (IN_RUNS.includes(kind)) return runWords(id, facts);
  if (kind === 'storage') return STORAGE_WORDS;
  return kind === 'prism-set' ? prismWords(id, facts) : null;
}

function testWords(id: string): DueWords | null {
  const m = testsOn('sample').find((one) => testDue(one.id) === id);
  const w = (m?.windows ?? []).find((one) => one.must === 'test.started');
  return m && w
    ? {
        group: 'pour',
        label: `Start ${m.title.toLowerCase()}`,
        window: `at most ${duration(w.mostSeconds)}`,
        then: w.then,
        attended: false,
        source: w.source,
      }
    : null;
}

const SET_WORDS: Readonly<Record<string, DueWords>> = {
  fetch: {
    group: 'curing',
    label: 'Fetch, out of the molds',
    window: `${moveAfterHours} h after final set, at most ${initialMostHours} h`,
    then: 'the set carries a remark',
    attended: true,
    source: C31,
  },
  cure: {
    group: 'curing',
    label: 'Into final curing',
    window: `at most ${finalWithinMinutes} min`,
    then: 'the set carries a remark',
    attended: true,
    source: C31,
  },
};

/** What an instrument waits for whose calibration runs out. */
export const kitDueWords = (kind: KitKind): DueWords => ({
  group: 'kit',
  label: 'Calibrate',
  window: CALIBRATION[kind].label,
  then: 'it is used only with a reason',
  attended: false,
  source: null,
});

/** What somebody waits for whose certificate runs out. */
export const CERTIFICATE_WORDS: DueWords = {
  group: 'kit',
  label: 'Renew',
  window: 'certificate',
  then: 'whoever asks for it may refuse what is tested without it',
  attended: false,
  source: null,
};

/** `28 d ± 20 h`; `14 d` where no window is in print. */
export function ageWords(days: number): string {
  const tolerance = ageTolerance(days);
  return `${days} d${tolerance === null ? '' : ` ± ${tolerance / HOUR} h`}`;
}

/** At which age, at the head of a sentence: `At 28 days`, `At one day`. */
export const atAge = (days: number): string => (days === 1 ? 'At one day' : `At ${days} days`);

function breakWords(facts: AnyInputs): DueWords {
  const days = daysOf((facts as Facts)['age']);
  return {
    group: 'press',
    label: 'Break',
    window: days === null ? '' : ageWords(days),
    then: 'the result is not for acceptance unless the engineer agrees',
    attended: true,
    source: C39,
  };
}

function prismWords(id: string, facts: AnyInputs): DueWords | null {
  const reading = SCHEDULES[regimeOf(facts)].readings[Number(/^read:(\d+)$/.exec(id)?.[1] ?? -1)];
  if (!reading) return null;
  const window = reading.within === undefined ? '' : `${reading.hours} ± ${reading.within} h`;
  const then = reading.missed === 'void' ? 'the set is void' : 'the reading carries a remark';
  return { group: 'long', label: reading.what, window, then, attended: true, source: C157 };
}
