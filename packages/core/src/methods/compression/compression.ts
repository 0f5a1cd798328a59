import { PI } from '../../numbers/constants.js';
import { crossCheckSpecimen } from '../../judgement/cross-checks.js';
import { brief, exact, ratio, type Exact } from '../../numbers/exact.js';
import type { System, UnitId } from '../../units/units.js';
import type { Calc } from '../calc.js';
import { AGE, strengthOfEach } from '../ages/ages.js';
import { column } from '../rows.js';
import { method, pick, qty, type Citation, type Increments } from '../definition.js';
import { each } from '../../examples/write.js';
import { C39_RATE } from '../loading-rate/loading-rate.js';
import { MACHINE, MACHINE_RANGE, rateOf, rateResult, toSet, traceRows, type RateLimits } from '../loading-rate/rate.js';
import { defects, ends, judgeEnds, PADS, type PadRange } from './broken.js';
import { GUARD } from './guard.js';

const C39: Citation = { designation: 'ASTM C39/C39M', edition: '2024' };
const EN3: Citation = { designation: 'EN 12390-3', edition: '2019' };
const IS516: Citation = { designation: 'IS 516-1-1', edition: '2021' };

const size = {
  possible: { unit: 'mm', least: '1', most: '1000' },
  plausible: { unit: 'mm', least: '40', most: '650' },
  typical: { text: '140', unit: 'mm' },
} as const;
const force = {
  possible: { unit: 'kN', above: '0', most: '20000' },
  plausible: { unit: 'kN', least: '5', most: '6000' },
  typical: { text: '500', unit: 'kN' },
} as const;
const STRENGTH = { unit: 'MPa', least: '5', most: '150' } as const;

/** Units in which a strength comes out without a factor: lbf and in give psi, N and mm give MPa. */
export const units = (system: System): { length: UnitId; force: UnitId; stress: UnitId } =>
  system === 'us' ? { length: 'in', force: 'lbf', stress: 'psi' } : { length: 'mm', force: 'N', stress: 'MPa' };

type CylinderParams = {
  diameterStep: Record<System, string>;
  increments: Increments;
  /** Largest difference of the two diameters, % of the smaller. */
  apart: string;
  /** L/D and factor, linear between; none above the first. */
  factors: readonly { ratio: string; factor: string }[];
  lengthMost: string;
  /** Length before it is capped, in diameters. */
  sawnLeast: string;
  densityIncrements: Increments;
  rate: RateLimits;
  pads: readonly PadRange[];
};

const FACTORS: CylinderParams['factors'] = [
  { ratio: '1.75', factor: '0.98' },
  { ratio: '1.50', factor: '0.96' },
  { ratio: '1.25', factor: '0.93' },
  { ratio: '1.00', factor: '0.87' },
];

export const cylinder = method({
  id: 'cylinder',
  on: ['specimen'],
  breaks: true,
  kit: 'machine',
  uses: ['pads'],
  suits: { 'specimens.shape': ['cylinder', 'core'] },
  gives: { strength: { as: 'test.strength', to: 'item' } },
  title: 'Compressive strength of a cylinder or core',
  names: ['compression', 'break', 'cylinder', 'core', 'compressive strength', 'fc'],
  follows: [C39, { designation: 'ASTM C42/C42M', edition: '2020' }, { designation: 'ASTM C1231/C1231M', edition: '2023' }],
  about: 'Largest load over the area of a cylinder or core, corrected where it is short.',
  fields: {
    d1: qty('length', 'd1', 'Diameter at mid-height', { si: 'mm', us: 'in' }, size),
    d2: qty('length', 'd2', 'Diameter at right angles', { si: 'mm', us: 'in' }, size),
    length: qty(
      'length',
      'L',
      'Length',
      { si: 'mm', us: 'in' },
      { ...size, plausible: { unit: 'mm', least: '40', most: '1000' }, typical: { text: '250', unit: 'mm' } },
    ),
    load: qty('force', 'P', 'Largest load', { si: 'kN', us: 'lbf' }, force),
    mass: qty(
      'mass',
      'm',
      'Mass, surface-dry',
      { si: 'kg', us: 'lb' },
      {
        optional: true,
        minor: true,
        possible: { unit: 'kg', above: '0', most: '100' },
        plausible: { unit: 'kg', least: '0.5', most: '30' },
      },
    ),
    fresh: qty(
      'density',
      'D_f',
      'Fresh density of its sample',
      { si: 'kg/m3', us: 'lb/ft3' },
      { takes: 'test.density', optional: true, minor: true, possible: { unit: 'kg/m3', above: '0', most: '6000' } },
    ),
    sawn: qty(
      'length',
      'L_s',
      'Length of a core before it was capped',
      { si: 'mm', us: 'in' },
      { ...size, optional: true, minor: true, plausible: { unit: 'mm', least: '40', most: '1000' } },
    ),
    ...ends,
    trace: traceRows({ optional: true }),
  },
  results: {
    diameter: { label: 'Mean diameter', symbol: 'D', units: { si: 'mm', us: 'in' }, whenVoid: true },
    apart: { label: 'Difference of the two, of the smaller', symbol: 'Δd', units: { si: '%', us: '%' }, whenVoid: true },
    ratio: { label: 'L/D', symbol: 'L/D', units: { si: '1', us: '1' } },
    factor: { label: 'Correction for length', symbol: 'k', units: { si: '1', us: '1' } },
    strength: {
      label: 'Compressive strength',
      symbol: 'fcm',
      units: { si: 'MPa', us: 'psi' },
      property: 'strength',
      plausible: STRENGTH,
      main: true,
    },
    machine: MACHINE,
    machineRange: MACHINE_RANGE,
    rate: rateResult(),
    density: { label: 'Density of the specimen', symbol: 'ρ', units: { si: 'kg/m3', us: 'lb/ft3' }, property: 'specimen-density' },
  },
  variants: {
    c39: {
      label: 'to 0.1 MPa or 10 psi',
      source: C39,
      params: {
        diameterStep: { si: '0.25', us: '0.01' },
        increments: { MPa: '0.1', psi: '10' },
        apart: '2',
        factors: FACTORS,
        lengthMost: '2.1',
        sawnLeast: '0.95',
        rate: C39_RATE,
        pads: PADS,
        densityIncrements: { 'kg/m3': '10', 'lb/ft3': '1' },
      } satisfies CylinderParams as CylinderParams,
    },
  },
  steps: [
    { text: 'Two diameters at right angles; test moist; ends plane within 0.05 mm (0.002 in), perpendicular within 0.5°.' },
    { text: '0.25 ± 0.05 MPa/s (35 ± 7 psi/s) through the latter half; note the fracture type.' },
    { text: 'Cores: trim when L/D is above 2.1; the length counts with its caps.' },
    {
      text: 'A 150 × 300 mm (6 × 12 in) cylinder is about 13 kg (30 lb): lift with the legs. Sulfur caps are molten at 130 to 145 °C.',
      caution: true,
    },
    GUARD,
  ],
  scene: { specimen: 'cylinder', width: 'd1', across: 'd2', height: 'length' },
  example: { d1: '101.5 mm', d2: '101.75 mm', length: '203 mm', load: '336.4 kN', mass: '3.76 kg', fresh: '2286 kg/m3' },
  further: [{ d1: '101.5 mm', d2: '101.75 mm', length: '152 mm', load: '336.4 kN' }],
  run(r) {
    const { c, p, system } = r;
    const { length: l, force: f, stress } = units(system);
    const [d1, d2, length, load] = [r.need('d1', l), r.need('d2', l), r.need('length', l), r.need('load', f)];
    if (d1 === null || d2 === null) return;
    const [a, b] = [c.value(d1), c.value(d2)];
    const smaller = a.compare(b) < 0 ? a : b;
    const apart = a.sub(b).abs().div(smaller).mul(100);
    r.result(
      'apart',
      c.name('Δd', c.div(c.mul(c.num('100'), a.compare(b) > 0 ? c.sub(d1, d2) : c.sub(d2, d1)), smaller === a ? d1 : d2), '%'),
      '%',
      { '%': '0.1' },
    );
    if (apart.compare(exact(p.apart)) > 0) r.voids('diameters-differ', { apart: brief(apart, 3, exact(p.apart)), most: p.apart });
    const step = p.diameterStep[system];
    const mean = c.name('mean', c.div(c.add(d1, d2), c.num('2')), l);
    r.result('diameter', mean, l, { [l]: step });
    // The one intermediate that the method itself rounds.
    const diameter = c.round('D', mean, step, l);
    if (length === null) return;
    const slender = c.name('L/D', c.div(length, diameter), '1');
    r.result('ratio', slender, '1');
    if (c.value(slender).compare(exact(p.lengthMost)) > 0)
      r.marks('specimen-too-long', { ratio: brief(c.value(slender), 3, exact(p.lengthMost)), most: p.lengthMost });
    const sawn = r.have('sawn', l);
    if (sawn !== null && c.value(sawn).compare(c.value(diameter).mul(exact(p.sawnLeast))) < 0)
      r.marks('core-sawn-short', { ratio: brief(c.value(sawn).div(c.value(diameter)), 3, exact(p.sawnLeast)), least: p.sawnLeast });
    const factor = lengthFactor(c, slender, p.factors);
    if (factor === null) return r.refuse('specimen-too-short', 'length', { ratio: brief(c.value(slender), 3, exact('1')) });
    r.result('factor', factor, '1');
    const area = c.div(c.mul(c.num(PI), c.mul(diameter, diameter)), c.num('4'));
    toSet(r, area, p.rate);
    rateOf(r, area, p.rate);
    densityOf(r, c.mul(area, length));
    if (load === null) return judgeEnds(r, null, p.pads);
    const strength = c.name('fcm', c.mul(c.div(load, area), factor), stress);
    r.result('strength', strength, stress, p.increments);
    judgeEnds(r, c.value(strength), p.pads);
  },
});

/** Mass over volume; a specimen much lighter than its fresh concrete was poorly consolidated. */
function densityOf<V>(
  r: {
    c: Calc<V>;
    system: System;
    p: CylinderParams;
    have(id: 'mass' | 'fresh', unit: UnitId): V | null;
    result(id: 'density', value: V, unit: UnitId, increments: Increments): void;
    note(code: 'specimen-light', params: Readonly<Record<string, string>>): void;
  },
  volume: V,
): void {
  const { c, system, p } = r;
  const us = system === 'us';
  const [mass, fresh] = [r.have('mass', us ? 'lb' : 'kg'), r.have('fresh', us ? 'lb/ft3' : 'kg/m3')];
  if (mass === null) return;
  // in³ in a ft³, mm³ in a m³.
  const density = c.name('ρ', c.div(c.mul(mass, c.num(us ? '1728' : '1000000000')), volume), us ? 'lb/ft3' : 'kg/m3');
  r.result('density', density, us ? 'lb/ft3' : 'kg/m3', p.densityIncrements);
  if (fresh === null) return;
  const light = crossCheckSpecimen(ratio(c.value(fresh)), ratio(c.value(density)));
  if (light) r.note('specimen-light', light.params);
}

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

type CubeParams = { increments: Increments; rate: RateLimits };

/** EN 12390-3:2019, rate of loading. */
const CUBE_RATE: RateLimits = { ...C39_RATE, target: { si: '0.6', us: '87' }, tolerance: { si: '0.2', us: '29' } };

export const cube = method({
  id: 'cube',
  on: ['specimen'],
  breaks: true,
  kit: 'machine',
  suits: { 'specimens.shape': ['cube'] },
  gives: { strength: { as: 'test.cube-strength', to: 'item' } },
  title: 'Compressive strength of a cube',
  names: ['cube', 'cube strength', 'compression', 'break'],
  follows: [EN3, IS516],
  about: 'Largest load over the area of the loaded faces.',
  fields: {
    a: qty('length', 'a', 'Side of the loaded face', { si: 'mm', us: 'in' }, size),
    b: qty('length', 'b', 'Side at right angles', { si: 'mm', us: 'in' }, size),
    load: qty('force', 'F', 'Largest load', { si: 'kN', us: 'lbf' }, force),
    failure: pick(
      'How it broke',
      { alike: 'all four faces cracked alike', otherwise: 'one side more than the others' },
      { optional: true },
    ),
    defects,
    trace: traceRows({ optional: true }),
  },
  results: {
    strength: {
      label: 'Cube strength',
      symbol: 'fc',
      units: { si: 'MPa', us: 'psi' },
      property: 'cube-strength',
      plausible: STRENGTH,
      main: true,
    },
    machine: MACHINE,
    machineRange: MACHINE_RANGE,
    rate: rateResult(),
  },
  variants: {
    en: {
      label: 'to 0.1 MPa',
      source: EN3,
      params: { increments: { MPa: '0.1', psi: '10' }, rate: CUBE_RATE } satisfies CubeParams as CubeParams,
    },
  },
  steps: [{ text: 'Cast faces to the platens, 0.6 ± 0.2 MPa/s. Satisfactory: all four exposed faces cracked about alike.' }, GUARD],
  scene: { specimen: 'cube', width: 'a', across: 'b', height: 'a' },
  example: { a: '150.1 mm', b: '149.8 mm', load: '912 kN' },
  run(r) {
    const { c, p, system } = r;
    const { length: l, force: f, stress } = units(system);
    const [a, b, load] = [r.need('a', l), r.need('b', l), r.need('load', f)];
    if (r.x.failure === 'otherwise') r.marks('cube-broke-oddly');
    if (a === null || b === null) return;
    const area = c.mul(a, b);
    toSet(r, area, p.rate);
    rateOf(r, area, p.rate);
    if (load !== null) r.result('strength', c.name('fc', c.div(load, area), stress), stress, p.increments);
  },
});

export const cubeSet = method({
  id: 'cube-set',
  on: ['specimen-set'],
  suits: { 'specimens.shape': ['cube'] },
  title: 'Set of three cubes',
  names: ['cube set', 'mean of cubes', 'set of three'],
  follows: [IS516],
  about: 'Mean of three cubes; one further than 15 % from it voids the set.',
  fields: {
    age: AGE,
    cubes: strengthOfEach('Cubes', 'test.cube-strength'),
  },
  results: {
    mean: { label: 'Mean of the three', symbol: 'f', units: { si: 'MPa', us: 'MPa' }, whenVoid: true },
    strength: {
      label: 'Strength of the set',
      symbol: 'f',
      units: { si: 'MPa', us: 'MPa' },
      property: 'cube-strength',
      plausible: STRENGTH,
      main: true,
    },
  },
  variants: {
    is: {
      label: 'each within 15 % of the mean, to 0.5 N/mm²',
      source: IS516,
      params: { within: '15', count: '3', increments: { MPa: '0.5' } },
    },
  },
  steps: [{ text: 'Three cubes of one sample at one age; one is left out only with a noted cause.' }, GUARD],
  example: { cubes: each('MPa', 'strength', '39.8 41.2 40.6') },
  run(r) {
    const { c, p } = r;
    const cubes = column(r, 'cubes', 'strength', 'MPa', 'f', Number(p.count));
    if (!cubes) return;
    const mean = c.name('f', c.mean(cubes), 'MPa');
    const limit = c.value(mean).mul(exact(p.within)).div(100);
    if (cubes.some((f) => c.value(f).sub(c.value(mean)).abs().compare(limit) > 0))
      r.voids('cubes-scatter', { within: p.within, mean: brief(c.value(mean), 4) });
    r.result('mean', mean, 'MPa');
    r.result('strength', mean, 'MPa', p.increments);
  },
});
