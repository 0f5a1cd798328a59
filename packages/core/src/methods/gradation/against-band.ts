import type { AnyInputs } from '../definition.js';
import type { Evaluation } from '../evaluate.js';

/** The inputs of `grading-band` that a gradation gives: its openings, and what passes as it is reported. Null while it is not whole. */
export function againstBand(inputs: AnyInputs, gradation: Evaluation, band: string): AnyInputs | null {
  const passing = gradation.results.find((r) => r.id === 'reported')?.words;
  const sieves = (inputs['sieves'] ?? []) as readonly AnyInputs[];
  if (!passing || passing.length !== sieves.length) return null;
  return { band, sieves: sieves.map((row, i) => ({ opening: row['opening'], passing: { text: passing[i]!, unit: '%' } })) } as AnyInputs;
}
