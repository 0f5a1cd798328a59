import { exact, type Exact } from '../../numbers/exact.js';
import { method, pick, qty, type Citation } from '../definition.js';

const MASSES: Citation = { designation: 'ASTM C136/C136M', edition: '2019', part: 'test samples; with C117, C127, C566 and D75' };

/** Least masses, kg, by nominal maximum size in mm; between two sizes the larger one's holds. */
export const LEAST: Readonly<Record<string, readonly (readonly [string, string])[]>> = {
  c566: [
    ['4.75', '0.5'],
    ['9.5', '1.5'],
    ['12.5', '2'],
    ['19.0', '3'],
    ['25.0', '4'],
    ['37.5', '6'],
    ['50', '8'],
    ['63', '10'],
    ['75', '13'],
  ],
  c117: [
    ['4.75', '0.3'],
    ['9.5', '1.0'],
    ['12.5', '2.5'],
    ['19.0', '2.5'],
    ['25.0', '5'],
    ['37.5', '5'],
    ['50', '5'],
    ['63', '5'],
    ['75', '5'],
  ],
  c136: [
    ['4.75', '0.3'],
    ['9.5', '1'],
    ['12.5', '2'],
    ['19.0', '5'],
    ['25.0', '10'],
    ['37.5', '15'],
    ['50', '20'],
    ['63', '35'],
    ['75', '60'],
  ],
  c127: [
    ['9.5', '2'],
    ['12.5', '2'],
    ['19.0', '3'],
    ['25.0', '4'],
    ['37.5', '5'],
    ['50', '8'],
    ['63', '12'],
    ['75', '18'],
  ],
  d75: [
    ['4.75', '10'],
    ['9.5', '10'],
    ['12.5', '15'],
    ['19.0', '25'],
    ['25.0', '50'],
    ['37.5', '75'],
    ['50', '100'],
    ['63', '125'],
    ['75', '150'],
    ['90', '175'],
  ],
};

/** What a sample may be for. */
export const TESTS = {
  d75: 'Field sample',
  c566: 'Total moisture',
  c117: 'Finer than 75 µm',
  c136: 'Gradation',
  c127: 'Coarse specific gravity',
} as const;

/** Nominal maximum size: the least opening that all of it is permitted to pass. */
export const NOMINAL = qty(
  'length',
  'D',
  'Nominal maximum size (permitted to pass)',
  { si: 'mm', us: 'in' },
  { possible: { unit: 'mm', above: '0', most: '150' } },
);

/** Least mass for a test, kg: the row of the next listed size; undefined beyond the table. */
export const leastFor = (test: keyof typeof TESTS, nominal: Exact): string | undefined =>
  LEAST[test]?.find(([size]) => nominal.compare(exact(size)) <= 0)?.[1];

export const leastMass = method({
  id: 'least-mass',
  title: 'Least mass of a sample',
  names: ['least mass', 'minimum mass', 'test sample mass', 'field sample'],
  follows: [MASSES],
  about: 'How much of an aggregate a test, or a field sample, needs at least, by its nominal maximum size.',
  fields: {
    test: pick('For', TESTS),
    nominal: NOMINAL,
  },
  results: { least: { label: 'Least mass', symbol: 'm', units: { si: 'kg', us: 'kg' }, main: true } },
  variants: { astm: { label: 'by nominal maximum size', source: MASSES, params: {} } },
  steps: [],
  run(r) {
    const { c, x } = r;
    const nominal = r.need('nominal', 'mm');
    if (x.test === null) r.missing('test');
    if (nominal === null || x.test === null) return;
    const kg = leastFor(x.test, c.value(nominal));
    if (kg !== undefined) r.result('least', c.num(kg), 'kg');
    else r.refuse('nominal-too-large', 'nominal', { most: `${LEAST[x.test]?.at(-1)?.[0] ?? ''} mm` });
  },
});
