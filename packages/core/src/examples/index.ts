import type { AnyInputs, AnyMethod, Shape } from '../methods/definition.js';
import { unspell } from '../record/spelling.js';
import { EXAMPLES, FURTHER } from './examples.js';

/** The inputs of a method's worked example. Every method has one. */
export const exampleOf = (m: AnyMethod): AnyInputs => unspell(m.fields as Shape, EXAMPLES[m.id] ?? {});

/** Examples of ways through the method that the first does not take. */
export const furtherExamples = (m: AnyMethod): AnyInputs[] => (FURTHER[m.id] ?? []).map((spelled) => unspell(m.fields as Shape, spelled));
