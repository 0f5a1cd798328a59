import { exact, type Exact } from '../../numbers/exact.js';
import { column } from '../rows.js';
import { method, qty, rows, type Citation, type Run, type Increments } from '../definition.js';
import { rowsOf } from '../../examples/write.js';

export const C805: Citation = { designation: 'ASTM C805/C805M', edition: '2018' };
const EN: Citation = { designation: 'EN 12504-2', edition: '2021' };

type ReboundParams = {
  central: 'mean' | 'median';
  least: number;
  /** Further from the central value than this (units, or % of the median) is thrown out, or counted. */
  far: string;
  /** More than this (a count, or % of the readings) voids the area. */
  most: string;
  increments: Increments;
};

export const reboundNumber = (symbol: string, label: string) =>
  qty(
    'ratio',
    symbol,
    label,
    { si: '1', us: '1' },
    { possible: { unit: '1', least: '0', most: '100' }, plausible: { unit: '1', least: '10', most: '70' } },
  );

const fields = {
  readings: rows('Impacts', {
    value: reboundNumber('R', 'Reading'),
  }),
};

export const rebound = method({
  id: 'rebound',
  on: ['area'],
  kit: 'hammer',
  title: 'Rebound number',
  names: ['rebound', 'rebound hammer', 'hammer', 'swiss hammer', 'impact'],
  follows: [C805, EN],
  about: 'Rebound of a hammer on an area: uniformity in place. Never by itself grounds for accepting or rejecting.',
  panel: 'rebound',
  fields,
  results: {
    all: { label: 'Mean of all', symbol: 'R̄', units: { si: '1', us: '1' }, whenVoid: true },
    number: { label: 'Rebound number', symbol: 'R', units: { si: '1', us: '1' }, property: 'rebound', precision: 'rebound', main: true },
    counted: { label: 'Readings that count', symbol: 'n', units: { si: '1', us: '1' } },
    discarded: { label: 'Thrown out', symbol: 'out', units: { si: '1', us: '1' }, whenVoid: true },
    far: { label: 'Far from the median', symbol: 'far', units: { si: '1', us: '1' }, whenVoid: true },
  },
  variants: {
    astm: {
      label: 'ten impacts, mean of the rest',
      source: C805,
      params: { central: 'mean', least: 10, far: '6', most: '2', increments: { '1': '1' } } satisfies ReboundParams as ReboundParams,
    },
    lab: {
      label: 'five to twelve impacts, mean of the rest',
      source: C805,
      params: { central: 'mean', least: 5, far: '6', most: '2', increments: { '1': '1' } } satisfies ReboundParams as ReboundParams,
    },
    en: {
      label: 'nine or more, median',
      source: EN,
      params: { central: 'median', least: 9, far: '30', most: '20', increments: { '1': '1' } } satisfies ReboundParams as ReboundParams,
    },
  },
  steps: [
    { text: 'An impact that crushed or broke through is not a reading: move at least 25 mm and strike again.' },
    { text: 'Eyes covered: chips fly.', caution: true },
    { text: 'Smooth, dry, at least 150 mm across; hammer square; impacts 25 mm apart, 50 mm from edges; note orientation and hammer.' },
  ],
  example: { readings: rowsOf('value', '38 41 39 40 37 42 39 40 31 38') },
  run(r) {
    const { c, p } = r;
    const values = column(r, 'readings', 'value', '1', 'R', p.least);
    if (!values) return;
    if (p.central === 'median') {
      const sorted = [...values].sort((a, b) => c.value(a).compare(c.value(b)));
      const middle = sorted.length / 2;
      const median = sorted.length % 2 === 1 ? sorted[Math.floor(middle)]! : c.mean(sorted.slice(middle - 1, middle + 1));
      const limit = c.value(median).mul(exact(p.far)).div(100);
      const far = farFrom(
        values.map((v) => c.value(v)),
        c.value(median),
        limit,
      );
      r.says('far', keyed(r, far));
      if (exact(String(far.length)).mul(100).compare(exact(p.most).mul(values.length)) > 0)
        r.voids('rebound-scatter', { count: String(far.length), of: String(values.length) });
      r.result('number', c.name('R', median, '1'), '1', p.increments);
      return;
    }
    const all = c.name('R̄', c.mean(values), '1');
    r.result('all', all, '1');
    const out = farFrom(
      values.map((v) => c.value(v)),
      c.value(all),
      exact(p.far),
    );
    r.says('discarded', keyed(r, out));
    if (out.length > Number(p.most)) r.voids('rebound-scatter', { count: String(out.length), of: String(values.length) });
    const rest = values.filter((_v, i) => !out.includes(String(i + 1)));
    r.result('counted', c.num(String(rest.length)), '1', { '1': '1' });
    if (rest.length > 0) r.result('number', c.name('R', c.mean(rest), '1'), '1', p.increments);
  },
});

/** Positions, from 1, of what is further off than `limit`. */
const farFrom = (values: readonly Exact[], from: Exact, limit: Exact): string[] =>
  values.flatMap((v, i) => (v.sub(from).abs().compare(limit) > 0 ? [String(i + 1)] : []));

/** The readings at these positions, as they were keyed. */
function keyed<V>(r: Run<typeof fields, ReboundParams, V>, positions: readonly string[]): string[] {
  return positions.map((n) => r.x.readings?.[Number(n) - 1]?.value?.text ?? '');
}
