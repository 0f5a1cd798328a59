import type { PressAdvice } from './at-the-press.js';
import { remarkWords } from './causes.js';
import { SCHOOLS, type SchoolId } from './schools.js';

/** A tank or moist room that was not as asked while specimens lay in one. */
export interface Strayed {
  readonly place: string;
  /** Days on which it was found so, as they are written, the newest last. */
  readonly days: readonly string[];
  /** What was found on the last of them. */
  readonly says: string;
}

/** A strength test as it is told of. */
export interface LowTest {
  readonly below: PressAdvice['below'];
  readonly reported: string;
  readonly unit: string;
  readonly specified: string;
  readonly school: SchoolId;
  readonly floor: string;
  readonly apart: boolean;
  /** Fractures and remarks of its companions. */
  readonly fractures: readonly string[];
  readonly remarks: readonly string[];
  /** While its companions were in final curing: the record does not say in which of them. */
  readonly strayed: readonly Strayed[];
  /** Codes of specimens of the set that are whole still. */
  readonly spares: readonly string[];
}

/** What is said to whom when a strength test is low; nothing is sent by the program. */
export interface Telling {
  readonly says: string;
  readonly who: readonly string[];
  /** What speaks for a fault of the test, and what for the concrete. */
  readonly evidence: readonly string[];
  readonly next: readonly string[];
}

/** Codes that speak of the test before they speak of the concrete. */
const OF_THE_TEST: Readonly<Record<string, string>> = {
  'pads-worn': 'The pads were worn.',
  'pads-hardness': 'The pads were of the wrong hardness.',
  'rate-outside': 'A specimen was loaded at another rate than asked.',
  'outside-age-window': 'A specimen was broken outside its window.',
  'out-of-calibration': 'The machine was past its calibration.',
  'initial-cure-cold': 'The set was cold in its first two days.',
  'initial-cure-warm': 'The set was warm in its first two days.',
  'moved-early': 'The set was moved early.',
  'final-cure-late': 'The set came late into final curing.',
};
const OF_THE_ENDS = ['5', '6'];

const strayedWords = ({ place, days, says }: Strayed): string => {
  const last = days.at(-1)!;
  const when = days.length === 1 ? last : `${days.length} days, last on ${last}`;
  return `${place} was not as asked on ${when}. ${says} Look whether this set lay in it.`;
};

/** Who must be told of a strength test, and of what; null where it is not low. ACI 318: acceptance, and investigation of low strengths. */
export function whoMustBeTold(test: LowTest): Telling | null {
  const { below, reported, unit, specified, school, floor, apart, spares } = test;
  if (below !== 'floor' && below !== 'run') return null;
  const says =
    below === 'floor'
      ? `${reported} ${unit}: below the least that a single test may be, ${floor} ${unit}.`
      : `${reported} ${unit}: ${SCHOOLS[school].short}, with ${specified} ${unit} specified.`;
  const testing = [
    ...new Set([
      ...test.remarks.flatMap((code) => OF_THE_TEST[code] ?? []),
      ...(apart ? ['The companions are further apart than two of one sample may be.'] : []),
      ...(test.fractures.some((f) => OF_THE_ENDS.includes(f)) ? ['The sides came off at an end: look at caps and alignment.'] : []),
      ...test.strayed.map(strayedWords),
    ]),
  ];
  return {
    says,
    who: ['The engineer', 'The concrete plant', 'Whoever placed the concrete'],
    evidence:
      testing.length > 0 ? testing : ['Nothing on record speaks against the test: companions agree, curing and loading were as asked.'],
    next: [
      ...(spares.length > 0 ? [`Break the spare now or later, as the engineer says: ${spares.join(', ')}.`] : ['There is no spare.']),
      'Look up slump, air, density and water of this load, and where in the work it went.',
      'Where the engineer orders it: three cores from there. Their mean must reach 0.85 f’c, and none may be below 0.75 f’c.',
      'Load nothing on that part of the work, and strip nothing from it, before the engineer has spoken.',
    ],
  };
}

/** A companion as it was broken, with all that the record says of it. */
export interface Seen {
  readonly code: string;
  readonly strength: number;
  readonly remarks: readonly string[];
  readonly fracture: string | null;
  readonly density: number | null;
  readonly kit: readonly string[];
}

/** So much lighter than the others is poorly consolidated, of them. */
const LIGHT = 0.02;

/** Of companions that are too far apart the one that differs, and what the record says of it alone; null of fewer than two. */
export function oddOneOut(all: readonly Seen[]): { readonly code: string; readonly why: readonly string[] } | null {
  if (all.length < 2) return null;
  const others = (one: Seen): Seen[] => all.filter((s) => s !== one);
  const mean = (of: readonly number[]): number => of.reduce((sum, v) => sum + v, 0) / of.length;
  const off = (one: Seen): number => Math.abs(one.strength - mean(others(one).map((s) => s.strength)));
  // Of two alike far from each other it is the lower one that has to be explained.
  const odd = [...all].sort((a, b) => off(b) - off(a) || a.strength - b.strength)[0]!;
  const rest = others(odd);
  const alone = odd.remarks.filter((code) => rest.every((s) => !s.remarks.includes(code)));
  const densities = rest.flatMap((s) => s.density ?? []);
  const light = odd.density !== null && densities.length > 0 && odd.density < mean(densities) * (1 - LIGHT);
  const ends = odd.fracture !== null && OF_THE_ENDS.includes(odd.fracture) && rest.every((s) => s.fracture !== odd.fracture);
  const why = [
    ...alone.map(remarkWords),
    ...(ends ? [`Fracture ${odd.fracture}: its sides came off at an end`] : []),
    ...(light ? ['Lighter than the others'] : []),
    ...(rest.every((s) => s.kit.some((id) => !odd.kit.includes(id))) ? ['Broken with other equipment'] : []),
  ];
  return { code: odd.code, why };
}
