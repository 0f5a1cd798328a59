import { method } from '../definition.js';
import { startWithin5 } from '../composite/windows.js';
import { ASTM, C138, densityFields, densityScene, EN, EN6, freshDensity, T121, USUAL_DENSITY } from './fields.js';
import { WEIGHED } from '../../examples/write.js';

export const FILLING_STEPS = [
  { text: 'Weigh the measure empty and damp, outside dry. Fill in layers; move the scoop round the rim.' },
  { text: 'Strike off with the plate: press on two thirds, withdraw sawing, put back, advance right across, finish with the edge tilted.' },
  { text: 'Clean the outside before weighing: concrete on the flange is weighed as concrete in the measure.' },
  { text: 'A full 14 L (1/2 ft³) measure is about 40 kg (90 lb): lift with two.', caution: true },
] as const;

export const density = method({
  id: 'density',
  on: ['sample', 'trial-batch'],
  gives: { density: { as: 'test.density', to: 'item' } },
  title: 'Density',
  names: ['density', 'unit weight', 'fresh density', 'plastic density'],
  follows: [C138, T121, EN6],
  about: 'Mass of fresh concrete in a measure of calibrated volume.',
  fields: densityFields,
  results: {
    density: {
      label: 'Density',
      symbol: 'D',
      units: { si: 'kg/m3', us: 'lb/ft3' },
      property: 'density',
      precision: 'density',
      plausible: USUAL_DENSITY,
      main: true,
    },
  },
  variants: {
    astm: { label: 'to 1 kg/m³ or 0.1 lb/ft³', source: C138, params: ASTM },
    en: { label: 'to 10 kg/m³', source: EN6, params: EN, practices: ['en'] },
  },
  steps: FILLING_STEPS,
  kit: 'measure',
  uses: ['balance'],
  windows: [startWithin5(C138, 'Filling the measure started')],
  scene: densityScene,
  example: WEIGHED,
  run(r) {
    const d = freshDensity(r);
    if (d !== null) r.result('density', d, r.p.units[r.system], r.p.increments);
  },
});
