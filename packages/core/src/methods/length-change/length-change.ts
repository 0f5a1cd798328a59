import { brief, exact } from '../../numbers/exact.js';
import type { Calc } from '../calc.js';
import { column } from '../rows.js';
import { method, qty, rows, type Citation, type Increments } from '../definition.js';

export const C157: Citation = { designation: 'ASTM C157/C157M', edition: '2017' };

const comparator = { possible: { unit: 'mm', least: '-50', most: '50' } } as const;
export const comparatorReading = (symbol: string, label: string, optional = false) =>
  qty('length', symbol, label, { si: 'mm', us: 'in' }, { ...comparator, optional });

export const gaugeLength = qty(
  'length',
  'G',
  'Gauge length, between the studs’ inner ends',
  { si: 'mm', us: 'in' },
  {
    takes: 'prisms.gauge',
    usual: { si: '250', us: '10' },
    possible: { unit: 'mm', above: '0', most: '1000' },
    plausible: { unit: 'mm', least: '240', most: '260' },
  },
);

/** Beyond, a comparator reading has slipped. */
export const CHANGE = { unit: '%', least: '-0.3', most: '0.3' } as const;

const fields = {
  gauge: gaugeLength,
  initialBar: comparatorReading('b0', 'Reference bar, initial'),
  bar: comparatorReading('b', 'Reference bar, now'),
  barAgain: { ...comparatorReading('b2', 'Reference bar, again after the prisms', true), minor: true },
  dryingBar: comparatorReading('bd', 'Reference bar, start of drying', true),
  prisms: rows('Prisms', {
    initial: comparatorReading('r0', 'Initial'),
    now: comparatorReading('r', 'Now'),
    drying: comparatorReading('rd', 'Start of drying', true),
  }),
};

type LengthParams = {
  increments: Increments;
  /** A prism further from the mean of the others than this, %: look; the lab may set it from 0.005 to 0.01. */
  strays: string;
  /** The bar moved by more than this since the initial reading, % of the gauge length. */
  barMoved: string;
};

export const LENGTH_CHANGE = 'length-change';

export const lengthChange = method({
  id: LENGTH_CHANGE,
  on: ['prism-set'],
  kit: 'comparator',
  title: 'Length change of prisms',
  names: ['length change', 'drying shrinkage', 'shrinkage', 'comparator', 'prisms'],
  follows: [C157],
  about: 'Change of prisms against a reference bar, over the gauge length: from the initial reading, and from the start of drying.',
  fields,
  results: {
    changes: { label: 'Change of each prism', symbol: 'ΔL', units: { si: '%', us: '%' }, along: 'prisms' },
    mean: {
      label: 'Mean change',
      symbol: 'ΔL',
      units: { si: '%', us: '%' },
      property: 'length-change',
      atAge: true,
      plausible: CHANGE,
      main: true,
    },
    fromDrying: {
      label: 'Mean change from the start of drying',
      symbol: 'ΔLd',
      units: { si: '%', us: '%' },
      property: 'length-change-from-drying',
      atAge: true,
      plausible: CHANGE,
    },
  },
  variants: {
    c157: {
      label: 'to 0.001 %',
      source: C157,
      params: { increments: { '%': '0.001' }, strays: '0.005', barMoved: '0.01' } satisfies LengthParams as LengthParams,
    },
  },
  steps: [{ text: 'Reference bar first, then each prism, same end up, turned slowly; damp but not dripping; without delay.' }],
  example: {
    gauge: '250 mm',
    initialBar: '1.204 mm',
    bar: '1.206 mm',
    barAgain: '1.206 mm',
    dryingBar: '1.203 mm',
    prisms: [
      { initial: '3.412 mm', now: '3.318 mm', drying: '3.437 mm' },
      { initial: '3.055 mm', now: '2.967 mm', drying: '3.078 mm' },
      { initial: '3.268 mm', now: '3.176 mm', drying: '3.291 mm' },
    ],
  },
  run(r) {
    const { c, x, p, system } = r;
    const unit = system === 'us' ? 'in' : 'mm';
    const [gauge, bar0, bar] = [r.need('gauge', unit), r.need('initialBar', unit), r.need('bar', unit)];
    const [now, initial] = [column(r, 'prisms', 'now', unit, 'r'), column(r, 'prisms', 'initial', unit, 'r0,')];
    if (gauge === null || bar0 === null || bar === null || !now || !initial) return;
    const changes = change(c, { now, bar, then: initial, barThen: bar0, gauge });
    r.series('changes', changes, '%', p.increments);
    const strays = strayFrom(c, changes, p.strays);
    if (strays.length > 0) r.note('prism-strays', { prisms: strays.join(', '), most: p.strays });
    const barMoved = c.value(bar).sub(c.value(bar0)).div(c.value(gauge)).mul(100).abs();
    if (barMoved.compare(exact(p.barMoved)) > 0) r.note('bar-moved', { by: brief(barMoved, 2, exact(p.barMoved)) });
    const barAgain = r.have('barAgain', unit);
    // The bar read again after the prisms: apart by so much, a result would be another in its last place.
    if (barAgain !== null && c.value(barAgain).sub(c.value(bar)).div(c.value(gauge)).mul(100).abs().compare(exact(p.increments['%']!)) > 0)
      r.marks('bar-not-repeated');
    r.result('mean', c.name('ΔL', c.mean(changes), '%'), '%', p.increments);
    const dryingBar = r.have('dryingBar', unit);
    if (dryingBar === null || !(x.prisms ?? []).every((row) => row.drying !== null)) return;
    const drying = column(r, 'prisms', 'drying', unit, 'rd,');
    if (drying)
      r.result(
        'fromDrying',
        c.name('ΔLd', c.mean(change(c, { now, bar, then: drying, barThen: dryingBar, gauge })), '%'),
        '%',
        p.increments,
      );
  },
});

/** Prisms (counted from 1) whose change is further than `most` from the mean of the others. */
export function strayFrom<V>(c: Calc<V>, changes: readonly V[], most: string): number[] {
  return changes.flatMap((v, i) => {
    const others = changes.filter((_o, k) => k !== i);
    if (others.length === 0) return [];
    const off = c
      .value(v)
      .sub(c.value(c.mean(others)))
      .abs();
    return off.compare(exact(most)) > 0 ? [i + 1] : [];
  });
}

/** ΔL = 100·((r − b) − (r0 − b0))/G for each prism: prism less bar, now less then. */
export function change<V>(c: Calc<V>, x: { now: readonly V[]; bar: V; then: readonly V[]; barThen: V; gauge: V }): V[] {
  return x.now.map((v, i) => c.div(c.mul(c.num('100'), c.sub(c.sub(v, x.bar), c.sub(x.then[i]!, x.barThen))), x.gauge));
}
