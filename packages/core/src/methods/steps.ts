import type { AnyMethod, Parameters, Step } from './definition.js';

/** One step as it reads under a variant's parameters. */
export interface StepText {
  readonly text: string;
  readonly caution: boolean;
}

/** What to do and to watch under these parameters, in order: steps that others have are left out. */
export const stepsFor = (m: AnyMethod, params: Parameters): StepText[] =>
  (m.steps as readonly Step[]).flatMap(({ text, caution }) => {
    const words = typeof text === 'function' ? text(params) : text;
    return words === null ? [] : [{ text: words, caution: caution === true }];
  });
