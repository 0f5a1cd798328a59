import type { Spelled } from '../record/spelling.js';

const rows = (id: string, values: string): Spelled[] => values.split(' ').map((v) => ({ [id]: v }));
const of = (unit: string, id: string, values: string): Spelled[] => values.split(' ').map((v) => ({ [id]: `${v} ${unit}` }));

/** Retained on each sieve of a stack, coarsest first. */
const stack = (opening: string, retained: string): Spelled[] => {
  const masses = retained.split(' ');
  return opening.split(' ').map((size, i) => ({ opening: `${size} mm`, retained: `${masses[i] ?? ''} g` }));
};

/** A line of the potential map, west to east; `-` was not read. */
const line = (values: string): Spelled => ({ cells: values.split(' ').map((v): Spelled => (v === '-' ? {} : { potential: `${v} mV` })) });

const pairsOf = (a: string, b: string, unit: string, values: string): Spelled[] =>
  values.split(' ').map((pair) => {
    const [first, second] = pair.split('/');
    return { [a]: `${first ?? ''}${unit === '' ? '' : ` ${unit}`}`, [b]: `${second ?? ''} MPa` };
  });

/** Age, bar and three prisms of each set of readings. */
const prismAges = (values: string): Spelled[] =>
  values.split('|').map((set) => {
    const [age, bar, a, b, c] = set.split(' ');
    return { age: `${age ?? ''} d`, bar: `${bar ?? ''} mm`, a: `${a ?? ''} mm`, b: `${b ?? ''} mm`, c: `${c ?? ''} mm` };
  });

const DECK: Spelled[] = [
  { name: 'Cement', role: 'cementitious', mass: '360 kg', sg: '3.15' },
  { name: 'Slag', role: 'cementitious', mass: '60 kg', sg: '2.90' },
  { name: 'Water', role: 'water', mass: '168 kg', sg: '1' },
  { name: 'Brackdown sand', role: 'aggregate', mass: '690 kg', sg: '2.64' },
  { name: 'Pellick 19 mm', role: 'aggregate', mass: '1005 kg', sg: '2.68' },
];

const weighed = { full: '19.31 kg', empty: '3.21 kg', volume: '7.043 L', nominal: '19 mm', capacity: '7 L' };

/**
 * One worked example for each method, from the footbridge at Quillmouth: what a form shows when
 * nothing is keyed yet, and what the method pages are worked on. In SI; with the readings of every variant.
 */
export const EXAMPLES: Readonly<Record<string, Spelled>> = {
  'sampling-frequency': { volume: '310 m3', area: '720 m2', taken: '1', batches: '48' },
  'random-loads': { loads: '48', samples: '4', spares: '2', seed: '2611' },
  composite: {
    portions: [
      { at: '2026-05-12T08:04:00Z', part: 'middle' },
      { at: '2026-05-12T08:09:00Z', part: 'middle' },
    ],
    finished: '2026-05-12T08:11:00Z',
    volume: '42 L',
    specimens: 'yes',
  },
  temperature: { temperature: '19.6 C', inPlace: '3 min' },
  slump: { shape: 'true', lift: '4.5 s', total: '1:52', mold: '300 mm', centre: '204 mm', highest: '210 mm', largest: '19 mm' },
  'slump-limits': { form: 'target', value: '100 mm' },
  'slump-class': { slump: '96 mm' },
  workability: { slump: '95 mm' },
  'slump-flow': { d1: '640 mm', d2: '655 mm', t50: '3.2 s', vsi: '1' },
  'compaction-factor': { empty: '8.12 kg', partial: '19.05 kg', full: '20.31 kg', stated: '-0.10' },
  consolidation: { use: 'measure', slump: '95 mm' },
  density: weighed,
  yield: {
    ...weighed,
    batch: [
      { name: 'Cement', role: 'cementitious', mass: '2164 kg' },
      { name: 'Slag', role: 'cementitious', mass: '361 kg' },
      { name: 'Water', role: 'water', mass: '742 kg' },
      { name: 'Added on site', role: 'water-added', mass: '24 kg' },
      { name: 'Brackdown sand', role: 'fine', mass: '4352 kg' },
      { name: 'Pellick 19 mm', role: 'coarse', mass: '6078 kg' },
    ],
    design: '6 m3',
    cement: '2164 kg',
    theoretical: '2424 kg/m3',
  },
  'gravimetric-air': { theoretical: '2424 kg/m3', density: '2286 kg/m3', made: '6.001 m3', absolute: '5.66 m3' },
  'theoretical-density': { ingredients: DECK.map(({ name, mass, sg }) => ({ name, mass, sg }) as Spelled), water: '1000 kg/m3' },
  'least-measure': { nominal: '19 mm' },
  rodding: { capacity: '35 L', diameter: '360 mm' },
  'pressure-air': { gauge: '6.3 %', h1: '7.1 %', h2: '0.6 %', correction: '0.4 %', division: '0.1 %', aggregate: 'normal' },
  'aggregate-correction': { bowl: '7.043 L', batch: '6 m3', fine: '4352 kg', coarse: '6078 kg', reading: '5.4 %', removed: '350 mL' },
  'wet-sieved-air': { sieved: '6.5 %', passing: '0.82 m3', total: '0.93 m3', over: '0.11 m3' },
  'volumetric-air': { previous: '6.25 %', final: '6.0 %', alcohol: '1.2 L', correction: '0.25 %', cups: '1' },
  frustum: { base: '200 mm', top: '100 mm', height: '300 mm' },
  'water-density': { temperature: '21.4 C' },
  'least-mass': { test: 'c136', nominal: '19 mm' },
  reduction: { bulk: '48 kg', least: '5 kg', material: 'coarse', wet: 'no' },
  'reduction-tree': {
    bulk: '48 kg',
    nominal: '19 mm',
    leaves: [{ test: 'c136' }, { test: 'c117' }, { test: 'c127' }, { test: 'c566' }],
  },
  splitter: { material: 'coarse', largest: '25 mm', chutes: '10', width: '38 mm' },
  'constant-mass': {
    track: [
      { minute: '60 min', mass: '2431.2 g' },
      { minute: '90 min', mass: '2419.6 g' },
      { minute: '120 min', mass: '2415.1 g' },
    ],
  },
  moisture: { wet: '1064.2 g', dry: '1012.7 g', absorption: '1.3 %' },
  wash: { before: '512.4 g', after: '503.1 g' },
  'coarse-gravity': { dry: '3012.4 g', ssd: '3041.9 g', inWater: '1906.8 g' },
  cone: {
    trials: [
      { at: '2026-05-13T07:10:00Z', look: 'kept' },
      { at: '2026-05-13T07:35:00Z', look: 'kept' },
      { at: '2026-05-13T07:52:00Z', look: 'slight' },
    ],
  },
  'fine-gravity': { ssd: '500.3 g', flaskWater: '661.8 g', flaskSample: '971.6 g', dry: '493.6 g' },
  'flask-correction': { empty: '163.2 g', water: '661.8 g', calibratedAt: '23.0 C', testedAt: '24.4 C' },
  'combined-gravity': {
    fractions: [
      { share: '45 %', sg: '2.66', absorption: '1.1 %' },
      { share: '55 %', sg: '2.69', absorption: '0.8 %' },
    ],
  },
  'source-history': {
    history: [
      { on: '2026-01', od: '2.634', apparent: '2.698', absorption: '0.90 %' },
      { on: '2026-02', od: '2.641', apparent: '2.702', absorption: '0.86 %' },
      { on: '2026-03', od: '2.637', apparent: '2.699', absorption: '0.87 %' },
      { on: '2026-04', od: '2.631', apparent: '2.696', absorption: '0.92 %' },
      { on: '2026-05', od: '2.639', apparent: '2.701', absorption: '0.87 %' },
    ],
    od: '2.608',
    apparent: '2.697',
    absorption: '1.27 %',
  },
  'bulk-density': { full: '19.42 kg', empty: '3.21 kg', volume: '9.98 L', gravity: '2.64', water: '997.5 kg/m3' },
  'measure-calibration': { filled: '10.214 kg', empty: '3.187 kg', temperature: '21.4 C' },
  gradation: {
    dry: '512.4 g',
    area: '0.0285 m2',
    washed: '503.1 g',
    sieves: stack('9.5 4.75 2.36 1.18 0.600 0.300 0.150 0.075', '0 12.8 57.1 95.3 128.6 131.2 58.9 15.4'),
    pan: '3.4 g',
  },
  'grading-band': {
    band: 'fine',
    sieves: '9.5/100 4.75/98 2.36/86 1.18/68 0.600/43 0.300/17 0.150/6 0.075/2.5'.split(' ').map((pair) => {
      const [opening, passing] = pair.split('/');
      return { opening: `${opening ?? ''} mm`, passing: `${passing ?? ''} %` };
    }),
  },
  'absolute-volume': { ingredients: DECK, air: '6.0 %', water: '1000 kg/m3' },
  proportions: {
    fineParts: '2',
    coarseParts: '3.5',
    wc: '0.50',
    sgCement: '3.15',
    sgFine: '2.64',
    sgCoarse: '2.68',
    looseCement: '1506 kg/m3',
    looseFine: '1520 kg/m3',
    looseCoarse: '1480 kg/m3',
    air: '2.0 %',
    water: '1000 kg/m3',
  },
  'moisture-correction': {
    water: '168 kg',
    aggregates: [
      { name: 'Brackdown sand', ssd: '690 kg', moisture: '5.1 %', absorption: '1.3 %' },
      { name: 'Pellick 19 mm', ssd: '1005 kg', moisture: '1.4 %', absorption: '0.9 %' },
    ],
  },
  'actual-wcm': {
    cementitious: '2525 kg',
    batched: '742 kg',
    added: '24 kg',
    aggregates: [
      { name: 'Brackdown sand', batched: '4352 kg', moisture: '5.1 %', absorption: '1.3 %' },
      { name: 'Pellick 19 mm', batched: '6078 kg', moisture: '1.4 %', absorption: '0.9 %' },
    ],
    most: '0.45',
  },
  'trial-batch': {
    cylinders: '6',
    diameter: '100 mm',
    height: '200 mm',
    vessels: [
      { name: 'Slump mold', volume: '5.5 L' },
      { name: 'Air bowl', volume: '7.04 L' },
    ],
    waste: '15 %',
    ingredients: [
      { name: 'Pellick', kind: 'coarse', mass: '1005 kg', moisture: '1.4 %', absorption: '0.9 %' },
      { name: 'Brackdown sand', kind: 'fine', mass: '690 kg', moisture: '5.1 %', absorption: '1.3 %' },
      { name: 'cement', kind: 'cementitious', mass: '420 kg' },
      { name: 'the water', kind: 'water', mass: '168 kg' },
    ],
    sizes: [
      { name: '9.5 to 19 mm', share: '55 %' },
      { name: '4.75 to 9.5 mm', share: '45 %' },
    ],
  },
  'age-window': { age: '28 d', cast: '2026-05-12T08:20:00Z', broken: '2026-06-09T09:05:00Z' },
  'soak-start': { end: '2026-05-13T07:00:00Z' },
  cylinder: { d1: '101.5 mm', d2: '101.75 mm', length: '203 mm', load: '336.4 kN' },
  cube: { a: '150.1 mm', b: '149.8 mm', load: '912 kN' },
  'cube-set': { cubes: of('MPa', 'strength', '39.8 41.2 40.6') },
  'loading-rate': {
    diameter: '101.5 mm',
    trace: '0/0 20/61 40/112 60/155 80/196 100/237 120/278 140/318 148/334'.split(' ').map((point) => {
      const [time, load] = point.split('/');
      return { time: `${time ?? ''} s`, load: `${load ?? ''} kN` };
    }),
  },
  splitting: { diameters: of('mm', 'd', '150.2 150.0 149.9'), lengths: of('mm', 'l', '300.5 300.1'), load: '231.4 kN' },
  'splitting-rate': { diameter: '150 mm', length: '300 mm', rate: '1.0 MPa/min' },
  flexure: {
    load: '31.6 kN',
    span: '450 mm',
    widths: of('mm', 'b', '150.3 150.1 150.2'),
    depths: of('mm', 'd', '149.8 150.0 149.9'),
    at: '141 mm',
  },
  'aci-acceptance': { specified: '35 MPa', tests: of('MPa', 'strength', '38.4 36.9 37.2 33.1 34.0 36.5 39.2 38.8') },
  'core-acceptance': { specified: '35 MPa', cores: of('MPa', 'strength', '31.2 29.4 30.6') },
  'en-acceptance': {
    specified: '30 MPa',
    sigma: '3.1 MPa',
    results: of('MPa', 'strength', '36.1 33.8 35.4 38.0 34.6 37.2 35.9 36.8 34.1 38.4 35.0 36.6 37.7 33.9 36.3'),
  },
  'is-acceptance': { specified: '30 MPa', deviation: '4.1 MPa', results: of('MPa', 'strength', '36.1 33.8 35.4 38.0 34.6 37.2 35.9 36.8') },
  'required-average': { specified: '35 MPa', tests: '22', deviation: '3.0 MPa' },
  'strength-statistics': {
    tests: '38.1/38.7 36.5/37.3 37.6/36.8 32.9/33.3 34.4/33.6 36.1/36.9 39.5/38.9 38.2/39.4 37.4/36.6 38.8/38.0 36.9/37.7 37.1/38.3'
      .split(' ')
      .map((pair) => ({ companions: of('MPa', 'strength', pair.replace('/', ' ')) })),
    target: '37.5 MPa',
    specified: '35 MPa',
  },
  companions: { companions: of('MPa', 'strength', '38.1 38.7') },
  'control-grade': { specified: '30 MPa', deviation: '3.1 MPa', variation: '8.4 %', within: '3.6 %' },
  'early-warning': {
    pairs: pairsOf('early', 'late', 'MPa', '25.1/36.8 26.4/38.1 24.2/35.9 27.0/39.6 25.8/37.1 23.6/34.2 26.9/38.4 24.9/36.1 25.5/37.7'),
    now: '23.9 MPa',
    specified: '35 MPa',
    before: '36.1 MPa',
    beforeThat: '34.2 MPa',
  },
  rebound: { readings: rows('value', '38 41 39 40 37 42 39 40 31 38') },
  'rebound-strength': {
    orientation: 'level',
    pairs: pairsOf('rebound', 'strength', '', '30/24.1 33/28.0 35/31.5 38/35.2 40/38.9 43/42.6 45/46.8'),
    now: '39',
  },
  'rebound-uniformity': {
    areas: 'A1/39 A2/40 A3/38 A4/41 A5/39 B1/40 B2/31 B3/39'.split(' ').map((pair) => {
      const [area, number] = pair.split('/');
      return { element: 'Pier 2, formed', area: area ?? '', number: number ?? '' };
    }),
  },
  'half-cell': { potential: '-285 mV', electrode: 'agcl', temperature: '9.5 C' },
  'half-cell-map': {
    electrode: 'cse',
    temperature: '14.0 C',
    spacing: '0.6 m',
    lines: [
      line('-120 -135 -150 -170 -160 -140 -130 -125'),
      line('-140 -165 -210 -260 -235 -180 -150 -135'),
      line('-155 -205 -310 -420 -355 -225 -165 -140'),
      line('-150 -190 -270 -360 -300 - -160 -145'),
      line('-130 -150 -190 -230 -205 -165 -145 -130'),
    ],
  },
  'length-change': {
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
  'length-series': {
    gauge: '250 mm',
    drying: '28 d',
    readings: prismAges(
      '1 1.204 3.412 3.055 3.268|28 1.203 3.437 3.078 3.291|32 1.204 3.392 3.035 3.247|35 1.205 3.371 3.014 3.226|42 1.206 3.342 2.988 3.198|56 1.206 3.318 2.967 3.176',
    ),
  },
  'length-schedule': { batched: '2026-05-12T07:42:00Z', bars: 'prisms' },
  'constant-head': {
    series: '0/0 1800/4.1 3600/7.0 5400/9.4 7200/11.9 9000/14.3 10800/16.8'.split(' ').map((point) => {
      const [time, total] = point.split('/');
      return { time: `${time ?? ''} s`, total: `${total ?? ''} mL` };
    }),
    concrete: 'structural',
    area: '176.7 cm2',
    thickness: '150 mm',
    temperature: '24.5 C',
    pressure: '10 kgf/cm2',
    water: '997.2 kg/m3',
  },
  'falling-head': {
    tube: '78.5 cm2',
    specimen: '78.5 cm2',
    length: '15 cm',
    trials: '21.4 21.9 22.3'.split(' ').map((time) => ({ time: `${time} s`, h1: '30 cm', h2: '7 cm' })),
  },
};

/** Ways that the examples above do not take: for the formulas of the method pages. */
export const FURTHER: Readonly<Record<string, readonly Spelled[]>> = {
  'fine-gravity': [{ ssd: '500.3 g', flaskWater: '661.8 g', flaskSample: '971.6 g', companionSsd: '500.4 g', companionDry: '493.7 g' }],
  'constant-head': [
    {
      volume: '12.1 mL',
      time: '5400 s',
      area: '176.7 cm2',
      thickness: '150 mm',
      temperature: '24.5 C',
      head: '100 m',
      water: '997.2 kg/m3',
    },
  ],
  flexure: [
    {
      load: '31.6 kN',
      span: '450 mm',
      widths: of('mm', 'b', '150.3 150.1 150.2'),
      depths: of('mm', 'd', '149.8 150.0 149.9'),
      at: '160 mm',
    },
  ],
  'required-average': [{ specified: '35 MPa' }, { specified: '40 MPa' }],
  cylinder: [{ d1: '101.5 mm', d2: '101.75 mm', length: '152 mm', load: '336.4 kN' }],
};
