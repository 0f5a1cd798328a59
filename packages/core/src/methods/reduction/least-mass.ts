import { brief, exact } from '../../numbers/exact.js';
import { Exact } from '../../numbers/value.js';
import { read, type Keyed } from '../../units/reading.js';
import { convert, isUnit } from '../../units/units.js';
import { method, pick, qty, type Citation, type Parameters, type Run, type Shape } from '../definition.js';

const MASSES: Citation = { designation: 'ASTM C136/C136M', edition: '2019', part: 'test samples; with C117, C127, C566 and D75' };

type LeastParams = Readonly<Record<string, readonly { nominalMm: string; leastKg: string }[]>>;

/** Least masses, kg, by nominal maximum size in mm; between two sizes the larger one's holds. */
const LEAST: LeastParams = {
  c566: [
    { nominalMm: '4.75', leastKg: '0.5' },
    { nominalMm: '9.5', leastKg: '1.5' },
    { nominalMm: '12.5', leastKg: '2' },
    { nominalMm: '19.0', leastKg: '3' },
    { nominalMm: '25.0', leastKg: '4' },
    { nominalMm: '37.5', leastKg: '6' },
    { nominalMm: '50', leastKg: '8' },
    { nominalMm: '63', leastKg: '10' },
    { nominalMm: '75', leastKg: '13' },
  ],
  c117: [
    { nominalMm: '4.75', leastKg: '0.3' },
    { nominalMm: '9.5', leastKg: '1.0' },
    { nominalMm: '12.5', leastKg: '2.5' },
    { nominalMm: '19.0', leastKg: '2.5' },
    { nominalMm: '25.0', leastKg: '5' },
    { nominalMm: '37.5', leastKg: '5' },
    { nominalMm: '50', leastKg: '5' },
    { nominalMm: '63', leastKg: '5' },
    { nominalMm: '75', leastKg: '5' },
  ],
  c136: [
    { nominalMm: '4.75', leastKg: '0.3' },
    { nominalMm: '9.5', leastKg: '1' },
    { nominalMm: '12.5', leastKg: '2' },
    { nominalMm: '19.0', leastKg: '5' },
    { nominalMm: '25.0', leastKg: '10' },
    { nominalMm: '37.5', leastKg: '15' },
    { nominalMm: '50', leastKg: '20' },
    { nominalMm: '63', leastKg: '35' },
    { nominalMm: '75', leastKg: '60' },
  ],
  c127: [
    { nominalMm: '9.5', leastKg: '2' },
    { nominalMm: '12.5', leastKg: '2' },
    { nominalMm: '19.0', leastKg: '3' },
    { nominalMm: '25.0', leastKg: '4' },
    { nominalMm: '37.5', leastKg: '5' },
    { nominalMm: '50', leastKg: '8' },
    { nominalMm: '63', leastKg: '12' },
    { nominalMm: '75', leastKg: '18' },
  ],
  d75: [
    { nominalMm: '4.75', leastKg: '10' },
    { nominalMm: '9.5', leastKg: '10' },
    { nominalMm: '12.5', leastKg: '15' },
    { nominalMm: '19.0', leastKg: '25' },
    { nominalMm: '25.0', leastKg: '50' },
    { nominalMm: '37.5', leastKg: '75' },
    { nominalMm: '50', leastKg: '100' },
    { nominalMm: '63', leastKg: '125' },
    { nominalMm: '75', leastKg: '150' },
    { nominalMm: '90', leastKg: '175' },
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
  {
    possible: { unit: 'mm', above: '0', most: '150' },
    plausible: { unit: 'mm', least: '2.36', most: '90' },
    typical: { text: '19', unit: 'mm' },
  },
);

export type LeastTable = keyof typeof TESTS;

/** A mass as it was keyed, in kg; null of what is none. */
export const kilos = (keyed: unknown): Exact | null => {
  const { text, unit } = (keyed ?? {}) as Partial<Keyed>;
  if (text === undefined || unit === undefined || !isUnit(unit)) return null;
  const value = read({ text, unit }, 'mass');
  return value instanceof Exact ? convert(value, unit, 'kg') : null;
};

/** So much less there is than a table asks for, by the nominal maximum size; null where there is enough, or nothing says how large it is. */
export function shortOf(table: LeastTable, mass: unknown, nominal: unknown): { have: string; least: string; nominal: string } | null {
  const [own, size] = [kilos(mass), (nominal ?? {}) as Partial<Keyed>];
  if (own === null || size.text === undefined || size.unit === undefined || !isUnit(size.unit)) return null;
  const value = read({ text: size.text, unit: size.unit }, 'length');
  if (!(value instanceof Exact)) return null;
  const least = leastFor(table, convert(value, size.unit, 'mm'));
  if (least === undefined || own.compare(exact(least)) >= 0) return null;
  return { have: brief(own, 3, exact(least)), least, nominal: `${size.text} ${size.unit}` };
}

/** A sample with less than its least mass is asked about. */
export function leastCheck(
  r: Pick<Run<Shape, Parameters, unknown>, 'doubt'>,
  table: LeastTable,
  { mass, nominal }: { readonly mass?: unknown; readonly nominal?: unknown },
): void {
  const short = shortOf(table, mass, nominal);
  if (short) r.doubt('below-least-mass', 'mass', short);
}

/** Least mass for a test, kg: the row of the next listed size; undefined beyond the table. */
export const leastFor = (test: keyof typeof TESTS, nominal: Exact, table = LEAST): string | undefined =>
  table[test]?.find((row) => nominal.compare(exact(row.nominalMm)) <= 0)?.leastKg;

/** The largest size that is listed for a test, for people. */
export const largestFor = (test: keyof typeof TESTS, table = LEAST): string => `${table[test]?.at(-1)?.nominalMm ?? ''} mm`;

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
  variants: { astm: { label: 'by nominal maximum size', source: MASSES, params: LEAST } },
  steps: [{ text: 'More is allowed, less is not. The nominal maximum size is the one that all of it is permitted to pass.' }],
  example: { test: 'c136', nominal: '19 mm' },
  run(r) {
    const { c, x, p } = r;
    const nominal = r.need('nominal', 'mm');
    if (x.test === null) r.missing('test');
    if (nominal === null || x.test === null) return;
    const kg = leastFor(x.test, c.value(nominal), p);
    if (kg !== undefined) r.result('least', c.num(kg), 'kg');
    else r.refuse('nominal-too-large', 'nominal', { most: largestFor(x.test, p) });
  },
});
