import { PI } from '../../numbers/constants.js';
import { method, qty, rows, text, type Citation } from '../definition.js';

const C192: Citation = { designation: 'ASTM C192/C192M', edition: '2019' };

const length = { possible: { unit: 'mm', above: '0', most: '3000' } } as const;

export const trialBatch = method({
  id: 'trial-batch',
  title: 'Trial batch',
  names: ['trial batch', 'small batch', 'weigh-up', 'how much to mix'],
  follows: [C192],
  about: 'What to weigh up for a trial: the volume of everything that is to be filled, with waste, times the design.',
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
    ingredients: rows('Ingredients, for one m³ or yd³, in charging order', {
      name: text('Ingredient', { optional: true }),
      mass: qty('mass', 'M', 'Mass', { si: 'kg', us: 'lb' }, { possible: { unit: 'kg', least: '0', most: '5000' } }),
    }),
  },
  results: {
    volume: { label: 'Volume to mix', symbol: 'V', units: { si: 'L', us: 'ft3' }, main: true },
    cubic: { label: 'the same in m³ or yd³', symbol: 'V', units: { si: 'm3', us: 'yd3' } },
    masses: { label: 'To weigh', symbol: 'm', units: { si: 'kg', us: 'lb' }, main: true },
    total: { label: 'In all', symbol: 'Σm', units: { si: 'kg', us: 'lb' } },
  },
  variants: { c192: { label: 'volumes with a waste allowance', source: C192, params: {} } },
  steps: [
    { text: 'Coarse aggregate with part of the water, then fine, cement, the rest of the water; admixtures as their maker says.' },
    { text: '3 min mixing, 3 min rest (covered), 2 min final.' },
    { text: 'Cement and silica dust: mask. Keep hands out of a turning mixer.', caution: true },
  ],
  run(r) {
    const { c, x, system } = r;
    const [l, volume, cubic, mass] = system === 'us' ? (['in', 'ft3', 'yd3', 'lb'] as const) : (['mm', 'L', 'm3', 'kg'] as const);
    // in³ in a ft³, mm³ in a litre; ft³ in a yd³, litres in a m³.
    const [small, large] = system === 'us' ? (['1728', '27'] as const) : (['1000000', '1000'] as const);
    const [n, d, h, waste] = [r.need('cylinders', '1'), r.need('diameter', l), r.need('height', l), r.need('waste', '%')];
    const vessels = (x.vessels ?? []).map((_v, i) => r.inRow('vessels', i, 'volume', volume, `v${i + 1}`));
    const list = (x.ingredients ?? []).map((_v, i) => r.inRow('ingredients', i, 'mass', mass, `M${i + 1}`));
    if (list.length === 0) r.missing('ingredients');
    if (n === null || d === null || h === null || waste === null || vessels.some((v) => v === null)) return;
    const one = c.div(c.mul(c.div(c.mul(c.num(PI), c.mul(d, d)), c.num('4')), h), c.num(small));
    const net = c.sum([c.mul(n, one), ...vessels.filter((v) => v !== null)]);
    const gross = c.name('V', c.mul(net, c.add(c.num('1'), c.div(waste, c.num('100')))), volume);
    if (c.value(gross).compare(0) === 0) return r.note('nothing-to-fill');
    const part = c.div(gross, c.num(large));
    r.result('volume', gross, volume, { L: '0.1', ft3: '0.01' });
    r.result('cubic', part, cubic);
    const masses = list.filter((m) => m !== null);
    if (masses.length === 0 || masses.length < list.length) return;
    const weighed = masses.map((m) => c.mul(m, part));
    r.series('masses', weighed, mass, { kg: '0.01', lb: '0.01' });
    r.result('total', c.name('Σm', c.sum(weighed), mass), mass);
  },
});
