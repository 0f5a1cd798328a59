import { designOf, type Ingredient, type Recipe } from '@keen-mortar/contract';
import { answerTexts, MATERIAL_ROLES, methodById, say, unitLabel, type Evaluation } from '@keen-mortar/core';

/** What a recipe makes, as the screen says it. */
export interface Made {
  readonly evaluation: Evaluation;
  readonly wcm: string | null;
  readonly airFree: string | null;
  readonly makes: string | null;
  readonly notes: readonly string[];
  /** Volumes of the ingredients, as text with their unit. */
  readonly volumes: readonly string[];
  /** The same as parts of the whole, and the air: positions only. */
  readonly shares: readonly number[];
  readonly air: number;
}

/** What a recipe makes of its cubic metre, or yard. */
export function madeOf(recipe: Recipe): Made {
  const evaluation = designOf(recipe);
  const of = (id: string) => evaluation.results.find((r) => r.id === id);
  const texts = (id: string): string[] => {
    const r = of(id);
    return r
      ? answerTexts(methodById(evaluation.method)!.results[id]!, r, undefined, 4).map((text) => `${text} ${unitLabel(r.unit)}`.trim())
      : [];
  };
  // What it should fill: what it makes, less what it is over. Only to draw with.
  const figure = (id: string): number => Number(of(id)?.unrounded ?? 0);
  const whole = figure('yield') - figure('miss') || 1;
  return {
    evaluation,
    wcm: texts('wcm')[0] ?? null,
    airFree: texts('theoretical')[0] ?? null,
    makes: texts('yield')[0] ?? null,
    notes: evaluation.notes.map((n) => say(n.code, n.params)),
    volumes: texts('volumes'),
    shares: (of('volumes')?.series ?? []).map((v) => Number(v.unrounded) / whole),
    air: figure('airVolume') / whole,
  };
}

/** The ground that a material is drawn with. */
export const GROUNDS: Readonly<Record<Ingredient['role'], string>> = {
  cement: 'var(--steel-d)',
  cementitious: 'var(--steel)',
  water: 'var(--water)',
  fine: 'var(--sand)',
  coarse: 'var(--con)',
  admixture: 'var(--now-tone)',
};

export const roleOptions = Object.entries(MATERIAL_ROLES).map(([id, label]) => ({ id, label }));
