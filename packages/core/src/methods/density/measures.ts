import { exact, type Exact } from '../../numbers/exact.js';
import { PI } from '../../numbers/constants.js';
import type { System } from '../../units/units.js';
import { method, qty, type Citation } from '../definition.js';

const C138: Citation = { designation: 'ASTM C138/C138M', edition: '2023', part: 'table of capacities of measures' };
const RODDING: Citation = { designation: 'ASTM C138/C138M', edition: '2023', part: 'rodding and tapping' };

type CapacityParams = Record<System, readonly { upTo: string; least: string }[]>;

/** Least capacity by nominal maximum size: inches with ft³ and millimetres with L, each as quoted. */
const CAPACITY: CapacityParams = {
  us: [
    { upTo: '1', least: '0.2' },
    { upTo: '1.5', least: '0.4' },
    { upTo: '2', least: '0.5' },
    { upTo: '3', least: '1.0' },
    { upTo: '4.5', least: '2.5' },
    { upTo: '6', least: '3.5' },
  ],
  si: [
    { upTo: '25', least: '6' },
    { upTo: '37.5', least: '11' },
    { upTo: '50', least: '14' },
    { upTo: '75', least: '28' },
    { upTo: '112', least: '70' },
    { upTo: '150', least: '100' },
  ],
};

/** Least nominal capacity for a nominal maximum size; between two sizes the larger one's holds; null beyond the table. */
export function leastCapacity(size: Exact, system: System, table = CAPACITY): string | null {
  return table[system].find(({ upTo }) => size.compare(exact(upTo)) <= 0)?.least ?? null;
}

export const leastMeasure = method({
  id: 'least-measure',
  title: 'Least measure for density',
  names: ['measure', 'bucket', 'choice of measure', 'capacity'],
  follows: [C138],
  about: 'The smallest measure that the nominal maximum size of the aggregate allows.',
  fields: {
    nominal: qty(
      'length',
      'D',
      'Nominal maximum size of aggregate (permitted to pass)',
      { si: 'mm', us: 'in' },
      {
        possible: { unit: 'mm', above: '0', most: '152.4' },
      },
    ),
  },
  results: { capacity: { label: 'Least capacity', symbol: 'V', units: { si: 'L', us: 'ft3' }, main: true } },
  variants: { c138: { label: 'by nominal maximum size', source: C138, params: CAPACITY } },
  steps: [],
  example: { nominal: '19 mm' },
  run(r) {
    const [length, volume] = r.system === 'us' ? (['in', 'ft3'] as const) : (['mm', 'L'] as const);
    const size = r.need('nominal', length);
    if (size === null) return;
    const least = leastCapacity(r.c.value(size), r.system, r.p);
    const largest = r.p[r.system].at(-1)!.upTo;
    if (least === null) r.refuse('nominal-too-large', 'nominal', { most: `${largest} ${length}` });
    else r.result('capacity', r.c.num(least), volume);
  },
});

type RoddingParams = Record<
  System,
  { strokes: readonly { upTo: string; count: string }[]; areaPerStroke: string; light: { upTo: string; mallet: string }; heavy: string }
>;

/** C138, rodding: three layers, and taps of the side after each. */
const inWords = (strokes: string): string => `3 layers of ${strokes} strokes, 10 to 15 taps after each`;

export const rodding = method({
  id: 'rodding',
  title: 'Strokes and mallet for a measure',
  names: ['strokes', 'rodding', 'mallet', 'tamping rod'],
  follows: [RODDING],
  about: 'Strokes for each of the three layers, and the mallet, by the nominal size of the measure.',
  fields: {
    capacity: qty(
      'volume',
      'V',
      'Nominal size of the measure',
      { si: 'L', us: 'ft3' },
      { possible: { unit: 'L', above: '0', most: '200' } },
    ),
    diameter: qty(
      'length',
      'd',
      'Diameter of the measure',
      { si: 'mm', us: 'in' },
      {
        optional: true,
        possible: { unit: 'mm', above: '0', most: '1000' },
      },
    ),
  },
  results: {
    strokes: { label: 'Strokes a layer', symbol: 'n', units: { si: '1', us: '1' }, main: true },
    surface: { label: 'Strokes by surface, before rounding up', symbol: 'n_A', units: { si: '1', us: '1' } },
    mallet: { label: 'Mallet', symbol: 'm', units: { si: 'kg', us: 'lb' } },
    how: { label: 'How', symbol: 'how', units: { si: '1', us: '1' } },
  },
  variants: {
    c138: {
      label: 'by capacity, above 28 L (1 ft³) by surface',
      source: RODDING,
      params: {
        // One stroke for each 20 cm² or 3 in² of surface; mallet 0.57 ± 0.23 or 1.02 ± 0.23 kg, 1.25 or 2.25 ± 0.50 lb.
        si: {
          strokes: [
            { upTo: '14', count: '25' },
            { upTo: '28', count: '50' },
          ],
          areaPerStroke: '2000',
          light: { upTo: '14', mallet: '0.57' },
          heavy: '1.02',
        },
        us: {
          strokes: [
            { upTo: '0.5', count: '25' },
            { upTo: '1', count: '50' },
          ],
          areaPerStroke: '3',
          light: { upTo: '0.5', mallet: '1.25' },
          heavy: '2.25',
        },
      } satisfies RoddingParams as RoddingParams,
    },
  },
  steps: [],
  example: { capacity: '35 L', diameter: '360 mm' },
  run(r) {
    const { c, system } = r;
    const p = r.p[system];
    const [length, volume, mass] = system === 'us' ? (['in', 'ft3', 'lb'] as const) : (['mm', 'L', 'kg'] as const);
    const capacity = r.need('capacity', volume);
    if (capacity === null) return;
    const size = c.value(capacity);
    r.result('mallet', c.num(size.compare(exact(p.light.upTo)) <= 0 ? p.light.mallet : p.heavy), mass, { [mass]: '0.01' });
    const listed = p.strokes.find(({ upTo }) => size.compare(exact(upTo)) <= 0);
    if (listed) {
      r.result('strokes', c.num(listed.count), '1', { '1': '1' });
      r.says('how', [inWords(listed.count)]);
      return;
    }
    const diameter = r.need('diameter', length);
    if (diameter === null) return;
    const area = c.div(c.mul(c.num(PI), c.mul(diameter, diameter)), c.num('4'));
    const surface = c.name('n_A', c.div(area, c.num(p.areaPerStroke)), '1');
    r.result('surface', surface, '1');
    const strokes = c.value(surface).ceil().toString();
    r.result('strokes', c.num(strokes), '1', { '1': '1' });
    r.says('how', [inWords(strokes)]);
  },
});
