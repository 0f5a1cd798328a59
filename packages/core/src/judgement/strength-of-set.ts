import type { ResultField } from '../methods/definition.js';
import { exact } from '../numbers/exact.js';
import type { Code } from '../problems.js';
import { convert, type UnitId } from '../units/units.js';
import { daysOf } from '../time/dues.js';
import type { Keyed } from '../units/reading.js';
import { decisionOn, type Decision } from './decisions.js';
import { factOf, type LineItem, type LineTest } from './findings/line.js';
import { foundBy, strengthTestOf, type Broken, type OfSet, type StrengthTest } from './strength-test.js';

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
export interface StrengthOfSet {
  readonly property: string;
  readonly ageDays: number;
  readonly brokenAt: string;
  /** Specimens of its age that were not broken otherwise. */
  readonly planned: number;
  readonly test: StrengthTest;
  readonly specimens: readonly BrokenSpecimen[];
}

/** The kind of finding that a decision on a strength test stands on. */
export const STRENGTH_FINDING = 'strength-test';

/** Which strength test of a set: `strength@28`. */
export const partOf = ({ property, ageDays }: Pick<StrengthOfSet, 'property' | 'ageDays'>): string => `${property}@${ageDays}`;

const DAY = 86_400_000;

/** What is known of a set of specimens that its strength is judged by. */
export function ofSet(set: Pick<LineItem, 'facts'>, about: Pick<OfSet, 'laboratory' | 'system' | 'school'>): OfSet {
  const width = factOf<Keyed>(set, 'width');
  return {
    ...about,
    shape: factOf<string>(set, 'shape'),
    width: width ? convert(exact(width.text), width.unit, 'mm').valueOf() : null,
    cured: factOf<string>(set, 'curing'),
  };
}

/**
 * The strength tests of a set: for each property and age what broke of it. A specimen without an age was a spare: the age at which
 * it was broken counts, in whole days.
 * @param specimens of the set, those taken back left out
 */
export function strengthsOfSet(
  set: LineItem,
  specimens: readonly LineItem[],
  tests: readonly LineTest[],
  about: Pick<OfSet, 'laboratory' | 'system' | 'school'>,
  decisions: readonly Decision[],
): StrengthOfSet[] {
  const groups = new Map<string, { property: string; ageDays: number; all: { specimen: BrokenSpecimen; counts: Broken }[] }>();
  for (const test of tests) {
    const specimen = specimens.find((s) => s.id === test.itemId);
    const found = specimen && brokenOf(specimen, test);
    if (!found) continue;
    const ageDays = daysOf(factOf(specimen, 'age')) ?? Math.round((Date.parse(test.startedAt) - Date.parse(set.at)) / DAY);
    const key = partOf({ property: found.counts.property, ageDays });
    const group = groups.get(key) ?? { property: found.counts.property, ageDays, all: [] };
    // Broken twice it cannot be: the later one stands.
    group.all = [...group.all.filter((b) => b.specimen.id !== specimen.id), found];
    groups.set(key, group);
  }
  const otherwise = (id: string, property: string): boolean =>
    [...groups.values()].some((g) => g.property !== property && g.all.some((b) => b.specimen.id === id));
  return [...groups].map(([part, { property, ageDays, all }]): StrengthOfSet => ({
    property,
    ageDays,
    brokenAt: all
      .map((b) => b.specimen.at)
      .sort()
      .at(-1)!,
    planned: specimens.filter((s) => daysOf(factOf(s, 'age')) === ageDays && !otherwise(s.id, property)).length,
    test: strengthTestOf(
      ofSet(set, about),
      all.map((b) => b.counts),
      decisionOn(decisions, { finding: STRENGTH_FINDING, subjectId: set.id, part })?.decided ?? null,
    ),
    specimens: all.map((b) => b.specimen),
  }));
}

/** What a test that broke a specimen gave. */
function brokenOf(
  specimen: LineItem,
  { id, method: m, startedAt, by, kit, inputs, outcome }: LineTest,
): { specimen: BrokenSpecimen; counts: Broken } | null {
  const property = m.breaks ? foundBy(m) : undefined;
  if (property === undefined || outcome === null) return null;
  const fields = m.results as Readonly<Record<string, ResultField>>;
  const main = outcome.results.find((r) => fields[r.id]?.main && fields[r.id]?.property !== undefined);
  const given = main?.state === 'given' ? main : undefined;
  const left = factOf<string>(specimen, 'left') ?? null;
  const remarks: readonly Code[] = outcome.validity.state === 'valid' ? [] : outcome.validity.reasons.map(({ code }) => code);
  const unit: UnitId = given?.unit ?? 'MPa';
  const reported = given?.reported ?? null;
  return {
    specimen: {
      id: specimen.id,
      code: specimen.code,
      testId: id,
      method: m.id,
      reported,
      unit,
      at: startedAt,
      by,
      validity: outcome.validity.state,
      remarks,
      left,
      fracture: (inputs as { readonly fracture?: string | null }).fracture ?? null,
      density: outcome.results.find((r) => r.id === 'density')?.reported ?? null,
      kit: kit.map((k) => k.id),
    },
    // As other tests take it: each strength is reported, and their mean is of these.
    counts: { property, value: { text: reported ?? '0', unit }, void: reported === null, remarks, left },
  };
}
