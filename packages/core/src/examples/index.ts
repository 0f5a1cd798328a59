import type { AnyInputs, AnyMethod, Shape } from '../methods/definition.js';
import { unspell } from '../record/spelling.js';

/** The inputs of a method's worked example. Every method has one. */
export const exampleOf = (m: AnyMethod): AnyInputs => unspell(m.fields as Shape, m.example);

/** Examples of ways through the method that the first does not take. */
export const furtherExamples = (m: AnyMethod): AnyInputs[] => (m.further ?? []).map((spelled) => unspell(m.fields as Shape, spelled));
