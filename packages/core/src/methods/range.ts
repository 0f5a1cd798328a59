import { brief, exact, significant, type Exact } from '../numbers/exact.js';
import { inUnit } from '../units/reading.js';
import { convert, unitLabel, type UnitId } from '../units/units.js';
import type { Params } from '../problems.js';
import type { Range } from './definition.js';

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
export function outside(range: Range, value: Exact, unit: UnitId, kgPerLitre?: string): boolean {
  const here = inUnit(value, unit, range.unit, kgPerLitre);
  const { least, above, most } = boundsOf(range);
  if (range.zero && here.sign() === 0) return false;
  return (
    (least !== null && here.compare(least) < 0) || (above !== null && here.compare(above) <= 0) || (most !== null && here.compare(most) > 0)
  );
}

/** Doubles between which a value is inside a range whatever was rounded on the way. */
export interface Ends {
  readonly least: number;
  readonly most: number;
}

/** The ends of a range in the unit that was keyed, drawn in by more than any rounding. */
export function endsIn(range: Range | undefined, unit: UnitId): Ends {
  const end = (text: string | undefined, none: number): number =>
    text === undefined ? none : convert(exact(text), range!.unit, unit).near;
  const [least, most] = [Math.max(end(range?.least, -Infinity), end(range?.above, -Infinity)), end(range?.most, Infinity)];
  const room = (x: number): number => (Number.isFinite(x) ? Math.abs(x) * 1e-9 + 1e-12 : 0);
  return { least: least + room(least), most: most - room(most) };
}

/** An end that was converted, to four figures, unless that puts it on the other side of what was keyed. */
function inKeyedUnit(end: Exact, beside: Exact): string {
  const short = exact(significant(end, 4));
  return brief(Math.sign(short.compare(beside)) === Math.sign(end.compare(beside)) ? short : end, 4, beside);
}

/** The ends of a range in the unit that was keyed, each on the same side of what was keyed as the end itself. */
export function rangeWords(range: Range, value: Exact, unit: UnitId, kgPerLitre?: string): Params {
  const own = kgPerLitre !== undefined && unit !== range.unit ? range.unit : unit;
  const beside = own === unit ? value : inUnit(value, unit, own, kgPerLitre);
  const words = (end: string | undefined): string | undefined =>
    end === undefined ? undefined : own === range.unit ? end : inKeyedUnit(convert(exact(end), range.unit, own), beside);
  const ends = { least: words(range.least), above: words(range.above), most: words(range.most) };
  return {
    ...Object.fromEntries(Object.entries(ends).filter((pair): pair is [string, string] => pair[1] !== undefined)),
    unit: unitLabel(own),
  };
}
