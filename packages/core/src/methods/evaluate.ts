import { figuresOf, shown, type Exact } from '../numbers/exact.js';
import { DivisionByZero } from '../numbers/value.js';
import { standsWhenVoid } from '../problems.js';
import { unitLabel, type System, type UnitId } from '../units/units.js';
import { plain, recording, Working, type Calc, type WorkingLine } from './calc.js';
import type { Issue } from './check.js';
import { explained, firstKeyed, unlikelyResults } from './explain.js';
import type { AnyMethod, EventId, In, Method, Parameters, Range, Shape } from './definition.js';
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
  /** What the record says that makes the test void: a sample that is. */
  readonly voids?: readonly Remark[];
  /** What the record says against a reading, before it is kept: it wants a reason. */
  readonly doubts?: readonly (Remark & { readonly path: string })[];
  /** What is usual of a result here, beside what is usual of it anywhere: what its mix is designed for. */
  readonly usual?: Readonly<Record<string, Range>>;
  /** What the record says beside the result: water added since. */
  readonly notes?: readonly Remark[];
  /** false: look for no slip or exchange that would explain what is unlikely. */
  readonly offers?: false;
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
export function evaluate<S extends Shape, P extends Parameters, R extends string>(
  m: Method<S, P, R>,
  input: Partial<In<S>>,
  how: How,
): Evaluation {
  const lines = new Working();
  return how.working ? run(m, input, how, recording(lines), lines) : run(m, input, how, plain, lines);
}

function run<S extends Shape, P extends Parameters, V>(
  m: Method<S, P>,
  input: Partial<In<S>>,
  how: How,
  c: Calc<V>,
  lines: Working,
): Evaluation {
  const params = how.params ? { ...variantOf(m, how.variant), ...how.params } : variantOf(m, how.variant);
  const running = new Running(m, input, params, how.system, c, how.working ? lines : null, how.progress, m.variants[how.variant]?.without);
  try {
    m.run(running);
  } catch (error) {
    // Readings so small that something rounds to nothing: no body has to think of that.
    if (!(error instanceof DivisionByZero)) throw error;
    running.refuse('cannot-compute', firstKeyed(m, how.variant));
  }
  const late = lateness(m, how.events);
  const voided = [...running.voided, ...remarks(late, 'void'), ...(how.voids ?? [])];
  const marked = [...running.marked, ...remarks(late, 'marked'), ...(how.marks ?? [])];

  const notes = [...running.notes, ...(how.notes ?? [])];

  const results: ResultValue[] = [];
  for (const id in m.results) {
    const field = m.results[id]!;
    if (field.system !== undefined && field.system !== how.system) continue;
    const answer = running.answers[id];
    const result = resultOf(id, field, answer, how.system, voided.length > 0);
    results.push(result);
    if (how.working && result.state === 'given' && result.reported !== null && answer && 'value' in answer)
      lines.push(rounding(field.symbol, answer.value, answer.increments[answer.unit]!, result.reported, answer.unit));
  }
  const unlikely = voided.length > 0 ? [] : unlikelyResults(m, how, running.answers);
  const evaluation: Evaluation = {
    method: m.id,
    variant: how.variant,
    system: how.system,
    params,
    validity: validityOf(voided, marked),
    results,
    missing: running.lacking,
    issues: [
      ...running.issues,
      ...(how.doubts ?? []).map(({ code, params, path }): Issue => ({ code, params, path, severity: 'implausible' })),
      ...unlikely,
    ],
    // A void test says nothing that reads as if its result stood.
    notes: voided.length > 0 ? notes.filter(({ code }) => standsWhenVoid(code)) : notes,
    working: lines.whole(),
  };
  return how.offers === false || evaluation.issues.length === 0
    ? evaluation
    : { ...evaluation, issues: explained(m, input, how, evaluation.issues) };
}

const remarks = (late: readonly Late[], state: Late['state']): Remark[] =>
  late.filter((l) => l.state === state).map(({ code, params }) => ({ code, params }));

/** One place decides what a void test may still say: why it is void, and what is about the sample, never a mark. */
function validityOf(voided: readonly Remark[], marked: readonly Remark[]): Validity {
  if (voided.length > 0) return { state: 'void', reasons: [...voided, ...marked.filter(({ code }) => standsWhenVoid(code))] };
  return { state: marked.length > 0 ? 'marked' : 'valid', reasons: marked };
}

function rounding(symbol: string, value: Exact, step: string, text: string, unit: UnitId): WorkingLine {
  return {
    kind: 'rounding',
    symbol,
    symbols: figuresOf(step) === null ? `to ${step}` : `to ${step.slice(1)} significant figures`,
    numbers: shown(value),
    value: text,
    unit: unitLabel(unit),
  };
}

/** The method's own windows against what happened; a clock that has not run out yet says nothing. */
function lateness(m: AnyMethod, events: Events | undefined): Late[] {
  if (!events || !m.windows) return [];
  return m.windows.flatMap((w): Late[] => {
    const from = events[w.starts];
    const to = events[w.must];
    if (from === undefined || to === undefined) return [];
    const seconds = Math.round((to - from) / 1000);
    if (seconds < 0) return [{ code: 'before-last-portion', state: 'marked', params: {} }];
    if (seconds <= w.mostSeconds) return [];
    return [{ code: 'late', state: w.missed, params: { what: w.label, took: duration(seconds), most: duration(w.mostSeconds) } }];
  });
}

type Late = Remark & { readonly state: 'marked' | 'void' };

/** 112 → `1:52`, as a stopwatch shows it. */
export const clock = (seconds: number): string => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;

/** For sentences: 300 → `5 min`, 112 → `1 min 52 s`, 45 → `45 s`. */
export function duration(seconds: number): string {
  const [minutes, rest] = [Math.floor(seconds / 60), seconds % 60];
  return [minutes > 0 ? `${minutes} min` : '', rest > 0 || minutes === 0 ? `${rest} s` : ''].filter(Boolean).join(' ');
}

/** What another variant makes of the same readings. */
export interface OtherVariant {
  readonly variant: string;
  readonly label: string;
  readonly evaluation: Evaluation;
  /** What would have to be done otherwise: these readings answer nothing under it. */
  readonly needs?: string;
}

/** The same readings under the method's other variants, and as printed where a lab's own copy is used: each its own answer, or what it would need. */
export function otherVariants<S extends Shape, P extends Parameters, R extends string>(
  m: Method<S, P, R>,
  input: Partial<In<S>>,
  how: How,
): OtherVariant[] {
  return Object.entries(m.variants)
    .filter(([id]) => id !== how.variant || how.params !== undefined)
    .map(([variant, { label: printed, needs }]) => {
      const { params: _labCopy, ...others } = how;
      const rest = { ...others, notes: (how.notes ?? []).filter(({ code }) => code !== 'own-copy') };
      const label = variant === how.variant ? `${printed}, as printed` : printed;
      if (needs !== undefined)
        return { variant, label, needs, evaluation: evaluate(m, {}, { variant, system: how.system, offers: false }) };
      return { variant, label, evaluation: evaluate(m, input, { ...rest, variant, working: false, offers: false }) };
    });
}
