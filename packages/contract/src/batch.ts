import { designMass, significant, type System } from '@keen-mortar/core';
import type { MaterialRole, Revision } from './office.js';
import type { Amount } from './quantities.js';
import type { Load } from './resources.js';

type Ticket = Pick<Load, 'materials' | 'water'>;

interface Gravity {
  readonly text: string;
  readonly unit: '1';
}

/** Specific gravity that the mix's revision gives to a material of the ticket: by its name, else by its kind where only one is of it. */
function gravityOf(revision: Pick<Revision, 'ingredients'>, name: string, role: MaterialRole): Gravity | null {
  const plain = (text: string): string => text.trim().toLowerCase();
  const sameRole = revision.ingredients.filter((i) => i.role === role);
  const found = revision.ingredients.find((i) => plain(i.name) === plain(name)) ?? (sameRole.length === 1 ? sameRole[0] : undefined);
  return found ? { text: found.sg, unit: '1' } : null;
}

/**
 * Rows of the batch as it was in the truck at `until` (ms): every material as scaled, with what the mix
 * knows of it, and the water added on site by then. Water added later was not in what was tested.
 */
export function batchOf(
  load: Ticket,
  revision: Pick<Revision, 'ingredients'>,
  until = Infinity,
): readonly Readonly<Record<string, unknown>>[] {
  const percent = (text: string | undefined) => (text === undefined ? null : { text, unit: '%' });
  return [
    ...load.materials.map((m) => ({
      name: m.name,
      role: m.role,
      mass: { text: m.actual, unit: m.unit },
      sg: gravityOf(revision, m.name, m.role),
      moisture: percent(m.moisture),
      absorption: percent(m.absorption),
    })),
    ...load.water
      .filter((w) => Date.parse(w.at) <= until)
      .map((w) => ({ name: 'Water added', role: 'water-added', mass: w.mass, sg: null, moisture: null, absorption: null })),
  ];
}

/** What was found of the source of an ingredient. */
export interface FoundOfSource {
  readonly absorption?: Amount;
  readonly moisture?: Amount;
}

/** The ingredients’ kinds by those of a weigh-up. */
const WEIGHED_AS: Readonly<Record<MaterialRole, string>> = {
  cement: 'cementitious',
  cementitious: 'cementitious',
  water: 'water',
  fine: 'fine',
  coarse: 'coarse',
  admixture: 'admixture',
};

/** Rows of a weigh-up from a recipe, for a cubic metre or yard as the system has it: each with what was found of its source. */
export function recipeOf(
  { ingredients }: Pick<Revision, 'ingredients'>,
  system: System,
  found: ReadonlyMap<string, FoundOfSource>,
): readonly Readonly<Record<string, unknown>>[] {
  return ingredients.map(({ name, role, mass, sourceId }) => {
    const { moisture = null, absorption = null } = found.get(sourceId ?? '') ?? {};
    return { name, kind: WEIGHED_AS[role], mass: wholeMass(mass, system), moisture, absorption };
  });
}

/** As written, where the recipe is written for what this system mixes by; else as much for that. */
function wholeMass(mass: Amount, system: System): Amount {
  if ((mass.unit === 'lb') === (system === 'us')) return mass;
  const [whole, unit] = system === 'us' ? (['yd3', 'lb'] as const) : (['m3', 'kg'] as const);
  return { text: significant(designMass(mass, { text: '1', unit: whole }, unit), 6), unit };
}

/** The revision that was in force at a moment; undefined where none was yet. */
export const revisionAt = <R extends Pick<Revision, 'effectiveFrom' | 'number'>>(revisions: readonly R[], at: number): R | undefined =>
  [...revisions]
    .sort((a, b) => Date.parse(a.effectiveFrom) - Date.parse(b.effectiveFrom) || a.number - b.number)
    .findLast((r) => Date.parse(r.effectiveFrom) <= at);
