import { ITEM_KINDS, type AnyInputs, type DueGroup, type Fit, type Interval } from '@keen-mortar/core';
import * as z from 'zod';
import type { DecisionsPage } from './findings.js';
import { fieldSchema, inputsSchema, moment } from './inputs.js';
import { day, id, issuedCode, written } from './parts.js';

const time = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time like 07:30');
/** From and until; null: closed. */
const opening = z
  .tuple([time, time])
  .refine(([from, to]) => from < to, 'opens before it closes')
  .nullable();

/** When somebody is in the laboratory, Monday first: from a day on, or for some days only. */
export const newHours = z
  .strictObject({
    ...written,
    projectId: id,
    from: day,
    /** Its last day; without it until others take its place. */
    to: day.optional(),
    week: z.array(opening).length(7),
    why: z.string().trim().min(3).max(200).optional(),
  })
  .refine((h) => h.to === undefined || h.from <= h.to, { path: ['to'], message: 'not before it begins' });
export type NewHours = z.infer<typeof newHours>;
export interface Hours extends NewHours {
  readonly madeAt: string;
}

/** The usual hours of a lab that has not said any. */
export const USUAL_WEEK: NewHours['week'] = [...Array.from({ length: 5 }, (): [string, string] => ['07:00', '17:30']), null, null];

/** So many specimens are planned at once: all that are broken at one age of a set, and more. */
const MOST_PLANNED = 100;

/** When something that is due is done, and by whom; without a time it is as it comes again. */
export const newPlanned = z.strictObject({
  ...written,
  itemIds: z.array(id).min(1).max(MOST_PLANNED),
  due: z.string().min(1).max(40),
  at: moment.nullable(),
  who: id.nullable(),
});
export type NewPlanned = z.infer<typeof newPlanned>;

/** A set holds no more specimens. */
const MOST_SPECIMENS = 60;

/** A set of specimens with all that are in it; without an age one is a spare. */
export const newSet = z.strictObject({
  ...written,
  /** How the device called it that made it without a network. */
  code: issuedCode.optional(),
  facts: inputsSchema(ITEM_KINDS['specimen-set'].facts),
  specimens: z
    .array(z.strictObject({ id, age: fieldSchema(ITEM_KINDS.specimen.facts['age']!).nullable() }))
    .min(1)
    .max(MOST_SPECIMENS)
    .refine((all) => new Set(all.map((s) => s.id)).size === all.length, 'each with an id of its own'),
});
export interface NewSet {
  readonly id: string;
  readonly by: string;
  readonly code?: string | undefined;
  readonly facts: AnyInputs;
  readonly specimens: readonly { readonly id: string; readonly age: unknown }[];
}

/** One thing of a day: what some items of one place wait for together. */
export interface DayThing {
  readonly itemIds: readonly string[];
  readonly due: string;
  readonly group: DueGroup;
  readonly label: string;
  readonly window: string;
  readonly then: string;
  /** `D-36, two`: what is done it to. */
  readonly what: string;
  /** What it lies in, as people know it. */
  readonly where: string;
  /** The item whose sheet is opened for it, and of what kind that is. */
  readonly openId: string;
  readonly openKind: string;
  readonly opensAt: string;
  readonly endsAt: string | null;
  readonly doneAt: string | null;
  readonly attended: boolean;
  /** Who made it, or who is to do it. */
  readonly who: string | null;
  readonly plannedAt: string | null;
  /** Within opening hours; null where nobody has to be in the laboratory for it, or it is done. */
  readonly fit: Fit | null;
}

export interface DayView {
  readonly now: string;
  readonly timezone: string;
  readonly week: NewHours['week'];
  readonly openings: readonly Interval[];
  readonly things: readonly DayThing[];
  readonly done: readonly DayThing[];
  /** There is more to come than is shown. */
  readonly more: boolean;
  /** What waits for somebody's decision. */
  readonly asks: DecisionsPage['waiting'];
  /** What stands to be answered: unlikely, and nobody has said why. */
  readonly unanswered: DecisionsPage['unanswered'];
  /** Things that ended more than some days ago, and were not done. */
  readonly older: number;
}

/** A run at the bench: what goes through it, and what its steps were kept by. */
export interface BenchRun {
  readonly itemId: string;
  readonly code: string;
  /** What it was taken from. */
  readonly where: string;
  readonly by: string;
  /** Its facts: which run, and when each step was done. */
  readonly facts: AnyInputs;
  readonly tests: readonly { readonly id: string; readonly method: string; readonly says: string }[];
  /** What the cone said last; null where no trial counts. */
  readonly cone: 'yes' | 'no' | null;
}

/** So many days ahead opening hours are given with the bench, and runs are planned. */
export const BENCH_AHEAD_DAYS = 10;

export interface BenchView {
  readonly now: string;
  readonly timezone: string;
  readonly openings: readonly Interval[];
  /** Those that wait for something, and those that were done since yesterday. */
  readonly runs: readonly BenchRun[];
  /** There are more than are shown. */
  readonly more: boolean;
}
