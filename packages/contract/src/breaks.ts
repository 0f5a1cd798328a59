import type { AnyInputs, BrokenSpecimen, Fit, Keyed } from '@keen-mortar/core';
import type { FindingView } from './findings.js';
import type { Item } from './items.js';
import type { StrengthTestView } from './strengths.js';
import type { Acceptance } from './views.js';

/** Specimens of a set that are broken together, as they wait. */
export interface BreakDue {
  readonly setId: string;
  readonly setCode: string;
  readonly where: string;
  readonly mix: string | null;
  readonly ageDays: number;
  readonly window: string;
  readonly opensAt: string;
  readonly endsAt: string | null;
  /** With the structure, or as the method asks. */
  readonly cured: string | null;
  readonly shape: string | null;
  /** How many of this age there are in all. */
  readonly of: number;
  readonly specimens: readonly { readonly id: string; readonly code: string }[];
  readonly plannedAt: string | null;
  readonly who: string | null;
  readonly fit: Fit | null;
}

/** A specimen that was broken today. */
export interface BrokeToday extends BrokenSpecimen {
  readonly setId: string;
}

/** A tank or a moist room, and what it was found at last. */
export interface CuringPlace {
  readonly id: string;
  readonly name: string;
  readonly testId: string | null;
  readonly reported: string | null;
  readonly unit: string | null;
  readonly at: string | null;
  readonly state: string;
}

export interface BreaksView {
  readonly now: string;
  readonly timezone: string;
  readonly queue: readonly BreakDue[];
  readonly today: readonly BrokeToday[];
  readonly places: readonly CuringPlace[];
  /** There are more than are shown. */
  readonly more: boolean;
}

/** A specimen as its set knows it. */
export interface Companion {
  readonly id: string;
  readonly code: string;
  readonly ageDays: number | null;
  /** Lost or damaged before it could be broken. */
  readonly became: string | null;
  readonly broken: BrokenSpecimen | null;
}

/** A 7-day strength test with what the same concrete gave at the age of acceptance. */
export interface StrengthPair {
  readonly early: Keyed;
  readonly late: Keyed;
}

/** All that stands beside a specimen while it is broken. */
export interface BreakBeside {
  readonly set: Pick<Item, 'id' | 'code' | 'at'> & { readonly facts: AnyInputs };
  readonly companions: readonly Companion[];
  readonly tests: readonly StrengthTestView[];
  readonly mix: { readonly id: string; readonly name: string } | null;
  /** By what it is accepted. */
  readonly accepted: Acceptance;
  /** Strengths of its mix at that age that count, before it, the oldest first; and the last of them as they were broken. */
  readonly before: readonly Keyed[];
  /** So many count before those. */
  readonly earlier: number;
  readonly recent: readonly StrengthTestView[];
  readonly pairs: readonly StrengthPair[];
  /** What several things on record mean together of the set and of what it lies in. */
  readonly findings: readonly FindingView[];
}
