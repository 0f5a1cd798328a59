import { remarkWords } from './causes.js';

const OF_THE_ENDS = ['5', '6'];

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
