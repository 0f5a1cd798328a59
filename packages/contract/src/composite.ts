import { evaluate, inputsOf, methodById, type Evaluation, type Sources, type System } from '@keen-mortar/core';

/** Whether the composite counts, from the portions and times on the record. */
export function compositeOf(sources: Sources, system: System): Evaluation {
  const m = methodById('composite')!;
  const [variant] = Object.keys(m.variants) as [string];
  return evaluate(m, inputsOf(m, {}, sources), { variant, system, offers: false });
}
