import type { AnyMethod } from './definition.js';

interface Practice {
  readonly label: string;
  /** Variant by method, where the practice has a preference; otherwise the method's first. */
  readonly variants: Readonly<Record<string, string>>;
}

/** A named set of variants: what a project works to. */
export const PRACTICES = {
  'us-astm': { label: 'US, ASTM', variants: { slump: 'us', density: 'astm', yield: 'exact' } },
  'us-aashto': { label: 'US, AASHTO', variants: { slump: 'us', density: 'astm', yield: 'exact' } },
  en: { label: 'EN', variants: { slump: 'en', density: 'en', yield: 'en' } },
  is: { label: 'IS', variants: { slump: 'four_layer', density: 'astm', yield: 'exact' } },
} as const satisfies Record<string, Practice>;

export type PracticeId = keyof typeof PRACTICES;

export const PRACTICE_IDS = Object.keys(PRACTICES) as PracticeId[];

/** The variant that a practice takes of a method: its own choice, or the method's first. */
export function usualVariant(practice: PracticeId, m: AnyMethod): string {
  const chosen = (PRACTICES[practice].variants as Readonly<Record<string, string>>)[m.id];
  return chosen ?? Object.keys(m.variants)[0]!;
}
