import * as z from 'zod';
import { day, id, written } from './parts.js';

/** What a report is of: an item and all that lies in it, a day, or a mix or source over a month. */
export const reportScope = z.discriminatedUnion('of', [
  z.strictObject({ of: z.literal('item'), itemId: id }),
  z.strictObject({ of: z.literal('day'), day }),
  z.strictObject({
    of: z.literal('month'),
    subjectId: id,
    month: z.string().regex(/^(19|20|21)\d\d-(0[1-9]|1[0-2])$/, 'a month such as 2026-11'),
  }),
]);
export type ReportScope = z.infer<typeof reportScope>;

export const newReport = z.strictObject({
  ...written,
  projectId: id,
  scope: reportScope,
  /** To whom it goes, as it stands on the paper. */
  client: z.string().trim().min(1).max(200).optional(),
  /** Why it is made again, where it takes another’s place. */
  why: z.string().trim().min(3).max(400).optional(),
});
export type NewReport = z.infer<typeof newReport>;

/** A report as it was issued: it never changes. */
export interface Report {
  readonly id: string;
  readonly projectId: string;
  readonly number: number;
  readonly title: string;
  readonly scope: ReportScope;
  readonly by: string;
  readonly at: string;
  readonly client: string | null;
  readonly why: string | null;
  /** Number of the one whose place it takes. */
  readonly replaces: number | null;
  /** Number of the one that took its place. */
  readonly replacedBy: number | null;
  readonly tests: number;
}

/** `R-31`: as people say it. */
export const reportCode = (number: number): string => `R-${number}`;
