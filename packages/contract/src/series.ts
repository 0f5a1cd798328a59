import type { Keyed, NotCounting, PracticeId, System, Trait } from '@keen-mortar/core';
import type { FindingView } from './findings.js';
import type { StrengthPair } from './breaks.js';
import type { Acceptance } from './views.js';

/** A strength test of a mix, with what the record says of how it came about. */
export interface SeriesLine {
  readonly setId: string;
  readonly code: string;
  readonly castAt: string;
  readonly strength: Keyed;
  readonly companions: readonly Keyed[];
  readonly range: string | null;
  readonly apart: boolean;
  readonly notFor: NotCounting | null;
  /** Ids of its traits. */
  readonly traits: readonly string[];
}

/** A set whose age of acceptance is still to come. */
export interface StillToBreak {
  readonly setId: string;
  readonly code: string;
  readonly castAt: string;
  readonly dueAt: string;
  readonly early: Keyed | null;
}

/** Specimens that lay with the structure, beside those of the same concrete that were cured as the method asks. */
export interface FieldCured {
  readonly setId: string;
  readonly code: string;
  readonly castAt: string;
  readonly ageDays: number;
  readonly strength: Keyed;
  readonly standard: Keyed | null;
}

/** The strength tests of a mix at the age of acceptance, the newest of them, the oldest first. */
export interface MixSeries {
  readonly mix: { readonly id: string; readonly code: string; readonly name: string };
  readonly project: { readonly timezone: string; readonly system: System; readonly practice: PracticeId };
  /** By what it is accepted, at the age that this series is of. */
  readonly accepted: Acceptance;
  /** Each age at which something is accepted, the youngest first: a series of its own. */
  readonly ages: readonly number[];
  readonly tests: readonly SeriesLine[];
  /** What is found of it at that age. */
  readonly findings: readonly FindingView[];
  /** How many there are in all. */
  readonly total: number;
  /** So many count before those. */
  readonly earlier: number;
  readonly traits: readonly Trait[];
  readonly waiting: readonly StillToBreak[];
  readonly pairs: readonly StrengthPair[];
  readonly field: readonly FieldCured[];
}

/** All of a long series that counts, as columns: moments (ms) and strengths as they were reported. */
export interface WholeSeries {
  readonly unit: string;
  readonly at: readonly number[];
  readonly strength: readonly string[];
}
