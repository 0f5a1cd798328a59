import type { AnyMethod, Variant, Parameters } from './definition.js';

/** A named set of variants: what a project works to. Each variant says itself which practices take it. */
export const PRACTICES = {
  'us-astm': { label: 'US, ASTM' },
  'us-aashto': { label: 'US, AASHTO' },
  en: { label: 'EN' },
  is: { label: 'IS' },
} as const;

export type PracticeId = keyof typeof PRACTICES;

export const PRACTICE_IDS = Object.keys(PRACTICES) as PracticeId[];

/** The variant that a practice takes of a method: the one that names the practice, or the method's first. */
export function usualVariant(practice: PracticeId, m: AnyMethod): string {
  const variants = Object.entries(m.variants as Readonly<Record<string, Variant<Parameters>>>);
  return (variants.find(([, v]) => v.practices?.includes(practice)) ?? variants[0]!)[0];
}
