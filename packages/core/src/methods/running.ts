import { Column } from '../numbers/column.js';
import type { Exact } from '../numbers/exact.js';
import { shown } from '../numbers/exact.js';
import type { Keyed } from '../units/reading.js';
import { inUnit } from '../units/reading.js';
import { unitLabel, type System, type UnitId } from '../units/units.js';
import type { Code, Params } from '../problems.js';
import type { Calc, Working, WorkingLine } from './calc.js';
import { check, ReadColumn, type Columns, type Issue, type Readings } from './check.js';
import { arrayOf, type List } from './lists.js';
import type {
  Exchange,
  Field,
  IdsOf,
  In,
  Method,
  Offer,
  Parameters,
  QtyField,
  RowAt,
  RowsField,
  Run,
  Shape,
  Increments,
} from './definition.js';
import type { Answer } from './result.js';

export interface Remark {
  readonly code: Code;
  readonly params: Params;
}

/** Quantities of rows between two words on the progress. */
const TOLD_EVERY = 2000;

/** One run of a method's body: gives it its readings and collects what it says. */
export class Running<S extends Shape, P extends Parameters, V> implements Run<S, P, V> {
  readonly x: In<S>;
  readonly issues: Issue[] = [];
  readonly lacking: string[] = [];
  readonly notes: Remark[] = [];
  /** Why the test is void, and why its result carries a remark. */
  readonly voided: Remark[] = [];
  readonly marked: Remark[] = [];
  readonly answers: Record<string, Answer> = {};
  private taken = 0;
  private readonly readings: Readings;

  constructor(
    private readonly m: Method<S, P>,
    input: Partial<In<S>>,
    readonly p: P,
    readonly system: System,
    readonly c: Calc<V>,
    /** Where the working goes, when it is asked for. */
    private readonly lines: Working | null,
    private readonly progress?: (taken: number) => void,
    /** Readings that the variant does not ask for: it answers without them. */
    leftOut: readonly string[] = [],
  ) {
    const x = complete(m.fields, input as Record<string, unknown>, leftOut);
    this.readings = check(m.fields, x, this.issues);
    const strange = this.issues.some(({ code }) => code === 'not-an-option');
    this.x = (strange ? chosen(m.fields, x) : x) as In<S>;
  }

  need(id: IdsOf<S, QtyField>, unit: UnitId): V | null {
    return this.have(id, unit) ?? this.lacks(id);
  }

  have(id: IdsOf<S, QtyField>, unit: UnitId): V | null {
    const value = this.readings[id] as Exact | undefined;
    return value ? this.enter(value, this.x[id] as Keyed, unit, symbolOf(this.m.fields[id]), this.m.fields[id]!) : null;
  }

  inRow(rows: string, at: RowAt, id: string, unit: UnitId, symbol: string): V | null {
    if (this.progress && ++this.taken % TOLD_EVERY === 0) this.progress(this.taken);
    const columns = this.readings[rows] as Columns | undefined;
    const list = this.x[rows] as readonly Inputs[];
    if (typeof at === 'number') {
      const value = columns?.[id]?.at(at) as Exact | null | undefined;
      if (!value) return this.lacks(`${rows}.${at}.${id}`);
      return this.enter(value, list[at]![id] as Keyed, unit, this.lines ? `${symbol}${at + 1}` : symbol, this.fieldIn(rows)[id]!);
    }
    const [row, within, inner] = at;
    const value = (columns?.[within]?.at(row) as Columns | null | undefined)?.[id]?.at(inner) as Exact | null | undefined;
    if (!value) return this.lacks(`${rows}.${at.join('.')}.${id}`);
    const keyed = (list[row]![within] as readonly Inputs[])[inner]![id] as Keyed;
    const field = (this.fieldIn(rows)[within] as RowsField).of[id]!;
    return this.enter(value, keyed, unit, this.lines ? `${symbol}${row + 1}.${inner + 1}` : symbol, field);
  }

  private fieldIn(rows: string): Shape {
    return (this.m.fields[rows] as RowsField).of;
  }

  missing(path: string): void {
    if (!this.lacking.includes(path)) this.lacking.push(path);
  }

  refuse(code: Code, path: string, params: Params = {}, exchange?: Exchange): void {
    this.issues.push({ code, severity: 'impossible', path, params, ...(exchange ? { exchange } : {}) });
  }

  doubt(code: Code, path: string, params: Params = {}, offer?: Offer): void {
    this.issues.push({ code, severity: 'implausible', path, params, ...(offer ? { offer } : {}) });
  }

  voids(code: Code, params: Params = {}): void {
    this.voided.push({ code, params });
  }

  marks(code: Code, params: Params = {}): void {
    this.marked.push({ code, params });
  }

  note(code: Code, params: Params = {}): void {
    this.notes.push({ code, params });
  }

  result(id: string, value: V, unit: UnitId, increments: Increments = {}): void {
    this.answers[id] = { value: this.c.value(value), unit, increments };
  }

  long(rows: string, id: string, unit: UnitId): List<V> | null {
    const column = (this.readings[rows] as Columns | undefined)?.[id];
    if (this.lines || !(column instanceof ReadColumn)) return null;
    const whole = column.whole(unit);
    if (whole) this.progress?.(column.length);
    return whole as unknown as List<V> | null;
  }

  series(id: string, values: List<V>, unit: UnitId, increments: Increments = {}): void {
    // A column's values are made when somebody asks for them; an array's are there.
    const series = values instanceof Column ? values : arrayOf(values).map((v) => this.c.value(v));
    this.answers[id] = { series, unit, increments };
  }

  says(id: string, words: readonly string[]): void {
    this.answers[id] = { words };
  }

  private enter(value: Exact, keyed: Keyed, unit: UnitId, symbol: string, field: Field): V {
    if (keyed.unit === unit) return this.c.enter(symbol, value, unit);
    const converted = inUnit(value, keyed.unit, unit, field.kind === 'qty' ? field.kgPerLitre : undefined);
    this.lines?.push(conversion(symbol, keyed, converted, unit));
    return this.c.enter(symbol, converted, unit);
  }

  private lacks(path: string): null {
    this.missing(path);
    return null;
  }
}

type Inputs = Readonly<Record<string, unknown>>;

/** Every field present, in rows too: absent and undefined are null, so that bodies ask one question only. */
function complete(fields: Shape, input: Inputs, leftOut: readonly string[] = []): Inputs {
  // A row of a long series stays as it came.
  if (isComplete(fields, input, leftOut)) return input;
  const x: Record<string, unknown> = {};
  for (const id in fields) {
    const field = fields[id]!;
    const given = leftOut.includes(id) ? null : (input[id] ?? null);
    x[id] = field.kind === 'rows' && given !== null ? (given as readonly Inputs[]).map((row) => complete(field.of as Shape, row)) : given;
  }
  return x;
}

function isComplete(fields: Shape, input: Inputs, leftOut: readonly string[]): boolean {
  for (const id in fields) {
    const [field, given] = [fields[id]!, input[id]];
    if (given === undefined || (given !== null && leftOut.includes(id))) return false;
    if (field.kind === 'rows' && given !== null)
      for (const row of given as readonly Inputs[]) if (!isComplete(field.of as Shape, row, NONE)) return false;
  }
  return true;
}

const NONE: readonly string[] = [];

/** Without choices that there are not: nothing is computed with them. */
function chosen(fields: Shape, x: Inputs): Inputs {
  const only = ([id, value]: [string, unknown]): [string, unknown] => {
    const field = fields[id];
    if (field?.kind === 'rows' && value !== null) return [id, (value as readonly Inputs[]).map((row) => chosen(field.of as Shape, row))];
    return [id, field?.kind === 'pick' && value !== null && !Object.hasOwn(field.options, value as string) ? null : value];
  };
  return Object.fromEntries(Object.entries(x).map(only));
}

const symbolOf = (field: Field | undefined): string => (field?.kind === 'qty' ? field.symbol : '');

function conversion(symbol: string, keyed: Keyed, value: Exact, unit: UnitId): WorkingLine {
  return {
    kind: 'reading',
    symbol,
    symbols: '',
    numbers: `${keyed.text.trim()} ${unitLabel(keyed.unit)}`,
    value: shown(value),
    unit: unitLabel(unit),
  };
}
