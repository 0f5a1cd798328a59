import { METHODS } from '../methods/register.js';

/** Tests of fresh concrete in the order of the work: each definition names where it stands. */
export const FRESH_TESTS: readonly string[] = METHODS.filter((m) => m.work?.on === 'fresh')
  .sort((a, b) => a.work!.order - b.work!.order)
  .map((m) => m.id);
