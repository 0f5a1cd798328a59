import type { NotCounting, UnitId } from '@keen-mortar/core';

/** A specimen that was broken, with what its strength test needs of it. */
export interface BrokenSpecimen {
  readonly id: string;
  readonly code: string;
  readonly testId: string;
  readonly method: string;
  /** As it is reported; null where it is void. */
  readonly reported: string | null;
  readonly unit: UnitId;
  readonly at: string;
  readonly by: string;
  readonly validity: 'valid' | 'marked' | 'void';
  /** Codes of what stands on its result. */
  readonly remarks: readonly string[];
  /** Why it is left out of the mean. */
  readonly left: string | null;
  readonly fracture: string | null;
  /** As it is reported, where it was weighed. */
  readonly density: string | null;
  /** What it was broken with. */
  readonly kit: readonly string[];
}

/** What broke of a set at an age, as it stands now. */
export interface StrengthTestView {
  readonly setId: string;
  readonly code: string;
  readonly property: string;
  readonly ageDays: number;
  readonly castAt: string;
  readonly brokenAt: string;
  readonly unit: UnitId;
  /** Unrounded, a decimal or a ratio. */
  readonly mean: string | null;
  readonly reported: string | null;
  readonly count: number;
  readonly planned: number;
  readonly range: string | null;
  readonly most: string | null;
  readonly apart: boolean;
  readonly notFor: NotCounting | null;
  readonly specimens: readonly BrokenSpecimen[];
}
