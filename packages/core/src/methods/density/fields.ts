import { brief, exact } from '../../numbers/exact.js';
import type { System } from '../../units/units.js';
import { qty, type Citation, type Range, type Run, type Increments } from '../definition.js';
import type { Scene } from '../scene.js';
import { leastCapacity } from './measures.js';

export const C138: Citation = { designation: 'ASTM C138/C138M', edition: '2023' };
export const T121: Citation = { designation: 'AASHTO T 121', edition: '2019' };
export const EN6: Citation = { designation: 'EN 12350-6', edition: '2019' };

/** The weighing of a density, to be drawn. */
export const densityScene: Scene = {
  scale: [
    { thing: 'measure-full', shows: 'full' },
    { thing: 'measure-empty', shows: 'empty', sign: '−' },
    { thing: 'volume', shows: 'volume', sign: '÷' },
  ],
};

/** The readings of a density: shared by density and yield, so that one weighing serves both. */
export const densityFields = {
  full: qty(
    'mass',
    'Mc',
    'Measure full',
    { si: 'kg', us: 'lb' },
    {
      possible: { unit: 'kg', above: '0', most: '500' },
      plausible: { unit: 'kg', least: '5', most: '300' },
    },
  ),
  empty: qty(
    'mass',
    'Mm',
    'Measure empty, damp',
    { si: 'kg', us: 'lb' },
    {
      possible: { unit: 'kg', above: '0', most: '200' },
      plausible: { unit: 'kg', least: '0.5', most: '60' },
    },
  ),
  volume: qty(
    'volume',
    'Vm',
    'Volume of the measure, calibrated',
    { si: 'L', us: 'ft3' },
    {
      from: 'measure.volume',
      possible: { unit: 'L', above: '0', most: '200' },
      plausible: { unit: 'L', least: '4', most: '110' },
    },
  ),
  nominal: qty(
    'length',
    'D',
    'Nominal maximum size of aggregate (permitted to pass)',
    { si: 'mm', us: 'in' },
    {
      from: 'mix.nominal',
      optional: true,
      possible: { unit: 'mm', above: '0', most: '300' },
    },
  ),
  capacity: qty(
    'volume',
    'Vn',
    'Nominal size of the measure',
    { si: 'L', us: 'ft3' },
    {
      from: 'measure.nominal',
      optional: true,
      possible: { unit: 'L', above: '0', most: '200' },
    },
  ),
};

export type DensityParams = {
  /** Unit of the density in each system: EN knows only kg/m³. */
  units: Record<System, 'kg/m3' | 'lb/ft3'>;
  increments: Increments;
};

/** Of concrete, unless the mix is lightweight or heavy; each system as quoted. */
export const USUAL_DENSITY: Record<System, Range> = {
  si: { unit: 'kg/m3', least: '1600', most: '2700' },
  us: { unit: 'lb/ft3', least: '100', most: '170' },
};

export const ASTM: DensityParams = {
  units: { si: 'kg/m3', us: 'lb/ft3' },
  increments: { 'kg/m3': '1', 'lb/ft3': '0.1' },
};

export const EN: DensityParams = { units: { si: 'kg/m3', us: 'kg/m3' }, increments: { 'kg/m3': '10' } };

/** Masses and volume in which a density of this unit is exact: kg and m³, or lb and ft³. */
const PARTS = { 'kg/m3': { mass: 'kg', volume: 'm3' }, 'lb/ft3': { mass: 'lb', volume: 'ft3' } } as const;

/**
 * D = (Mc − Mm) / Vm, unrounded (C138 section on calculation). Null while a reading is missing;
 * masses the wrong way round are refused at the field.
 */
export function freshDensity<V>(r: Run<typeof densityFields, DensityParams, V>): V | null {
  const { c, p, system } = r;
  const unit = p.units[system];
  checkMeasure(r);
  const parts = PARTS[unit];
  const full = r.need('full', parts.mass);
  const empty = r.need('empty', parts.mass);
  const volume = r.need('volume', parts.volume);
  if (full !== null && empty !== null && c.value(full).compare(c.value(empty)) <= 0) {
    r.refuse('lighter-full', 'full');
    return null;
  }
  if (full === null || empty === null || volume === null) return null;
  const density = c.name('D', c.div(c.sub(full, empty), volume), unit);
  return density;
}

/** C138, table of capacities: judged by the nominal size, not by the calibrated volume. */
function checkMeasure<V>(r: Run<typeof densityFields, DensityParams, V>): void {
  const { c, system } = r;
  const size = r.have('nominal', system === 'us' ? 'in' : 'mm');
  const capacity = r.have('capacity', system === 'us' ? 'ft3' : 'L');
  if (size === null || capacity === null) return;
  const least = leastCapacity(c.value(size), system);
  if (least === null || c.value(capacity).compare(exact(least)) >= 0) return;
  const [lengthUnit, volumeUnit] = system === 'us' ? (['in', 'ft³'] as const) : (['mm', 'L'] as const);
  r.marks('measure-too-small', {
    nominal: `${brief(c.value(size), 4)} ${lengthUnit}`,
    least: `${least} ${volumeUnit}`,
    got: `${brief(c.value(capacity), 4)} ${volumeUnit}`,
  });
}
