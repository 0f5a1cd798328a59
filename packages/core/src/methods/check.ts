import { exact, shown } from '../numbers/exact.js';
import { Exact } from '../numbers/value.js';
import { read, type Keyed } from '../units/reading.js';
import { convert, offeredUnits, unitLabel, type UnitId } from '../units/units.js';
import type { Code, Params } from '../problems.js';
import type { Field, Offer, QtyField, Range, Shape } from './definition.js';

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

/** What of the inputs may be computed with, each in the unit beside it. */
export interface Readings {
  [id: string]: Exact | Columns;
}

/** Rows, quantity by quantity: each as long as the rows, null where there is nothing to compute with. */
export interface Columns {
  [id: string]: (Exact | Columns | null)[];
}

/** A row that is being read. Its path is written out only for an issue: a long series has few. */
interface Place {
  readonly rows: string;
  readonly within: Place | null;
  index: number;
}

const pathOf = (id: string, place: Place | null): string =>
  place === null ? id : `${pathOf(place.rows, place.within)}.${place.index}.${id}`;

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

function checkRows(fields: Shape, rows: readonly Inputs[], place: Place, issues: Issue[]): Columns {
  const columns: Columns = {};
  for (const id in fields) columns[id] = new Array<null>(rows.length).fill(null);
  for (; place.index < rows.length; place.index++) {
    const row = rows[place.index]!;
    for (const id in fields) columns[id]![place.index] = checkField(fields[id]!, row[id], id, place, issues);
  }
  return columns;
}

function checkField(field: Field, value: unknown, id: string, place: Place | null, issues: Issue[]): Exact | Columns | null {
  if (value === null || value === undefined) return null;
  if (field.kind === 'qty') return checkQuantity(field, value as Keyed, id, place, issues);
  if (field.kind === 'rows') return checkRows(field.of as Shape, value as readonly Inputs[], { rows: id, within: place, index: 0 }, issues);
  if (field.kind === 'pick' && !Object.hasOwn(field.options, value as string))
    issues.push({ code: 'not-an-option', severity: 'impossible', path: pathOf(id, place), params: { got: value as string } });
  return null;
}

function checkQuantity(field: QtyField, keyed: Keyed, id: string, place: Place | null, issues: Issue[]): Exact | null {
  const value = read(keyed, field.dimension);
  if (!(value instanceof Exact)) {
    if (value === 'empty') return null;
    const units = offeredUnits(field.dimension, Object.values(field.units)).map(unitLabel).join(', ');
    issues.push({
      code: value,
      severity: 'impossible',
      path: pathOf(id, place),
      params: { got: keyed.text, unit: keyed.unit, units },
    });
    return null;
  }
  const impossible = field.possible && outside(field.possible, value, keyed.unit);
  const unlikely = impossible || (field.plausible && outside(field.plausible, value, keyed.unit));
  if (!unlikely) return value;
  const offer = plausibleInstead(field, keyed, value);
  issues.push({
    code: impossible ? 'impossible-value' : 'implausible-value',
    severity: impossible ? 'impossible' : 'implausible',
    path: pathOf(id, place),
    params: { ...describe(impossible ? field.possible : field.plausible), ...what(keyed) },
    ...(offer ? { offer } : {}),
  });
  return impossible ? null : value;
}

const what = (keyed: Keyed): Params => ({ got: keyed.text.trim(), gotUnit: unitLabel(keyed.unit) });

interface Bounds {
  readonly least: Exact | null;
  readonly above: Exact | null;
  readonly most: Exact | null;
}

const known = new WeakMap<Range, Bounds>();

/** The ends of a range, read once. */
function boundsOf(range: Range): Bounds {
  const found = known.get(range);
  if (found) return found;
  const end = (text: string | undefined): Exact | null => (text === undefined ? null : exact(text));
  const bounds = { least: end(range.least), above: end(range.above), most: end(range.most) };
  known.set(range, bounds);
  return bounds;
}

/** Whether `value` in `unit` lies outside the range; ends are inclusive, but for `above`. */
export function outside(range: Range, value: Exact, unit: UnitId): boolean {
  const here = convert(value, unit, range.unit);
  const { least, above, most } = boundsOf(range);
  return (
    (least !== null && here.compare(least) < 0) || (above !== null && here.compare(above) <= 0) || (most !== null && here.compare(most) > 0)
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
