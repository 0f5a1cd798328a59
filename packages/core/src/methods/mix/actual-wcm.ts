import { method, qty } from '../definition.js';
import { C94, WCM_INCREMENTS } from './fields.js';
import { dampAggregates, freeWater, waterMass } from './free-water.js';

export const CEMENTITIOUS = qty(
  'mass',
  'C',
  'Cementitious, weighed',
  { si: 'kg', us: 'lb' },
  { possible: { unit: 'kg', above: '0', most: '20000' } },
);

export const actualWcm = method({
  id: 'actual-wcm',
  on: ['load', 'trial-batch'],
  title: 'Actual w/cm from a ticket',
  names: ['actual w/cm', 'water cement ratio', 'ticket', 'free water'],
  follows: [C94],
  about: 'Water batched, added and free in the aggregates over what was weighed of cementitious material.',
  fields: {
    cementitious: { ...CEMENTITIOUS, takes: 'ticket.cementitious' },
    batched: { ...waterMass('W', 'Water batched'), takes: 'ticket.water' },
    added: { ...waterMass('Wa', 'Water added after batching'), takes: 'ticket.added' },
    aggregates: { ...dampAggregates(), takes: 'ticket.aggregates' },
  },
  results: {
    free: { label: 'Free water in the aggregates', symbol: 'F', units: { si: 'kg', us: 'lb' } },
    wcm: {
      label: 'Actual w/cm',
      symbol: 'w/cm',
      units: { si: '1', us: '1' },
      property: 'wcm',
      plausible: { unit: '1', least: '0.2', most: '0.9' },
      main: true,
    },
  },
  variants: { ticket: { label: 'from scaled weights', source: C94, params: { increments: WCM_INCREMENTS } } },
  steps: [
    { text: 'Actual weights, not targets; all water: batched, left in the drum, added on site.' },
    { text: 'Moisture on dry mass, of today: after rain it is another.' },
  ],
  example: {
    cementitious: '2525 kg',
    batched: '742 kg',
    added: '24 L',
    aggregates: [
      { name: 'Brackdown sand', batched: '4352 kg', moisture: '5.1 %', absorption: '1.3 %' },
      { name: 'Pellick 19 mm', batched: '6078 kg', moisture: '1.4 %', absorption: '0.9 %' },
    ],
  },
  run(r) {
    const { c, x, p, system } = r;
    const unit = system === 'us' ? 'lb' : 'kg';
    const list = (x.aggregates ?? []).map((_row, i) => ({
      batched: r.inRow('aggregates', i, 'batched', unit, 'B'),
      p: r.inRow('aggregates', i, 'moisture', '%', 'p'),
      a: r.inRow('aggregates', i, 'absorption', '%', 'a'),
    }));
    if (list.length === 0) r.missing('aggregates');
    const parts = list.flatMap(({ batched, p: moisture, a }) =>
      batched === null || moisture === null || a === null ? [] : [{ batched, p: moisture, a }],
    );
    const [cementitious, batched, added] = [r.need('cementitious', unit), r.need('batched', unit), r.need('added', unit)];
    if (parts.length === 0 || parts.length < list.length) return;
    const free = c.name('F', freeWater(c, parts), unit);
    r.result('free', free, unit);
    if (cementitious === null || batched === null || added === null) return;
    r.result('wcm', c.name('w/cm', c.div(c.sum([batched, added, free]), cementitious), '1'), '1', p.increments);
  },
});
