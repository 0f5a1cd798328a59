import { PI } from '../../numbers/constants.js';
import { shown } from '../../numbers/exact.js';
import { method, pick, qty, rows, text, type Citation, type Increments } from '../definition.js';
import { isWhole } from '../rows.js';
import { percent, WHOLE } from './fields.js';

const C192: Citation = { designation: 'ASTM C192/C192M', edition: '2019' };

const length = { possible: { unit: 'mm', above: '0', most: '3000' } } as const;

/** To weigh and to plan by; the method prints none. */
const INCREMENTS: Increments = { L: '0.1', ft3: '0.01', kg: '0.01', lb: '0.01', 'kg/m3': '10', 'lb/ft3': '0.1' };

/** A stockpile’s moisture of a shift ago is not what is weighed now: it is found again. */
export const MOISTURE_HOLDS_HOURS = 12;

export const trialBatch = method({
  id: 'trial-batch',
  on: ['trial-batch'],
  kit: 'balance',
  title: 'Trial batch',
  names: ['trial batch', 'small batch', 'weigh-up', 'how much to mix'],
  follows: [C192],
  about:
    'What to weigh up for a trial: the volume of everything that is to be filled, with waste, times the design; corrected for moisture, in charging order, with the density to expect.',
  panel: 'weigh-up',
  fields: {
    cylinders: qty(
      'ratio',
      'n',
      'Cylinders',
      { si: '1', us: '1' },
      { usual: { si: '0', us: '0' }, possible: { unit: '1', least: '0', most: '500' } },
    ),
    diameter: qty('length', 'd', 'Diameter of a cylinder', { si: 'mm', us: 'in' }, { ...length, usual: { si: '100', us: '4' } }),
    height: qty('length', 'h', 'Height of a cylinder', { si: 'mm', us: 'in' }, { ...length, usual: { si: '200', us: '8' } }),
    vessels: rows(
      'Other vessels, full once',
      {
        name: text('Vessel', { optional: true }),
        volume: qty('volume', 'v', 'Volume', { si: 'L', us: 'ft3' }, { possible: { unit: 'L', above: '0', most: '1000' } }),
      },
      { optional: true },
    ),
    waste: qty(
      'percent',
      'w',
      'Waste allowance',
      { si: '%', us: '%' },
      { usual: { si: '15', us: '15' }, possible: { unit: '%', least: '0', most: '100' }, plausible: { unit: '%', least: '5', most: '30' } },
    ),
    ingredients: rows(
      'Ingredients, for one m³ or yd³; aggregates SSD',
      {
        name: text('Ingredient', { optional: true }),
        kind: pick(
          'Kind',
          { coarse: 'Coarse aggregate', fine: 'Fine aggregate', cementitious: 'Cementitious', water: 'Water', admixture: 'Admixture' },
          { optional: true },
        ),
        mass: qty('mass', 'M', 'Mass', { si: 'kg', us: 'lb' }, { possible: { unit: 'kg', least: '0', most: '5000' } }),
        moisture: { ...percent('p', 'Total moisture'), optional: true, takes: 'source.moisture' },
        absorption: { ...percent('a', 'Absorption'), optional: true, takes: 'source.absorption' },
      },
      { takes: 'mix.recipe' },
    ),
    sizes: rows(
      'Sizes of the coarse aggregate',
      {
        name: text('Size', { optional: true }),
        share: qty('percent', 'P', 'Share', { si: '%', us: '%' }, { possible: { unit: '%', least: '0', most: '100' } }),
      },
      { optional: true },
    ),
  },
  results: {
    volume: { label: 'Volume to mix', symbol: 'V', units: { si: 'L', us: 'ft3' }, main: true },
    cubic: { label: 'the same in m³ or yd³', symbol: 'V', units: { si: 'm3', us: 'yd3' } },
    masses: { label: 'To weigh', symbol: 'm', units: { si: 'kg', us: 'lb' }, along: 'ingredients', main: true },
    sizes: { label: 'of the coarse, by size', symbol: 'm_k', units: { si: 'kg', us: 'lb' }, along: 'sizes' },
    free: { label: 'Free water in the aggregates', symbol: 'F', units: { si: 'kg', us: 'lb' } },
    order: { label: 'Into the mixer', symbol: 'order', units: { si: '1', us: '1' } },
    density: { label: 'Fresh density to expect', symbol: 'D', units: { si: 'kg/m3', us: 'lb/ft3' } },
    total: { label: 'In all', symbol: 'Σm', units: { si: 'kg', us: 'lb' } },
  },
  variants: { c192: { label: 'volumes with a waste allowance', source: C192, params: { increments: INCREMENTS } } },
  steps: [
    { text: 'Coarse aggregate with part of the water, then fine, cement, the rest of the water; admixtures as their maker says.' },
    { text: '3 min mixing, 3 min rest (covered), 2 min final.' },
    { text: 'Cement and silica dust: mask. Keep hands out of a turning mixer.', caution: true },
  ],
  example: {
    cylinders: '6',
    diameter: '100 mm',
    height: '200 mm',
    vessels: [
      { name: 'Slump mold', volume: '5.5 L' },
      { name: 'Air bowl', volume: '7.04 L' },
    ],
    waste: '15 %',
    ingredients: [
      { name: 'Pellick', kind: 'coarse', mass: '1005 kg', moisture: '1.4 %', absorption: '0.9 %' },
      { name: 'Brackdown sand', kind: 'fine', mass: '690 kg', moisture: '5.1 %', absorption: '1.3 %' },
      { name: 'cement', kind: 'cementitious', mass: '420 kg' },
      { name: 'the water', kind: 'water', mass: '168 kg' },
    ],
    sizes: [
      { name: '9.5 to 19 mm', share: '55 %' },
      { name: '4.75 to 9.5 mm', share: '45 %' },
    ],
  },
  run(r) {
    const { c, x, p, system } = r;
    const [l, volume, cubic, mass, density] =
      system === 'us' ? (['in', 'ft3', 'yd3', 'lb', 'lb/ft3'] as const) : (['mm', 'L', 'm3', 'kg', 'kg/m3'] as const);
    // in³ in a ft³, mm³ in a litre; ft³ in a yd³, litres in a m³.
    const [small, large] = system === 'us' ? (['1728', '27'] as const) : (['1000000', '1000'] as const);
    const [n, d, h, waste] = [r.need('cylinders', '1'), r.need('diameter', l), r.need('height', l), r.need('waste', '%')];
    const vessels = (x.vessels ?? []).map((_v, i) => r.inRow('vessels', i, 'volume', volume, 'v'));
    const list = (x.ingredients ?? []).map((_v, i) => r.inRow('ingredients', i, 'mass', mass, 'M'));
    if (list.length === 0) r.missing('ingredients');
    if (n === null || d === null || h === null || waste === null || vessels.some((v) => v === null)) return;
    const one = c.div(c.mul(c.div(c.mul(c.num(PI), c.mul(d, d)), c.num('4')), h), c.num(small));
    const net = c.sum([c.mul(n, one), ...vessels.filter((v) => v !== null)]);
    const gross = c.name('V', c.mul(net, c.add(c.num('1'), c.div(waste, c.num('100')))), volume);
    if (c.value(gross).compare(0) === 0) return r.note('nothing-to-fill');
    const part = c.div(gross, c.num(large));
    r.result('volume', gross, volume, p.increments);
    r.result('cubic', part, cubic);
    const masses = list.filter((m) => m !== null);
    if (masses.length === 0 || masses.length < list.length) return;
    // A design of one m³ (27 ft³), its air included, weighs what its ingredients weigh.
    r.result('density', c.name('D', c.div(c.sum(masses), c.num(WHOLE[system])), density), density, p.increments);
    const rowsOf = x.ingredients ?? [];
    const hundred = c.num('100');
    const damp = masses.map((m, i) => {
      const ssd = c.mul(m, part);
      if (rowsOf[i]?.moisture === null && rowsOf[i]?.absorption === null) return { ssd, batch: ssd };
      const [moisture, absorption] = [r.inRow('ingredients', i, 'moisture', '%', 'p'), r.inRow('ingredients', i, 'absorption', '%', 'a')];
      if (moisture === null || absorption === null) return null;
      return { ssd, batch: c.div(c.mul(ssd, c.add(hundred, moisture)), c.add(hundred, absorption)) };
    });
    // Weighed as if it were SSD, a damp aggregate would bring its water along, and the mixing water would be wrong with it.
    if (!isWhole(damp)) return;
    const free = c.name('F', c.sum(damp.map(({ ssd, batch }) => c.sub(batch, ssd))), mass);
    r.result('free', free, mass, p.increments);
    const water = rowsOf.findIndex((row) => row.kind === 'water');
    if (water < 0 && c.value(free).sign() !== 0) r.note('no-water-to-correct');
    const weighed = damp.map(({ batch }, i) => (i === water ? c.sub(batch, free) : batch));
    if (water >= 0 && c.value(weighed[water]!).sign() < 0) return r.refuse('wetter-than-design', 'ingredients');
    r.series('masses', weighed, mass, p.increments);
    r.result('total', c.name('Σm', c.sum(weighed), mass), mass, p.increments);
    r.says('order', charging(rowsOf.map((row, i) => ({ kind: row.kind, name: row.name?.trim() || String(i + 1) }))));
    const shares = (x.sizes ?? []).map((_s, i) => r.inRow('sizes', i, 'share', '%', 'P')).filter((v) => v !== null);
    if (shares.length === 0 || shares.length < (x.sizes ?? []).length) return;
    const sum = c.value(c.sum(shares));
    if (!sum.equals(100)) return r.refuse('shares-not-whole', 'sizes', { sum: shown(sum, 6) });
    const coarse = c.sum(weighed.filter((_m, i) => rowsOf[i]?.kind === 'coarse'));
    r.series(
      'sizes',
      shares.map((share) => c.div(c.mul(coarse, share), hundred)),
      mass,
      p.increments,
    );
  },
});

/** Coarse with part of the water, then fine, cement, the rest of the water, admixtures; the water is named twice. */
function charging(ingredients: readonly { kind: string | null; name: string }[]): string[] {
  const of = (kind: string): string[] => ingredients.filter((i) => i.kind === kind).map((i) => i.name);
  const water = of('water');
  const other = ingredients.filter((i) => i.kind === null).map((i) => i.name);
  return [
    ...of('coarse'),
    ...water.map((name) => `part of ${name}`),
    ...of('fine'),
    ...of('cementitious'),
    ...water.map((name) => `rest of ${name}`),
    ...of('admixture'),
    ...other,
  ];
}
