import { evaluate, methodById, usualInputs, type AnyInputs, type AnyMethod, type Evaluation, type System } from '@keen-mortar/core';
import type { Ingredient, Revision } from './office.js';
import type { Amount } from './quantities.js';

/** A recipe as far as it is keyed. */
export type Recipe = Pick<Revision, 'ingredients' | 'air'>;

/** A recipe in pounds stands for a cubic yard. */
const systemOf = (ingredients: readonly Pick<Ingredient, 'mass'>[]): System => (ingredients[0]?.mass.unit === 'lb' ? 'us' : 'si');

/** The kinds of the recipe by those of the method. */
const KINDS: Readonly<Record<Ingredient['role'], string>> = {
  cement: 'cementitious',
  cementitious: 'cementitious',
  water: 'water',
  fine: 'aggregate',
  coarse: 'aggregate',
  admixture: 'admixture',
};

const given = (text: string, unit: string) => (text === '' ? null : { text, unit });

/** What a recipe makes: its volume with air, w/cm and air-free density, and the volume of each ingredient. */
export function designOf({ ingredients, air }: Recipe): Evaluation {
  const m: AnyMethod = methodById('absolute-volume')!;
  const [variant] = Object.keys(m.variants) as [string];
  const system = systemOf(ingredients);
  const rows = ingredients.map(({ name, role, mass, sg }) => ({
    name,
    role: KINDS[role],
    mass: given(mass.text, mass.unit),
    sg: given(sg, '1'),
  }));
  const inputs = { ...usualInputs(m, variant, system), ingredients: rows, air: given(air, '%') };
  return evaluate(m, inputs as AnyInputs, { variant, system, working: true });
}

/** Air-free density of a recipe; null where its ingredients do not give one. */
export function airFreeOf(recipe: Recipe): Amount | null {
  const found = designOf(recipe).results.find((r) => r.id === 'theoretical');
  return found?.unrounded ? { text: found.unrounded, unit: found.unit } : null;
}
