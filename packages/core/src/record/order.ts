import type { AnyMethod } from '../methods/definition.js';
import type { ItemKind } from './items.js';
import { FAMILIES } from '../methods/families.js';
import { METHODS } from '../methods/register.js';

/** Tests of fresh concrete in the order of the work: each definition names where it stands. */
export const FRESH_TESTS: readonly string[] = METHODS.filter((m) => m.work?.on === 'fresh')
  .sort((a, b) => a.work!.order - b.work!.order)
  .map((m) => m.id);

/** What is made and kept on a kind of item, in the order of the work. */
export const testsOn = (kind: ItemKind): readonly AnyMethod[] =>
  FAMILIES.flatMap((family) => Object.keys(family.members))
    .map((id) => METHODS.find((m) => m.id === id))
    .filter((m): m is AnyMethod => m?.on?.includes(kind) === true);
