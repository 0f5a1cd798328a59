import { KIT_KINDS, KIT_VALUES, type Kit, type Source } from '@keen-mortar/core';
import * as z from 'zod';
import { day, id, instant, short, written, type Page } from './parts.js';
import { quantity, type Amount } from './quantities.js';

/* What is tested with: what is written of it, and what the server answers. */

const itemsOf = (which: 'own' | 'calibrated'): [Source, ...Source[]] =>
  KIT_KINDS.flatMap((kind) => KIT_VALUES[kind][which]) as [Source, ...Source[]];

export const newEquipment = z.strictObject({
  ...written,
  projectId: id,
  kind: z.enum(KIT_KINDS as [(typeof KIT_KINDS)[number], ...typeof KIT_KINDS]),
  name: short,
  values: z.array(z.strictObject({ item: z.enum(itemsOf('own')), value: quantity })).max(10),
});

/** What was read at a calibration: the server works out with it what was found. */
const workedValue = z.strictObject({
  item: z.enum(itemsOf('calibrated')),
  variant: z.string().max(40),
  system: z.enum(['si', 'us']),
  inputs: z.record(z.string().max(40), z.unknown()),
});

export const newCalibration = z.strictObject({
  ...written,
  on: day,
  values: z
    .array(z.strictObject({ item: z.enum(itemsOf('calibrated')), value: quantity }))
    .max(10)
    .default([]),
  worked: z.array(workedValue).max(4).default([]),
  /** The last day that the lab lets it hold; it may be earlier than the method’s, not later. */
  due: day.optional(),
  /** Why it is kept although a reading is unlikely. */
  reason: z.string().trim().min(3).max(400).optional(),
});

/** An instrument was found wrong: what was tested with it since a moment is in question. */
export const newKitFinding = z.strictObject({ ...written, since: instant, why: z.string().trim().min(3).max(400) });
export type NewKitFinding = z.infer<typeof newKitFinding>;
export type WorkedValue = z.infer<typeof workedValue>;

/** A calibration as it was made: what it found, and what that was worked out from. */
export interface Calibration {
  readonly id: string;
  readonly on: string;
  readonly until: string | null;
  readonly reason: string | null;
  readonly by: string;
  readonly values: readonly { readonly item: string; readonly value: Amount; readonly worked: Omit<WorkedValue, 'item'> | null }[];
}

/** A test that was made with an instrument. */
export interface KitTest {
  readonly testId: string;
  readonly itemId: string;
  readonly code: string;
  readonly method: string;
  readonly startedAt: string;
  /** What stands of it, where something does. */
  readonly says: string | null;
  readonly state: string | null;
}

/** An instrument with its calibrations, the newest first, and what was tested with it since the one in force. */
export interface KitSheet {
  readonly equipment: Equipment;
  readonly calibrations: readonly Calibration[];
  readonly since: string | null;
  /** When it was found wrong, the newest first. */
  readonly findings: readonly KitFinding[];
  readonly tests: Page<KitTest>;
}

export interface KitFinding {
  readonly id: string;
  readonly since: string;
  readonly at: string;
  readonly why: string;
  readonly by: string;
}

export interface Equipment extends Kit {
  readonly projectId: string;
}
