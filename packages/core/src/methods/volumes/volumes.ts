import { PI } from '../../numbers/constants.js';
import type { Calc } from '../calc.js';
import { method, qty, type Citation } from '../definition.js';

const GEOMETRY: Citation = { designation: 'ASTM C143/C143M', edition: '2020', part: 'frustum of the mold' };
const C29: Citation = { designation: 'ASTM C29/C29M', edition: '2023', part: 'density of water' };

const length = {
  possible: { unit: 'mm', above: '0', most: '5000' },
  plausible: { unit: 'mm', least: '35', most: '1000' },
  typical: { text: '200', unit: 'mm' },
} as const;

export const frustum = method({
  id: 'frustum',
  title: 'Volume of a frustum or cylinder',
  names: ['frustum', 'mold volume', 'volume of a cone', 'cylinder volume'],
  follows: [GEOMETRY],
  about: 'Volume of a slump mold or cylinder. Litres stand beside cubic metres: a misplaced decimal scales a whole trial batch tenfold.',
  fields: {
    base: qty('length', 'D', 'Base diameter', { si: 'mm', us: 'in' }, length),
    top: qty('length', 'd', 'Top diameter', { si: 'mm', us: 'in' }, length),
    height: qty('length', 'h', 'Height', { si: 'mm', us: 'in' }, length),
  },
  results: {
    litres: { label: 'Volume', symbol: 'V', units: { si: 'L', us: 'L' }, main: true },
    cubicMetres: { label: 'the same in m³', symbol: 'V', units: { si: 'm3', us: 'm3' } },
    cubicFeet: { label: 'the same in ft³', symbol: 'V', units: { si: 'ft3', us: 'ft3' } },
  },
  variants: { exact: { label: 'πh/12 · (D² + Dd + d²)', source: GEOMETRY, params: {} } },
  steps: [{ text: 'Inside measures, each the mean of two at right angles.' }],
  example: { base: '200 mm', top: '100 mm', height: '300 mm' },
  run(r) {
    const { c } = r;
    const [base, top, height] = [r.need('base', 'mm'), r.need('top', 'mm'), r.need('height', 'mm')];
    if (base === null || top === null || height === null) return;
    const squares = c.sum([c.mul(base, base), c.mul(base, top), c.mul(top, top)]);
    const cubicMm = c.mul(c.div(c.mul(c.num(PI), height), c.num('12')), squares);
    const litres = c.name('V', c.div(cubicMm, c.num('1000000')), 'L');
    r.result('litres', litres, 'L');
    r.result('cubicMetres', c.div(litres, c.num('1000')), 'm3');
    r.result('cubicFeet', c.div(litres, c.num('28.316846592')), 'ft3');
  },
});

/** Printed coefficients of the density of water: a ratio of polynomials, so exact on an exact temperature. */
const WATER = { most: '999.974950', t0: '3.983035', t1: '301.797', k: '522528.9', t2: '69.34881' } as const;

/** Density of water at `t` °C, kg/m³: 999.974950·(1 − (t − 3.983035)²·(t + 301.797)/(522528.9·(t + 69.34881))). */
export function waterDensity<V>(c: Calc<V>, t: V): V {
  const off = c.sub(t, c.num(WATER.t0));
  const part = c.div(c.mul(c.mul(off, off), c.add(t, c.num(WATER.t1))), c.mul(c.num(WATER.k), c.add(t, c.num(WATER.t2))));
  return c.mul(c.num(WATER.most), c.sub(c.num('1'), part));
}

export const waterDensityMethod = method({
  id: 'water-density',
  title: 'Density of water',
  names: ['water density', 'density of water'],
  follows: [C29],
  about: 'Density of water at its temperature, for calibrating measures and flasks.',
  fields: {
    temperature: qty(
      'temperature',
      't',
      'Temperature of the water',
      { si: 'C', us: 'F' },
      {
        possible: { unit: 'C', least: '0', most: '40' },
        plausible: { unit: 'C', least: '10', most: '32' },
      },
    ),
  },
  results: {
    density: { label: 'Density of water', symbol: 'ρw', units: { si: 'kg/m3', us: 'kg/m3' }, main: true },
    pounds: { label: 'the same in lb/ft³', symbol: 'ρw', units: { si: 'lb/ft3', us: 'lb/ft3' } },
  },
  variants: { formula: { label: 'by formula, 0 to 40 °C', source: C29, params: {} } },
  steps: [{ text: 'The water’s own temperature, not the room’s.' }],
  example: { temperature: '21.4 C' },
  run(r) {
    const { c } = r;
    const t = r.need('temperature', 'C');
    if (t === null) return;
    const density = c.name('ρw', waterDensity(c, t), 'kg/m3');
    r.result('density', density, 'kg/m3');
    // 1 lb/ft³ is 0.45359237 kg in 0.028316846592 m³.
    r.result('pounds', c.div(c.mul(density, c.num('0.028316846592')), c.num('0.45359237')), 'lb/ft3');
  },
});
