import type { AnyInputs } from '../definition.js';

/** The inputs of `strength-statistics` that a series for acceptance gives: each test a set of its own. */
export function statisticsOf(acceptance: AnyInputs): AnyInputs {
  const tests = (acceptance['tests'] ?? []) as readonly AnyInputs[];
  return { tests: tests.map((row) => ({ companions: [row] })), specified: acceptance['specified'] } as unknown as AnyInputs;
}
