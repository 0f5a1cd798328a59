import type { ResultField } from '../methods/definition.js';
import { METHODS } from '../methods/register.js';
import { dimensionOf, type Dimension, type System, type UnitId } from '../units/units.js';

/** Something that a specification may limit: declared by the results that have it. */
export interface Property {
  readonly id: string;
  readonly label: string;
  readonly dimension: Dimension;
  readonly units: Record<System, UnitId>;
}

/** Every property that a definition declares, in the order of the work. */
export const PROPERTIES: readonly Property[] = [
  ...new Map(
    METHODS.flatMap((m) =>
      Object.values(m.results as Readonly<Record<string, ResultField>>).flatMap(({ property, label, units }): [string, Property][] =>
        property === undefined ? [] : [[property, { id: property, label, dimension: dimensionOf(units.si), units }]],
      ),
    ).reverse(),
  ).values(),
].reverse();

/** Properties of which a limit may hold at an age, though nothing is broken: of those with an age the item is judged, not each reading. */
export const AT_AN_AGE: readonly string[] = [
  ...new Set(
    METHODS.flatMap((m) =>
      Object.values(m.results as Readonly<Record<string, ResultField>>).flatMap(({ property, atAge }) =>
        atAge && property ? [property] : [],
      ),
    ),
  ),
];

const byId = new Map(PROPERTIES.map((p) => [p.id, p]));

export const PROPERTY_IDS = PROPERTIES.map((p) => p.id) as [string, ...string[]];

export const propertyOf = (id: string): Property | undefined => byId.get(id);

/** Whether a limit in this unit can ever judge the property: 0.1 kg is no slump. */
export const limitFits = (property: string, unit: UnitId): boolean => byId.get(property)?.dimension === dimensionOf(unit);
