import { method, qty, type Citation } from '../definition.js';

const C566: Citation = { designation: 'ASTM C566', edition: '2019' };
const T255: Citation = { designation: 'AASHTO T 255', edition: '2022' };

const mass = {
  possible: { unit: 'g', above: '0', most: '500000' },
  plausible: { unit: 'g', least: '100', most: '30000' },
  typical: { text: '1500', unit: 'g' },
} as const;

export const moisture = method({
  id: 'moisture',
  on: ['field-sample', 'portion'],
  least: { table: 'c566', of: 'wet' },
  kit: 'balance',
  uses: ['oven'],
  title: 'Total and surface moisture of aggregate',
  names: ['moisture', 'total moisture', 'surface moisture', 'free water', 'water content'],
  follows: [C566, T255],
  about: 'Water in an aggregate as a share of its oven-dry mass, and what of it is on the surface.',
  fields: {
    wet: qty('mass', 'W', 'Mass as received', { si: 'g', us: 'g' }, mass),
    dry: qty('mass', 'D', 'Oven-dry mass', { si: 'g', us: 'g' }, mass),
    absorption: qty(
      'percent',
      'a',
      'Absorption',
      { si: '%', us: '%' },
      {
        takes: 'source.absorption',
        optional: true,
        possible: { unit: '%', least: '0', most: '50' },
        plausible: { unit: '%', least: '0.1', most: '8', zero: true },
        typical: { text: '1', unit: '%' },
      },
    ),
  },
  results: {
    moisture: {
      label: 'Total moisture',
      symbol: 'p',
      units: { si: '%', us: '%' },
      property: 'moisture',
      plausible: { unit: '%', least: '0', most: '25' },
      main: true,
    },
    surface: { label: 'Surface moisture', symbol: 'p − a', units: { si: '%', us: '%' }, property: 'surface-moisture' },
  },
  variants: { c566: { label: 'on dry mass, to 0.1 %', source: C566, params: { increments: { '%': '0.1' } } } },
  steps: [
    { text: 'Weigh at once, dry to constant mass, cool, weigh.' },
    { text: 'Oven and pans are at 110 °C: gloves; stand back when the door opens.', caution: true },
  ],
  gives: { moisture: { as: 'source.moisture', to: 'subject' } },
  scene: {
    scale: [
      { thing: 'sand-wet', shows: 'wet' },
      { thing: 'sand-dry', shows: 'dry', sign: '→' },
    ],
  },
  example: { wet: '1064.2 g', dry: '1012.7 g', absorption: '1.3 %' },
  run(r) {
    const { c, p } = r;
    const [wet, dry] = [r.need('wet', 'g'), r.need('dry', 'g')];
    if (wet === null || dry === null) return;
    if (c.value(dry).compare(c.value(wet)) > 0) return r.refuse('dry-heavier', 'dry');
    const total = c.name('p', c.div(c.mul(c.num('100'), c.sub(wet, dry)), dry), '%');
    r.result('moisture', total, '%', p.increments);
    const absorption = r.have('absorption', '%');
    if (absorption === null) return;
    const surface = c.name('p − a', c.sub(total, absorption), '%');
    if (c.value(surface).compare(0) < 0) r.note('soaks-up-water');
    r.result('surface', surface, '%', p.increments);
  },
});
