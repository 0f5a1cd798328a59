import { exact, shown } from '../../numbers/exact.js';
import { method, pick, qty, type Citation, type Run } from '../definition.js';
import { startWithin5 } from '../composite/windows.js';

const C231: Citation = { designation: 'ASTM C231/C231M', edition: '2022' };
const T152: Citation = { designation: 'AASHTO T 152', edition: '2019' };
const EN7: Citation = { designation: 'EN 12350-7', edition: '2019' };

type PressureParams = {
  meter: 'gauge' | 'column';
  /** Up to and including this apparent air (gauge reading, or h1 − h2) the fine step holds. */
  fineUpTo: string;
  fineStep: string;
};

const PARAMS = { fineUpTo: '8', fineStep: '0.1' };

const level = { possible: { unit: '%', least: '0', most: '100' }, plausible: { unit: '%', least: '0', most: '15' } } as const;

export const pressureAir = method({
  id: 'pressure-air',
  title: 'Air, pressure',
  short: 'Air',
  names: ['air', 'air content', 'pressure meter', 'air meter', 'entrained air'],
  follows: [C231, T152, EN7],
  about: 'Air content from the pressure meter, less the aggregate correction factor of this combination of aggregates.',
  fields: {
    gauge: qty('percent', 'A1', 'Gauge reading', { si: '%', us: '%' }, { only: ['type-b'], ...level }),
    h1: qty('percent', 'h1', 'Level under pressure', { si: '%', us: '%' }, { only: ['type-a'], ...level }),
    h2: qty('percent', 'h2', 'Level after release', { si: '%', us: '%' }, { only: ['type-a'], ...level }),
    correction: qty(
      'percent',
      'G',
      'Aggregate correction factor',
      { si: '%', us: '%' },
      {
        from: 'mix.correction',
        possible: { unit: '%', least: '0', most: '10' },
        plausible: { unit: '%', least: '0', most: '1' },
      },
    ),
    division: qty(
      'percent',
      'd',
      'Dial division above 8 %',
      { si: '%', us: '%' },
      {
        from: 'meter.division',
        possible: { unit: '%', above: '0', most: '5' },
      },
    ),
    aggregate: pick(
      'Aggregate',
      { normal: 'Normal, dense', porous: 'Lightweight, slag or other porous' },
      { optional: true, usual: 'normal' },
    ),
    mishap: pick(
      'What went wrong',
      {
        none: 'Nothing',
        leak: 'Gauge did not hold or settle',
        petcock: 'Main valve opened with a petcock open',
        water: 'Water drawn into the air chamber',
        early: 'Read before closing the petcocks',
      },
      { optional: true, usual: 'none' },
    ),
  },
  results: {
    apparent: { label: 'Apparent air', symbol: 'A1', units: { si: '%', us: '%' } },
    air: { label: 'Air', symbol: 'As', units: { si: '%', us: '%' }, property: 'air', precision: 'air', main: true },
  },
  variants: {
    'type-b': { label: 'meter with a gauge (type B)', source: C231, params: { ...PARAMS, meter: 'gauge' } as PressureParams },
    'type-a': { label: 'meter with a water column (type A)', source: C231, params: { ...PARAMS, meter: 'column' } as PressureParams },
  },
  steps: [
    { text: 'Rim and flange clean; clamp crosswise; both petcocks open, main valve closed.' },
    { text: 'Water in one petcock until it runs clear of bubbles from the other; jar the meter.' },
    { text: 'Pump a little past the initial line, let it cool a few seconds, tap the gauge, bleed to the line; close both petcocks.' },
    { text: 'Press the main valve, tap the bowl smartly while holding it, tap the gauge, read when steady.' },
    { text: 'Pressure: release the main valve, shield and open the petcocks, only then unclamp. Face away.', caution: true },
  ],
  windows: [startWithin5(C231, 'Air test started')],
  advice: [
    {
      result: 'air',
      side: 'low',
      steps: [
        'Make a check test on a new portion, meter rinsed.',
        'Still low: ask the plant for more air-entraining admixture, if the specification lets it be added on site; then mix and test again.',
        'First and check test both out: the load fails the requirement.',
      ],
      bothOut: ['Call whoever may reject the load.'],
      levers: ['Long haul, heat and vibration lose air', 'Low air: the concrete will not stand frost'],
    },
    {
      result: 'air',
      side: 'high',
      steps: [
        'Make a check test on a new portion, meter rinsed.',
        'First and check test both out: the load fails the requirement. Call whoever may reject it.',
      ],
      bothOut: ['Call whoever may reject the load.'],
      levers: ['Admixture dose and mixing time', 'Each per cent of air costs about 5 % of strength'],
    },
  ],
  run(r) {
    const { x, p, c } = r;
    mishaps(r);
    if (x.aggregate === 'porous') {
      r.refuse('porous-aggregate', 'aggregate');
      return;
    }
    const apparent = apparentAir(r);
    const correction = r.need('correction', '%');
    const division = r.need('division', '%');
    if (apparent === null) return;
    r.result('apparent', apparent, '%');
    if (correction === null || division === null) return;
    const air = c.sub(apparent, correction);
    if (c.value(air).compare(0) < 0) {
      r.refuse('below-correction', p.meter === 'gauge' ? 'gauge' : 'h1');
      return;
    }
    const fine = c.value(apparent).compare(exact(p.fineUpTo)) <= 0;
    r.result('air', c.name('As', air, '%'), '%', { '%': fine ? p.fineStep : shown(c.value(division).div(2), 20) });
  },
});

type R<V> = Run<typeof pressureAir.fields, PressureParams, V>;

function mishaps<V>(r: R<V>): void {
  if (r.x.mishap === 'leak') r.voids('meter-leaks');
  if (r.x.mishap === 'petcock') r.voids('petcock-open');
  if (r.x.mishap === 'water') r.voids('water-in-chamber');
  if (r.x.mishap === 'early') r.voids('read-early');
}

function apparentAir<V>(r: R<V>): V | null {
  const { c, p } = r;
  if (p.meter === 'gauge') return r.need('gauge', '%');
  const h1 = r.need('h1', '%');
  const h2 = r.need('h2', '%');
  if (h1 === null || h2 === null) return null;
  if (c.value(h2).compare(c.value(h1)) > 0) {
    r.refuse('rising-level', 'h2');
    return null;
  }
  return c.name('A1', c.sub(h1, h2), '%');
}
