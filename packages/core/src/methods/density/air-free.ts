import type { Calc } from '../calc.js';

interface Row {
  readonly role: string | null;
  readonly sg: unknown;
  readonly moisture: unknown;
  readonly absorption: unknown;
}

interface BatchRun<V> {
  readonly c: Calc<V>;
  readonly x: { readonly batch: readonly Row[] | null };
  readonly system: 'si' | 'us';
  inRow(rows: 'batch', at: number, id: string, unit: 'kg' | 'lb' | '1' | '%', symbol: string): V | null;
}

const isWet = (role: string | null): boolean => role === 'water' || role === 'water-added' || role === 'admixture';

/**
 * T = ΣM/ΣV of what was in the truck, in `density`: every mass of the ticket with its specific gravity,
 * damp aggregate as its SSD mass and its free water, water added on site included (C138, theoretical
 * density). Null where the ticket has no specific gravity of a material: then only the design knows.
 */
export function airFree<V>(r: BatchRun<V>, density: 'kg/m3' | 'lb/ft3', waterDensity: string): V | null {
  const { c, x } = r;
  const batch = x.batch ?? [];
  if (batch.length === 0 || !batch.every((row) => row.sg !== null || isWet(row.role)) || !batch.some((row) => row.sg !== null)) return null;
  const unit = density === 'lb/ft3' ? 'lb' : 'kg';
  const water = c.num(unit === 'lb' ? '62.43' : waterDensity);
  const [masses, volumes]: [V[], V[]] = [[], []];
  for (const [i, row] of batch.entries()) {
    const mass = r.inRow('batch', i, 'mass', unit, 'M');
    const gravity = row.sg === null ? c.num('1') : r.inRow('batch', i, 'sg', '1', 'G');
    if (mass === null || gravity === null) return null;
    masses.push(mass);
    volumes.push(volumeOf(r, i, mass, gravity, water));
  }
  return c.name('T', c.div(c.name('ΣM', c.sum(masses), unit), c.name('ΣV', c.sum(volumes), unit === 'lb' ? 'ft3' : 'm3')), density);
}

/** SSD part over its own density, free water over that of water: B·(100 + a)/(100 + p) and the rest of B. */
function volumeOf<V>(r: BatchRun<V>, i: number, mass: V, gravity: V, water: V): V {
  const { c, x } = r;
  const row = x.batch![i]!;
  const solid = c.mul(gravity, water);
  if (row.moisture === null || row.absorption === null) return c.div(mass, solid);
  const [p, a] = [r.inRow('batch', i, 'moisture', '%', 'p'), r.inRow('batch', i, 'absorption', '%', 'a')];
  if (p === null || a === null) return c.div(mass, solid);
  const hundred = c.num('100');
  const ssd = c.div(c.mul(mass, c.add(hundred, a)), c.add(hundred, p));
  return c.add(c.div(ssd, solid), c.div(c.sub(mass, ssd), water));
}
