import type { Exact } from '../numbers/exact.js';
import { shown } from '../numbers/exact.js';
import { convert, unitLabel, type System, type UnitId } from '../units/units.js';
import type { Code, Params } from '../problems.js';
import type { Calc, WorkingLine } from './calc.js';
import { check, type Issue, type Reading, type Readings } from './check.js';
import type { Field, IdsOf, In, Method, Offer, Parameters, QtyField, Run, Shape, Steps } from './definition.js';
import type { Answer } from './result.js';

export interface Remark {
  readonly code: Code;
  readonly params: Params;
}

/** One run of a method's body: gives it its readings and collects what it says. */
export class Running<S extends Shape, P extends Parameters, V> implements Run<S, P, V> {
  readonly x: In<S>;
  readonly issues: Issue[] = [];
  readonly lacking: string[] = [];
  readonly notes: Remark[] = [];
  readonly reasons: Remark[] = [];
  readonly answers: Record<string, Answer> = {};
  voided = false;
  private readonly readings: Readings;

  constructor(
    private readonly m: Method<S, P>,
    input: Partial<In<S>>,
    readonly p: P,
    readonly system: System,
    readonly c: Calc<V>,
    /** Where the working goes, when it is asked for. */
    private readonly lines: WorkingLine[] | null,
  ) {
    const x = complete(m.fields, input as Record<string, unknown>);
    this.x = x as In<S>;
    this.readings = check(m.fields, x, '', this.issues);
  }

  need(id: IdsOf<S, QtyField>, unit: UnitId): V | null {
    return this.enter(this.readings[id] as Reading | undefined, unit, symbolOf(this.m.fields[id])) ?? this.lacks(id);
  }

  have(id: IdsOf<S, QtyField>, unit: UnitId): V | null {
    return this.enter(this.readings[id] as Reading | undefined, unit, symbolOf(this.m.fields[id]));
  }

  inRow(rows: string, index: number, id: string, unit: UnitId, symbol: string): V | null {
    const row = (this.readings[rows] as Readings[] | undefined)?.[index];
    return (
      this.enter(row && (id.includes('.') ? within(row, id) : (row[id] as Reading | undefined)), unit, symbol) ??
      this.lacks(`${rows}.${index}.${id}`)
    );
  }

  missing(path: string): void {
    if (!this.lacking.includes(path)) this.lacking.push(path);
  }

  refuse(code: Code, path: string, params: Params = {}): void {
    this.issues.push({ code, severity: 'impossible', path, params });
  }

  doubt(code: Code, path: string, params: Params = {}, offer?: Offer): void {
    this.issues.push({ code, severity: 'implausible', path, params, ...(offer ? { offer } : {}) });
  }

  voids(code: Code, params: Params = {}): void {
    this.voided = true;
    this.reasons.push({ code, params });
  }

  marks(code: Code, params: Params = {}): void {
    this.reasons.push({ code, params });
  }

  note(code: Code, params: Params = {}): void {
    this.notes.push({ code, params });
  }

  result(id: string, value: V, unit: UnitId, steps: Steps = {}): void {
    this.answers[id] = { value: this.c.value(value), unit, steps };
  }

  series(id: string, values: readonly V[], unit: UnitId, steps: Steps = {}): void {
    this.answers[id] = { series: values.map((v) => this.c.value(v)), unit, steps };
  }

  says(id: string, words: readonly string[]): void {
    this.answers[id] = { words };
  }

  private enter(reading: Reading | undefined, unit: UnitId, symbol: string): V | null {
    if (!reading) return null;
    const { keyed, value } = reading;
    if (keyed.unit === unit) return this.c.enter(symbol, value, unit);
    const converted = convert(value, keyed.unit, unit);
    this.lines?.push(conversion(symbol, reading, converted, unit));
    return this.c.enter(symbol, converted, unit);
  }

  private lacks(path: string): null {
    this.missing(path);
    return null;
  }
}

/** Every field present, in rows too: absent and undefined are null, so that bodies ask one question only. */
function complete(fields: Shape, input: Readonly<Record<string, unknown>>): Record<string, unknown> {
  const x: Record<string, unknown> = {};
  for (const id in fields) {
    const field = fields[id]!;
    const value = input[id] ?? null;
    x[id] =
      field.kind === 'rows' && value !== null
        ? (value as readonly Record<string, unknown>[]).map((row) => complete(field.of as Shape, row))
        : value;
  }
  return x;
}

const symbolOf = (field: Field | undefined): string => (field?.kind === 'qty' ? field.symbol : '');

/** A reading within rows of a row: `companions.0.strength`. */
function within(row: Readings, path: string): Reading | undefined {
  const [id, index, ...rest] = path.split('.') as [string, string, ...string[]];
  const inner = (row[id] as Readings[] | undefined)?.[Number(index)];
  return inner && (rest.length === 1 ? (inner[rest[0]!] as Reading | undefined) : within(inner, rest.join('.')));
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
