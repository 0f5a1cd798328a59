import { brief, exact } from '../../numbers/exact.js';
import { column } from '../rows.js';
import { method, qty, rows, type Run, type Increments } from '../definition.js';
import { C157, CHANGE, change, comparatorReading, gaugeLength, strayFrom } from './length-change.js';
import { prismAges } from '../../examples/write.js';

type SeriesParams = { increments: Increments; strays: string; barMoved: string };

const PRISMS = ['a', 'b', 'c'] as const;

const fields = {
  gauge: gaugeLength,
  drying: qty(
    'time',
    't_d',
    'Age at which drying starts',
    { si: 'd', us: 'd' },
    { optional: true, hint: 'none in water throughout', possible: { unit: 'd', above: '0', most: '10000' } },
  ),
  readings: rows('Readings, the initial one first', {
    age: qty('time', 't', 'Age', { si: 'd', us: 'd' }, { possible: { unit: 'd', above: '0', most: '10000' } }),
    bar: comparatorReading('b', 'Reference bar'),
    a: comparatorReading('A', 'Prism A'),
    b: comparatorReading('B', 'Prism B'),
    c: comparatorReading('C', 'Prism C', true),
  }),
};

/** Prism less bar, at each age, less what it was at the first, over the gauge length. */
export const lengthSeries = method({
  id: 'length-series',
  on: ['prism-set'],
  title: 'Length change over the ages',
  names: ['length change series', 'shrinkage curve', 'drying shrinkage over time', 'prisms over time'],
  follows: [C157],
  about:
    'A set of prisms through its ages against the reference bar: the change of each and their mean from the initial reading and from the start of drying, prisms that stray, and a bar that moved.',
  panel: 'prisms',
  fields,
  results: {
    a: { label: 'Change A', symbol: 'ΔL_A', units: { si: '%', us: '%' }, along: 'readings' },
    b: { label: 'Change B', symbol: 'ΔL_B', units: { si: '%', us: '%' }, along: 'readings' },
    c: { label: 'Change C', symbol: 'ΔL_C', units: { si: '%', us: '%' }, along: 'readings' },
    mean: { label: 'Mean change', symbol: 'ΔL', units: { si: '%', us: '%' }, along: 'readings' },
    last: {
      label: 'Mean change at the last age',
      symbol: 'ΔL',
      units: { si: '%', us: '%' },
      property: 'length-change',
      atAge: true,
      plausible: CHANGE,
      main: true,
    },
    fromDrying: {
      label: 'Mean change from the start of drying',
      symbol: 'ΔL_d',
      units: { si: '%', us: '%' },
      property: 'length-change-from-drying',
      atAge: true,
      plausible: CHANGE,
      main: true,
    },
  },
  variants: {
    c157: {
      label: 'to 0.001 %',
      source: C157,
      params: { increments: { '%': '0.001' }, strays: '0.005', barMoved: '0.01' } satisfies SeriesParams as SeriesParams,
    },
  },
  steps: [
    { text: 'Each set: reference bar, then A, B, C, same end up, turned slowly; damp but not dripping; without delay.' },
    { text: 'Positive in water and negative in air are normal. Not an in-place shrinkage prediction on its own.' },
    { text: 'Lime water burns skin and eyes: gloves.', caution: true },
  ],
  example: {
    gauge: '250 mm',
    drying: '28 d',
    readings: prismAges(
      '1 1.204 3.412 3.055 3.268|28 1.203 3.437 3.078 3.291|32 1.204 3.392 3.035 3.247|35 1.205 3.371 3.014 3.226|42 1.206 3.342 2.988 3.198|56 1.206 3.318 2.967 3.176',
    ),
  },
  run(r) {
    const { c, p, system } = r;
    const unit = system === 'us' ? 'in' : 'mm';
    const gauge = r.need('gauge', unit);
    const [ages, bars] = [column(r, 'readings', 'age', 'd', 't'), column(r, 'readings', 'bar', unit, 'b')];
    const sets = prismsOf(r, unit);
    if (gauge === null || !ages || !bars || !sets) return;
    const disorder = ages.findIndex((t, i) => i > 0 && c.value(t).compare(c.value(ages[i - 1]!)) <= 0);
    if (disorder > 0) return r.refuse('times-in-disorder', `readings.${disorder}.age`);
    const since = (from: number) =>
      ages.map((_t, i) =>
        change(c, {
          now: sets.map((set) => set[i]!),
          bar: bars[i]!,
          then: sets.map((set) => set[from]!),
          barThen: bars[from]!,
          gauge,
        }),
      );
    const changes = since(0);
    sets.forEach((_s, k) => {
      r.series(
        PRISMS[k]!,
        changes.map((at) => at[k]!),
        '%',
        p.increments,
      );
    });
    const means = changes.map((at) => c.mean(at));
    r.series('mean', means, '%', p.increments);
    r.result('last', c.name('ΔL', means.at(-1)!, '%'), '%', p.increments);
    const strays = strayFrom(c, changes.at(-1)!, p.strays);
    if (strays.length > 0) r.note('prism-strays', { prisms: strays.map((n) => 'ABC'[n - 1]).join(', '), most: p.strays });
    const moved = c.value(bars.at(-1)!).sub(c.value(bars[0]!)).div(c.value(gauge)).mul(100).abs();
    if (moved.compare(exact(p.barMoved)) > 0) r.note('bar-moved', { by: brief(moved, 2, exact(p.barMoved)) });
    const drying = r.have('drying', 'd');
    const from = drying === null ? -1 : ages.findIndex((t) => c.value(t).equals(c.value(drying)));
    if (drying !== null && from < 0) return r.note('no-reading-at-drying');
    if (from >= 0 && from < ages.length - 1) r.result('fromDrying', c.name('ΔL_d', c.mean(since(from).at(-1)!), '%'), '%', p.increments);
  },
});

/** Readings of each prism through the ages; the third where it was read every time. Null while one lacks. */
function prismsOf<V>(r: Run<typeof fields, SeriesParams, V>, unit: 'in' | 'mm'): V[][] | null {
  const list = r.x.readings ?? [];
  const read = (id: 'a' | 'b' | 'c'): V[] | null => column(r, 'readings', id, unit, `${id.toUpperCase()}`);
  const third = list.length > 0 && list.some((row) => row.c !== null);
  const sets = [read('a'), read('b'), ...(third ? [read('c')] : [])];
  return sets.every((set) => set !== null) ? sets : null;
}
