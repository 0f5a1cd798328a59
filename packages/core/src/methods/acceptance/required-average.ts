import { exact, shown, type Exact } from '../../numbers/exact.js';
import type { System } from '../../units/units.js';
import type { Calc } from '../calc.js';
import { method, qty, type Citation } from '../definition.js';
import { DECIDES, SHORT_BY, strength, stressUnit } from './fields.js';

const ACI301: Citation = { designation: 'ACI 301', edition: '2020', part: 'required average strength' };

type RequiredParams = {
  /** Factor on s by number of tests, linear between; none below the first. */
  factors: readonly { tests: number; factor: string }[];
  upTo: Record<System, string>;
  shortBy: Record<System, string>;
  z: readonly [string, string];
  shareAbove: string;
  /** Without data: added up to a strength, or a share and an amount above the last. */
  withoutData: Record<System, { below: string; add: string; between: string; addBetween: string; share: string; addAbove: string }>;
};

export const requiredAverage = method({
  id: 'required-average',
  title: 'Required average strength',
  names: ['required average', 'f’cr', 'overdesign', 'target strength'],
  follows: [ACI301],
  about: 'How strong a mix must be on average, so that it will be accepted.',
  fields: {
    specified: strength('f’c', 'Specified strength f’c'),
    tests: qty(
      'ratio',
      'n',
      'Number of tests behind s',
      { si: '1', us: '1' },
      { optional: true, possible: { unit: '1', least: '0', most: '100000' } },
    ),
    deviation: qty(
      'stress',
      's',
      'Standard deviation',
      { si: 'MPa', us: 'psi' },
      { optional: true, possible: { unit: 'MPa', least: '0', most: '30' } },
    ),
  },
  results: {
    k: { label: 'Factor for few tests', symbol: 'k', units: { si: '1', us: '1' } },
    required: { label: 'Required average', symbol: 'f’cr', units: { si: 'MPa', us: 'psi' }, main: true },
  },
  variants: {
    aci301: {
      label: 'from s and the number of tests',
      source: ACI301,
      params: {
        factors: [
          { tests: 15, factor: '1.16' },
          { tests: 20, factor: '1.08' },
          { tests: 25, factor: '1.03' },
          { tests: 30, factor: '1.00' },
        ],
        upTo: SHORT_BY.upTo,
        shortBy: SHORT_BY.shortBy,
        z: ['1.34', '2.33'],
        shareAbove: '0.90',
        withoutData: {
          us: { below: '3000', add: '1000', between: '5000', addBetween: '1200', share: '1.10', addAbove: '700' },
          si: { below: '21', add: '7.0', between: '35', addBetween: '8.3', share: '1.10', addAbove: '5.0' },
        },
      } satisfies RequiredParams as RequiredParams,
    },
  },
  steps: [{ text: 'From at least 15 tests of like materials and strength; without them, the increase that the standard gives.' }, DECIDES],
  example: { specified: '35 MPa', tests: '22', deviation: '3.0 MPa' },
  further: [{ specified: '35 MPa' }, { specified: '40 MPa' }],
  run(r) {
    const { c, p, system } = r;
    const unit = stressUnit(system);
    const [specified, tests, deviation] = [r.need('specified', unit), r.have('tests', '1'), r.have('deviation', unit)];
    if (specified === null) return;
    const fc = c.value(specified);
    const k = tests === null || deviation === null ? null : factorFor(c, c.value(tests), p.factors);
    if (k === null && tests !== null && deviation !== null) r.note('few-tests', { least: String(p.factors[0]!.tests) });
    if (k === null || deviation === null) {
      const table = p.withoutData[system];
      const added = fc.compare(exact(table.below)) < 0 ? table.add : fc.compare(exact(table.between)) <= 0 ? table.addBetween : null;
      const required = added === null ? c.add(c.mul(c.num(table.share), specified), c.num(table.addAbove)) : c.add(specified, c.num(added));
      r.result('required', c.name('f’cr', required, unit), unit);
      return;
    }
    r.result('k', k, '1');
    const ks = c.name('k·s', c.mul(k, deviation), unit);
    const first = c.add(specified, c.mul(c.num(p.z[0]), ks));
    const base =
      fc.compare(exact(p.upTo[system])) <= 0 ? c.sub(specified, c.num(p.shortBy[system])) : c.mul(c.num(p.shareAbove), specified);
    const second = c.add(base, c.mul(c.num(p.z[1]), ks));
    r.result('required', c.name('f’cr', c.value(first).compare(c.value(second)) >= 0 ? first : second, unit), unit);
  },
});

function factorFor<V>(c: Calc<V>, n: Exact, table: RequiredParams['factors']): V | null {
  const [first, last] = [table[0]!, table.at(-1)!];
  if (n.compare(first.tests) < 0) return null;
  if (n.compare(last.tests) >= 0) return c.num(last.factor);
  const i = table.findIndex(({ tests }) => n.compare(tests) < 0);
  const [fewer, more] = [table[i - 1]!, table[i]!];
  const part = c.div(c.sub(c.num(shown(n, 20)), c.num(String(fewer.tests))), c.num(String(more.tests - fewer.tests)));
  return c.name('k', c.add(c.num(fewer.factor), c.mul(part, c.sub(c.num(more.factor), c.num(fewer.factor)))), '1');
}
