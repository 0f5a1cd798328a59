import { exampleOf } from '../src/examples/index.js';
import { crossCheckGravities, crossCheckStrength, evaluate, methodById, type AnyInputs, type Shape } from '../src/index.js';
import { spell, unspell, type Spelled } from '../src/record/spelling.js';

/** The worked example with some of its readings keyed otherwise. */
function run(id: string, keyed: Spelled, variant?: string) {
  const m = methodById(id)!;
  const fields = m.fields as Shape;
  const inputs: AnyInputs = unspell(fields, { ...spell(fields, exampleOf(m)), ...keyed });
  return evaluate(m, inputs, { variant: variant ?? Object.keys(m.variants)[0]!, system: 'si' });
}

const speaks = (code: string, id: string, keyed: Spelled, variant?: string): boolean => {
  const e = run(id, keyed, variant);
  return [...e.issues, ...e.validity.reasons, ...e.notes].some((said) => said.code === code);
};

const cells = (...potentials: string[]) => [{ cells: potentials.map((potential) => ({ potential })) }];
const flow = (...totals: [time: string, total: string][]) => totals.map(([time, total]) => ({ time, total }));

/** On one side of a limit nothing is said, on the other the code: one of the two meets the limit exactly. */
const LIMITS: [code: string, id: string, silent: Spelled, loud: Spelled, variant?: string][] = [
  ['impossible-value', 'density', { empty: '0.001 kg' }, { empty: '0 kg' }],
  ['sample-too-small', 'composite', { volume: '28 L' }, { volume: '27.9 L' }],
  ['specimen-too-long', 'cylinder', { d1: '100 mm', d2: '100 mm', length: '210 mm' }, { d1: '100 mm', d2: '100 mm', length: '210.1 mm' }],
  ['diameters-differ', 'cylinder', { d1: '102 mm', d2: '100 mm' }, { d1: '102.01 mm', d2: '100 mm' }],
  ['diameters-differ', 'cylinder', { d1: '100 mm', d2: '102 mm' }, { d1: '100 mm', d2: '102.01 mm' }],
  ['lighter-full', 'bulk-density', { full: '3.22 kg' }, { full: '3.21 kg' }],
  ['lighter-full', 'measure-calibration', { filled: '3.188 kg' }, { filled: '3.187 kg' }],
  ['lighter-full', 'flask-correction', { water: '163.3 g' }, { water: '163.2 g' }],
  ['lighter-full', 'density', { full: '3.22 kg' }, { full: '3.21 kg' }],
  [
    'denser-than-grains',
    'bulk-density',
    { empty: '1 kg', full: '20.99 kg', volume: '10 L', gravity: '2', water: '1000 kg/m3' },
    { empty: '1 kg', full: '21 kg', volume: '10 L', gravity: '2', water: '1000 kg/m3' },
  ],
  [
    'unlikely-result',
    'coarse-gravity',
    { dry: '2200 g', ssd: '2210 g', inWater: '1210 g' },
    { dry: '2199.9 g', ssd: '2210 g', inWater: '1210 g' },
  ],
  [
    'unlikely-result',
    'coarse-gravity',
    { dry: '3200 g', ssd: '3200 g', inWater: '2200 g' },
    { dry: '3200 g', ssd: '3200 g', inWater: '2200.1 g' },
  ],
  [
    'unlikely-result',
    'coarse-gravity',
    { dry: '1000 g', ssd: '1080 g', inWater: '680 g' },
    { dry: '1000 g', ssd: '1080.1 g', inWater: '680 g' },
  ],
  ['lighter-filled', 'compaction-factor', { partial: '8.13 kg' }, { partial: '8.12 kg' }],
  ['lighter-filled', 'compaction-factor', { full: '8.13 kg' }, { full: '8.12 kg' }],
  [
    'factor-below',
    'compaction-factor',
    { empty: '1 kg', full: '11 kg', partial: '7 kg' },
    { empty: '1 kg', full: '11 kg', partial: '6.99 kg' },
  ],
  ['denser-than-air-free', 'gravimetric-air', { density: '2424 kg/m3' }, { density: '2424.1 kg/m3' }],
  ['ssd-below-dry', 'fine-gravity', { dry: '500.3 g' }, { dry: '500.4 g' }],
  ['ssd-below-dry', 'fine-gravity', { companionSsd: '250 g', companionDry: '250 g' }, { companionSsd: '250 g', companionDry: '250.1 g' }],
  ['flask-too-heavy', 'fine-gravity', { flaskSample: '1155.3 g' }, { flaskSample: '1155.4 g' }],
  ['past-midspan', 'flexure', { at: '225 mm' }, { at: '225.1 mm' }],
  ['swapped-leads', 'half-cell', { potential: '0 mV' }, { potential: '1 mV' }],
  ['swapped-map', 'half-cell-map', { lines: cells('0 mV', '5 mV') }, { lines: cells('1 mV', '5 mV') }],
  ['water-no-room', 'water-on-site', wcm('44 kg'), wcm('44.1 kg')],
  ['water-too-late', 'water-on-site', { limit: '48 min' }, { limit: '47.9 min' }],
  ['wetter-than-design', 'moisture-correction', damp('12 kg'), damp('11.9 kg')],
  ['times-in-disorder', 'constant-mass', { track: track('60 min', '61 min') }, { track: track('60 min', '60 min') }],
  ['times-in-disorder', 'loading-rate', { trace: trace('20 s', '21 s') }, { trace: trace('20 s', '20 s') }],
  [
    'times-in-disorder',
    'constant-head',
    { series: flow(['0 s', '0 mL'], ['60 s', '1 mL'], ['61 s', '2 mL']) },
    { series: flow(['0 s', '0 mL'], ['60 s', '1 mL'], ['60 s', '2 mL']) },
  ],
  [
    'total-falls',
    'constant-head',
    { series: flow(['0 s', '0 mL'], ['60 s', '1 mL'], ['120 s', '1 mL']) },
    { series: flow(['0 s', '0 mL'], ['60 s', '1 mL'], ['120 s', '0.9 mL']) },
  ],
  ['dry-heavier', 'moisture', { dry: '1064.2 g' }, { dry: '1064.3 g' }],
  [
    'soaks-up-water',
    'moisture',
    { wet: '1013 g', dry: '1000 g', absorption: '1.3 %' },
    { wet: '1013 g', dry: '1000 g', absorption: '1.4 %' },
  ],
  [
    'below-correction',
    'aggregate-correction',
    { bowl: '7 L', removed: '350 mL', reading: '5 %' },
    { bowl: '7 L', removed: '350 mL', reading: '4.9 %' },
  ],
  ['below-correction', 'pressure-air', { gauge: '0.4 %' }, { gauge: '0.3 %' }],
  ['rising-level', 'pressure-air', { h1: '5 %', h2: '5 %' }, { h1: '5 %', h2: '5.1 %' }, 'type-a'],
  ['parts-exceed-whole', 'wet-sieved-air', { passing: '0.93 m3' }, { passing: '0.94 m3' }],
  [
    'leaf-below-least',
    'reduction-tree',
    { leaves: [{ test: 'c136', weighed: '5 kg' }] },
    { leaves: [{ test: 'c136', weighed: '4.99 kg' }] },
  ],
  ['mold-height', 'slump', { mold: '303 mm' }, { mold: '303.1 mm' }],
  ['mold-height', 'slump', { mold: '297 mm' }, { mold: '296.9 mm' }],
  ['not-sieved', 'slump', { largest: '37.5 mm' }, { largest: '37.6 mm' }],
  ['slump-above-mold', 'slump', { centre: '', drop: '300 mm' }, { centre: '', drop: '300.1 mm' }],
  ['shape-against-height', 'slump', { shape: 'zero', drop: '0 mm' }, { shape: 'zero', drop: '1 mm' }],
  ['not-steady', 'temperature', { inPlace: '2 min' }, { inPlace: '1.9 min' }],
  ['sieves-in-disorder', 'gradation', { sieves: stack('4.75 mm', '4.74 mm') }, { sieves: stack('4.75 mm', '4.75 mm') }],
  ['times-in-disorder', 'length-series', { readings: ages('2 d', '2.1 d') }, { readings: ages('2 d', '2 d') }],
  [
    'chutes-for-fine',
    'splitter',
    { material: 'fine', chutes: '12', largest: '9.51 mm', width: '21 mm' },
    { material: 'fine', chutes: '12', largest: '9.5 mm', width: '21 mm' },
  ],
  ['washed-heavier', 'wash', { after: '512.4 g' }, { after: '512.5 g' }],
];

/** 0.45 of 100 kg is 45 kg of water; the aggregate brings and takes none. */
function wcm(batched: string): Spelled {
  const even = [{ batched: '100 kg', moisture: '1 %', absorption: '1 %' }];
  return { cementitious: '100 kg', batched, added: '0 kg', aggregates: even, most: '0.45' };
}

/** 100 kg of aggregate with 12 % of free water. */
function damp(water: string): Spelled {
  return { water, aggregates: [{ ssd: '100 kg', moisture: '12 %', absorption: '0 %' }] };
}

function stack(...openings: string[]): Spelled[] {
  return openings.map((opening) => ({ opening, retained: '10 g' }));
}

function ages(...list: string[]): Spelled[] {
  return ['1 d', ...list].map((age) => ({ age, bar: '1.2 mm', a: '3.4 mm', b: '3.1 mm', c: '3.3 mm' }));
}

function track(...minutes: string[]): Spelled[] {
  return minutes.map((minute, i) => ({ minute, mass: `${1000 - i} g` }));
}

function trace(...times: string[]): Spelled[] {
  return ['0 s', ...times].map((time, i) => ({ time, load: `${10 * i} kN` }));
}

describe('a limit exactly met', () => {
  for (const [code, id, silent, loud, variant] of LIMITS)
    it(`${code} of ${id}: silent at ${JSON.stringify(silent)}, not at ${JSON.stringify(loud)}`, () => {
      expect([speaks(code, id, silent, variant), speaks(code, id, loud, variant)]).toEqual([false, true]);
    });

  it('classes of slump hold both their ends', () => {
    const fits = (slump: string): number => run('workability', { slump }).results.find((r) => r.state === 'given')?.words?.length ?? 0;
    expect(['50 mm', '75 mm', '76 mm', '100 mm', '101 mm'].map(fits)).toEqual([2, 3, 2, 3, 1]);
  });

  it('10 % finer than 75 µm is a whole per cent', () => {
    const passing = (retained: string) =>
      run('gradation', { dry: '100 g', washed: '', sieves: [{ opening: '0.075 mm', retained }], pan: '' }).results.find(
        (r) => r.id === 'reported',
      )?.words;
    expect([passing('90 g'), passing('90.1 g')]).toEqual([['10'], ['9.9']]);
  });

  it('a source has moved beyond two of its deviations, and is news beyond three', () => {
    const history = Array.from({ length: 5 }, (_h, i) => ({ on: `2026-0${i + 1}`, od: '2.640', apparent: '2.700', absorption: '0.90 %' }));
    const shift = (od: string) =>
      run('source-history', { history, od, apparent: '2.700', absorption: '0.90 %' }).results.find((r) => r.id === 'shift')?.words;
    const [within, moved, far, news] = ['2.658', '2.6581', '2.667', '2.6671'].map(shift);
    expect([moved, news]).not.toContain(within);
    expect(far).toEqual(moved);
    expect(news).toEqual(['news']);
  });

  it('three gravities fit to 0.002, itself included', () => {
    // 1/2 − 1/2.5 is 10 %.
    expect(['9.8', '10.2', '9.79', '10.21'].map((absorption) => crossCheckGravities('2', '2.5', absorption) === null)).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });

  it('a strength is off its ratio beyond three deviations', () => {
    const history = { mean: '15', deviation: '10', ratio: '1.2', ratioDeviation: '0.1' };
    expect(['15', '15.01'].map((late) => crossCheckStrength({ late, early: '10', history }).length)).toEqual([0, 1]);
  });

  it('a fault on either side is a fault, also when there is one on each', () => {
    const words = (e: ReturnType<typeof run>, id: string) => e.results.find((r) => r.id === id)?.words;
    const openings = ['9.5', '4.75', '2.36', '1.18', '0.600', '0.300', '0.150', '0.075'];
    const passing = ['100', '98', '86', '86', '43', '4', '3', '2'];
    const sieves = openings.map((opening, i) => ({ opening: `${opening} mm`, passing: `${passing[i]} %` }));
    const graded = run('grading-band', { band: 'fine', sieves });
    expect(['above', 'below', 'inside'].map((id) => words(graded, id))).toEqual([['1.18'], ['0.300'], ['no']]);
    const results = ['26', '36', '36', '34'].map((n) => ({ strength: `${n} MPa` }));
    const accepted = run('is-acceptance', { specified: '30 MPa', deviation: '4.1 MPa', results });
    expect(['groupFails', 'singles', 'acceptable'].map((id) => words(accepted, id))).toEqual([['1'], ['1'], ['no']]);
  });

  it('the median of an odd number of rebounds is the middle one', () => {
    const readings = [30, 31, 32, 33, 34, 40, 41, 42, 43, 44, 45].map((n) => ({ value: String(n) }));
    expect(run('rebound', { readings }, 'en').results.find((r) => r.id === 'number')?.reported).toBe('40');
  });
});
