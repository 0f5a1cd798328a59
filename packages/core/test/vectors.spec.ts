import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { check, type Case } from '../testing/vector-map.js';

const cases = JSON.parse(readFileSync(join(import.meta.dirname, 'cases.json'), 'utf8')) as Case[];
describe('worked cases of an independent calculation', () => {
  for (const c of cases) {
    it(`${c.method} ${c.case}: ${c.note}`, () => expect(check(c)).toEqual([]));
  }
});
