import type { EventId } from '../methods/definition.js';
import type { Events } from '../methods/evaluate.js';

/** A window as the sheet shows it: it burns from an event until what must happen has happened. */
export interface Window {
  readonly id: string;
  readonly label: string;
  /** The same when it has happened. */
  readonly done: string;

  readonly starts: EventId;
  /** All of these must have happened; test windows take the tests that they wait for. */
  readonly must: EventId;
  readonly mostSeconds: number;
  /** What happens at its end. */
  readonly then: string;
}

/** One that stands in lists of what is due. */
export interface ListedWindow extends Window {
  /** As something to do. */
  readonly todo: string;
}

export interface Fuse {
  readonly id: string;
  readonly label: string;
  readonly then: string;
  readonly state: 'burning' | 'last' | 'done' | 'missed';
  /** ms: negative when it has run out, or the time that was left when it was done. */
  readonly left: number;
  /** 1 at the start, 0 at the end. */
  readonly share: number;
  readonly startedAt: number;
  readonly dueAt: number;
  readonly doneAt?: number;
}

/** The last part of a window: from here it needs you now. */
const LAST_SHARE = 0.4;

export const SAMPLE_WINDOWS: readonly ListedWindow[] = [
  {
    id: 'portions',
    label: 'Portions within',
    done: 'Portions taken',
    todo: 'Take all portions',
    starts: 'sample.first-portion',
    must: 'sample.finished',
    mostSeconds: 900,
    then: 'the sample is void: take it again',
  },
  {
    id: 'molding',
    label: 'Molding must be started in',
    done: 'Molding started',
    todo: 'Start molding',
    starts: 'sample.finished',
    must: 'sample.molding',
    mostSeconds: 900,
    then: 'specimens are reported with a remark',
  },
];

/** Time in the truck: a limit of the specification, with its own clock. */
/** min from batching to an empty truck where a specification gives no limit: ASTM C94/C94M, older editions. */
export const USUAL_TRUCK_MINUTES = 90;

export const truckWindow = (minutes: number): ListedWindow => ({
  id: 'truck',
  label: 'Truck to be empty in',
  done: 'Truck empty',
  todo: 'Empty the truck',
  starts: 'load.batched',
  must: 'load.discharged',
  mostSeconds: minutes * 60,
  then: 'the load is over its time: the engineer decides',
});

/** Null while its start has not happened. Time is an argument: the core has no clock. */
export function fuse(window: Window, events: Events, now: number): Fuse | null {
  const startedAt = events[window.starts];
  if (startedAt === undefined) return null;
  const length = window.mostSeconds * 1000;
  const dueAt = startedAt + length;
  // The portions window is met by the last portion, whenever the composite was finished.
  const doneAt = window.id === 'portions' && events['sample.finished'] !== undefined ? events['sample.final-portion'] : events[window.must];
  const left = dueAt - (doneAt ?? now);
  const share = Math.min(1, Math.max(0, left / length));
  const state = doneAt !== undefined ? (left >= 0 ? 'done' : 'missed') : left < 0 ? 'missed' : share <= LAST_SHARE ? 'last' : 'burning';
  return {
    id: window.id,
    label: doneAt === undefined ? window.label : window.done,
    then: window.then,
    state,
    left,
    share,
    startedAt,
    dueAt,
    ...(doneAt !== undefined ? { doneAt } : {}),
  };
}

/** What ends first comes first; what is done goes to the end. */
export function inOrder(fuses: readonly Fuse[]): Fuse[] {
  const rank = (f: Fuse): number => (f.state === 'last' || f.state === 'burning' ? 0 : f.state === 'missed' ? 1 : 2);
  return [...fuses].sort((a, b) => rank(a) - rank(b) || a.dueAt - b.dueAt);
}

/** Of a window that was missed: `Molding must be started: 3 h 09 too late`. */
export const lateWords = (f: Fuse): string => `${f.label.replace(/ in$/, '')}: ${left(-f.left)} too late`;

/** 108 000 → `1:48`; from an hour up `56 min` would hide the hours, so `1 h 12`. */
export function left(ms: number): string {
  const seconds = Math.floor(Math.abs(ms) / 1000);
  const sign = ms < 0 ? '−' : '';
  if (seconds >= 3600) return `${sign}${Math.floor(seconds / 3600)} h ${String(Math.floor((seconds % 3600) / 60)).padStart(2, '0')}`;
  return `${sign}${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
}
