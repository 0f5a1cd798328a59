import type { OwnFigures } from '@keen-mortar/core';
import * as z from 'zod';
import { id, instant, written } from './parts.js';

/** No variant has as many figures. */
const MOST_FIGURES = 400;

/** A lab’s own figures of a variant, from a moment on; without any it is done as printed again. */
export const newOwnCopy = z.strictObject({
  ...written,
  projectId: id,
  method: z.string().max(40),
  variant: z.string().max(40),
  /** From when it is done so; at once, where it is not said. */
  from: instant.optional(),
  why: z.string().trim().min(3).max(400),
  figures: z
    .record(z.string().max(120), z.string().trim().max(40))
    .refine((figures) => Object.keys(figures).length <= MOST_FIGURES, `at most ${MOST_FIGURES} figures`),
});
export type NewOwnCopy = z.infer<typeof newOwnCopy>;

/** Never changed: a later one takes its place. */
export interface OwnCopy extends Omit<NewOwnCopy, 'from'> {
  readonly from: string;
  readonly madeAt: string;
}

/** Those that a test was made by, as it keeps them. */
export type OwnOfTest = { readonly id: string; readonly why: string; readonly figures: OwnFigures };

type Of = Pick<OwnCopy, 'method' | 'variant'>;

/** The one of a variant that is in force at a moment (ISO): the newest by then. */
export const ownCopyAt = (copies: readonly OwnCopy[], of: Of, at: string): OwnCopy | null =>
  copies
    .filter((c) => c.method === of.method && c.variant === of.variant && Date.parse(c.from) <= Date.parse(at))
    .reduce<OwnCopy | null>((newest, c) => (newest === null || newer(c, newest) ? c : newest), null);

const newer = (a: OwnCopy, b: OwnCopy): boolean =>
  Date.parse(a.from) > Date.parse(b.from) || (Date.parse(a.from) === Date.parse(b.from) && a.madeAt > b.madeAt);
