import { exact, fixed, ratio } from '../numbers/exact.js';
import { companions } from '../methods/acceptance/companions.js';
import { cubeSet } from '../methods/compression/compression.js';
import type { AnyInputs, AnyMethod, ResultField } from '../methods/definition.js';
import { evaluate } from '../methods/evaluate.js';
import { countsFor, type Code } from '../problems.js';
import { convert, type System, type UnitId } from '../units/units.js';
import type { Keyed } from '../units/reading.js';
import type { DecisionId } from './decisions.js';
import type { SchoolId } from './schools.js';

/** What concrete is accepted by. */
export const COMPRESSIVE: readonly string[] = ['strength', 'cube-strength'];

/** The property that a test finds: its main result's. */
export const foundBy = (m: AnyMethod): string | undefined =>
  Object.values(m.results as Readonly<Record<string, ResultField>>).find((r) => r.main)?.property;

/** At this age a strength is accepted or refused where nothing else is said, d. */
export const ACCEPTED_AT_DAYS = 28;

/** From a strength at this age that at the age of acceptance is foretold, d. */
export const EARLY_AT_DAYS = 7;

/** A specimen that was broken at an age, with what stands on its result. */
export interface Broken {
  readonly property: string;
  readonly value: Keyed;
  readonly void: boolean;
  readonly remarks: readonly Code[];
  /** Why it is left out of the mean; null: it counts. */
  readonly left: string | null;
}

/** What a strength test is of. */
export interface OfSet {
  readonly shape: string | undefined;
  /** Nominal diameter or width, mm; null where nobody said. */
  readonly width: number | null;
  readonly cured: string | undefined;
  /** Molded in the laboratory, of a trial batch. */
  readonly laboratory: boolean;
  readonly system: System;
  /** By whose rules it is accepted. */
  readonly school?: SchoolId;
}

/** Mean of the companions of a set at an age. */
export interface StrengthTest {
  readonly unit: UnitId;
  /** Unrounded, and as it is reported; null where none counts. */
  readonly mean: string | null;
  readonly reported: string | null;
  readonly count: number;
  /** Of the mean, %; null below two. */
  readonly range: string | null;
  /** As far apart as they may be, %; null where none is in print. */
  readonly most: string | null;
  readonly apart: boolean;
  /** Whether it counts for acceptance, and if not why. */
  readonly not: NotCounting | null;
}

/** `off-age` and `waits` wait until somebody decided. */
export type NotCounting = 'trial' | 'field' | 'off-age' | 'few' | 'remark' | 'void' | 'waits' | 'decided';

const LARGE_MM = 150;

/** So many companions make a strength test: ASTM C31/C31M and ACI 318 for cylinders; of others two. */
export const companionsAsked = ({ shape, width }: Pick<OfSet, 'shape' | 'width'>): number =>
  (shape === 'cylinder' && (width === null || width < LARGE_MM)) || shape === 'core' ? 3 : 2;

/** By how far companions may be apart: the variant of its method; null where none is in print. */
function variantOf({ shape, width, laboratory }: OfSet, property: string): string | null {
  if (property === 'splitting') return 'splitting';
  if (property === 'flexure') return 'flexure';
  if (shape !== 'cylinder') return null;
  if (width !== null && width >= LARGE_MM) return laboratory ? 'lab-6x12' : 'field-6x12';
  return 'lab-4x8';
}

/** IS 516: one of three cubes further than 15 % from their mean voids the set. */
function isScattered(set: OfSet, property: string, counted: readonly Broken[]): boolean {
  if (set.school !== 'is' || property !== 'cube-strength') return false;
  const inputs = { cubes: counted.map(({ value }) => ({ strength: value })) } as unknown as AnyInputs;
  return evaluate(cubeSet, inputs, { variant: 'is', system: 'si', offers: false }).validity.state === 'void';
}

/**
 * Of what broke at one age: the mean of those that count, and how far they are apart.
 * @param all of one property, in one dimension
 * @param decided what somebody decided of it; null while nobody has
 */
export function strengthTestOf(set: OfSet, all: readonly Broken[], decided: DecisionId | null = null): StrengthTest {
  const counted = all.filter((b) => !b.void && b.left === null);
  const unit: UnitId = set.system === 'us' ? 'psi' : 'MPa';
  const property = all[0]?.property ?? 'strength';
  const named = variantOf(set, property);
  const variant = named ?? 'lab-4x8';
  const inputs = { companions: counted.map(({ value }) => ({ strength: value })) } as unknown as AnyInputs;
  const e = counted.length < 2 ? null : evaluate(companions, inputs, { variant, system: set.system, offers: false });
  const of = (id: string) => e?.results.find((r) => r.id === id && r.state === 'given');
  const [first] = counted;
  const single = counted.length === 1 ? convert(exact(first!.value.text), first!.value.unit, unit) : null;
  const { most } = companions.variants[variant]!.params;
  const apart = named !== null && (e?.validity.reasons.some(({ code }) => code === 'companions-apart') ?? false);
  return {
    unit,
    mean: (single && ratio(single)) ?? of('mean')?.exact ?? null,
    reported: single
      ? first!.value.unit === unit
        ? first!.value.text
        : fixed(single, unit === 'psi' ? 0 : 1)
      : (of('mean')?.reported ?? null),
    count: counted.length,
    range: of('range')?.reported ?? null,
    most: named === null ? null : (most[String(counted.length)] ?? null),
    apart,
    not: notCounting(set, counted, apart || isScattered(set, property, counted) ? (apart ? 'apart' : 'void') : null, decided),
  };
}

/** Standard-cured, at its age, of enough companions, and nothing on them that rules it out, or that nobody has decided on yet. */
function notCounting(
  set: OfSet,
  counted: readonly Broken[],
  together: 'apart' | 'void' | null,
  decided: DecisionId | null,
): NotCounting | null {
  if (set.cured === 'field') return 'field';
  if (set.laboratory) return 'trial';
  if (counted.length < companionsAsked(set)) return 'few';
  if (together === 'void') return 'void';
  const remarks = counted.flatMap((b) => b.remarks);
  if (remarks.some((code) => countsFor(code) === 'no')) return 'remark';
  const offAge = remarks.includes('outside-age-window');
  if (together === null && !offAge && !remarks.some((code) => countsFor(code) === 'ask')) return null;
  if (decided !== null) return decided === 'counts' ? null : 'decided';
  return offAge ? 'off-age' : 'waits';
}

/** Why a strength test is not for acceptance, in words. */
export const NOT_COUNTING: Readonly<Record<NotCounting, string>> = {
  trial: 'of a trial batch',
  field: 'cured with the structure',
  'off-age': 'broken outside its window, and nobody has decided that it counts',
  few: 'fewer companions than a strength test takes',
  remark: 'a remark that rules it out stands on one of them',
  void: 'one of the cubes is too far from their mean: the set gives no strength',
  waits: 'a remark stands on it, and nobody has decided whether it counts',
  decided: 'somebody decided that it does not count',
};

/** Nobody has decided yet whether it counts. */
export const waitsForDecision = (not: NotCounting | null): boolean => not === 'waits' || not === 'off-age';
