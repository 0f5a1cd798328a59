import { Column } from '../numbers/column.js';
import { Exact } from '../numbers/value.js';
import { momentOf } from '../time/moment.js';
import { isPlain, read, type Keyed } from '../units/reading.js';
import { dimensionOf, isUnit, unitLabel, type UnitId } from '../units/units.js';
import type { Code, Params } from '../problems.js';
import type { Exchange, Field, Offer, QtyField, Shape } from './definition.js';
import { endsIn, outside, rangeWords, type Ends } from './range.js';
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
  [id: string]: (Exact | Columns | null)[] | ReadColumn;
}

const ends = new WeakMap<QtyField, Map<UnitId, Ends | null>>();

/** Between which doubles a reading in this unit is surely possible and usual; null for a unit of another dimension. */
function usualEnds(field: QtyField, unit: UnitId): Ends | null {
  let byUnit = ends.get(field);
  if (!byUnit) ends.set(field, (byUnit = new Map<UnitId, Ends | null>()));
  const known = byUnit.get(unit);
  if (known !== undefined) return known;
  const fits = isUnit(unit) && dimensionOf(unit) === field.dimension;
  const [wide, usual] = fits ? [endsIn(field.possible, unit), endsIn(field.plausible, unit)] : [null, null];
  const found = wide && { least: Math.max(wide.least, usual.least), most: Math.min(wide.most, usual.most) };
  byUnit.set(unit, found);
  return found;
}

/** From here on rows are a long series: their quantities are kept as doubles. */
const LONG = 64;

/** One quantity of many rows: a double and its bound for each; the exact value of a reading is made when it is asked for. */
export class ReadColumn {
  private readonly near: Float64Array;
  private readonly off: Float64Array;
  /** Readings that are more than plain figures, and places without one. */
  private readonly others = new Map<number, Exact | null>();
  private unit: UnitId | null | undefined;

  /** The unit of the reading before, and between which doubles one in it is surely usual; none where its unit does not fit. */
  private last: UnitId | null = null;
  private inside: Ends | null = null;

  constructor(
    private readonly rows: readonly Inputs[],
    private readonly id: string,
    private readonly field: QtyField,
  ) {
    this.near = new Float64Array(rows.length);
    this.off = new Float64Array(rows.length);
  }

  get length(): number {
    return this.near.length;
  }

  at(i: number): Exact | null {
    const other = this.others.get(i);
    return other === undefined ? Exact.decimal((this.rows[i]![this.id] as Keyed).text) : other;
  }

  /** Takes what nearly every reading of a long series is: a plain figure, well inside what is usual. False: it has to be looked at. */
  take(i: number, keyed: Keyed | null | undefined): boolean {
    if (!keyed) return false;
    const { text, unit } = keyed;
    if (unit !== this.last) {
      this.last = unit;
      this.inside = this.field.sieve ? null : usualEnds(this.field, unit);
      this.meet(unit);
    }
    if (this.inside === null || !isPlain(text)) return false;
    const near = Number(text);
    if (!(near > this.inside.least && near < this.inside.most)) return false;
    this.near[i] = near;
    this.off[i] = Exact.offOf(near, text.length);
    return true;
  }

  set(i: number, value: Exact | null, unit: UnitId | null): void {
    this.near[i] = value?.near ?? NaN;
    this.off[i] = value?.off ?? NaN;
    this.others.set(i, value);
    if (value) this.meet(unit);
  }

  /** As a column of values in `unit`; null where one is missing or was keyed in another. */
  whole(unit: UnitId): Column | null {
    if (this.unit !== unit || [...this.others.values()].includes(null)) return null;
    return new Column(this.near, this.off, (i) => this.at(i)!);
  }

  private meet(unit: UnitId | null): void {
    if (this.unit === undefined) this.unit = unit;
    else if (this.unit !== unit) this.unit = null;
  }
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
  const long = rows.length >= LONG;
  for (const id in fields)
    columns[id] =
      long && fields[id]!.kind === 'qty' ? new ReadColumn(rows, id, fields[id] as QtyField) : new Array<null>(rows.length).fill(null);
  for (; at.index < rows.length; at.index++) {
    const row = rows[at.index]!;
    for (const id in fields) {
      const [field, column] = [fields[id]!, columns[id]!];
      if (!(column instanceof ReadColumn)) column[at.index] = checkField(field, row[id], id, at, issues);
      else if (!column.take(at.index, row[id] as Keyed | null | undefined))
        column.set(
          at.index,
          checkField(field, row[id], id, at, issues) as Exact | null,
          (row[id] as Keyed | null | undefined)?.unit ?? null,
        );
    }
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
  const surely = usualEnds(field, keyed.unit);
  if (surely && value.near > surely.least && value.near < surely.most) return value;
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
