import { PI } from '../../numbers/constants.js';
import { exact, significant, type Exact } from '../../numbers/exact.js';
import type { System, UnitId } from '../../units/units.js';
import type { Calc } from '../calc.js';
import { column } from '../rows.js';
import { method, qty, rows, type Citation, type Steps } from '../definition.js';

const C39: Citation = { designation: 'ASTM C39/C39M', edition: '2024' };
const EN3: Citation = { designation: 'EN 12390-3', edition: '2019' };
const IS516: Citation = { designation: 'IS 516', edition: '1959' };

const size = { possible: { unit: 'mm', above: '0', most: '1000' }, plausible: { unit: 'mm', least: '40', most: '650' } } as const;
const force = { possible: { unit: 'kN', above: '0', most: '20000' }, plausible: { unit: 'kN', least: '5', most: '6000' } } as const;

export const GUARD = {
  text: 'Guard closed: fragments fly, and high-strength specimens fail explosively. Eye protection.',
  caution: true,
} as const;

/** Units in which a strength comes out without a factor: lbf and in give psi, N and mm give MPa. */
export const units = (system: System): { length: UnitId; force: UnitId; stress: UnitId } =>
  system === 'us' ? { length: 'in', force: 'lbf', stress: 'psi' } : { length: 'mm', force: 'N', stress: 'MPa' };

type CylinderParams = {
  diameterStep: Record<System, string>;
  steps: Steps;
  /** Largest difference of the two diameters, % of the smaller. */
  apart: string;
  /** L/D and factor, linear between; none above the first. */
  factors: readonly { ratio: string; factor: string }[];
  lengthMost: string;
};

const FACTORS: CylinderParams['factors'] = [
  { ratio: '1.75', factor: '0.98' },
  { ratio: '1.50', factor: '0.96' },
  { ratio: '1.25', factor: '0.93' },
  { ratio: '1.00', factor: '0.87' },
];

export const cylinder = method({
  id: 'cylinder',
  title: 'Compressive strength of a cylinder or core',
  names: ['break', 'compression', 'cylinder', 'core', 'compressive strength', 'fc'],
  follows: [C39, { designation: 'ASTM C42/C42M', edition: '2020' }],
  about: 'Largest load over the area of a cylinder or core, corrected where it is short.',
  fields: {
    d1: qty('length', 'd1', 'Diameter at mid-height', { si: 'mm', us: 'in' }, size),
    d2: qty('length', 'd2', 'Diameter at right angles', { si: 'mm', us: 'in' }, size),
    length: qty('length', 'L', 'Length', { si: 'mm', us: 'in' }, { ...size, plausible: { unit: 'mm', least: '40', most: '1000' } }),
    load: qty('force', 'P', 'Largest load', { si: 'kN', us: 'lbf' }, force),
  },
  results: {
    diameter: { label: 'Mean diameter', symbol: 'D', units: { si: 'mm', us: 'in' } },
    ratio: { label: 'L/D', symbol: 'L/D', units: { si: '1', us: '1' } },
    factor: { label: 'Correction for length', symbol: 'k', units: { si: '1', us: '1' } },
    strength: { label: 'Compressive strength', symbol: 'fcm', units: { si: 'MPa', us: 'psi' }, property: 'strength', main: true },
  },
  variants: {
    c39: {
      label: 'to 0.1 MPa or 10 psi',
      source: C39,
      params: {
        diameterStep: { si: '0.25', us: '0.01' },
        steps: { MPa: '0.1', psi: '10' },
        apart: '2',
        factors: FACTORS,
        lengthMost: '2.1',
      } as CylinderParams,
    },
  },
  steps: [
    { text: 'Two diameters at right angles; test moist; ends plane within 0.05 mm (0.002 in), perpendicular within 0.5°.' },
    { text: '0.25 ± 0.05 MPa/s (35 ± 7 psi/s) through the latter half.' },
    GUARD,
  ],
  run(r) {
    const { c, p, system } = r;
    const { length: l, force: f, stress } = units(system);
    const [d1, d2, length, load] = [r.need('d1', l), r.need('d2', l), r.need('length', l), r.need('load', f)];
    if (d1 === null || d2 === null) return;
    const [a, b] = [c.value(d1), c.value(d2)];
    const smaller = a.compare(b) < 0 ? a : b;
    const apart = a.sub(b).abs().div(smaller).mul(100);
    if (apart.compare(exact(p.apart)) > 0) r.voids('diameters-differ', { apart: significant(apart, 3), most: p.apart });
    const step = p.diameterStep[system];
    const mean = c.name('mean', c.div(c.add(d1, d2), c.num('2')), l);
    r.result('diameter', mean, l, { [l]: step });
    // The one intermediate that the method itself rounds.
    const diameter = c.round('D', mean, step, l);
    if (length === null) return;
    const ratio = c.name('L/D', c.div(length, diameter), '1');
    r.result('ratio', ratio, '1');
    if (c.value(ratio).compare(exact(p.lengthMost)) > 0)
      r.marks('specimen-too-long', { ratio: significant(c.value(ratio), 3), most: p.lengthMost });
    const factor = lengthFactor(c, ratio, p.factors);
    if (factor === null) return r.refuse('specimen-too-short', 'length', { ratio: significant(c.value(ratio), 3) });
    r.result('factor', factor, '1');
    if (load === null) return;
    const area = c.div(c.mul(c.num(PI), c.mul(diameter, diameter)), c.num('4'));
    r.result('strength', c.name('fcm', c.mul(c.div(load, area), factor), stress), stress, p.steps);
  },
});

/** 1 above the first listed ratio; linear between; null below the last. */
function lengthFactor<V>(c: Calc<V>, ratio: V, table: CylinderParams['factors']): V | null {
  const value: Exact = c.value(ratio);
  if (value.compare(exact(table[0]!.ratio)) > 0) return c.num('1');
  for (let i = 1; i < table.length; i++) {
    const [above, below] = [table[i - 1]!, table[i]!];
    if (value.compare(exact(below.ratio)) < 0) continue;
    const rise = c.sub(c.num(above.factor), c.num(below.factor));
    const slope = c.div(rise, c.sub(c.num(above.ratio), c.num(below.ratio)));
    return c.name('k', c.add(c.num(below.factor), c.mul(slope, c.sub(ratio, c.num(below.ratio)))), '1');
  }
  return null;
}

export const cube = method({
  id: 'cube',
  title: 'Compressive strength of a cube',
  names: ['cube', 'cube strength', 'compression', 'break'],
  follows: [EN3, IS516],
  about: 'Largest load over the area of the loaded faces.',
  fields: {
    a: qty('length', 'a', 'Side of the loaded face', { si: 'mm', us: 'in' }, size),
    b: qty('length', 'b', 'Side at right angles', { si: 'mm', us: 'in' }, size),
    load: qty('force', 'F', 'Largest load', { si: 'kN', us: 'lbf' }, force),
  },
  results: { strength: { label: 'Cube strength', symbol: 'fc', units: { si: 'MPa', us: 'psi' }, property: 'strength', main: true } },
  variants: { en: { label: 'to 0.1 MPa', source: EN3, params: { steps: { MPa: '0.1', psi: '10' } } as { steps: Steps } } },
  steps: [{ text: 'Cast faces to the platens, 0.6 ± 0.2 MPa/s. Satisfactory: all four exposed faces cracked about alike.' }, GUARD],
  run(r) {
    const { c, p, system } = r;
    const { length: l, force: f, stress } = units(system);
    const [a, b, load] = [r.need('a', l), r.need('b', l), r.need('load', f)];
    if (a === null || b === null || load === null) return;
    r.result('strength', c.name('fc', c.div(load, c.mul(a, b)), stress), stress, p.steps);
  },
});

export const cubeSet = method({
  id: 'cube-set',
  title: 'Set of three cubes',
  names: ['cube set', 'mean of cubes', 'set of three'],
  follows: [IS516],
  about: 'Mean of three cubes; one further than 15 % from it voids the set.',
  fields: {
    cubes: rows('Cubes', {
      strength: qty('stress', 'f', 'Strength', { si: 'MPa', us: 'psi' }, { possible: { unit: 'MPa', above: '0', most: '300' } }),
    }),
  },
  results: {
    mean: { label: 'Mean of the three', symbol: 'f', units: { si: 'MPa', us: 'MPa' }, whenVoid: true },
    strength: { label: 'Strength of the set', symbol: 'f', units: { si: 'MPa', us: 'MPa' }, property: 'strength', main: true },
  },
  variants: {
    is: {
      label: 'each within 15 % of the mean, to 0.5 N/mm²',
      source: IS516,
      params: { within: '15', count: '3', steps: { MPa: '0.5' } } as { within: string; count: string; steps: Steps },
    },
  },
  steps: [GUARD],
  run(r) {
    const { c, p } = r;
    const cubes = column(r, 'cubes', 'strength', 'MPa', 'f', Number(p.count));
    if (!cubes) return;
    const mean = c.name('f', c.mean(cubes), 'MPa');
    const limit = c.value(mean).mul(exact(p.within)).div(100);
    if (cubes.some((f) => c.value(f).sub(c.value(mean)).abs().compare(limit) > 0))
      r.voids('cubes-scatter', { within: p.within, mean: significant(c.value(mean), 4) });
    r.result('mean', mean, 'MPa');
    r.result('strength', mean, 'MPa', p.steps);
  },
});
