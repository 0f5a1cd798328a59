import { METHODS } from '../methods/register.js';

/** Tests of fresh concrete in the order of the work: each definition names its place. */
export const FRESH_TESTS: readonly string[] = METHODS.filter((m) => m.work?.on === 'fresh')
  .sort((a, b) => a.work!.place - b.work!.place)
  .map((m) => m.id);
