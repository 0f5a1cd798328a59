import {
  evaluate,
  guidance,
  inputsOf,
  methodById,
  stepsFor,
  type Evaluation,
  type Sources,
  type System,
  type Told,
} from '@keen-mortar/core';
import type { Sample } from './resources.js';

const composite = () => methodById('composite')!;

/** Whether the composite counts, from the portions and times on the record. */
export function compositeOf(sources: Sources, system: System): Evaluation {
  const m = composite();
  const [variant] = Object.keys(m.variants) as [string];
  return evaluate(m, inputsOf(m, {}, sources), { variant, system, offers: false });
}

/** Why the composite does not count, or only with a remark; nothing while it is still being taken. */
export function compositeRemarks(sample: Sample): Told[] {
  if (sample.sources['sample.finished'] === undefined) return [];
  return guidance(composite(), compositeOf(sample.sources, sample.project.system)).filter((t) => t.kind === 'void' || t.kind === 'mark');
}

/** The first thing that the sampling method says, for whoever stands at the chute. */
export const samplingRule = (): string => stepsFor(composite(), {})[0]?.text ?? '';
