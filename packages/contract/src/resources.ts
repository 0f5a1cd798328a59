import { isNote, isUnit, PORTION_PARTS, type Evaluation, type Judged, type Sources, type Told, type UnitId } from '@keen-mortar/core';
import * as z from 'zod';
import type { DecisionView, FindingView } from './findings.js';
import type { Item } from './items.js';
import {
  materialRole,
  type Accepted,
  type FoundBy,
  type Look,
  type Mix,
  type MixHead,
  type Project,
  type Revision,
  type SourceNow,
  type Specification,
} from './office.js';
import type { OwnCopy, OwnOfTest } from './own-copies.js';
import { answering, day, id, instant, issuedCode, name, short, written } from './parts.js';
import type { Equipment } from './kit.js';
import { decimalText, massQuantityUnits, percent, positiveText, volumeQuantity, waterQuantity, type Amount } from './quantities.js';

export const newPour = z.strictObject({ ...written, projectId: id, mixId: id, name, element: name, on: day, planned: volumeQuantity });

export const newLoad = z.strictObject({
  ...written,
  ...answering,
  number: z.int().min(1).max(9999),
  ticket: short,
  truck: short,
  plant: short.optional(),
  batchedAt: instant,
  design: volumeQuantity,
  materials: z
    .array(
      z
        .strictObject({
          name,
          role: materialRole,
          target: positiveText.optional(),
          actual: decimalText.refine((t) => Number(t) >= 0, 'zero or more'),
          unit: z.enum(['g', 'kg', 'lb', 'L', 'gal', 'mL', 'floz']),
          moisture: percent.optional(),
          absorption: percent.optional(),
        })
        .refine((m) => massQuantityUnits.has(m.unit) || m.role === 'water' || m.role === 'admixture', {
          error: 'only water and admixtures are measured in litres or gallons',
          path: ['unit'],
        }),
    )
    .min(1)
    .max(30),
});

export const newWater = z.strictObject({ ...written, ...answering, mass: waterQuantity, at: instant });

/** The part of the discharge that a portion was taken from. */
const portionPart = z.enum(Object.keys(PORTION_PARTS) as [keyof typeof PORTION_PARTS, ...(keyof typeof PORTION_PARTS)[]]);
export const newSample = z.strictObject({
  ...written,
  loadId: id,
  firstPortionAt: instant,
  part: portionPart.default('middle'),
  code: issuedCode.optional(),
});

export const sampleEventKind = z.enum(['portion', 'finished', 'molding', 'discharged']);
export const newSampleEvent = z.strictObject({
  ...written,
  ...answering,
  kind: sampleEventKind,
  at: instant,
  part: portionPart.optional(),
});

export const newTest = z.strictObject({
  ...written,
  method: z.string().max(40),
  variant: z.string().max(40),
  variantReason: z.string().trim().max(400).optional(),
  system: z.enum(['si', 'us']),
  startedAt: instant,
  equipmentId: id.nullable(),
  /** Other equipment that is used beside it: one of each kind that the method asks for. */
  alsoIds: z.array(id).max(8).default([]),
  /** Why any of it is used although it is past its calibration, never had one, or was found wrong. */
  kitReason: z.string().trim().min(3).max(400).optional(),
  retestOf: id.nullable(),
});

const LONGEST_FIGURE = 40;

/** Longest text of a reading in words, and of a note. */
const LONGEST_WORDS = 200;
export const LONGEST_TEXT = 1000;

export const keptReading = z
  .strictObject({
    id,
    /** Path of what was read: `full`, a row’s by the row’s id: `sieves.k3f.retained`. */
    field: z.string().max(120),
    /** Null strikes out what is there: a row, or a value that should not be. */
    text: z.string().trim().min(1).max(LONGEST_TEXT).nullable(),
    unit: z.string().refine(isUnit, 'a unit').nullable(),
    at: instant,
    supersedes: id.optional(),
    reason: z.string().trim().min(3).max(400).optional(),
    /** The instrument that it was taken from, by the id that it gives itself; by hand where none is named. */
    device: z
      .string()
      .regex(/^[a-z0-9-]{1,20}$/)
      .optional(),
  })
  .refine((r) => (r.text ?? '').length <= (isNote(r.field) ? LONGEST_TEXT : LONGEST_WORDS), {
    error: `at most ${LONGEST_WORDS} characters`,
    path: ['text'],
  })
  // A figure is short; what is said in words may be longer.
  .refine((r) => r.unit === null || (r.text ?? '').length <= LONGEST_FIGURE, {
    error: `at most ${LONGEST_FIGURE} characters`,
    path: ['text'],
  });

/** Readings of one keep: a pasted table of two hundred rows is one. */
const MOST_KEPT = 2000;

export const keep = z.strictObject({
  ...written,
  known: answering.known,
  /** None, where the record gives all that the test asks. */
  readings: z.array(keptReading).max(MOST_KEPT),
  /** What the page showed, by result: the person is told when the server reports another digit. */
  shown: z.record(z.string().max(40), z.string().max(60)).default({}),
});
export type Keep = z.infer<typeof keep>;

/** What is said of a file that is sent: the file itself is the body. */
export const newFile = z.strictObject({ ...written, name: z.string().trim().min(1).max(200) });

export const keying = z.strictObject({ by: id, testId: id, method: z.string().max(40) });

export type NewTest = z.infer<typeof newTest>;
/** As it is sent: what is usual may be left out. */
export type SentTest = z.input<typeof newTest>;
export type NewLoad = z.infer<typeof newLoad>;
export type NewPour = z.infer<typeof newPour>;
export type NewSample = z.input<typeof newSample>;
export type NewSampleEvent = z.infer<typeof newSampleEvent>;
export type SampleEventKind = z.infer<typeof sampleEventKind>;

/** What the server answers with. */
export interface Person {
  readonly id: string;
  readonly name: string;
  readonly role: string;
}

export interface Pour extends Omit<z.infer<typeof newPour>, 'by'> {
  readonly mixCode: string;
  readonly mixName: string;
  /** As it was while it was placed, in words; null where nobody said. */
  readonly weather: string | null;
  readonly loads: number;
  readonly samples: number;
  readonly out: number;
}

export interface WaterAddition {
  readonly id: string;
  readonly mass: Amount;
  readonly at: string;
  readonly by: string;
}

export interface Load extends Omit<NewLoad, 'by' | 'reason' | 'known'> {
  readonly pourId: string;
  readonly revisionId: string;
  readonly revision: number;
  readonly water: readonly WaterAddition[];
  /** Made by mistake: it counts for nothing, and stays. */
  readonly voided: boolean;
}

/** One mark on the pour's list: a property of the load and where it stands. */
export interface Mark {
  readonly method: string;
  readonly result: string;
  readonly label: string;
  readonly state: string;
  readonly validity: string;
  readonly reported: string | null;
  readonly unit: string;
  /** On which side of its limit it lies, where it is out. */
  readonly side?: 'lower' | 'upper';
}

export interface SampleSummary {
  readonly id: string;
  readonly label: string;
  readonly loadId: string;
  readonly createdAt: string;
  readonly by: string;
  readonly marks: readonly Mark[];
  readonly voided: boolean;
}

export interface PourDetail extends Pour {
  /** When this was read, by the server's clock: what its reader knows of the record. */
  readonly readAt: string;
  readonly project: Project;
  readonly mix: Mix;
  readonly specifications: readonly Specification[];
  readonly loadList: readonly Load[];
  readonly sampleList: readonly SampleSummary[];
  /** What several things on record mean together: of the pour, its loads and their samples. */
  readonly findings: readonly FindingView[];
  /** Loads that were drawn at random to be sampled, and spares; null where none were. */
  readonly drawn: { readonly loads: readonly number[]; readonly spares: readonly number[] } | null;
}

export interface SampleEvent {
  readonly id: string;
  readonly kind: SampleEventKind;
  readonly at: string;
  readonly part: string | null;
}

export interface Reading {
  readonly id: string;
  readonly field: string;
  /** Null where it strikes out what was there. */
  readonly text: string | null;
  readonly unit: UnitId | null;
  readonly by: string;
  readonly at: string;
  readonly receivedAt: string;
  readonly device: string;
  readonly supersedes: string | null;
  readonly reason: string | null;
}

export interface Kept {
  readonly turn: number;
  readonly coreVersion: string;
  readonly computedAt: string;
  readonly inputs: Readonly<Record<string, unknown>>;
  readonly evaluation: Evaluation;
  readonly judged: readonly Judged[];
  /** Why it was worked out again, where nobody kept a reading of the test itself. */
  readonly cause: string | null;
  /** Everything worth saying about it, each with what to do next. */
  readonly guidance: readonly Told[];
}

export interface Test extends Omit<NewTest, 'by' | 'variantReason' | 'alsoIds' | 'kitReason'> {
  readonly by: string;
  readonly variantReason: string | null;
  readonly readings: readonly Reading[];
  /** What other tests give to it. */
  readonly given: GivenTo;
  /** So much stood on something that was changed that it is still being worked out again. */
  readonly again: boolean;
  /** The lab’s own figures that it was started by; null: as printed. */
  readonly own: OwnOfTest | null;
  /** The equipment as it was when the test was started. */
  readonly kit: Equipment | null;
  /** And what was used beside it. */
  readonly also: readonly Equipment[];
  readonly kitReason: string | null;
  /** The newest evaluation; older ones stay in the table. */
  readonly kept: Kept | null;
}

/** What other tests give to one, and which they are. */
export interface GivenTo {
  readonly sources: Sources;
  /** Of its mix or source: the tests that it took it of, by what they give. */
  readonly took: Readonly<Record<string, string>>;
  readonly from: readonly {
    readonly source: string;
    readonly testId: string;
    readonly itemId: string;
    readonly code: string;
    readonly method: string;
  }[];
}

/** What stands around the tests of an item: all that they are worked out from. */
export interface Around {
  readonly project: Project;
  /** The load that it was taken from, and the revision of the mix that was in force; null where there is none. */
  readonly load: Load | null;
  readonly revision: Revision | null;
  readonly specifications: readonly Specification[];
  readonly kit: readonly Equipment[];
  /** The lab’s own copies that are in force, or will be. */
  readonly ownCopies: readonly OwnCopy[];
  readonly sources: Sources;
  /** What other tests would give to one of each method that was started now, where they give anything. */
  readonly given: Readonly<Record<string, GivenTo>>;
  readonly events: readonly SampleEvent[];
  readonly tests: readonly Test[];
  /** The newest results of each property of the same mix or source, oldest first, this item's left out. */
  readonly history: Readonly<Record<string, readonly HistoryPoint[]>>;
}

/** A picture or a paper of an item. */
export interface FileInfo {
  readonly id: string;
  readonly itemId: string;
  readonly by: string;
  readonly at: string;
  readonly name: string;
  readonly type: 'image/jpeg' | 'image/png' | 'application/pdf';
  readonly bytes: number;
  /** Of a picture. */
  readonly size: { readonly width: number; readonly height: number } | null;
}

/** An item with everything around it that its sheet and its evaluations need. */
export interface Sheet extends Around {
  /** When this was read, by the server's clock: what its reader knows of the record. */
  readonly readAt: string;
  readonly item: Item;
  /** What it lies in, the top first, and itself. */
  readonly line: readonly Item[];
  readonly children: readonly Item[];
  /** Of a field sample every portion that was cut from it, and from those; with the methods of the tests made on each. */
  readonly cut: readonly { readonly item: Item; readonly methods: readonly string[] }[];
  /** What was keyed of it, and by whom. */
  readonly entries: readonly Reading[];
  readonly files: readonly FileInfo[];
  /** How many tests that stood on it are still being worked out again, and of how many. */
  readonly again: { readonly left: number; readonly of: number } | null;
  readonly mix: MixHead | null;
  /** What several things on record mean together: of it, and of what it lies in. */
  readonly findings: readonly FindingView[];
  /** What was decided of any of these. */
  readonly decisions: readonly DecisionView[];
}

/** A sample of fresh concrete, as the sheet of a pour shows it. */
export interface Sample extends Around {
  /** When this was read, by the server's clock: what its reader knows of the record. */
  readonly readAt: string;
  readonly id: string;
  readonly label: string;
  readonly createdAt: string;
  readonly by: string;
  readonly pour: Pour;
  readonly mix: MixHead;
  readonly revision: Revision;
  readonly load: Load;
  /** What it lies in, the top first, and itself. */
  readonly line: readonly Item[];
  /** What several things on record mean together: of it, and of what it lies in. */
  readonly findings: readonly FindingView[];
  readonly decisions: readonly DecisionView[];
}

export interface HistoryPoint {
  readonly sample: string;
  readonly load: number;
  readonly reported: string;
  readonly unit: UnitId;
  readonly state: string;
  readonly at: string;
}

/** Where one result of a mix or a source stood. */
export interface TrendPoint {
  readonly itemId: string;
  readonly testId: string;
  readonly code: string;
  readonly at: string;
  readonly reported: string;
  readonly unit: UnitId;
  readonly state: string;
}

/** What was found of a property, the oldest first. */
export interface Trend {
  readonly property: string;
  readonly points: readonly TrendPoint[];
}

/** A source as it was known at a moment: what was found of it, what it must meet, and which mixes stand on it. */
export interface SourceSheet {
  readonly item: Item;
  /** What a revision of a mix would take of it then, and a trial batch. */
  readonly gravity: SourceNow['gravity'];
  readonly absorption: SourceNow['gravity'];
  /** What makes these count; null where the newest does, because nobody has accepted any. */
  readonly accepted: Accepted | null;
  /** What was found last, where that is not what counts. */
  readonly newer: { readonly gravity: SourceNow['gravity']; readonly absorption: SourceNow['gravity'] } | null;
  readonly specifications: readonly Specification[];
  readonly trends: readonly Trend[];
  /** The newest samples of it. */
  readonly samples: readonly Item[];
  readonly usedBy: readonly {
    readonly mixId: string;
    readonly code: string;
    readonly name: string;
    readonly revision: number;
    readonly from: string;
    /** The gravity that it stands on. */
    readonly sg: string;
    readonly sgTest: FoundBy | null;
    /** The aggregate correction factor that its revision was given. */
    readonly correction: string | null;
    readonly looks: readonly Look[];
    /** The last trial batch of it. */
    readonly trial: { readonly id: string; readonly code: string; readonly at: string } | null;
  }[];
}

export interface KeepAnswer {
  readonly test: Test;
  /** Results whose digits on the page were not those of the server. */
  readonly differs: readonly { readonly result: string; readonly shown: string; readonly kept: string }[];
}
