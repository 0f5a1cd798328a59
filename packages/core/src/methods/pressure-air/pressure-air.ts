import { decimalText, exact } from '../../numbers/exact.js';
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
  on: ['sample', 'trial-batch'],
  title: 'Air, pressure',
  short: 'Air',
  names: ['air', 'air content', 'pressure meter', 'air meter', 'air pot', 'pot', 'entrained air'],
  follows: [C231, T152, EN7],
  about: 'Air content from the pressure meter, less the aggregate correction factor of this combination of aggregates.',
  fields: {
    gauge: qty('percent', 'A1', 'Gauge reading', { si: '%', us: '%' }, level),
    h1: qty('percent', 'h1', 'Level under pressure', { si: '%', us: '%' }, level),
    h2: qty('percent', 'h2', 'Level after release', { si: '%', us: '%' }, level),
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
      'Division of the dial, above 8 %',
      { si: '%', us: '%' },
      {
        from: 'meter.division',
        optional: true,
        plausible: { unit: '%', least: '0.05', most: '1' },
        possible: { unit: '%', above: '0', most: '5' },
      },
    ),
    aggregate: pick(
      'Aggregate',
      { normal: 'Normal, dense', porous: 'Lightweight, slag or other porous' },
      { optional: true, usual: 'normal', from: 'mix.aggregate' },
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
    air: {
      label: 'Air',
      symbol: 'As',
      units: { si: '%', us: '%' },
      property: 'air',
      precision: 'air',
      plausible: { unit: '%', least: '0', most: '15' },
      main: true,
    },
  },
  variants: {
    'type-b': {
      label: 'meter with a gauge (type B)',
      source: C231,
      params: { ...PARAMS, meter: 'gauge' } satisfies PressureParams as PressureParams,
      without: ['h1', 'h2'],
    },
    'type-a': {
      label: 'meter with a water column (type A)',
      source: C231,
      params: { ...PARAMS, meter: 'column' } satisfies PressureParams as PressureParams,
      without: ['gauge'],
    },
  },
  steps: [
    { text: 'Damp the bowl. Fill it in three equal layers, 25 strokes each, 10 to 15 taps with the mallet after each; or vibrate it.' },
    { text: 'Strike off level with the bar or plate. Wipe rim and flange clean.' },
    { text: 'Clamp the cover on crosswise, both petcocks open, main valve closed.' },
    { text: (p) => (p.meter === 'gauge' ? 'Water in one petcock until it runs clear of bubbles from the other; jar the meter.' : null) },
    {
      text: (p) =>
        p.meter === 'gauge'
          ? 'Close the bleeder. Pump a little past the initial line, let it cool a few seconds, tap the gauge, bleed to the line.'
          : null,
    },
    {
      text: (p) =>
        p.meter === 'gauge'
          ? 'Close both petcocks. Press the lever of the main valve and hold it, tap the bowl smartly with the mallet, tap the gauge, read when steady.'
          : null,
    },
    {
      text: (p) =>
        p.meter === 'column' ? 'Fill the column with water, set it to zero, put on the working pressure, tap the bowl, read h1.' : null,
    },
    { text: (p) => (p.meter === 'column' ? 'Let the pressure out, tap the bowl, read h2.' : null) },
    {
      text: 'Under pressure: let go of the lever, shield the petcocks with a hand and open them, and only then open the clamps. Face away.',
      caution: true,
    },
    { text: 'Rinse the underside of the cover at once.' },
  ],
  kit: 'air-meter',
  work: { on: 'fresh', order: 4, fills: 'measure' },
  suits: { 'mix.aggregate': ['normal'] },
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
      bothOut: ['Tell whoever may reject the load.'],
      levers: ['Long haul, heat and vibration lose air', 'Low air: the concrete will not stand frost'],
    },
    {
      result: 'air',
      side: 'high',
      steps: [
        'Make a check test on a new portion, meter rinsed.',
        'First and check test both out: the load fails the requirement. Tell whoever may reject it.',
      ],
      bothOut: ['Tell whoever may reject the load.'],
      levers: ['Admixture dose and mixing time', 'Each per cent of air costs about 5 % of strength'],
    },
  ],
  example: { gauge: '6.3 %', h1: '7.1 %', h2: '0.6 %', correction: '0.4 %', division: '0.1 %', aggregate: 'normal' },
  run(r) {
    const { x, p, c } = r;
    mishaps(r);
    if (x.aggregate === 'porous') {
      r.refuse('porous-aggregate', 'aggregate');
      return;
    }
    const apparent = apparentAir(r);
    const correction = r.need('correction', '%');
    const fine = apparent !== null && c.value(apparent).compare(exact(p.fineUpTo)) <= 0;
    const step = fine ? p.fineStep : halfDivision(r, apparent !== null);
    if (apparent === null) return;
    r.result('apparent', apparent, '%');
    if (correction === null || step === null) return;
    const air = c.sub(apparent, correction);
    if (c.value(air).compare(0) < 0) {
      r.refuse('below-correction', p.meter === 'gauge' ? 'gauge' : 'h1');
      return;
    }
    r.result('air', c.name('As', air, '%'), '%', { '%': step });
  },
});

type R<V> = Run<typeof pressureAir.fields, PressureParams, V>;

/** Above the fine part of the dial, half a division of it; asked for only there. */
function halfDivision<V>(r: R<V>, wanted: boolean): string | null {
  const division = wanted ? r.need('division', '%') : null;
  return division === null ? null : decimalText(r.c.value(division).div(2));
}

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
