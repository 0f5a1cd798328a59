import {
  AT_AN_AGE,
  COMPARISON_IDS,
  exact,
  FOUND_BY_BREAKING,
  limitFits,
  MATERIAL_ROLES,
  PRACTICE_IDS,
  PROPERTY_IDS,
  propertyOf,
  SCHOOL_IDS,
  unitLabel,
  unitsOf,
} from '@keen-mortar/core';
import * as z from 'zod';
import type { FindingView } from './findings.js';
import { day, id, instant, name, short, unit, written, type Page } from './parts.js';
import { decimalText, lengthQuantity, massQuantity, positiveText, type Amount } from './quantities.js';

/* What the office makes, and everything hangs on: projects, specifications, mixes. */

export const materialRole = z.enum(Object.keys(MATERIAL_ROLES) as [keyof typeof MATERIAL_ROLES, ...(keyof typeof MATERIAL_ROLES)[]]);
export type MaterialRole = z.infer<typeof materialRole>;

export const newProject = z.strictObject({
  ...written,
  code: short.max(24),
  name,
  site: name,
  system: z.enum(['si', 'us']),
  practice: z.enum(PRACTICE_IDS as [(typeof PRACTICE_IDS)[number], ...typeof PRACTICE_IDS]),
  timezone: z.string().refine((zone) => {
    try {
      new Intl.DateTimeFormat('en', { timeZone: zone });
      return true;
    } catch {
      return false;
    }
  }, 'a time zone such as Europe/Lisbon'),
});

const limitBody = z
  .strictObject({
    id,
    property: z.enum(PROPERTY_IDS),
    unit,
    lower: decimalText.optional(),
    upper: decimalText.optional(),
    target: decimalText.optional(),
    minus: decimalText.optional(),
    plus: decimalText.optional(),
    atDays: z.int().min(1).max(3650).optional(),
    source: name,
    onFail: z.string().trim().max(400).optional(),
  })
  .refine(
    (l) => (l.target === undefined ? l.lower !== undefined || l.upper !== undefined : l.minus !== undefined || l.plus !== undefined),
    {
      error: 'a lower or an upper end, or a target with a tolerance',
    },
  )
  .check(({ value: l, issues }) => {
    if (limitFits(l.property, l.unit)) return;
    const property = propertyOf(l.property);
    const units = property ? unitsOf(property.dimension).map(unitLabel).filter(Boolean).join(', ') : '';
    issues.push({
      code: 'custom',
      input: l,
      path: ['unit'],
      message: `${unitLabel(l.unit) || 'a plain number'} is no unit of ${property?.label ?? l.property}${units ? `: use ${units}` : ', which has none'}`,
    });
  })
  .refine((l) => l.atDays === undefined || [...FOUND_BY_BREAKING, ...AT_AN_AGE].includes(l.property), {
    error: 'an age belongs to a strength or a length change',
    path: ['atDays'],
  })
  .refine((l) => l.lower === undefined || l.upper === undefined || Number(l.lower) <= Number(l.upper), {
    error: 'the lower end is above the upper end',
    path: ['lower'],
  });

const why = z.string().trim().min(3).max(400);

export const newSpecification = z.strictObject({
  ...written,
  projectId: id,
  name,
  comparison: z.enum(COMPARISON_IDS).default('reported'),
  /** How often a sample is taken, in its own words. */
  sampled: z.string().trim().min(3).max(400).optional(),
  /** By whose rules its strength is accepted; by those of what the project works to, where it does not say. */
  school: z.enum(SCHOOL_IDS).optional(),
  limits: z.array(limitBody).min(1).max(60),
  /** The one whose place it takes: mixes and sources that had to meet that meet this one from then on. */
  replaces: z.strictObject({ id, from: instant, why }).optional(),
});
export type NewSpecification = z.infer<typeof newSpecification>;

/** Where its gravity is not keyed, it is what the newest test of its source found. */
export const ingredient = z
  .strictObject({ name, role: materialRole, mass: massQuantity, sg: positiveText.optional(), sourceId: id.optional() })
  .refine((i) => i.sg !== undefined || i.sourceId !== undefined, {
    path: ['sg'],
    message: 'a specific gravity, or the source that it is of',
  });
export type NewIngredient = z.infer<typeof ingredient>;
export interface Ingredient extends Omit<NewIngredient, 'sg'> {
  readonly sg: string;
  /** The test that it was taken of. */
  readonly sgTest?: FoundBy;
}

/** A test that found something, and the item that it was made on. */
export interface FoundBy {
  readonly id: string;
  readonly itemId: string;
  readonly code: string;
  readonly at: string;
}

/** At most so many specifications are met by one mix: the owner’s, the producer’s. */
const MOST_MET = 4;
const met = z.array(id).max(MOST_MET);

const revisionParts = {
  /** The next one, where it is not given. */
  number: z.int().min(1).max(9999).optional(),
  effectiveFrom: instant,
  why: why.optional(),
  specificationIds: met.default([]),
  largest: lengthQuantity,
  nominal: lengthQuantity,
  air: decimalText,
  correction: decimalText.optional(),
  /** The day on which that was found. */
  correctionOn: day.optional(),
  /** Lightweight, slag or other porous aggregate: the air is then measured by volume. */
  aggregate: z.enum(['normal', 'porous']).default('normal'),
  ingredients: z.array(ingredient).min(2).max(30),
};
export const newRevision = z.strictObject({ ...written, ...revisionParts });
export type NewRevision = z.infer<typeof newRevision>;

/** A mix, with its first revision where that is known. */
export const newMix = z.strictObject({
  ...written,
  projectId: id,
  code: short.max(24),
  name,
  revision: z.strictObject({ id, ...revisionParts }).optional(),
});
export type NewMix = z.infer<typeof newMix>;

/** What an item that is of no mix must meet from a moment on: a source, a structure. */
export const newMeeting = z.strictObject({ ...written, from: instant, specificationIds: met });
export type NewMeeting = z.infer<typeof newMeeting>;

/** What a test found of a source counts for its mixes and trial batches from a moment on. */
export const newAcceptance = z.strictObject({ ...written, testId: id, from: instant, why: why.optional() });
export type NewAcceptance = z.infer<typeof newAcceptance>;

/** Somebody looked at what a mix stands on, beside what a test found of its source, and leaves it as it is. */
export const newLook = z.strictObject({ ...written, testId: id, why });
export type NewLook = z.infer<typeof newLook>;
export interface Look {
  readonly testId: string;
  readonly by: string;
  readonly at: string;
  readonly why: string;
}

/** Whether a mix stands on another gravity than counts of its source now, and nobody has looked at that. */
export const isStale = (
  i: { readonly sg: string; readonly sgTest?: FoundBy | null },
  now: SourceNow['gravity'],
  looks: readonly Look[],
): boolean =>
  now !== null && now.test.id !== i.sgTest?.id && !exact(now.text).equals(exact(i.sg)) && !looks.some((l) => l.testId === now.test.id);

export type Project = Omit<z.infer<typeof newProject>, 'by'>;

export interface Specification extends Omit<NewSpecification, 'by' | 'replaces'> {
  readonly by: string;
  readonly madeAt: string;
  readonly replaces?: { readonly id: string; readonly why: string };
}

export interface Revision extends Omit<NewRevision, 'by' | 'number' | 'ingredients'> {
  readonly number: number;
  readonly by: string;
  readonly madeAt: string;
  readonly mixId: string;
  readonly ingredients: readonly Ingredient[];
  /** Air-free density of the ingredients, by the core; null where it cannot be had. */
  readonly theoretical: Amount | null;
}

export type MixHead = Omit<NewMix, 'by' | 'revision'>;

export interface Mix extends MixHead {
  readonly revisions: readonly Revision[];
}

/** A source with the gravity that a revision made now would take of it. */
export interface SourceNow {
  readonly id: string;
  readonly code: string;
  readonly kind: 'fine' | 'coarse';
  readonly gravity: (Amount & { readonly test: FoundBy }) | null;
}

/** The test whose values of a source were accepted. */
export interface Accepted {
  readonly testId: string;
  readonly from: string;
  readonly by: string;
  readonly why: string | null;
}

/** A mix with what it must meet, and what counts of the sources of its ingredients now. */
export interface MixSheet {
  readonly mix: Mix;
  /** All that any revision of it names. */
  readonly specifications: readonly Specification[];
  readonly sources: readonly SourceNow[];
  readonly looks: readonly Look[];
  /** What is found of it: at each age at which it is accepted. */
  readonly findings: readonly FindingView[];
}

/** Mixes of a project, and what is found of each. */
export interface MixesPage extends Page<Mix> {
  readonly findings: readonly FindingView[];
}
