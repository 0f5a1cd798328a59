import { exact, shown } from '../numbers/exact.js';
import type { Exact } from '../numbers/value.js';
import { inUnit, type Keyed } from '../units/reading.js';
import { dimensionOf, offeredUnits, type UnitId } from '../units/units.js';
import type { Offer, QtyField, Range } from './definition.js';
import { outside } from './range.js';

/** Units to offer beside a field: those of its dimension, and of water the volumes that people say. */
export const unitsFor = (field: QtyField): UnitId[] => [
  ...offeredUnits(field.dimension, Object.values(field.units)),
  ...(field.kgPerLitre === undefined ? [] : (['L', 'gal', 'mL', 'floz'] as const)),
];

const MOVED = ['10', '1/10', '100', '1/100', '1000', '1/1000'] as const;

/** Read off an instrument, and keyed beside another unit, though no form offers it. */
const READ_TOO: readonly UnitId[] = ['cm'];
/** Never read off an instrument in this trade. */
const NEVER: ReadonlySet<UnitId> = new Set(['Pa']);

const MOST_FIGURES = 10_000;

export interface Slip extends Offer {
  readonly value: Exact;
}

/** Every reading that a slip of unit or decimal point could have been meant to be, the unit first. */
export function slips(keyed: Keyed, value: Exact, field: QtyField): Slip[] {
  const named = Object.values(field.units);
  const offered = [...offeredUnits(field.dimension, named), ...READ_TOO.filter((u) => dimensionOf(u) === field.dimension)];
  const units = [...new Set(offered)].filter((unit) => unit !== keyed.unit && !NEVER.has(unit));
  return [
    // Nobody keys five figures of a small unit where few of a large one are read.
    ...(value.near < MOST_FIGURES ? units.map((unit) => ({ text: keyed.text.trim(), unit, value })) : []),
    // Nobody misses a figure of a few things that are counted.
    ...(isCount(keyed, value) ? [] : MOVED).map((by) => {
      const moved = value.mul(exact(by));
      return { text: shown(moved, 20), unit: keyed.unit, value: moved };
    }),
  ];
}

const isCount = ({ text, unit }: Keyed, value: Exact): boolean => unit === '1' && value.near < MOST_COUNTED && /^\d+$/.test(text.trim());
const MOST_COUNTED = 10;

/** What a reading in this range most often is: its typical value, or the middle of its ends on a scale of ratios. */
export function middleOf(range: Range, typical?: QtyField['typical']): { value: number; unit: UnitId } | null {
  if (typical) return { value: Number(typical.text), unit: typical.unit };
  const [low, high] = [Number(range.least ?? range.above), Number(range.most)];
  if (!Number.isFinite(high)) return null;
  return { value: low > 0 ? Math.sqrt(low * high) : (Math.max(0, low || 0) + high) / 2, unit: range.unit };
}

/** How far two figures are apart, by their ratio. */
export function apart(a: number, b: number): number {
  return a > 0 && b > 0 ? Math.abs(Math.log(a / b)) : Infinity;
}

/** Of the usual slips that would be plausible, the one that gives the most usual reading. */
export function bestSlip(field: QtyField, keyed: Keyed, value: Exact): Offer | undefined {
  const range = field.plausible ?? field.possible;
  if (!range) return undefined;
  const middle = middleOf(range, field.typical);
  const fit = slips(keyed, value, field).filter(
    (s) =>
      !outside(range, s.value, s.unit, field.kgPerLitre) && !(field.possible && outside(field.possible, s.value, s.unit, field.kgPerLitre)),
  );
  const off = (s: Slip): number => (middle === null ? 0 : apart(inUnit(s.value, s.unit, middle.unit, field.kgPerLitre).near, middle.value));
  const best = fit.reduce<Slip | undefined>((a, s) => (a === undefined || off(s) < off(a) - 1e-9 ? s : a), undefined);
  return best && { text: best.text, unit: best.unit };
}
