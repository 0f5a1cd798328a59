import { exact, shown, significant, type Exact } from '../../numbers/exact.js';
import { convert, unitLabel, type System } from '../../units/units.js';
import { read, type Keyed } from '../../units/reading.js';
import { outside, slips } from '../check.js';
import { qty, type Citation, type Offer, type Range, type Run, type Steps } from '../definition.js';
import { leastCapacity } from './measures.js';

export const C138: Citation = { designation: 'ASTM C138/C138M', edition: '2017a' };
export const T121: Citation = { designation: 'AASHTO T 121', edition: '2019' };
export const EN6: Citation = { designation: 'EN 12350-6', edition: '2019' };

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
  steps: Steps;
  plausible: Record<'kg/m3' | 'lb/ft3', Range>;
};

const PLAUSIBLE: DensityParams['plausible'] = {
  'kg/m3': { unit: 'kg/m3', least: '1600', most: '2700' },
  'lb/ft3': { unit: 'lb/ft3', least: '100', most: '170' },
};

export const ASTM: DensityParams = {
  units: { si: 'kg/m3', us: 'lb/ft3' },
  steps: { 'kg/m3': '1', 'lb/ft3': '0.1' },
  plausible: PLAUSIBLE,
};

export const EN: DensityParams = { units: { si: 'kg/m3', us: 'kg/m3' }, steps: { 'kg/m3': '10' }, plausible: PLAUSIBLE };

interface In {
  readonly full: Keyed | null;
  readonly empty: Keyed | null;
  readonly volume: Keyed | null;
}

/** Masses and volume in which a density of this unit is exact: kg and m³, or lb and ft³. */
const PARTS = { 'kg/m3': { mass: 'kg', volume: 'm3' }, 'lb/ft3': { mass: 'lb', volume: 'ft3' } } as const;

/**
 * D = (Mc − Mm) / Vm, unrounded (C138 section on calculation). Null while a reading is missing;
 * swapped masses are refused at the field, an unlikely density comes with the slip that explains it.
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
  const range = p.plausible[unit];
  if (outside(range, c.value(density), unit)) {
    const { path, offer } = likelySlip(r.x, unit, range);
    r.doubt(
      'unlikely-density',
      path,
      {
        density: `${significant(c.value(density), 4)} ${unitLabel(unit)}`,
        least: range.least ?? '',
        most: `${range.most ?? ''} ${unitLabel(unit)}`,
      },
      offer,
    );
  }
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
    nominal: `${shown(c.value(size))} ${lengthUnit}`,
    least: `${least} ${volumeUnit}`,
    got: `${shown(c.value(capacity))} ${volumeUnit}`,
  });
}

/** Which one reading, had it slipped in unit or decimal point, would make the density plausible. */
function likelySlip(x: In, unit: 'kg/m3' | 'lb/ft3', range: Range): { path: 'full' | 'empty' | 'volume'; offer?: Offer } {
  const parts = PARTS[unit];
  const value = (id: keyof In): Exact => {
    const keyed = x[id] as Keyed;
    return convert(read(keyed, densityFields[id].dimension) as Exact, keyed.unit, id === 'volume' ? parts.volume : parts.mass);
  };
  const now = { full: value('full'), empty: value('empty'), volume: value('volume') };
  for (const path of ['full', 'volume', 'empty'] as const) {
    const keyed = x[path] as Keyed;
    const field = densityFields[path];
    const raw = read(keyed, field.dimension) as Exact;
    for (const slip of slips(keyed, raw, field)) {
      if (field.plausible && outside(field.plausible, slip.value, slip.unit)) continue;
      const tried = { ...now, [path]: convert(slip.value, slip.unit, path === 'volume' ? parts.volume : parts.mass) };
      if (!outside(range, tried.full.sub(tried.empty).div(tried.volume), unit)) {
        return { path, offer: { text: slip.text, unit: slip.unit } };
      }
    }
  }
  return { path: 'full' };
}
