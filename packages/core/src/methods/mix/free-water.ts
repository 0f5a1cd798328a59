import { qty, rows, text } from '../definition.js';
import type { Calc } from '../calc.js';
import { mass, percent } from './fields.js';

/** Aggregates of a ticket, as they were batched: damp. */
export const dampAggregates = (more: { optional?: boolean } = {}) =>
  rows('Aggregates', {
    name: text('Aggregate', { optional: true }),
    batched: qty('mass', 'B', 'Mass batched, damp', { si: 'kg', us: 'lb' }, mass),
    moisture: { ...percent('p', 'Total moisture'), ...more },
    absorption: { ...percent('a', 'Absorption'), ...more },
  });

export const waterMass = (symbol: string, label: string) =>
  qty('mass', symbol, label, { si: 'kg', us: 'lb' }, { ...mass, kgPerLitre: '1' });

/** Free water of damp masses B: Σ B·(p − a)/(100 + p). */
export function freeWater<V>(c: Calc<V>, parts: readonly { batched: V; p: V; a: V }[]): V {
  const hundred = c.num('100');
  return c.sum(parts.map(({ batched, p, a }) => c.div(c.mul(batched, c.sub(p, a)), c.add(hundred, p))));
}
