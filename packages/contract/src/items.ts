import { ITEM_KIND_IDS, ITEM_KINDS, type AnyInputs, type ItemKind } from '@keen-mortar/core';
import * as z from 'zod';
import { inputsSchema, moment } from './inputs.js';
import { answering, day, id, issuedCode, name, written } from './parts.js';

const base = {
  ...written,
  projectId: id,
  parentId: id.nullable(),
  name: name.optional(),
  on: day.optional(),
  /** The mix, or the source, that it is made of; of what lies in another item, that one’s. */
  subjectId: id.optional(),
  /** Where people number it themselves: a load. */
  number: z.int().min(1).max(9999).optional(),
  /** How the device called it that made it without a network. */
  code: issuedCode.optional(),
  ...answering,
};

/** What is asked of a new item: its place in the tree, and its kind’s own facts. */
export const newItem = z.discriminatedUnion(
  'kind',
  ITEM_KIND_IDS.map((kind) => z.strictObject({ ...base, kind: z.literal(kind), facts: inputsSchema(ITEM_KINDS[kind].facts) })) as never,
) as unknown as z.ZodType<NewItem>;

export interface NewItem {
  readonly id: string;
  readonly by: string;
  readonly kind: ItemKind;
  readonly projectId: string;
  readonly parentId: string | null;
  readonly name?: string;
  readonly on?: string;
  readonly subjectId?: string;
  readonly number?: number;
  readonly code?: string;
  readonly facts: AnyInputs;
  readonly reason?: string | undefined;
  readonly known?: string | undefined;
}

/** Taken back, or put right again: with a reason, as everything that is amended. */
export const voiding = z.strictObject({ ...written, voided: z.boolean(), reason: z.string().trim().min(3).max(400), at: moment });
export type Voiding = z.infer<typeof voiding>;

export interface Item {
  readonly id: string;
  readonly kind: ItemKind;
  readonly projectId: string;
  readonly parentId: string | null;
  /** What it lies in, in a list. */
  readonly parentCode?: string;
  readonly number: number;
  readonly code: string;
  readonly name: string | null;
  readonly on: string;
  readonly at: string;
  readonly by: string;
  readonly subjectId: string | null;
  readonly revisionId: string | null;
  readonly facts: AnyInputs;
  /** Where what was kept has a reason, by its path on record. */
  readonly answered: readonly string[];
  readonly voided: boolean;
  /** Items in it, those of them that have something out, and the samples below it. */
  readonly children: number;
  readonly outs: number;
  readonly samples: number;
  /** What needs attention first of what was found on it; null while nothing was. */
  readonly worst: string | null;
}
