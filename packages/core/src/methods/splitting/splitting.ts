import { PI } from '../../numbers/constants.js';
import { method, pick, qty, rows, type Citation, type Increments } from '../definition.js';
import { column } from '../rows.js';
import { defects } from '../compression/broken.js';
import { units } from '../compression/compression.js';
import { GUARD } from '../compression/guard.js';
import { MACHINE, MACHINE_RANGE, rateOf, rateResult, toSet, traceRows, type RateLimits } from '../loading-rate/rate.js';
import { each } from '../../examples/write.js';

const EN6: Citation = { designation: 'EN 12390-6', edition: '2023' };
const IS516: Citation = { designation: 'IS 516-1', edition: '2021' };
const C496: Citation = { designation: 'ASTM C496/C496M', edition: '2017' };

const size = {
  possible: { unit: 'mm', least: '1', most: '1000' },
  plausible: { unit: 'mm', least: '40', most: '650' },
  typical: { text: '150', unit: 'mm' },
} as const;

/** ASTM C496/C496M: both ends and the middle; along both lines. */
const TIMES = { diameters: 3, lengths: 2 };

const fields = {
  diameters: rows(
    'Diameters',
    { d: qty('length', 'd', 'Diameter in the marked plane', { si: 'mm', us: 'in' }, size) },
    { times: TIMES.diameters },
  ),
  lengths: rows(
    'Lengths',
    { l: qty('length', 'l', 'Length along the marked line', { si: 'mm', us: 'in' }, size) },
    { times: TIMES.lengths },
  ),
  load: qty(
    'force',
    'P',
    'Largest load',
    { si: 'kN', us: 'lbf' },
    {
      possible: { unit: 'kN', above: '0', most: '5000' },
      plausible: { unit: 'kN', least: '5', most: '1500' },
      typical: { text: '220', unit: 'kN' },
    },
  ),
  strips: pick('Bearing strips', { new: 'new ones', used: 'used before' }, { optional: true, usual: 'new' }),
  broken: qty(
    'percent',
    'b',
    'Coarse aggregate that broke through',
    { si: '%', us: '%' },
    { optional: true, minor: true, hint: 'an estimate', possible: { unit: '%', least: '0', most: '100' } },
  ),
  along: pick('It split', { along: 'along the loaded diameter', otherwise: 'otherwise' }, { optional: true, usual: 'along' }),
  defects,
  trace: traceRows({ optional: true }),
};

type SplittingParams = { increments: Increments; diameters: number; lengths: number; rate: RateLimits };

const PARAMS = { increments: { MPa: '0.05', psi: '5' } as Increments, ...TIMES };
const HALF = { upperShare: '0.5', increments: { 'MPa/min': '0.01', 'psi/min': '1', 'MPa/s': '0.001', 'psi/s': '0.1' } as Increments };
const PER_MINUTE = { si: 'MPa/min', us: 'psi/min' } as const;

export const splitting = method({
  id: 'splitting',
  on: ['specimen'],
  breaks: true,
  kit: 'machine',
  suits: { 'specimens.shape': ['cylinder', 'core'] },
  title: 'Splitting tensile strength',
  names: ['splitting', 'split tensile', 'tensile', 'indirect tension'],
  follows: [C496, EN6, IS516],
  about: 'Load along a diameter that splits a cylinder: mean of three diameters, mean of two lengths.',
  fields,
  results: {
    diameter: { label: 'Mean diameter', symbol: 'D', units: { si: 'mm', us: 'in' } },
    length: { label: 'Mean length', symbol: 'L', units: { si: 'mm', us: 'in' } },
    strength: {
      label: 'Splitting strength',
      symbol: 'T',
      units: { si: 'MPa', us: 'psi' },
      property: 'splitting',
      plausible: { unit: 'MPa', least: '0.8', most: '9' },
      main: true,
    },
    machine: MACHINE,
    machineRange: MACHINE_RANGE,
    rate: rateResult(PER_MINUTE),
  },
  variants: {
    c496: {
      label: 'loaded at 0.7 to 1.4 MPa/min (100 to 200 psi/min)',
      source: C496,
      params: {
        ...PARAMS,
        rate: { ...HALF, unit: PER_MINUTE, target: { si: '1.05', us: '150' }, tolerance: { si: '0.35', us: '50' } },
      } satisfies SplittingParams as SplittingParams,
    },
    en: {
      label: 'loaded at 0.04 to 0.06 MPa/s',
      source: EN6,
      params: {
        ...PARAMS,
        rate: { ...HALF, unit: PER_MINUTE, target: { si: '3', us: '435' }, tolerance: { si: '0.6', us: '87' } },
      } satisfies SplittingParams as SplittingParams,
    },
    is: {
      label: 'loaded at 1.2 to 2.4 N/mm² a minute',
      source: IS516,
      params: {
        ...PARAMS,
        rate: { ...HALF, unit: PER_MINUTE, target: { si: '1.8', us: '261' }, tolerance: { si: '0.6', us: '87' } },
      } satisfies SplittingParams as SplittingParams,
    },
  },
  steps: [
    { text: 'Draw diametral lines in one plane on both ends; wipe off water and grit; tested wet.' },
    { text: 'Three diameters in the marked plane, two lengths along the lines.' },
    { text: 'Two bearing strips, used once; line up with the jig; load without shock at 0.7 to 1.4 MPa/min (100 to 200 psi/min).' },
    { text: 'Note the share of broken stone and how it broke.' },
    GUARD,
  ],
  scene: { specimen: 'lying', width: 'lengths', height: 'diameters' },
  example: { diameters: each('mm', 'd', '150.2 150.0 149.9'), lengths: each('mm', 'l', '300.5 300.1'), load: '231.4 kN' },
  run(r) {
    const { c, p, system } = r;
    const { length: l, force: f, stress } = units(system);
    const [diameters, lengths] = [column(r, 'diameters', 'd', l, 'd', p.diameters), column(r, 'lengths', 'l', l, 'l', p.lengths)];
    const diameter = diameters && c.name('D', c.mean(diameters), l);
    const length = lengths && c.name('L', c.mean(lengths), l);
    const load = r.need('load', f);
    if (diameter !== null) r.result('diameter', diameter, l);
    if (length !== null) r.result('length', length, l);
    if (r.x.strips === 'used') r.marks('strips-used');
    if (r.x.along === 'otherwise') r.marks('split-otherwise');
    if (diameter === null || length === null) return;
    const area = c.div(c.mul(c.num(PI), c.mul(length, diameter)), c.num('2'));
    toSet(r, area, p.rate);
    rateOf(r, area, p.rate);
    if (load !== null) r.result('strength', c.name('T', c.div(load, area), stress), stress, p.increments);
  },
});

export const machineRate = method({
  id: 'splitting-rate',
  title: 'Machine rate for splitting',
  names: ['machine rate', 'loading rate', 'splitting rate'],
  follows: [C496],
  about: 'The rate to set on the machine, so that the splitting stress rises as the method says.',
  fields: {
    diameter: qty('length', 'D', 'Diameter', { si: 'mm', us: 'in' }, size),
    length: qty('length', 'L', 'Length', { si: 'mm', us: 'in' }, size),
    rate: qty(
      'stress-rate',
      'ṡ',
      'Stress rate',
      { si: 'MPa/min', us: 'psi/min' },
      { possible: { unit: 'MPa/min', above: '0', most: '60' }, plausible: { unit: 'MPa/min', least: '0.7', most: '3.6' } },
    ),
  },
  results: { rate: { label: 'Machine rate', symbol: 'Ṗ', units: { si: 'kN/s', us: 'lbf/min' }, main: true } },
  variants: { c496: { label: 'ṡ · π/2 · L · D', source: C496, params: {} } },
  steps: [{ text: 'Set it before the specimen is in; C496 0.7 to 1.4 MPa/min, IS 1.2 to 2.4, EN 0.04 to 0.06 MPa/s.' }, GUARD],
  example: { diameter: '150 mm', length: '300 mm', rate: '1.0 MPa/min' },
  run(r) {
    const { c, system } = r;
    const l = system === 'us' ? 'in' : 'mm';
    const [d, length] = [r.need('diameter', l), r.need('length', l)];
    const rate = r.need('rate', system === 'us' ? 'psi/min' : 'MPa/s');
    if (d === null || length === null || rate === null) return;
    const force = c.mul(rate, c.mul(c.div(c.num(PI), c.num('2')), c.mul(length, d)));
    // MPa/s over mm² is N/s.
    if (system === 'us') r.result('rate', c.name('Ṗ', force, 'lbf/min'), 'lbf/min');
    else r.result('rate', c.name('Ṗ', c.div(force, c.num('1000')), 'kN/s'), 'kN/s');
  },
});
