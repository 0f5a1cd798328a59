import {
  ACCEPTED_AT_DAYS,
  adviseAtPress,
  COMPRESSIVE,
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
export function adviceOf(
  beside: BreakBeside,
  { property, ageDays }: Pick<StrengthTestView, 'property' | 'ageDays'>,
  system: System,
): PressAdvice {
  const at = (days: number) => beside.tests.find((t) => t.ageDays === days && t.property === property);
  const [test, early] = [at(ageDays), at(EARLY_AT_DAYS)];
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

/** Whether concrete is accepted by it: split or bent it never is. */
export const isForAcceptance = ({ property, ageDays }: Pick<StrengthTestView, 'property' | 'ageDays'>): boolean =>
  ageDays === ACCEPTED_AT_DAYS && COMPRESSIVE.includes(property);

/** Who must be told of a strength test; null where it is not low, or is not one for acceptance. */
export function tellingOf(beside: BreakBeside, test: StrengthTestView, system: System): Telling | null {
  const advice = adviceOf(beside, test, system);
  if (!isForAcceptance(test) || test.notFor === 'field' || test.notFor === 'trial' || test.reported === null) return null;
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
