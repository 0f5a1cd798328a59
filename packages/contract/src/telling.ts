import {
  adviseAtPress,
  COMPRESSIVE,
  EARLY_AT_DAYS,
  oddOneOut,
  type Keyed,
  type PressAdvice,
  type System,
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
    specified: beside.accepted.specified,
    school: beside.accepted.school,
    before: beside.before,
    earlier: beside.earlier,
    companions: (test?.specimens ?? []).filter((s) => s.left === null).flatMap((s) => keyed(s.reported, s.unit)),
    // One that was broken otherwise is none of them.
    planned: beside.companions.filter(
      (c) => c.ageDays === ageDays && c.became === null && (c.broken === null || test?.specimens.some((s) => s.id === c.id)),
    ).length,
    mean: test?.reported ?? null,
    pairs: beside.pairs,
    early: early && ageDays !== EARLY_AT_DAYS ? (keyed(early.reported, early.unit)[0] ?? null) : null,
  });
}

/** Whether concrete is accepted by it: split or bent it never is. */
export const isForAcceptance = (
  { accepted }: Pick<BreakBeside, 'accepted'>,
  { property, ageDays }: Pick<StrengthTestView, 'property' | 'ageDays'>,
): boolean => ageDays === accepted.ageDays && COMPRESSIVE.includes(property);

/** Of companions that are too far apart the one that differs, and what the record says of it alone. */
export const oddOf = (test: StrengthTestView): ReturnType<typeof oddOneOut> =>
  test.apart
    ? oddOneOut(
        test.specimens
          .filter((s) => s.left === null && s.reported !== null)
          .map((s) => ({ ...s, strength: Number(s.reported), density: s.density === null ? null : Number(s.density) })),
      )
    : null;
