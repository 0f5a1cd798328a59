import { shown, type Exact } from '../numbers/exact.js';
import { unitLabel, type System, type UnitId } from '../units/units.js';
import { plain, recording, type Calc, type WorkingLine } from './calc.js';
import type { Issue } from './check.js';
import type { AnyMethod, EventId, In, Method, Parameters, Shape } from './definition.js';
import { resultOf, type ResultValue } from './result.js';
import { Running, type Remark } from './running.js';

export type ValidityState = 'valid' | 'marked' | 'void';

/** Comes before the verdict: whether the test itself counts. */
export interface Validity {
  readonly state: ValidityState;
  readonly reasons: readonly Remark[];
}

export interface Evaluation {
  readonly method: string;
  readonly variant: string;
  readonly system: System;
  readonly params: Parameters;
  readonly validity: Validity;
  readonly results: readonly ResultValue[];
  readonly missing: readonly string[];
  readonly issues: readonly Issue[];
  readonly notes: readonly Remark[];
  readonly working: readonly WorkingLine[];
}

export interface How {
  readonly variant: string;
  readonly system: System;
  /** A lab's own copy of the variant's parameters. */
  readonly params?: Parameters;
  readonly working?: boolean;
  /** Told now and then how many quantities of rows were taken up, while a long series is computed. */
  readonly progress?: (taken: number) => void;
  /** When things happened, ms since the epoch: judged against the method's windows. */
  readonly events?: Events;
  /** What the record says against the procedure, e.g. a meter past its calibration. */
  readonly marks?: readonly Remark[];
}

export type Events = Partial<Record<EventId, number>>;

class UnknownVariant extends Error {}

/** Parameters of a variant. Throws for a name that the method does not have. */
export function variantOf<P extends Parameters>(m: Pick<Method<Shape, P>, 'id' | 'variants'>, id: string): P {
  const variant = Object.hasOwn(m.variants, id) ? m.variants[id] : undefined;
  if (!variant) throw new UnknownVariant(`${m.id} has no variant ${id}: ${Object.keys(m.variants).join(', ')}`);
  return variant.params;
}

/**
 * Runs a method on readings. Pure: the same inputs give the same evaluation, digit for digit, in
 * the page, in a worker and on the server.
 */
export function evaluate<S extends Shape, P extends Parameters>(m: Method<S, P>, input: Partial<In<S>>, how: How): Evaluation {
  const lines: WorkingLine[] = [];
  return how.working ? run(m, input, how, recording(lines), lines) : run(m, input, how, plain, lines);
}

function run<S extends Shape, P extends Parameters, V>(
  m: Method<S, P>,
  input: Partial<In<S>>,
  how: How,
  c: Calc<V>,
  lines: WorkingLine[],
): Evaluation {
  const params = how.params ? { ...variantOf(m, how.variant), ...how.params } : variantOf(m, how.variant);
  const running = new Running(m, input, params, how.system, c, how.working ? lines : null, how.progress);
  m.run(running);
  const late = lateness(m, how.events);
  const marks = how.marks ?? [];
  const voided = running.voided || late.some((l) => l.state === 'void');

  const results: ResultValue[] = [];
  for (const id in m.results) {
    const field = m.results[id]!;
    if (field.system !== undefined && field.system !== how.system) continue;
    const answer = running.answers[id];
    const result = resultOf(id, field, answer, how.system, voided);
    results.push(result);
    if (how.working && result.state === 'given' && result.reported !== null && answer && 'value' in answer)
      lines.push(rounding(field.symbol, answer.value, answer.steps[answer.unit]!, result.reported, answer.unit));
  }

  const reasons = [...running.reasons, ...late.map(({ code, params: said }) => ({ code, params: said })), ...marks];
  return {
    method: m.id,
    variant: how.variant,
    system: how.system,
    params,
    validity: { state: voided ? 'void' : reasons.length > 0 ? 'marked' : 'valid', reasons },
    results,
    missing: running.lacking,
    issues: running.issues,
    notes: running.notes,
    working: lines,
  };
}

function rounding(symbol: string, value: Exact, step: string, text: string, unit: UnitId): WorkingLine {
  return { kind: 'rounding', symbol, symbols: `to ${step}`, numbers: shown(value), value: text, unit: unitLabel(unit) };
}

/** The method's own windows against what happened; a clock that has not run out yet says nothing. */
function lateness(m: AnyMethod, events: Events | undefined): (Remark & { state: 'marked' | 'void' })[] {
  if (!events || !m.windows) return [];
  return m.windows.flatMap((w) => {
    const from = events[w.starts];
    const to = events[w.must];
    if (from === undefined || to === undefined) return [];
    const seconds = Math.round((to - from) / 1000);
    if (seconds <= w.mostSeconds) return [];
    return [{ code: 'late' as const, state: w.missed, params: { what: w.label, took: clock(seconds), most: clock(w.mostSeconds) } }];
  });
}

/** 112 → `1:52`. */
export const clock = (seconds: number): string => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;

export interface School {
  readonly variant: string;
  readonly label: string;
  readonly evaluation: Evaluation;
}

/** The same readings under the method's other variants: each its own answer, or what it would need. */
export function otherSchools<S extends Shape, P extends Parameters>(m: Method<S, P>, input: Partial<In<S>>, how: How): School[] {
  return Object.entries(m.variants)
    .filter(([id]) => id !== how.variant)
    .map(([variant, { label }]) => {
      const { params: _labCopy, ...rest } = how;
      return { variant, label, evaluation: evaluate(m, input, { ...rest, variant, working: false }) };
    });
}
