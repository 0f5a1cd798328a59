import type { BrokenSpecimen, NotCounting, UnitId } from '@keen-mortar/core';

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
