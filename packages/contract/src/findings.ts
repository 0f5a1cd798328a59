import { DECISION_IDS, FINDING_GRADES, type SeriesFigure, type UnitId } from '@keen-mortar/core';
import * as z from 'zod';
import { id, instant, name, written } from './parts.js';

/** A decision as it is shown: who decided what of which finding, and who put it on record. */
export const decisionView = z.object({
  id,
  finding: z.string(),
  subjectId: id,
  part: z.string(),
  decided: z.enum(DECISION_IDS),
  who: z.string(),
  why: z.string(),
  paper: z.string().nullable(),
  at: instant,
  by: id,
  madeAt: instant,
  takenBack: z.string().nullable(),
});
export type DecisionView = z.infer<typeof decisionView>;

/** What several things on record mean together, in the state that holds now. */
export const findingView = z.object({
  finding: z.string(),
  title: z.string(),
  subjectId: id,
  part: z.string(),
  grade: z.enum(FINDING_GRADES),
  says: z.string(),
  /** What can be done about it, in order. */
  next: z.array(z.string()),
  evidence: z.array(z.object({ about: z.enum(['cause', 'test', 'concrete', 'unknown']), says: z.string() })),
  /** What it does to the acceptance of the concrete. */
  acceptance: z.enum(['counts', 'waits', 'excluded']).nullable(),
  choices: z.array(z.enum(DECISION_IDS)),
  /** What would be decided elsewhere, and cannot be here. */
  cannot: z.array(z.object({ decided: z.enum(DECISION_IDS), why: z.string() })),
  decision: decisionView.nullable(),
});
export type FindingView = z.infer<typeof findingView>;

/** Somebody’s word on a finding is put on record: a person here, or somebody named with their firm. */
export const newDecision = z
  .strictObject({
    ...written,
    finding: z.string().max(40),
    subjectId: id,
    part: z.string().max(80).default(''),
    decided: z.enum(DECISION_IDS),
    whoId: id.optional(),
    who: z.strictObject({ name, firm: z.string().trim().min(1).max(120) }).optional(),
    why: z.string().trim().min(3).max(400),
    paper: z.string().trim().min(1).max(200).optional(),
    at: instant,
  })
  .refine((d) => (d.whoId === undefined) !== (d.who === undefined), {
    error: 'who decided: a person here, or somebody named with their firm',
    path: ['who'],
  });
export type NewDecision = z.infer<typeof newDecision>;

export const newWithdrawal = z.strictObject({ ...written, why: z.string().trim().min(3).max(400) });

/** Which word on which finding is looked at before it is put on record, and who asks. */
export const decisionTried = z.object({
  subject: id,
  finding: z.string().max(40),
  part: z.string().max(80).default(''),
  decided: z.enum(DECISION_IDS),
  by: id,
});
export type DecisionTried = z.infer<typeof decisionTried>;

/** What a decision would do, worked out by the rules and kept nowhere. */
export interface DecisionEffect {
  /** What is found otherwise then; null where it was not, or is not any more. */
  readonly changes: readonly {
    readonly title: string;
    readonly where: string;
    readonly now: string | null;
    readonly then: string | null;
  }[];
  /** The series that it enters or leaves, before and after; null where it is of none. */
  readonly series: { readonly title: string; readonly figures: readonly SeriesChange[]; readonly course: SeriesCourse } | null;
  /** Papers that say otherwise from then on. */
  readonly papers: readonly { readonly id: string; readonly says: string }[];
}

/** The newest tests of a series, with its means of three as they are and as they would be; strengths in its unit. */
export interface SeriesCourse {
  readonly unit: UnitId;
  /** Only one that counts then is a point of the series; the decided one stands out. */
  readonly tests: readonly { readonly castAt: string; readonly strength: number; readonly decided: boolean; readonly counts: boolean }[];
  readonly now: readonly { readonly castAt: string; readonly mean: number }[];
  readonly then: readonly { readonly castAt: string; readonly mean: number }[];
  /** What is specified, and the least single test; null where there is none. */
  readonly specified: number | null;
  readonly floor: number | null;
}

export interface SeriesChange extends Omit<SeriesFigure, 'figure'> {
  readonly now: string | null;
  readonly then: string | null;
}

/** What waits for a decision, and what was decided, the newest first. */
export interface DecisionsPage {
  readonly waiting: readonly (FindingView & { readonly where: string })[];
  /** What was kept although it is unlikely, and nobody has said why: answered by anybody who knows. */
  readonly unanswered: readonly (FindingView & { readonly where: string })[];
  readonly decided: readonly (DecisionView & { readonly where: string; readonly title: string })[];
  /** How many were decided in all. */
  readonly total: number;
}
