import type { ToldFault } from '../faults.js';
import { CORE_VERSION, evaluate, guidance, methodById, otherVariants, type AnyInputs, type System } from '@keen-mortar/core';
import { faultOf } from '../problems.js';

/** A computation that was asked for: checked against the method's schema before. */
export interface Question {
  readonly method: string;
  readonly inputs: AnyInputs;
  readonly variant: string;
  readonly system: System;
  /** What the other variants would give, too. */
  readonly variants: boolean;
}

/** The answer as it goes out, or why it is refused. */
export type Answer = { readonly json: string; readonly refused?: undefined } | { readonly refused: readonly ToldFault[] };

/** Computes and writes out: where a request is big both take their time. */
export function answer({ method, inputs, variant, system, variants }: Question): Answer {
  const m = methodById(method)!;
  const how = { variant, system, working: true };
  const evaluation = evaluate(m, inputs, how);
  const impossible = evaluation.issues.filter((issue) => issue.severity === 'impossible');
  if (impossible.length > 0) return { refused: impossible.slice(0, MOST_FAULTS).map((issue) => faultOf(m, issue)) };
  return {
    json: JSON.stringify({
      coreVersion: CORE_VERSION,
      evaluation,
      guidance: guidance(m, evaluation),
      ...(variants ? { variants: otherVariants(m, inputs, how) } : {}),
    }),
  };
}

/** So many faults are read. */
const MOST_FAULTS = 50;
