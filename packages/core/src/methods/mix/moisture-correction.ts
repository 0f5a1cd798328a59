import { method, qty, rows, text } from '../definition.js';
import { ACI, mass, percent } from './fields.js';

export const moistureCorrection = method({
  id: 'moisture-correction',
  on: ['trial-batch'],
  title: 'Batch weights corrected for moisture',
  names: ['moisture correction', 'batch weights', 'free water', 'batching'],
  follows: [ACI],
  about: 'What to weigh of damp aggregates, and what water is left to add. Moisture is total, on dry mass: p − a is free.',
  fields: {
    water: qty('mass', 'W', 'Design water', { si: 'kg', us: 'lb' }, { ...mass, kgPerLitre: '1' }),
    aggregates: rows('Aggregates', {
      name: text('Aggregate', { optional: true }),
      ssd: qty('mass', 'S', 'Design mass, SSD', { si: 'kg', us: 'lb' }, mass),
      moisture: percent('p', 'Total moisture'),
      absorption: percent('a', 'Absorption'),
    }),
  },
  results: {
    ovenDry: { label: 'Oven-dry', symbol: 'D', units: { si: 'kg', us: 'lb' }, along: 'aggregates' },
    batch: { label: 'To weigh', symbol: 'B', units: { si: 'kg', us: 'lb' }, along: 'aggregates', main: true },
    free: { label: 'Free water', symbol: 'F', units: { si: 'kg', us: 'lb' }, along: 'aggregates' },
    toWeigh: { label: 'Water to weigh', symbol: 'W2', units: { si: 'kg', us: 'lb' }, main: true },
  },
  variants: { dry: { label: 'moisture on dry mass', source: ACI, params: {} } },
  steps: [{ text: 'Worst field errors: p taken for p − a, moisture on wet mass, yesterday’s moisture after rain.' }],
  example: {
    water: '168 kg',
    aggregates: [
      { name: 'Brackdown sand', ssd: '690 kg', moisture: '5.1 %', absorption: '1.3 %' },
      { name: 'Pellick 19 mm', ssd: '1005 kg', moisture: '1.4 %', absorption: '0.9 %' },
    ],
  },
  run(r) {
    const { c, x, system } = r;
    const unit = system === 'us' ? 'lb' : 'kg';
    const water = r.need('water', unit);
    const list = (x.aggregates ?? []).map((_row, i) => ({
      ssd: r.inRow('aggregates', i, 'ssd', unit, 'S'),
      p: r.inRow('aggregates', i, 'moisture', '%', 'p'),
      a: r.inRow('aggregates', i, 'absorption', '%', 'a'),
    }));
    if (list.length === 0) return r.missing('aggregates');
    const parts = list.flatMap(({ ssd, p, a }) => (ssd === null || p === null || a === null ? [] : [{ ssd, p, a }]));
    if (parts.length < list.length) return;
    const hundred = c.num('100');
    const dry = parts.map(({ ssd, a }, i) => c.name(`D${i + 1}`, c.div(c.mul(hundred, ssd), c.add(hundred, a)), unit));
    const batch = parts.map(({ p }, i) => c.name(`B${i + 1}`, c.div(c.mul(dry[i]!, c.add(hundred, p)), hundred), unit));
    const free = parts.map(({ ssd }, i) => c.sub(batch[i]!, ssd));
    r.series('ovenDry', dry, unit);
    r.series('batch', batch, unit);
    r.series('free', free, unit);
    if (water === null) return;
    const left = c.name('W2', c.sub(water, c.sum(free)), unit);
    if (c.value(left).compare(0) < 0) return r.refuse('wetter-than-design', 'aggregates');
    r.result('toWeigh', left, unit);
  },
});
