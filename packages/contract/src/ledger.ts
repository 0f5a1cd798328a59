import { METHODS, PROPERTY_IDS, type UnitId, type VerdictState } from '@keen-mortar/core';
import * as z from 'zod';
import type { FindingView } from './findings.js';
import { moment } from './inputs.js';
import { id, name, written } from './parts.js';

const STATES = ['within', 'edge', 'out', 'void', 'open', 'unjudged'] as const satisfies readonly VerdictState[];
const METHOD_IDS = METHODS.map((m) => m.id) as [string, ...string[]];

/** `a,b`: some of what there is. */
const someOf = <T extends string>(all: readonly [T, ...T[]]) =>
  z
    .string()
    .max(2000)
    .transform((text) => [...new Set(text.split(','))])
    .pipe(z.array(z.enum(all)).min(1));

/** Which tests are meant: of a project, and within it those that all of the rest holds for. */
const filter = {
  project: id,
  /** That lie in this item: a pour, a structure, a source. */
  in: id.optional(),
  /** Of this mix or source. */
  of: id.optional(),
  /** Of items whose code or name begins so, and of all that lies in them. */
  text: z.string().trim().min(1).max(60).optional(),
  method: someOf(METHOD_IDS).optional(),
  /** With a result of it: that one is shown, and judged. */
  property: z.enum(PROPERTY_IDS).optional(),
  state: someOf(STATES).optional(),
  marked: z.literal('true').optional(),
  by: id.optional(),
  /** With this instrument. */
  kit: id.optional(),
  from: moment.optional(),
  until: moment.optional(),
};

export const ledgerFilter = z.strictObject(filter);
export type LedgerFilter = z.infer<typeof ledgerFilter>;

/** A page of them, in an order: `after` is what the page before said comes next. */
export const ledgerQuery = z
  .strictObject({
    ...filter,
    sort: z.enum(['at', 'value']).default('at'),
    order: z.enum(['asc', 'desc']).default('desc'),
    after: z.string().max(200).optional(),
    limit: z.coerce.number().int().min(1).max(200).default(60),
  })
  .refine((q) => q.sort === 'at' || q.property !== undefined, {
    path: ['sort'],
    message: 'results are put in order only of one property: another has another unit',
  });
export type LedgerQuery = z.infer<typeof ledgerQuery>;

/** A test as the ledger shows it, with one of its results. */
export interface LedgerRow {
  readonly testId: string;
  readonly itemId: string;
  readonly itemKind: string;
  readonly code: string;
  /** What that lies in. */
  readonly inCode: string | null;
  readonly voided: boolean;
  readonly method: string;
  readonly variant: string;
  readonly at: string;
  readonly by: string;
  /** Of the test; the worst of its results. */
  readonly state: VerdictState;
  readonly validity: string;
  /** How often somebody corrected it; null while nothing was kept. To be worked out again is no correction. */
  readonly corrected: number | null;
  readonly retest: boolean;
  readonly result: {
    readonly id: string;
    readonly state: string;
    readonly unit: UnitId;
    readonly reported: string | null;
    readonly verdict: VerdictState;
    /** Of the limit that decided, in its unit; and what met it. */
    readonly lower: string | null;
    readonly upper: string | null;
    readonly compared: string | null;
    readonly limitUnit: UnitId | null;
  } | null;
  /** What several things on record mean together of what it was made on, where that is not as asked; the most pressing first. */
  readonly findings: readonly FindingView[];
}

export interface LedgerPage {
  readonly rows: readonly LedgerRow[];
  /** Where the next page begins; null after the last. */
  readonly next: string | null;
}

/** How many tests of each week stand where; of the newest {@link LEDGER_COUNTED} only. */
export interface LedgerCounts {
  readonly weeks: readonly {
    /** Its Monday. */
    readonly week: string;
    readonly state: VerdictState;
    readonly marked: boolean;
    readonly count: number;
  }[];
  readonly more: boolean;
}

/** More are not counted: nobody waits for a figure that nobody needs. */
export const LEDGER_COUNTED = 20_000;

/** What was worked out of a test, and when: the newest last. */
export interface TestTurn {
  readonly turn: number;
  readonly at: string;
  readonly cause: string | null;
  /** What was added or amended that it stands on, in words, and by whom; empty where it was kept by itself. */
  readonly because: readonly { readonly says: string; readonly by: string }[];
  readonly validity: string;
  readonly results: readonly {
    readonly id: string;
    readonly state: string;
    readonly unit: UnitId;
    readonly reported: string | null;
    readonly verdict: VerdictState | null;
  }[];
}

/** A way of looking at the ledger that somebody keeps: what is asked for, and what is shown. */
export const newView = z.strictObject({
  ...written,
  projectId: id,
  name,
  query: z.record(z.string().max(20), z.string().max(400)),
  columns: z.array(z.string().max(20)).min(1).max(20),
});
export type NewView = z.infer<typeof newView>;
export type LedgerView = Omit<NewView, 'by' | 'projectId'>;
export const removal = z.strictObject(written);
