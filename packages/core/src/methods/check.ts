import { Exact } from '../numbers/value.js';
import { momentOf } from '../time/moment.js';
import { read, type Keyed } from '../units/reading.js';
import { isUnit, unitLabel, type UnitId } from '../units/units.js';
import type { Code, Params } from '../problems.js';
import type { Exchange, Field, Offer, QtyField, Shape } from './definition.js';
import { outside, rangeWords } from './range.js';
import { bestSlip, unitsFor } from './slips.js';

/** Something about the inputs, at the field it is about. */
export interface Issue {
  readonly code: Code;
  /** `impossible`: refused. `implausible`: may be kept with a reason. */
  readonly severity: 'impossible' | 'implausible';
  readonly path: string;
  readonly params: Params;
  /** What would be plausible. */
  readonly offer?: Offer;
  /** Readings that, each in the other’s place, would be plausible. */
  readonly exchange?: Exchange;
}

/** What of the inputs may be computed with, each in the unit beside it. */
export interface Readings {
  [id: string]: Exact | Columns;
}

/** Rows, quantity by quantity: each as long as the rows, null where there is nothing to compute with. */
export interface Columns {
  [id: string]: (Exact | Columns | null)[];
}

/** A row that is being read. Its path is written out only for an issue: a long series has few. */
interface RowAt {
  readonly rows: string;
  readonly within: RowAt | null;
  index: number;
}

const pathOf = (id: string, at: RowAt | null): string => (at === null ? id : `${pathOf(at.rows, at.within)}.${at.index}.${id}`);

type Inputs = Readonly<Record<string, unknown>>;

/** Reads every quantity of `x` against its declaration; what is wrong or unlikely goes to `issues`, at its path. */
export function check(fields: Shape, x: Inputs, issues: Issue[]): Readings {
  const readings: Readings = {};
  for (const id in fields) {
    const reading = checkField(fields[id]!, x[id], id, null, issues);
    if (reading) readings[id] = reading;
  }
  return readings;
}

function checkRows(fields: Shape, rows: readonly Inputs[], at: RowAt, issues: Issue[]): Columns {
  const columns: Columns = {};
  for (const id in fields) columns[id] = new Array<null>(rows.length).fill(null);
  for (; at.index < rows.length; at.index++) {
    const row = rows[at.index]!;
    for (const id in fields) columns[id]![at.index] = checkField(fields[id]!, row[id], id, at, issues);
  }
  return columns;
}

function checkField(field: Field, value: unknown, id: string, at: RowAt | null, issues: Issue[]): Exact | Columns | null {
  if (value === null || value === undefined) return null;
  switch (field.kind) {
    case 'qty':
      return checkQuantity(field, value as Keyed, id, at, issues);
    case 'rows':
      return checkRows(field.of as Shape, value as readonly Inputs[], { rows: id, within: at, index: 0 }, issues);
    case 'pick':
      if (!Object.hasOwn(field.options, value as string))
        issues.push({ code: 'not-an-option', severity: 'impossible', path: pathOf(id, at), params: { got: value as string } });
      return null;
    case 'instant':
      if (value !== '' && momentOf(value as string) === null)
        issues.push({ code: 'not-a-time', severity: 'impossible', path: pathOf(id, at), params: { got: value as string } });
      return null;
    case 'text':
      return null;
  }
}

function checkQuantity(field: QtyField, keyed: Keyed, id: string, at: RowAt | null, issues: Issue[]): Exact | null {
  const value = read(keyed, field.dimension, field);
  if (!(value instanceof Exact)) {
    if (value.fault === 'empty') return null;
    issues.push({
      code: value.fault,
      severity: 'impossible',
      path: pathOf(id, at),
      params: { got: keyed.text.trim(), unit: labelOf(keyed.unit), units: unitsFor(field).map(unitLabel).join(', ') },
      ...(value.offer ? { offer: value.offer } : {}),
    });
    return null;
  }
  const impossible = field.possible && outside(field.possible, value, keyed.unit, field.kgPerLitre);
  const unlikely = impossible || (field.plausible && outside(field.plausible, value, keyed.unit, field.kgPerLitre));
  if (!unlikely) return value;
  const offer = bestSlip(field, keyed, value);
  const range = impossible ? field.possible : field.plausible;
  issues.push({
    code: impossible ? 'impossible-value' : 'implausible-value',
    severity: impossible ? 'impossible' : 'implausible',
    path: pathOf(id, at),
    params: {
      ...(range ? rangeWords(range, value, keyed.unit, field.kgPerLitre) : {}),
      got: keyed.text.trim(),
      gotUnit: labelOf(keyed.unit),
    },
    ...(offer ? { offer } : {}),
  });
  return impossible ? null : value;
}

const labelOf = (unit: UnitId): string => (isUnit(unit) ? unitLabel(unit) : unit);
