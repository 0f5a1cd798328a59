import { dayIn, type Certificate, type DayThing, type DayView, type Equipment } from '@keen-mortar/contract';
import {
  CERTIFICATE_WORDS,
  DUE_KINDS,
  dueWords,
  fitInto,
  kitDueWords,
  type DueWords,
  type Interval,
  type ItemKind,
} from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { Cx } from '../db.js';
import { duesDone, duesLeft, duesWithin, type DueRow } from '../store/dues.js';
import { itemsNamed } from '../store/items.js';
import { kitOf } from '../store/kit.js';
import { certificates } from '../store/people.js';
import { projectOf } from '../store/projects.js';
import { decisionsOf } from './findings.js';
import { openingsOf } from './hours.js';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** What is looked at: of fresh concrete some hours back; of all else what ended some days ago, and a season to come. */
const BACK = { brief: 12 * HOUR, long: 14 * DAY };
const AHEAD = 100 * DAY;
/** So many are shown of each; what is further off is said to be there. */
const MOST = { things: 600, done: 300, older: 1000 };
/** A calibration or a certificate is told of so long before it runs out; a certificate so long after. */
const RUNS_OUT_AHEAD = 30 * DAY;
const TOLD_AFTER = 60 * DAY;

/** All that a project waits for as of now, what ends first at the top; and what was done on this day. */
export async function dayOf(cx: Cx, projectId: string, now: Date): Promise<DayView> {
  const { timezone } = await projectOf(cx, projectId);
  const at = (ms: number): Date => new Date(now.getTime() + ms);
  const begins = DateTime.fromJSDate(now, { zone: timezone }).startOf('day').toJSDate();
  const [{ week, openings }, brief, long, done, older, kit, certified] = await Promise.all([
    openingsOf(cx, projectId, timezone, at(-DAY), at(AHEAD)),
    duesWithin(cx, projectId, true, { from: at(-BACK.brief), to: at(AHEAD) }, MOST.things),
    duesWithin(cx, projectId, false, { from: at(-BACK.long), to: at(AHEAD) }, MOST.things + 1),
    duesDone(cx, projectId, begins, MOST.done),
    duesLeft(cx, projectId, at(-BACK.long), MOST.older),
    kitOf(cx, projectId, dayIn(timezone, now.toISOString())),
    certificates(cx),
  ]);
  const open = [...brief, ...long.slice(0, MOST.things)];
  const where = await placesOf(cx, [...open, ...done]);
  const papers = [...kitThings(kit, timezone, now), ...certificateThings(certified, timezone, now)];
  const things = [...together(open, where, openings, now.getTime()), ...papers].sort((a, b) => Date.parse(byOf(a)) - Date.parse(byOf(b)));
  const { waiting, unanswered } = await decisionsOf(cx, projectId, now);
  return {
    now: now.toISOString(),
    timezone,
    week,
    openings,
    things,
    done: together(done, where, openings, now.getTime()),
    asks: waiting,
    unanswered,
    more: long.length > MOST.things,
    older,
  };
}

const byOf = (t: DayThing): string => t.plannedAt ?? t.endsAt ?? t.opensAt;

export interface Place {
  readonly code: string;
  readonly kind: ItemKind;
  readonly where: string;
  /** It, or what it lies in, was taken back. */
  readonly gone: boolean;
}

/** What the items lie in, and what that lies in: a specimen is known by its set, a set by its pour. */
export async function placesOf(cx: Cx, rows: readonly Pick<DueRow, 'parentId'>[]): Promise<Map<string, Place>> {
  const found = new Map<string, { code: string; kind: ItemKind; parentId: string | null; voided: boolean }>();
  let ids = [...new Set(rows.flatMap((r) => r.parentId ?? []))];
  // Pour, load, sample, set: four lines up from a specimen.
  for (let height = 0; height < 4 && ids.length > 0; height++) {
    const items = await itemsNamed(cx, ids);
    for (const i of items) found.set(i.id, { code: i.code, kind: i.kind, parentId: i.parentId, voided: i.voided });
    ids = [...new Set(items.flatMap((i) => (i.parentId !== null && !found.has(i.parentId) ? i.parentId : [])))];
  }
  const whole = (id: string | null): string[] => {
    const item = id === null ? undefined : found.get(id);
    return item ? [...whole(item.parentId), item.code] : [];
  };
  const gone = (id: string | null): boolean => {
    const item = id === null ? undefined : found.get(id);
    return item !== undefined && (item.voided || gone(item.parentId));
  };
  return new Map(
    [...found].map(([id, { code, kind, parentId }]) => [
      id,
      { code, kind, where: whole(parentId).filter(Boolean).join(', '), gone: gone(id) },
    ]),
  );
}

const COUNTS = ['', '', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];

/** Specimens of a set that wait for the same are one thing; what they are drawn together by is what a person does in one go. */
function together(rows: readonly DueRow[], places: ReadonlyMap<string, Place>, openings: readonly Interval[], now: number): DayThing[] {
  const groups = new Map<string, DueRow[]>();
  for (const row of rows) {
    if (!DUE_KINDS.includes(row.kind) || (row.parentId !== null && places.get(row.parentId)?.gone)) continue;
    const same = [row.due, row.opensAt.getTime(), row.doneAt === null, row.plannedAt?.getTime(), row.whoId];
    const key = row.kind === 'specimen' ? [row.parentId, ...same].join() : [row.itemId, row.due].join();
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  return [...groups.values()].flatMap((all) => thingOf(all, places, openings, now));
}

function thingOf(all: readonly DueRow[], places: ReadonlyMap<string, Place>, openings: readonly Interval[], now: number): DayThing[] {
  const [first] = all as [DueRow, ...DueRow[]];
  const lasts = first.endsAt && first.endsAt.getTime() - first.opensAt.getTime();
  const words = dueWords(first.kind, first.due, first.facts, lasts);
  if (!words) return [];
  const { group, label, window, then, attended } = words;
  const parent = first.parentId === null ? undefined : places.get(first.parentId);
  const many = first.kind === 'specimen' && all.length > 1;
  const what = many ? `${parent?.code ?? ''}, ${COUNTS[all.length] ?? String(all.length)}` : first.code;
  const [opens, ends] = [first.opensAt.getTime(), first.endsAt?.getTime() ?? null];
  // At the bench, and before a tank, what nothing ends waits until somebody is there.
  const until = ends ?? opens + (group === 'bench' || first.kind === 'storage' ? AHEAD : DAY);
  // A sample is opened from its load, a set from its specimen: where it is done.
  const openId = many ? first.parentId! : first.itemId;
  return [
    {
      itemIds: all.map((r) => r.itemId),
      due: first.due,
      group,
      label,
      window,
      then,
      what,
      // The code of a specimen says which set it is of.
      where: [first.kind === 'specimen' ? '' : (parent?.code ?? ''), parent?.where ?? ''].filter(Boolean).join(', '),
      openId,
      openKind: many ? 'specimen-set' : first.kind,
      opensAt: first.opensAt.toISOString(),
      endsAt: first.endsAt?.toISOString() ?? null,
      doneAt: first.doneAt?.toISOString() ?? null,
      attended,
      who: first.whoId ?? first.personId,
      plannedAt: first.plannedAt?.toISOString() ?? null,
      fit:
        attended && first.doneAt === null && until > now
          ? fitInto({ from: Math.max(opens, now), to: until }, ends === null ? opens : (opens + ends) / 2, openings)
          : null,
    },
  ];
}

/** What runs out at the end of a day, soon or lately. */
function runsOut(
  words: DueWords,
  { from, until }: { readonly from: string | null; readonly until: string },
  zone: string,
  now: Date,
): Omit<DayThing, 'due' | 'what' | 'where' | 'openId' | 'openKind' | 'who'>[] {
  const ends = DateTime.fromISO(until, { zone }).endOf('day').toJSDate();
  if (ends.getTime() - now.getTime() > RUNS_OUT_AHEAD) return [];
  const { group, label, window, then, attended } = words;
  const opens = from === null ? ends : DateTime.fromISO(from, { zone }).toJSDate();
  const at = { opensAt: opens.toISOString(), endsAt: ends.toISOString(), doneAt: null, plannedAt: null, fit: null };
  return [{ itemIds: [], group, label, window, then, attended, ...at }];
}

/** Certificates of people; of one that ran out long ago nobody is told any more. */
const certificateThings = (all: readonly Certificate[], zone: string, now: Date): DayThing[] =>
  all
    .filter((c) => c.inForce && DateTime.fromISO(c.until, { zone }).toMillis() > now.getTime() - TOLD_AFTER)
    .flatMap((c) =>
      runsOut(CERTIFICATE_WORDS, c, zone, now).map((thing) => ({
        ...thing,
        due: 'certificate',
        what: c.what,
        where: '',
        openId: c.id,
        openKind: 'certificate',
        who: c.personId,
      })),
    );

/** Calibrations that run out soon, or have. */
function kitThings(kit: readonly Equipment[], zone: string, now: Date): DayThing[] {
  return kit.flatMap((k): DayThing[] =>
    k.until === null
      ? []
      : runsOut(kitDueWords(k.kind), { from: k.calibratedOn, until: k.until }, zone, now).map((thing) => ({
          ...thing,
          due: 'calibrate',
          what: k.name,
          where: '',
          openId: k.id,
          openKind: 'kit',
          who: null,
        })),
  );
}
