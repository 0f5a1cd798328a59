import {
  ACCEPTED_AT_DAYS,
  adviseAtPress,
  EARLY_AT_DAYS,
  oddOneOut,
  unitLabel,
  whoMustBeTold,
  type Keyed,
  type PressAdvice,
  type System,
  type Telling,
  type UnitId,
} from '@keen-mortar/core';
import type { BreakBeside } from './breaks.js';
import type { StrengthTestView } from './strengths.js';

const keyed = (text: string | null, unit: UnitId): Keyed[] => (text === null ? [] : [{ text, unit }]);

/** What is known beside the strength test of an age: what it must reach, what is to be expected of it. */
export function adviceOf(beside: BreakBeside, ageDays: number, system: System): PressAdvice {
  const test = beside.tests.find((t) => t.ageDays === ageDays);
  const early = beside.tests.find((t) => t.ageDays === EARLY_AT_DAYS && t.reported !== null);
  return adviseAtPress({
    system,
    specified: beside.specified,
    before: beside.recent.flatMap((t) => keyed(t.reported, t.unit)),
    companions: (test?.specimens ?? []).filter((s) => s.left === null).flatMap((s) => keyed(s.reported, s.unit)),
    planned: beside.companions.filter((c) => c.ageDays === ageDays && c.became === null).length,
    mean: test?.reported ?? null,
    pairs: beside.pairs,
    early: early && ageDays !== EARLY_AT_DAYS ? (keyed(early.reported, early.unit)[0] ?? null) : null,
  });
}

/** Who must be told of a strength test; null where it is not low, or is not one for acceptance. */
export function tellingOf(beside: BreakBeside, test: StrengthTestView, system: System): Telling | null {
  const advice = adviceOf(beside, test.ageDays, system);
  if (test.ageDays !== ACCEPTED_AT_DAYS || test.notFor === 'field' || test.notFor === 'trial' || test.reported === null) return null;
  const whole = beside.companions.filter((c) => c.broken === null && c.became === null && c.ageDays === null);
  return whoMustBeTold({
    below: advice.below,
    reported: test.reported,
    unit: unitLabel(test.unit),
    specified: beside.specified?.text ?? '',
    floor: advice.floor ?? '',
    apart: test.apart,
    fractures: test.specimens.flatMap((s) => s.fracture ?? []),
    remarks: test.specimens.flatMap((s) => s.remarks),
    spares: whole.map((c) => c.code),
  });
}

/** Of companions that are too far apart the one that differs, and what the record says of it alone. */
export const oddOf = (test: StrengthTestView): ReturnType<typeof oddOneOut> =>
  test.apart
    ? oddOneOut(
        test.specimens
          .filter((s) => s.left === null && s.reported !== null)
          .map((s) => ({ ...s, strength: Number(s.reported), density: s.density === null ? null : Number(s.density) })),
      )
    : null;
