import type { DayThing, DayView } from '@keen-mortar/contract';
import type { Picture } from '@keen-mortar/core';
import { DUE_GROUPS, type DueGroup } from '@keen-mortar/core/due-groups';
import { DateTime } from 'luxon';
import { leftWords } from '../../parts/ribbon';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
/** The last of a window: from here it needs somebody now. */
const SOON = 5 * MINUTE;
/** So many of a group are shown before the rest is folded. */
const SHOWN = 4;

export type RowState = 'open' | 'later' | 'missed';

/** A thing of the day as it stands at a moment. */
export interface DayRow {
  readonly key: string;
  readonly thing: DayThing;
  readonly state: RowState;
  readonly opens: number;
  readonly ends: number;
  /** When it is to be done: as planned, else the best time for it. */
  readonly at: number | null;
  /** Where its bead rests: then, or in the middle of what is left of a window in which nobody is there, should somebody come. */
  readonly bead: number | null;
  readonly says: string;
  readonly about: string;
  readonly soon: boolean;
  readonly link: readonly string[];
  /** What is so once it has ended, as a sentence ends. */
  readonly then: string;
}

export interface DayGroup {
  readonly id: DueGroup;
  readonly label: string;
  readonly picture: Picture | 'kit';
  readonly rows: readonly DayRow[];
  readonly all: number;
  readonly done: number;
}

const PICTURES: Readonly<Record<DueGroup, DayGroup['picture']>> = {
  pour: 'truck',
  press: 'crush',
  curing: 'cyl',
  bench: 'flask',
  long: 'prism',
  kit: 'kit',
};

export const keyOf = (t: DayThing): string => [t.due, t.openId, t.opensAt, t.itemIds[0] ?? ''].join(' ');

const linkOf = (t: DayThing): string[] => {
  if (t.openKind === 'kit') return ['/kit', t.openId];
  if (t.openKind === 'certificate') return ['/day', 'people'];
  return t.openKind === 'sample' ? ['/samples', t.openId] : ['/record', t.openId];
};

export function rowOf(thing: DayThing, now: number, zone: string): DayRow {
  const opens = Date.parse(thing.opensAt);
  const ends = thing.endsAt === null ? null : Date.parse(thing.endsAt);
  const missed = ends !== null && ends < now;
  const state: RowState = missed ? 'missed' : opens > now ? 'later' : 'open';
  const clock = (ms: number): string => {
    const at = DateTime.fromMillis(ms, { zone });
    const apart = Math.abs(at.diff(DateTime.fromMillis(now, { zone }), 'days').days);
    if (at.hasSame(DateTime.fromMillis(now, { zone }), 'day')) return at.toFormat('HH:mm');
    return at.toFormat(apart < 6 ? 'ccc HH:mm' : 'd LLL');
  };
  const says = {
    missed: () => `past ${clock(ends!)}`,
    later: () => `from ${clock(opens)}`,
    open: () => (ends === null ? `since ${clock(opens)}` : leftWords(ends - now)),
  }[state]();
  const at = thing.plannedAt === null ? (thing.fit?.best ?? null) : Date.parse(thing.plannedAt);
  const middle = thing.fit && ends !== null ? Math.round((Math.max(opens, now) + ends) / 2 / MINUTE) * MINUTE : null;
  return {
    key: keyOf(thing),
    thing,
    state,
    opens,
    ends: ends ?? opens,
    at,
    bead: at ?? middle,
    says,
    about: [thing.window, thing.where].filter(Boolean).join(' · '),
    soon: state === 'open' && ends !== null && ends - now <= SOON,
    link: linkOf(thing),
    then: thing.then.startsWith('after that') ? thing.then : `after that ${thing.then}`,
  };
}

/** When a row wants to be looked at: what was planned, before what it ends by. */
/** What can be done now comes first, then what is past and not done, then what is to come. */
const RANK: Readonly<Record<RowState, number>> = { open: 0, missed: 1, later: 2 };
const byState = (a: DayRow, b: DayRow): number => RANK[a.state] - RANK[b.state] || wanted(a) - wanted(b);

const wanted = (r: DayRow): number => (r.thing.plannedAt === null ? r.ends : Math.min(r.at!, r.ends));

/** What ends first for somebody, of what can be done now; for everybody, where nothing is theirs. */
export function firstFor(rows: readonly DayRow[], who: string | null): DayRow | null {
  const open = rows.filter((r) => r.state === 'open' && r.thing.endsAt !== null && r.thing.group !== 'kit');
  const own = open.filter((r) => r.thing.who === who);
  return [...(own.length > 0 ? own : open)].sort((a, b) => wanted(a) - wanted(b))[0] ?? null;
}

/** In the order of a day, what ends first at the top of each; of a long one those that can be done today. */
export function groupsOf(rows: readonly DayRow[], view: DayView, now: number, open: ReadonlySet<DueGroup>): DayGroup[] {
  const tonight = DateTime.fromMillis(now, { zone: view.timezone }).endOf('day').toMillis();
  return (Object.keys(DUE_GROUPS) as DueGroup[]).flatMap((id): DayGroup[] => {
    const all = rows.filter((r) => r.thing.group === id).sort(byState);
    const done = view.done.filter((t) => t.group === id).length;
    if (all.length + done === 0) return [];
    const due = all.filter((r) => r.state !== 'later' || r.opens <= tonight || (r.at !== null && r.at <= tonight));
    const shown = open.has(id) ? all : (due.length > 0 ? due : all).slice(0, SHOWN);
    return [{ id, label: DUE_GROUPS[id], picture: PICTURES[id], rows: shown, all: all.length, done }];
  });
}

/** Windows in which nobody is in the laboratory, and that can be helped yet. */
export const cannotBeMet = (rows: readonly DayRow[]): DayRow[] =>
  rows.filter((r) => r.state !== 'missed' && r.thing.attended && r.thing.plannedAt === null && r.thing.fit?.best === null);

export interface Lane {
  readonly id: string;
  readonly today: number;
  readonly next: DayRow | null;
  /** Two things of one person that end within minutes of each other. */
  readonly clash: readonly DayRow[];
}

/** What falls to whom today, and what of it first. */
export function lanesOf(rows: readonly DayRow[], people: readonly string[], now: number, zone: string): Lane[] {
  const tonight = DateTime.fromMillis(now, { zone }).endOf('day').toMillis();
  return people.flatMap((id): Lane[] => {
    const own = rows
      .filter((r) => r.thing.who === id && r.state !== 'missed' && r.opens <= tonight && r.thing.group !== 'kit')
      .sort((a, b) => wanted(a) - wanted(b));
    if (own.length === 0) return [];
    const near = own.filter((r) => r.state === 'open' && wanted(r) - now < HOUR);
    const clash = near.filter((r) => near.some((o) => o.thing.openId !== r.thing.openId && Math.abs(wanted(o) - wanted(r)) <= SOON));
    return [{ id, today: own.length, next: own[0] ?? null, clash }];
  });
}
