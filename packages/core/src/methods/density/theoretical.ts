import { method, qty, rows, text, type Citation } from '../definition.js';
import type { Run } from '../definition.js';
import { DECK } from '../../examples/write.js';

const C138: Citation = { designation: 'ASTM C138/C138M', edition: '2023', part: 'theoretical density' };

const fields = {
  ingredients: rows('Ingredients', {
    name: text('Ingredient', { optional: true }),
    mass: qty('mass', 'M', 'Mass', { si: 'kg', us: 'lb' }, { kgPerLitre: '1', possible: { unit: 'kg', above: '0', most: '100000' } }),
    sg: qty(
      'ratio',
      'G',
      'Specific gravity (aggregate: SSD)',
      { si: '1', us: '1' },
      {
        takes: 'source.gravity',
        possible: { unit: '1', above: '0', most: '10' },
        plausible: { unit: '1', least: '0.8', most: '5' },
      },
    ),
  }),
  water: qty(
    'density',
    'ρw',
    'Density of water',
    { si: 'kg/m3', us: 'lb/ft3' },
    {
      usual: { si: '1000', us: '62.43' },
      possible: { unit: 'kg/m3', above: '0', most: '1100' },
      plausible: { unit: 'kg/m3', least: '990', most: '1001' },
    },
  ),
};

export const theoreticalDensity = method({
  id: 'theoretical-density',
  title: 'Theoretical density, air-free',
  names: ['theoretical density', 'air-free density', 'T', 'absolute volume'],
  follows: [C138],
  about: 'Density that the concrete would have without any air: total mass over the sum of absolute volumes.',
  fields,
  results: {
    absolute: { label: 'Absolute volume', symbol: 'V', units: { si: 'm3', us: 'ft3' } },
    theoretical: {
      label: 'Theoretical density',
      symbol: 'T',
      units: { si: 'kg/m3', us: 'lb/ft3' },
      plausible: { unit: 'kg/m3', least: '1700', most: '2900' },
      main: true,
    },
  },
  variants: { c138: { label: 'sum of masses over sum of absolute volumes', source: C138, params: {} } },
  steps: [{ text: 'Holds while materials and proportions hold; its aggregates’ specific gravities are the lab’s own, at SSD.' }],
  example: { ingredients: DECK.map(({ name, mass, sg }) => ({ name: name!, mass: mass!, sg: sg! })), water: '1000 kg/m3' },
  run(r) {
    const totals = absoluteVolume(r);
    if (totals === null) return;
    const [volume, density] = r.system === 'us' ? (['ft3', 'lb/ft3'] as const) : (['m3', 'kg/m3'] as const);
    r.result('absolute', totals.volume, volume);
    r.result('theoretical', r.c.name('T', r.c.div(totals.mass, totals.volume), density), density);
  },
});

/** ΣM and ΣV = Σ M/(G·ρw) of the ingredients. */
function absoluteVolume<V>(r: Run<typeof fields, Record<string, never>, V>): { mass: V; volume: V } | null {
  const { c, x, system } = r;
  const [mass, volume, density] = system === 'us' ? (['lb', 'ft3', 'lb/ft3'] as const) : (['kg', 'm3', 'kg/m3'] as const);
  const water = r.need('water', density);
  const ingredients = x.ingredients ?? [];
  if (ingredients.length === 0) r.missing('ingredients');
  const parts = ingredients.map((_row, i) => ({
    mass: r.inRow('ingredients', i, 'mass', mass, 'M'),
    sg: r.inRow('ingredients', i, 'sg', '1', 'G'),
  }));
  if (water === null || parts.length === 0) return null;
  const masses: V[] = [];
  const volumes: V[] = [];
  for (const part of parts) {
    if (part.mass === null || part.sg === null) return null;
    masses.push(part.mass);
    volumes.push(c.div(part.mass, c.mul(part.sg, water)));
  }
  return { mass: c.name('ΣM', c.sum(masses), mass), volume: c.name('V', c.sum(volumes), volume) };
}
