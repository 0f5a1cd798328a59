import { method, qty, rows, text } from '../definition.js';
import { C94, mass, percent } from './fields.js';

export const actualWcm = method({
  id: 'actual-wcm',
  title: 'Actual w/cm from a ticket',
  names: ['actual w/cm', 'water cement ratio', 'ticket', 'water that may still be added'],
  follows: [C94],
  about:
    'Water batched, added and free in the aggregates over what was weighed of cementitious material; and how much water the load may still get.',
  fields: {
    cementitious: qty(
      'mass',
      'C',
      'Cementitious, weighed',
      { si: 'kg', us: 'lb' },
      { possible: { unit: 'kg', above: '0', most: '20000' } },
    ),
    batched: qty('mass', 'W', 'Water batched', { si: 'kg', us: 'lb' }, mass),
    added: qty('mass', 'Wa', 'Water added after batching', { si: 'kg', us: 'lb' }, mass),
    aggregates: rows('Aggregates', {
      name: text('Aggregate', { optional: true }),
      batched: qty('mass', 'B', 'Mass batched, damp', { si: 'kg', us: 'lb' }, mass),
      moisture: percent('p', 'Total moisture'),
      absorption: percent('a', 'Absorption'),
    }),
    most: qty(
      'ratio',
      'w/cm',
      'Largest w/cm allowed',
      { si: '1', us: '1' },
      { optional: true, possible: { unit: '1', above: '0', most: '2' } },
    ),
  },
  results: {
    free: { label: 'Free water in the aggregates', symbol: 'F', units: { si: 'kg', us: 'lb' } },
    wcm: { label: 'Actual w/cm', symbol: 'w/cm', units: { si: '1', us: '1' }, property: 'wcm', main: true },
    room: { label: 'Water that may still be added', symbol: 'room', units: { si: 'kg', us: 'lb' } },
  },
  variants: { ticket: { label: 'from scaled weights', source: C94, params: {} } },
  steps: [],
  run(r) {
    const { c, x, system } = r;
    const unit = system === 'us' ? 'lb' : 'kg';
    const list = (x.aggregates ?? []).map((_row, i) => ({
      batched: r.inRow('aggregates', i, 'batched', unit, 'B'),
      p: r.inRow('aggregates', i, 'moisture', '%', 'p'),
      a: r.inRow('aggregates', i, 'absorption', '%', 'a'),
    }));
    if (list.length === 0) r.missing('aggregates');
    const parts = list.flatMap(({ batched, p, a }) => (batched === null || p === null || a === null ? [] : [{ batched, p, a }]));
    const [cementitious, batched, added, most] = [
      r.need('cementitious', unit),
      r.need('batched', unit),
      r.need('added', unit),
      r.have('most', '1'),
    ];
    if (parts.length === 0 || parts.length < list.length) return;
    const hundred = c.num('100');
    // Free water of a damp mass B: B·(p − a)/(100 + p).
    const free = c.name('F', c.sum(parts.map((part) => c.div(c.mul(part.batched, c.sub(part.p, part.a)), c.add(hundred, part.p)))), unit);
    r.result('free', free, unit);
    if (cementitious === null || batched === null || added === null) return;
    const water = c.sum([batched, added, free]);
    r.result('wcm', c.name('w/cm', c.div(water, cementitious), '1'), '1');
    if (most === null) return;
    const room = c.name('room', c.sub(c.mul(most, cementitious), water), unit);
    if (c.value(room).compare(0) < 0) r.note('no-room-for-water');
    r.result('room', room, unit);
  },
});
