import { exact, ratio, reported, shown, significant, type Exact } from '../numbers/exact.js';
import { read, type Keyed } from '../units/reading.js';
import { convert, offeredUnits, unitLabel, type System, type UnitId } from '../units/units.js';
import type { Code, Params } from '../problems.js';
import { plain, recording, type Calc, type WorkingLine } from './calc.js';
import type { AnyMethod, EventId, Field, In, Method, Offer, Parameters, QtyField, Range, Run, Shape, Steps } from './definition.js';

/** Something about the inputs, at the field it is about. */
export interface Issue {
  readonly code: Code;
  /** `impossible`: refused. `implausible`: may be kept with a reason. */
  readonly severity: 'impossible' | 'implausible';
  readonly path: string;
  readonly params: Params;
  /** What would be plausible. */
  readonly offer?: Offer;
}

export interface Remark {
  readonly code: Code;
  readonly params: Params;
}

export type ValidityState = 'valid' | 'marked' | 'void';

/** Comes before the verdict: whether the test itself counts. */
export interface Validity {
  readonly state: ValidityState;
  readonly reasons: readonly Remark[];
}

export interface ResultValue {
  readonly id: string;
  readonly label: string;
  readonly symbol: string;
  readonly unit: UnitId;
  /** `open`: something is missing; `void`: no number may be reported. */
  readonly state: 'given' | 'open' | 'void';
  /** The whole value, `n/d`: nothing is lost between page, wire and table. */
  readonly exact: string | null;
  /** 12 significant digits, for people. */
  readonly unrounded: string | null;
  readonly reported: string | null;
  readonly steps: Steps;
  readonly words?: readonly string[];
  /** One for each row; the single values above are null then. */
  readonly series?: readonly Figure[];
}

/** One figure: whole, for people, and as reported. */
export interface Figure {
  readonly exact: string;
  readonly unrounded: string;
  readonly reported: string | null;
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
  /** When things happened, ms since the epoch: judged against the method's windows. */
  readonly events?: Events;
  /** What the record says against the procedure, e.g. a meter past its calibration. */
  readonly marks?: readonly Remark[];
}

export type Events = Partial<Record<EventId, number>>;

/** Significant digits of `unrounded`: as many as any check of a record will ask for. */
const DIGITS = 12;

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
  const p = { ...variantOf(m, how.variant), ...how.params } as P;
  const issues: Issue[] = [];
  const missing: string[] = [];
  const notes: Remark[] = [];
  const reasons: (Remark & { state: 'marked' | 'void' })[] = [];
  const given = new Map<string, Given>();
  const x = complete(m.fields, input);
  const readings = new Map<string, Reading>();
  checkShape(m.fields, x, '', how.variant, readings, issues);

  const get = (path: string, unit: UnitId, symbol: string, needed: boolean): V | null => {
    const reading = readings.get(path);
    if (!reading) {
      if (needed && !missing.includes(path)) missing.push(path);
      return null;
    }
    const value = convert(reading.value, reading.keyed.unit, unit);
    if (how.working && reading.keyed.unit !== unit) lines.push(conversion(symbol, reading, value, unit));
    return c.enter(symbol, value, unit);
  };

  const context: Run<S, P, V> = {
    x: x as In<S>,
    p,
    system: how.system,
    c,
    need: (id, unit) => get(id, unit, symbolOf(m.fields[id]), true),
    have: (id, unit) => get(id, unit, symbolOf(m.fields[id]), false),
    inRow: (rows, index, id, unit, symbol) => get(`${rows}.${index}.${id}`, unit, symbol, true),
    missing: (path) => void (missing.includes(path) || missing.push(path)),
    refuse: (code, path, params = {}) => void issues.push({ code, severity: 'impossible', path, params }),
    doubt: (code, path, params = {}, offer) =>
      void issues.push({ code, severity: 'implausible', path, params, ...(offer ? { offer } : {}) }),
    voids: (code, params = {}) => void reasons.push({ code, params, state: 'void' }),
    marks: (code, params = {}) => void reasons.push({ code, params, state: 'marked' }),
    note: (code, params = {}) => void notes.push({ code, params }),
    result: (id, value, unit, steps = {}) => void given.set(id, { value: c.value(value), unit, steps }),
    series: (id, values, unit, steps = {}) => void given.set(id, { series: values.map((v) => c.value(v)), unit, steps }),
    says: (id, words) => void given.set(id, { words }),
  };
  m.run(context);
  reasons.push(...lateness(m, how.events ?? {}), ...(how.marks ?? []).map((mark) => ({ ...mark, state: 'marked' as const })));

  const voided = reasons.some((r) => r.state === 'void');
  const declared = Object.entries(m.results).filter(([, field]) => field.system === undefined || field.system === how.system);
  const results = declared.map(([id, field]): ResultValue => {
    const got = given.get(id);
    const head = { id, label: field.label, symbol: field.symbol };
    if (got && 'words' in got) {
      return { ...head, unit: '1', state: 'given', exact: null, unrounded: null, reported: null, steps: {}, words: got.words };
    }
    const unit = got?.unit ?? field.units[how.system];
    const hidden = voided && !field.whenVoid;
    if (hidden || !got) {
      return { ...head, unit, state: hidden ? 'void' : 'open', exact: null, unrounded: null, reported: null, steps: got?.steps ?? {} };
    }
    const step = got.steps[unit];
    if ('series' in got) {
      return {
        ...head,
        unit,
        state: 'given',
        exact: null,
        unrounded: null,
        reported: null,
        steps: got.steps,
        series: got.series.map((v) => figure(v, step)),
      };
    }
    const { reported: text, ...whole } = figure(got.value, step);
    if (text !== null && step !== undefined && how.working) lines.push(rounding(field.symbol, got.value, step, text, unit));
    return { ...head, unit, state: 'given', ...whole, reported: text, steps: got.steps };
  });

  return {
    method: m.id,
    variant: how.variant,
    system: how.system,
    params: p,
    validity: {
      state: voided ? 'void' : reasons.length > 0 ? 'marked' : 'valid',
      reasons: reasons.map(({ code, params }) => ({ code, params })),
    },
    results,
    missing,
    issues,
    notes,
    working: lines,
  };
}

type Given =
  | { readonly value: Exact; readonly unit: UnitId; readonly steps: Steps }
  | { readonly series: readonly Exact[]; readonly unit: UnitId; readonly steps: Steps }
  | { readonly words: readonly string[] };

function figure(value: Exact, step: string | undefined): Figure {
  return { exact: ratio(value), unrounded: significant(value, DIGITS), reported: step === undefined ? null : reported(value, step) };
}

interface Reading {
  readonly keyed: Keyed;
  readonly value: Exact;
}

const symbolOf = (field: Field | undefined): string => (field?.kind === 'qty' ? field.symbol : '');

/** Every field present: absent and undefined are null, so that bodies ask one question only. */
function complete(fields: Shape, input: Readonly<Record<string, unknown>>): Record<string, unknown> {
  return Object.fromEntries(Object.keys(fields).map((id) => [id, input[id] ?? null]));
}

function checkShape(
  fields: Shape,
  x: Readonly<Record<string, unknown>>,
  prefix: string,
  variant: string,
  readings: Map<string, Reading>,
  issues: Issue[],
): void {
  for (const [id, field] of Object.entries(fields)) {
    const path = prefix + id;
    const value = x[id];
    if (value === null || value === undefined) continue;
    if (field.kind === 'rows') {
      (value as readonly Record<string, unknown>[]).forEach((row, i) => {
        checkShape(field.of as Shape, row, `${path}.${i}.`, variant, readings, issues);
      });
    } else if (field.kind === 'pick' && !Object.hasOwn(field.options, value as string)) {
      issues.push({ code: 'not-an-option', severity: 'impossible', path, params: { got: value as string } });
    } else if (field.kind === 'qty') {
      checkQuantity(field, value as Keyed, path, readings, issues);
    }
  }
}

function checkQuantity(field: QtyField, keyed: Keyed, path: string, readings: Map<string, Reading>, issues: Issue[]): void {
  const value = read(keyed, field.dimension);
  if (typeof value === 'string') {
    if (value === 'empty') return;
    const units = offeredUnits(field.dimension, Object.values(field.units)).map(unitLabel).join(', ');
    issues.push({ code: value, severity: 'impossible', path, params: { got: keyed.text, unit: keyed.unit, units } });
    return;
  }
  const impossible = field.possible && outside(field.possible, value, keyed.unit);
  if (impossible) {
    const offer = plausibleInstead(field, keyed, value);
    issues.push({
      code: 'impossible-value',
      severity: 'impossible',
      path,
      params: { ...describe(field.possible), ...what(keyed) },
      ...(offer ? { offer } : {}),
    });
    return;
  }
  if (field.plausible && outside(field.plausible, value, keyed.unit)) {
    const offer = plausibleInstead(field, keyed, value);
    issues.push({
      code: 'implausible-value',
      severity: 'implausible',
      path,
      params: { ...describe(field.plausible), ...what(keyed) },
      ...(offer ? { offer } : {}),
    });
  }
  readings.set(path, { keyed, value });
}

const what = (keyed: Keyed): Params => ({ got: keyed.text.trim(), gotUnit: unitLabel(keyed.unit) });

/** Whether `value` in `unit` lies outside the range; ends are inclusive, but for `above`. */
export function outside(range: Range, value: Exact, unit: UnitId): boolean {
  const here = convert(value, unit, range.unit);
  return (
    (range.least !== undefined && here.compare(exact(range.least)) < 0) ||
    (range.above !== undefined && here.compare(exact(range.above)) <= 0) ||
    (range.most !== undefined && here.compare(exact(range.most)) > 0)
  );
}

function describe(range: Range | undefined): Params {
  return {
    ...(range?.least !== undefined ? { least: range.least } : {}),
    ...(range?.above !== undefined ? { above: range.above } : {}),
    ...(range?.most !== undefined ? { most: range.most } : {}),
    unit: range ? unitLabel(range.unit) : '',
  };
}

const SLIPS = ['10', '1/10', '100', '1/100', '1000', '1/1000'] as const;

/** The usual slips, the unit first, then the decimal point: the first that would be plausible is offered. */
function plausibleInstead(field: QtyField, keyed: Keyed, value: Exact): Offer | undefined {
  const range = field.plausible ?? field.possible;
  if (!range) return undefined;
  const slip = slips(keyed, value, field).find(
    (tried) => !outside(range, tried.value, tried.unit) && !(field.possible && outside(field.possible, tried.value, tried.unit)),
  );
  return slip && { text: slip.text, unit: slip.unit };
}

/** Every reading that a slip of unit or decimal point could have been meant to be. */
export function slips(keyed: Keyed, value: Exact, field: QtyField): (Offer & { value: Exact })[] {
  const units = offeredUnits(field.dimension, Object.values(field.units)).filter((unit) => unit !== keyed.unit);
  return [
    ...units.map((unit) => ({ text: keyed.text.trim(), unit, value })),
    ...SLIPS.map((slip) => {
      const moved = value.mul(exact(slip));
      return { text: shown(moved, 20), unit: keyed.unit, value: moved };
    }),
  ];
}

function conversion(symbol: string, reading: Reading, value: Exact, unit: UnitId): WorkingLine {
  return {
    kind: 'reading',
    symbol,
    symbols: '',
    numbers: `${reading.keyed.text.trim()} ${unitLabel(reading.keyed.unit)}`,
    value: shown(value),
    unit: unitLabel(unit),
  };
}

function rounding(symbol: string, value: Exact, step: string, text: string, unit: UnitId): WorkingLine {
  return { kind: 'rounding', symbol, symbols: `to ${step}`, numbers: shown(value), value: text, unit: unitLabel(unit) };
}

/** The method's own windows against what happened; a clock that has not run out yet says nothing. */
function lateness(m: AnyMethod, events: Events): (Remark & { state: 'marked' | 'void' })[] {
  return (m.windows ?? []).flatMap((w) => {
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
