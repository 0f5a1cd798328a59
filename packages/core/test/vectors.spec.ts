import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { check, type Case } from '../tools/vector-map.js';

const cases = JSON.parse(readFileSync(join(import.meta.dirname, 'cases.json'), 'utf8')) as Case[];
const known = cases.filter((c) => check(c) !== null);

describe('worked cases of an independent calculation', () => {
  for (const c of known) {
    it(`${c.method} ${c.case}: ${c.note}`, () => expect(check(c)).toEqual([]));
  }

  it('covers every name that the core claims', () => {
    const names = new Set(known.map((c) => c.method));
    expect([...names].sort()).toEqual(
      (
        'air.correction_factor air.gravimetric air.pressure_a air.pressure_b density.fresh density.least_measure density.strokes ' +
        'density.theoretical e29.compare fresh.consolidation round.step slump.c94_limits slump.en_class slump.result temperature.report units.convert yield.batch'
      ).split(' '),
    );
  });
});
