import { CHECKS } from './problems/checks.js';
import { NOTES } from './problems/notes.js';
import { READINGS } from './problems/readings.js';
import { TESTS } from './problems/tests.js';
import type { Counts, Entry, Params } from './problems/words.js';

export type { Counts, Params } from './problems/words.js';

/**
 * The one catalogue of what can be wrong or worth saying: codes travel, words are chosen last. Each
 * says what is wrong or seen, and what a technician can do next; what marks a test also says
 * whether it still counts for acceptance.
 */
export const CATALOGUE = { ...READINGS, ...TESTS, ...NOTES, ...CHECKS } as const satisfies Record<string, Entry>;

export type Code = keyof typeof CATALOGUE;

const entry = (code: Code): Entry => CATALOGUE[code];

/** The sentence for a code. */
export const say = (code: Code, params: Params = {}): string => entry(code).says(params);

/** What to do about it; null where there is nothing to do. */
export function nextStep(code: Code, params: Params = {}): string | null {
  const { next } = entry(code);
  return typeof next === 'function' ? next(params) : (next ?? null);
}

const COUNTS = {
  yes: 'Reported with a remark. It still counts for acceptance.',
  ask: 'Reported with a remark. It waits for a decision: it counts for acceptance once the engineer says so.',
  no: 'Reported with a remark. It does not count for acceptance.',
} as const;

/** Whether a mark lets a test count: `ask`: it waits until somebody decided. Null for what does not mark one. */
export const countsFor = (code: Code): Counts | null => entry(code).counts ?? null;

/** What a mark means for acceptance, and by what; null for what does not mark a test. */
export function countsWords(code: Code): string | null {
  const { counts, by } = entry(code);
  return counts === undefined ? null : `${COUNTS[counts]} By ${by}.`;
}

/** Whether no further test of the same sample is to be made. */
export const endsTesting = (code: Code): boolean => entry(code).ends === true;

/** Whether a remark still means something on a test that gives no result. */
export const standsWhenVoid = (code: Code): boolean => entry(code).whenVoid === true;
