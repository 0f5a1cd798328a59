import type { AnyMethod, ResultField, Source } from '../methods/definition.js';
import { FAMILIES } from '../methods/families.js';
import { METHODS } from '../methods/register.js';
import type { ItemKind } from './items.js';
import type { Sources } from './sources.js';

/** Tests of fresh concrete in the order of the work: each definition names where it stands. */
export const FRESH_TESTS: readonly string[] = METHODS.filter((m) => m.work?.on === 'fresh')
  .sort((a, b) => a.work!.order - b.work!.order)
  .map((m) => m.id);

/** What can be made and kept on a kind of item, in the order of the work. */
export const testsOn = (kind: ItemKind): readonly AnyMethod[] => ON_KIND[kind] ?? [];

const placeOf = (m: AnyMethod): number => m.work?.order ?? Infinity;
const ON_KIND: Partial<Record<ItemKind, readonly AnyMethod[]>> = {};
for (const id of FAMILIES.flatMap((family) => Object.keys(family.members))) {
  const m = METHODS.find((one) => one.id === id);
  for (const kind of m?.on ?? []) ON_KIND[kind] = [...(ON_KIND[kind] ?? []), m!];
}
for (const kind of Object.keys(ON_KIND) as ItemKind[]) ON_KIND[kind] = [...ON_KIND[kind]!].sort((a, b) => order(placeOf(a), placeOf(b)));

/** Stable: what has no place of its own stays in the order of the families. */
function order(a: number, b: number): number {
  return a === b ? 0 : a < b ? -1 : 1;
}

/** What a mix, a source and their specifications say of an item: what is asked of its tests. */
export interface Asked {
  readonly sources: Sources;
  /** Properties that a specification limits. */
  readonly properties: readonly string[];
}

const suits = (m: AnyMethod, sources: Sources): boolean =>
  Object.entries((m.suits ?? {}) as Partial<Record<Source, readonly string[]>>).every(([source, these]) => {
    const said = sources[source as Source];
    return said === undefined || these.includes(said as string);
  });

const propertiesOf = (m: AnyMethod): string[] =>
  Object.values(m.results as Readonly<Record<string, ResultField>>).flatMap((r) => r.property ?? []);

/**
 * What is tested on an item, by what its mix, its source and their specifications ask: what is made of other material or
 * finds out the same in a way that nobody asks for is left out.
 */
export function testsFor(kind: ItemKind, { sources, properties }: Asked): readonly AnyMethod[] {
  const able = testsOn(kind).filter((m) => suits(m, sources));
  const asked = (m: AnyMethod): boolean => propertiesOf(m).some((p) => properties.includes(p));
  return able.filter(
    (m) => !m.way || asked(m) || (m.way.usual === true && !able.some((other) => other.way?.of === m.way!.of && asked(other))),
  );
}
