import { method, qty, type Citation } from '../definition.js';
import { waterDensity } from '../volumes/volumes.js';

const C29: Citation = { designation: 'ASTM C29/C29M', edition: '2023' };

const mass = { possible: { unit: 'kg', above: '0', most: '500' }, plausible: { unit: 'kg', least: '0.2', most: '200' } } as const;

export const bulkDensity = method({
  id: 'bulk-density',
  on: ['field-sample', 'portion'],
  kit: 'measure',
  uses: ['balance'],
  title: 'Bulk density and voids of aggregate',
  names: ['bulk density', 'unit weight of aggregate', 'voids', 'dry-rodded'],
  follows: [C29],
  about: 'Mass of aggregate in a measure of calibrated volume, and the share of voids between its grains.',
  fields: {
    full: qty('mass', 'G', 'Measure full', { si: 'kg', us: 'lb' }, mass),
    empty: qty('mass', 'T', 'Measure empty', { si: 'kg', us: 'lb' }, mass),
    volume: qty(
      'volume',
      'V',
      'Volume of the measure',
      { si: 'L', us: 'ft3' },
      { from: 'measure.volume', possible: { unit: 'L', above: '0', most: '200' } },
    ),
    gravity: qty(
      'ratio',
      'S',
      'Specific gravity OD',
      { si: '1', us: '1' },
      { optional: true, possible: { unit: '1', above: '0', most: '10' }, plausible: { unit: '1', least: '2.2', most: '3.2' } },
    ),
    water: qty(
      'density',
      'ρw',
      'Density of water',
      { si: 'kg/m3', us: 'lb/ft3' },
      {
        usual: { si: '998', us: '62.3' },
        possible: { unit: 'kg/m3', above: '0', most: '1100' },
        plausible: { unit: 'kg/m3', least: '990', most: '1001' },
      },
    ),
  },
  results: {
    density: {
      label: 'Bulk density',
      symbol: 'M',
      units: { si: 'kg/m3', us: 'lb/ft3' },
      property: 'bulk-density',
      plausible: { unit: 'kg/m3', least: '900', most: '2100' },
      main: true,
    },
    voids: { label: 'Voids', symbol: 'voids', units: { si: '%', us: '%' } },
  },
  variants: {
    c29: {
      label: 'to 10 kg/m³ or 1 lb/ft³, voids to 1 %',
      source: C29,
      params: { density: { 'kg/m3': '10', 'lb/ft3': '1' }, voids: { '%': '1' } },
    },
  },
  steps: [{ text: 'Rodded to 37.5 mm, jigged to 125 mm, shovelled for loose only. Level with the fingers, weigh.' }],
  scene: {
    scale: [
      { thing: 'measure-stone', shows: 'full' },
      { thing: 'measure-empty', shows: 'empty', sign: '−' },
      { thing: 'volume', shows: 'volume', sign: '÷' },
    ],
  },
  example: { full: '19.42 kg', empty: '3.21 kg', volume: '9.98 L', gravity: '2.64', water: '997.5 kg/m3' },
  run(r) {
    const { c, p, system } = r;
    const [massUnit, volumeUnit, density] = system === 'us' ? (['lb', 'ft3', 'lb/ft3'] as const) : (['kg', 'm3', 'kg/m3'] as const);
    const [full, empty, volume] = [r.need('full', massUnit), r.need('empty', massUnit), r.need('volume', volumeUnit)];
    if (full === null || empty === null || volume === null) return;
    if (c.value(full).compare(c.value(empty)) <= 0) return r.refuse('lighter-full', 'full');
    const bulk = c.name('M', c.div(c.sub(full, empty), volume), density);
    r.result('density', bulk, density, p.density);
    const [gravity, water] = [r.have('gravity', '1'), r.have('water', density)];
    if (gravity === null || water === null) return;
    const solid = c.mul(gravity, water);
    if (c.value(bulk).compare(c.value(solid)) >= 0) return r.refuse('denser-than-grains', 'gravity');
    r.result('voids', c.name('voids', c.div(c.mul(c.num('100'), c.sub(solid, bulk)), solid), '%'), '%', p.voids);
  },
});

export const measureCalibration = method({
  id: 'measure-calibration',
  title: 'Volume of a measure, with water',
  names: ['measure calibration', 'calibrate a bucket', 'volume of measure'],
  follows: [C29],
  about: 'Water that fills a measure under a glass plate, over its density at its temperature. Yearly.',
  fields: {
    filled: qty('mass', 'W', 'Measure, plate and water', { si: 'kg', us: 'lb' }, mass),
    empty: qty('mass', 'M', 'Measure and plate', { si: 'kg', us: 'lb' }, mass),
    temperature: qty(
      'temperature',
      't',
      'Water',
      { si: 'C', us: 'F' },
      { possible: { unit: 'C', least: '0', most: '40' }, plausible: { unit: 'C', least: '10', most: '32' } },
    ),
  },
  results: {
    volume: { label: 'Volume', symbol: 'V', units: { si: 'L', us: 'ft3' }, plausible: { unit: 'L', least: '1', most: '150' }, main: true },
  },
  variants: { c29: { label: 'to 0.01 L or 0.001 ft³', source: C29, params: { increments: { L: '0.01', ft3: '0.001' } } } },
  steps: [{ text: 'No bubbles under the plate, outside dry. A dented or fouled measure is recalibrated at once.' }],
  example: { filled: '10.214 kg', empty: '3.187 kg', temperature: '21.4 C' },
  run(r) {
    const { c, p, system } = r;
    const [filled, empty, t] = [r.need('filled', 'kg'), r.need('empty', 'kg'), r.need('temperature', 'C')];
    if (filled === null || empty === null || t === null) return;
    if (c.value(filled).compare(c.value(empty)) <= 0) return r.refuse('lighter-full', 'filled');
    const cubicMetres = c.div(c.sub(filled, empty), c.name('ρw', waterDensity(c, t), 'kg/m3'));
    const [factor, unit] = system === 'us' ? (['0.028316846592', 'ft3'] as const) : (['0.001', 'L'] as const);
    r.result('volume', c.name('V', c.div(cubicMetres, c.num(factor)), unit), unit, p.increments);
  },
});
