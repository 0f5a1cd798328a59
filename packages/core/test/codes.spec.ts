import { exampleOf } from '../src/examples/index.js';
import {
  CATALOGUE,
  countsWords,
  crossCheckAir,
  crossCheckDensity,
  crossCheckYield,
  evaluate,
  kitMarks,
  methodById,
  otherInstrument,
  otherSpecimen,
  prismRemarks,
  unsaidKit,
  unsaidRemark,
  nextStep,
  say,
  testsApart,
  type AnyInputs,
  type AnyMethod,
  type Code,
  type How,
  type UnitId,
  ownFaults,
  runById,
  runMarks,
  shortOf,
  doubtsOn,
  factsForm,
  duplicatesApart,
} from '../src/index.js';
import { item, lineWith, moment, TICKET } from '../testing/line.js';

const q = (text: string, unit: UnitId) => ({ text, unit });
const kg = (text: string) => q(text, 'kg');
const g = (text: string) => q(text, 'g');
const mm = (text: string) => q(text, 'mm');
const pct = (text: string) => q(text, '%');
const one = (text: string) => q(text, '1');
const MPa = (text: string) => q(text, 'MPa');
const at = (minutes: number) => new Date(minutes * 60_000).toISOString();

const molded = (shape: string, width: string) => ({ shape, width: mm(width) }) as unknown as AnyInputs;
const heap = { shape: 'true', mold: mm('300'), centre: mm('204') };
const weighed = { full: kg('19.31'), empty: kg('3.21'), volume: q('7.043', 'L') };
const batch = [{ name: null, role: 'coarse', mass: kg('13720') }];
const meter = { gauge: pct('6'), correction: pct('0.4'), division: pct('0.5') };
const factor = { empty: kg('8'), partial: kg('19'), full: kg('20.5') };
const flask = { ssd: g('500'), flaskWater: g('650'), flaskSample: g('962'), dry: g('494') };
const bulk = { bulk: kg('40'), least: kg('5'), material: 'coarse', wet: 'no' };
const grains = { full: kg('20'), empty: kg('5'), volume: q('10', 'L'), gravity: one('2.65'), water: q('998', 'kg/m3') };
const water = q('1000', 'kg/m3');
const aggregate = { name: null, ssd: kg('700'), moisture: pct('6'), absorption: pct('1') };
const round = { d1: mm('100'), d2: mm('100'), length: mm('200'), load: q('300', 'kN') };
const beam = { load: q('30', 'kN'), span: mm('450'), widths: [{ b: mm('150') }], depths: [{ d: mm('150') }], at: mm('200') };
const [coarser, finer] = [
  { opening: mm('4.75'), retained: g('100') },
  { opening: mm('2.36'), retained: g('100') },
];
const graded = { dry: g('500'), area: q('0.0285', 'm2'), sieves: [coarser, finer], pan: g('300') };
const cell = { volume: q('50', 'mL'), time: q('3600', 's'), area: q('176', 'cm2'), thickness: mm('150'), temperature: q('27', 'C'), water };
const falling = { tube: q('10', 'cm2'), specimen: q('80', 'cm2'), length: q('15', 'cm') };
const companions = (n: number) => ({ companions: Array.from({ length: n }, () => ({ strength: MPa('40') })) });

const trace = (time: string, load: string) => ({ time: q(time, 's'), load: q(load, 'kN') });

/** 28 days about 1.45 times the 7 days, a little off it by turns. */
const pairs = (early: (i: number) => number) =>
  Array.from({ length: 8 }, (_p, i) => ({
    early: MPa(String(early(i))),
    late: MPa((early(i) * 1.45 + (i % 2 === 0 ? 0.8 : -0.8)).toFixed(2)),
  }));

const riffle = { material: 'coarse', largest: mm('19'), chutes: one('10'), width: mm('38') };
/** A source that gives 2.64, 2.70 and 0.9 %, month after month. */
const now = (od: string, apparent: string, absorption: string) => ({
  history: ['2.641', '2.639', '2.640', '2.642', '2.638'].map((past) => ({ od: one(past), apparent: one('2.700'), absorption: pct('0.9') })),
  od: one(od),
  apparent: one(apparent),
  absorption: pct(absorption),
});
const trial = { cylinders: one('3'), diameter: mm('100'), height: mm('200'), waste: pct('10') };
const grid = (potentials: string) => ({
  electrode: 'cse',
  temperature: q('22', 'C'),
  spacing: q('1', 'm'),
  lines: [{ cells: potentials.split(' ').map((e) => ({ potential: q(e, 'mV') })) }],
});
const cores = (reboundOf: (i: number) => number, r: string) => ({
  orientation: 'level',
  pairs: [0, 1, 2, 3, 4, 5].map((i) => ({ rebound: one(String(reboundOf(i))), strength: MPa(String(30 + i)) })),
  now: one(r),
});
const totals = (mL: string) => mL.split(' ').map((total, i) => ({ time: q(String(i * 600), 's'), total: q(total, 'mL') }));
const prisms = (more: AnyInputs, third = '4.4') => ({
  gauge: mm('250'),
  initialBar: mm('4'),
  bar: mm('4'),
  prisms: ['4.4', '4.4', third].map((read) => ({ initial: mm('4.5'), now: mm(read) })),
  ...more,
});

type Case = readonly [method: string, inputs: AnyInputs, how?: Partial<How>];

const onSite = exampleOf(methodById('water-on-site')!);
const split = (load: string) => ({
  diameters: ['150', '150', '150'].map((d) => ({ d: mm(d) })),
  lengths: ['300', '300'].map((l) => ({ l: mm(l) })),
  load: q(load, 'kN'),
});
/** Sand that was drained after so many hours in the soak. */
const strayed = (hours: number) =>
  runMarks(runById('fine-aashto')!, [
    { step: 'soak', at: 0 },
    { step: 'cone', at: hours * 3_600_000 },
  ]);
const AIR_METER = {
  id: 'k',
  kind: 'air-meter',
  name: 'M',
  calibratedOn: '2026-01-01',
  until: '2026-04-01',
  wrong: null,
  sources: {},
} as const;
const WRONG = { on: '2026-02-03', why: 'it leaks', later: false };

/** One way to each code of the catalogue: what is keyed, and where. */
const WAYS: Readonly<Record<string, Case>> = {
  'not-a-number': ['slump', { ...heap, centre: mm('2o4') }],
  'too-long': ['slump', { ...heap, centre: mm('1'.repeat(30)) }],
  'wrong-unit': ['slump', { ...heap, centre: kg('204') }],
  'not-an-option': ['slump', { ...heap, shape: 'cone' }],
  'impossible-value': ['slump', { ...heap, centre: mm('-1') }],
  'implausible-value': ['slump', { ...heap, centre: mm('8.5') }],
  'slump-above-mold': ['slump', { shape: 'true', mold: mm('300'), drop: mm('301') }],
  'heap-above-mold': ['slump', { ...heap, centre: mm('301') }],
  'mold-height': ['slump', { ...heap, mold: mm('296') }],
  'shape-shear': ['slump', { ...heap, shape: 'shear' }],
  'shape-collapse': ['slump', { ...heap, shape: 'collapse', highest: mm('50') }, { variant: 'four_layer' }],
  'lift-time': ['slump', { ...heap, lift: q('2', 's') }],
  'total-time': ['slump', { ...heap, total: q('151', 's') }],
  'not-sieved': ['slump', { ...heap, largest: mm('50') }],
  'slump-says-little': ['slump', { ...heap, centre: mm('290') }],
  'no-class': ['slump-class', { slump: mm('3') }],
  'not-steady': ['temperature', { temperature: q('20', 'C'), inPlace: q('1', 'min') }],
  'lighter-full': ['density', { ...weighed, full: kg('3') }],
  'measure-too-small': ['density', { ...weighed, nominal: mm('50'), capacity: q('7', 'L') }],
  'nominal-too-large': ['least-measure', { nominal: mm('151') }],
  'unlikely-yield': ['yield', { ...weighed, batch, design: q('3', 'm3') }],
  'no-cement': ['yield', { ...weighed, batch, design: q('6', 'm3') }],
  'worksheet-differs': [
    'yield',
    { ...weighed, batch: [{ name: null, role: null, mass: kg('16344.7') }], design: q('7', 'm3') },
    { variant: 'worksheet' },
  ],
  'porous-aggregate': ['pressure-air', { ...meter, aggregate: 'porous' }],
  'below-correction': ['pressure-air', { ...meter, gauge: pct('0.1') }],
  'rising-level': ['pressure-air', { ...meter, h1: pct('5'), h2: pct('6') }, { variant: 'type-a' }],
  'meter-leaks': ['pressure-air', { ...meter, mishap: 'leak' }],
  'petcock-open': ['pressure-air', { ...meter, mishap: 'petcock' }],
  'water-in-chamber': ['pressure-air', { ...meter, mishap: 'water' }],
  'read-early': ['pressure-air', { ...meter, mishap: 'early' }],
  'unstable-flow': ['slump-flow', { vsi: '3' }],
  'diameters-apart': ['slump-flow', { d1: mm('600'), d2: mm('651') }],
  'rollings-apart': ['volumetric-air', { previous: pct('6'), final: pct('6.5') }],
  'parts-exceed-whole': ['wet-sieved-air', { sieved: pct('6'), passing: q('2', 'm3'), total: q('1', 'm3'), over: q('0.1', 'm3') }],
  'lighter-filled': ['compaction-factor', { ...factor, partial: kg('7') }],
  'factor-below': ['compaction-factor', { ...factor, partial: kg('12') }],
  'stated-slip': ['compaction-factor', { ...factor, stated: one('-0.12') }],
  'stated-unexplained': ['compaction-factor', { ...factor, stated: one('0.5') }],
  'dry-heavier': ['moisture', { wet: g('100'), dry: g('101') }],
  'soaks-up-water': ['moisture', { wet: g('101'), dry: g('100'), absorption: pct('2') }],
  'times-in-disorder': [
    'constant-mass',
    {
      track: [
        { minute: q('90', 'min'), mass: g('9') },
        { minute: q('60', 'min'), mass: g('8') },
      ],
    },
  ],
  'mass-went-up': [
    'constant-mass',
    {
      track: [
        { minute: q('60', 'min'), mass: g('8') },
        { minute: q('90', 'min'), mass: g('9') },
      ],
    },
  ],
  'washed-heavier': ['wash', { before: g('100'), after: g('101') }],
  'ssd-below-dry': ['coarse-gravity', { dry: g('2000'), ssd: g('1999'), inWater: g('1250') }],
  'submerged-too-heavy': ['coarse-gravity', { dry: g('2000'), ssd: g('2030'), inWater: g('2000') }],
  'flask-too-heavy': ['fine-gravity', { ...flask, flaskSample: g('1200') }],
  'companion-not-used': ['fine-gravity', { ...flask, companionSsd: g('501'), companionDry: g('495') }],
  'companion-apart': ['fine-gravity', { ...flask, dry: null, companionSsd: g('501'), companionDry: g('495') }],
  'flask-temperature': ['flask-correction', { testedAt: q('26', 'C') }],
  'masses-fall': [
    'gradation',
    {
      dry: g('100'),
      masses: 'summed',
      sieves: [
        { opening: mm('9.5'), retained: g('20') },
        { opening: mm('4.75'), retained: g('10') },
      ],
      pan: g('100'),
    },
  ],
  'shares-not-whole': ['combined-gravity', { fractions: [{ share: pct('90'), sg: one('2.6'), absorption: pct('1') }] }],
  'denser-than-grains': ['bulk-density', { ...grains, full: kg('60') }],
  'method-unfit': ['reduction', { ...bulk, wished: 'C' }],
  'bulk-too-small': ['reduction', { ...bulk, bulk: kg('4') }],
  'far-above-least': ['reduction', { ...bulk, bulk: kg('9.5') }],
  'moisten-first': ['reduction', { ...bulk, material: 'fine', wished: 'B' }],
  'bulk-too-small-for-all': ['reduction-tree', { bulk: kg('9'), nominal: mm('19'), leaves: [{ test: 'c136' }, { test: 'c127' }] }],
  'leaf-below-least': ['reduction-tree', { bulk: kg('48'), nominal: mm('19'), leaves: [{ test: 'c136', weighed: kg('4.9') }] }],
  'chutes-odd': ['splitter', { ...riffle, chutes: one('9') }],
  'chutes-few': ['splitter', { ...riffle, chutes: one('6') }],
  'chutes-narrow': ['splitter', { ...riffle, width: mm('28') }],
  'chutes-for-fine': ['splitter', { ...riffle, material: 'fine', largest: mm('4.75'), chutes: one('12'), width: mm('25') }],
  'weighed-early': ['constant-mass', { track: [{ minute: q('30', 'min'), mass: g('9') }] }],
  'film-left': ['source-history', now('2.60', '2.70', '1.5')],
  'over-dried': ['source-history', now('2.68', '2.70', '0.2')],
  'air-in-basket': ['source-history', now('2.60', '2.66', '0.9')],
  'grains-lost': ['source-history', now('2.60', '2.74', '1.5')],
  'air-in-flask': ['source-history', now('2.60', '2.66', '0.9'), { variant: 'fine' }],
  'fines-lost': ['source-history', now('2.60', '2.74', '1.5'), { variant: 'fine' }],
  'above-the-mark': ['source-history', now('2.68', '2.74', '0.9'), { variant: 'fine' }],
  'source-shifted': ['source-history', now('2.60', '2.70', '1.5')],
  'no-water-to-correct': [
    'trial-batch',
    { ...trial, ingredients: [{ kind: 'fine', mass: kg('700'), moisture: pct('5'), absorption: pct('1') }] },
  ],
  'swapped-map': ['half-cell-map', grid('200 250')],
  'signs-turned': ['half-cell-map', { ...grid('200 250'), turned: 'yes' }],
  'grid-too-wide': ['half-cell-map', { ...grid('-200 -250'), spacing: q('1.21', 'm') }],
  'grid-too-coarse': ['half-cell-map', grid('-200 -351')],
  'rebounds-all-alike': ['rebound-strength', cores(() => 35, '35')],
  'beyond-correlation': ['rebound-strength', cores((i) => 30 + i, '36')],
  'estimated-only': ['rebound-strength', cores((i) => 30 + i, '35')],
  'elements-mixed': ['rebound-uniformity', { areas: ['Pier', 'Pier', 'Deck'].map((element) => ({ element, number: one('40') })) }],
  'total-falls': ['constant-head', { ...cell, head: q('100', 'm'), series: totals('0 5 4 8') }],
  'not-steady-yet': ['constant-head', { ...cell, head: q('100', 'm'), series: totals('0 5 8 10') }],
  'flows-disagree': ['constant-head', { ...cell, head: q('100', 'm'), inflow: q('60', 'mL') }],
  'unlikely-permeability': ['constant-head', { ...cell, head: q('1', 'm'), concrete: 'structural' }],
  'prism-strays': ['length-change', prisms({}, '4.52')],
  'bar-moved': ['length-change', prisms({ bar: mm('4.03') })],
  'no-reading-at-drying': ['length-series', { ...exampleOf(methodById('length-series')!), drying: { text: '27', unit: 'd' } }],
  'bar-not-repeated': ['length-change', prisms({ barAgain: mm('4.003') })],
  'not-a-time': ['length-schedule', { batched: 'this morning' }],
  'no-trimming': ['reduction', { ...bulk, exactly: kg('5') }],
  'cone-too-soon': [
    'cone',
    {
      trials: [
        { at: at(0), look: 'fell' },
        { at: at(5), look: 'kept' },
      ],
    },
  ],
  'cone-cannot-tell': ['cone', { trials: [{ at: at(0), look: 'half' }] }],
  'cone-over-dried': ['cone', { trials: [{ at: at(0), look: 'fell' }] }],
  'cone-overridden': ['cone', { trials: [{ at: at(0), look: 'half' }], override: 'ssd' }],
  'does-not-fill': ['absolute-volume', { ingredients: [{ role: 'water', mass: kg('150'), sg: one('1') }], air: pct('2'), water }],
  'wetter-than-design': ['moisture-correction', { water: kg('10'), aggregates: [aggregate] }],
  'storage-outside': ['storage', { temperature: q('25.4', 'C') }],
  'not-wet-all-over': ['storage', { temperature: q('23', 'C'), wet: 'no' }],
  'no-lime-left': ['storage', { temperature: q('23', 'C'), lime: 'no' }],
  'core-sawn-short': ['cylinder', { ...round, sawn: mm('90') }],
  'pads-worn': ['cylinder', { ...round, hardness: one('60'), uses: one('101') }],
  'pads-hardness': ['cylinder', { ...round, hardness: one('70'), uses: one('3'), load: q('120', 'kN') }],
  'fracture-of-the-ends': ['cylinder', { ...round, fracture: '5' }],
  'cube-broke-oddly': ['cube', { a: mm('150'), b: mm('150'), load: q('900', 'kN'), failure: 'otherwise' }],
  'strips-used': ['splitting', { strips: 'used' }],
  'split-otherwise': ['splitting', { along: 'otherwise' }],
  'diameters-differ': ['cylinder', { ...round, d2: mm('103') }],
  'specimen-too-long': ['cylinder', { ...round, length: mm('211') }],
  'specimen-too-short': ['cylinder', { ...round, length: mm('99') }],
  'cubes-scatter': ['cube-set', { cubes: ['30', '40', '50'].map((f) => ({ strength: MPa(f) })) }],
  'past-midspan': ['flexure', { ...beam, at: mm('226') }],
  'broke-outside': ['flexure', { ...beam, at: mm('100') }],
  'no-age-window': ['age-window', { age: q('14', 'd'), cast: at(0) }],
  'broken-before-cast': ['age-window', { age: q('7', 'd'), cast: at(10), broken: at(0) }],
  'field-cured': ['curing', { made: at(0), kept: 'field' }],
  'mold-too-small': ['curing', { made: at(0), width: mm('100'), nominal: mm('37.5') }],
  'initial-cure-cold': ['curing', { made: at(0), low: q('15.5', 'C') }],
  'initial-cure-warm': ['curing', { made: at(0), strength: MPa('40'), high: q('26.5', 'C') }],
  'initial-cure-long': ['curing', { made: at(0), demolded: at(2881) }],
  'moved-early': ['curing', { made: at(0), moved: at(479) }],
  'ride-long': ['curing', { made: at(0), moved: at(600), arrived: at(841) }],
  'final-cure-late': ['curing', { made: at(0), demolded: at(1440), cured: at(1471) }],
  'curing-out-of-order': ['curing', { made: at(0), demolded: at(1440), cured: at(1439) }],
  'cold-above-warm': ['curing', { made: at(0), low: q('21', 'C'), high: q('20', 'C') }],
  'outside-age-window': ['age-window', { age: q('7', 'd'), cast: at(0), broken: at(10) }],
  'no-within-test': ['strength-statistics', { tests: [companions(2), companions(3)] }],
  'sieves-in-disorder': ['gradation', { ...graded, sieves: [finer, coarser] }],
  'series-has-gaps': ['gradation', graded],
  'sieve-overloaded': ['gradation', { ...graded, sieves: [coarser, { opening: mm('2.36'), retained: g('200') }] }],
  'more-than-went-in': ['gradation', { ...graded, dry: g('1') }],
  'sieving-loss': ['gradation', { ...graded, pan: g('290') }],
  'swapped-leads': ['half-cell', { potential: q('200', 'mV'), electrode: 'cse', temperature: q('22', 'C') }],
  'rebound-scatter': ['rebound', { readings: [40, 40, 53, 27, 27].map((r) => ({ value: one(String(r)) })) }, { variant: 'lab' }],
  'head-as-pressure': ['constant-head', { ...cell, pressure: q('10', 'kPa') }],
  'beyond-darcy': ['constant-head', { ...cell, thickness: mm('10'), head: q('100', 'm') }],
  'head-does-not-fall': ['falling-head', { ...falling, trials: [{ time: q('40', 's'), h1: q('30', 'cm'), h2: q('30', 'cm') }] }],
  'outside-band': ['grading-band', { band: '8', sieves: [{ opening: mm('9.5'), passing: pct('80') }] }],
  'band-sieves-missing': ['grading-band', { band: '8', sieves: [{ opening: mm('9.5'), passing: pct('90') }] }],
  'too-much-between': [
    'grading-band',
    {
      band: 'fine',
      sieves: [
        { opening: mm('1.18'), passing: pct('80') },
        { opening: mm('0.600'), passing: pct('34') },
      ],
    },
  ],
  'trace-too-coarse': ['loading-rate', { diameter: mm('100'), trace: [trace('0', '1'), trace('10', '2'), trace('20', '300')] }],
  'rate-outside': ['loading-rate', { diameter: mm('100'), trace: [trace('0', '100'), trace('10', '200'), trace('20', '300')] }],
  'not-whole': ['random-loads', { loads: one('12.5'), samples: one('2'), seed: one('7') }],
  'more-than-loads': ['random-loads', { loads: one('12'), samples: one('13'), seed: one('7') }],
  'no-class-fits': ['workability', { slump: mm('200') }],
  'on-a-boundary': ['workability', { slump: mm('75') }],
  'nothing-to-fill': ['trial-batch', { cylinders: one('0'), diameter: mm('100'), height: mm('200'), waste: pct('15') }],
  'pairs-all-alike': ['early-warning', { pairs: pairs(() => 20), now: MPa('20') }],
  'beyond-the-pairs': ['early-warning', { pairs: pairs((i) => 20 + i), now: MPa('40') }],
  'expected-below': ['early-warning', { pairs: pairs((i) => 20 + i), now: MPa('22'), specified: MPa('50') }],
  'may-fall-below': ['early-warning', { pairs: pairs((i) => 20 + i), now: MPa('24'), specified: MPa('34') }],
  'companions-apart': ['companions', { companions: [{ strength: MPa('40') }, { strength: MPa('44') }] }],
  'two-ways': ['slump', { ...heap, centre: mm('1,234') }],
  'other-unit': ['slump', { ...heap, centre: mm('8 in') }],
  'not-a-liquid': ['yield', { ...weighed, batch: [{ name: null, role: 'coarse', mass: q('900', 'L') }], design: q('6', 'm3') }],
  'unlikely-result': ['splitting', split('1500')],
  'cannot-compute': ['wet-sieved-air', { sieved: pct('100'), passing: q('0.5', 'm3'), total: q('1', 'm3'), over: q('1', 'm3') }],
  'slump-and-height': ['slump', { ...heap, drop: mm('96') }],
  'shape-against-height': ['slump', { ...heap, shape: 'zero' }],
  'denser-than-air-free': ['gravimetric-air', { theoretical: q('2300', 'kg/m3'), density: q('2310', 'kg/m3') }],
  'factor-above-one': ['compaction-factor', { ...factor, partial: kg('21') }],
  'pan-twice': ['gradation', { ...graded, sieves: [...graded.sieves, { opening: mm('Pan'), retained: g('300') }] }],
  'total-left-out': ['gradation', { ...graded, sieves: [...graded.sieves, { opening: mm('Total'), retained: g('500') }] }],
  'total-off': ['gradation', { ...graded, sieves: [...graded.sieves, { opening: mm('Total'), retained: g('501') }] }],
  'pressure-and-head': ['constant-head', { ...cell, pressure: q('1000', 'kPa'), head: q('50', 'm') }],
  'discharged-before-batched': ['time-in-truck', { batched: at(10), discharged: at(0) }],
  'sheared-twice': ['slump', { ...heap, shape: 'shear', previous: 'shear' }],
  'collapsed-twice': ['slump', { shape: 'collapse', mold: mm('300'), previous: 'collapse' }, { variant: 'en' }],
  'collapse-read': ['slump', { shape: 'collapse', mold: mm('300'), drop: mm('250') }],
  'mold-moved': ['slump', { ...heap, mishap: 'twisted' }],
  'instrument-not-said': ['pressure-air', meter, { marks: [unsaidRemark(unsaidKit(methodById('pressure-air')!, null)!)] }],
  'never-calibrated': ['pressure-air', meter, { marks: kitMarks({ ...AIR_METER, calibratedOn: null, until: null }, '2026-04-02') }],
  'step-early': ['fine-gravity', flask, { marks: strayed(14) }],
  'step-late': ['fine-gravity', flask, { marks: strayed(20) }],
  'tested-too-little': ['gradation', graded, { marks: [{ code: 'tested-too-little', params: shortOf('c136', g('4000'), mm('19'))! }] }],
  'below-least-mass': ['facts-of-field-sample', { takenAt: at(0), from: 'belt', mass: kg('20'), nominal: mm('19') }],
  'film-on-stone': ['coarse-gravity', { dry: g('3012'), ssd: g('3042'), inWater: g('1907'), look: 'film' }],
  'stone-past-ssd': ['coarse-gravity', { dry: g('3012'), ssd: g('3042'), inWater: g('1907'), look: 'edges' }],
  'no-cone-trial': ['fine-gravity', flask, { marks: [{ code: 'no-cone-trial', params: {} }] }],
  'not-at-ssd': ['fine-gravity', { ...flask, cone: 'no' }],
  'found-wrong': ['pressure-air', meter, { marks: kitMarks({ ...AIR_METER, wrong: WRONG }, '2026-02-03', 'no other') }],
  'sieving-gain': ['gradation', { ...graded, pan: g('310') }],
  'not-combined': ['composite', { portions: [{ at: at(0) }, { at: at(6) }], finished: at(7), combined: 'no' }],
  'sample-void': ['slump', heap, { voids: [{ code: 'sample-void', params: { why: 'one portion only.' } }] }],
  'other-size': ['cylinder', round, { marks: [otherSpecimen({ facts: molded('cylinder', '150') }, methodById('cylinder')!, round)!] }],
  'other-shape': ['cylinder', round, { marks: [otherSpecimen({ facts: molded('cube', '150') }, methodById('cylinder')!, round)!] }],
  'before-last-portion': ['slump', heap, { events: { 'sample.final-portion': 60_000, 'test.started': 0 } }],
  'no-plain-cement': [
    'yield',
    { ...weighed, batch: ['cementitious', 'cementitious'].map((role) => ({ name: null, role, mass: kg('1000') })), design: q('6', 'm3') },
  ],
  'air-free-from-design': ['yield', { ...weighed, batch, design: q('6', 'm3'), theoretical: q('2424', 'kg/m3') }],
  'air-free-from-ticket': ['yield', exampleOf(methodById('yield')!)],
  'no-water-in-batch': ['yield', { ...weighed, batch, design: q('6', 'm3') }],
  'water-after-test': ['slump', heap, { notes: [{ code: 'water-after-test', params: { water: '40 L' } }] }],
  'own-copy': ['slump', heap, { notes: [{ code: 'own-copy', params: { variant: 'ASTM', what: 'reported to 10 mm (in print 5 mm)' } }] }],
  'few-tests': ['required-average', { specified: MPa('30'), tests: one('10'), deviation: MPa('3') }],
  'water-may': ['water-on-site', onSite],
  'water-unlimited': ['water-on-site', { ...onSite, most: null }],
  'water-no-room': ['water-on-site', { ...onSite, most: one('0.30') }],
  'water-too-late': ['water-on-site', { ...onSite, limit: q('40', 'min') }],
  'water-once': ['water-on-site', { ...onSite, once: 'yes' }],
  'water-discharging': ['water-on-site', { ...onSite, discharge: 'well' }],
  'water-not-low': ['water-on-site', { ...onSite, slump: 'other' }],
  'water-not-allowed': ['water-on-site', { ...onSite, allowed: 'no' }],
  'water-moisture-unknown': ['water-on-site', { ...onSite, aggregates: [{ batched: kg('4000') }] }],
  'group-waits': ['en-acceptance', { specified: MPa('30'), results: Array.from({ length: 5 }, () => ({ strength: MPa('36') })) }],
  'not-corrected-for-temperature': ['half-cell', { potential: q('-285', 'mV'), electrode: 'agcl', temperature: q('35', 'C') }],
  'rounds-to-a-boundary': ['half-cell', { potential: q('-199', 'mV'), electrode: 'cse', temperature: q('22', 'C') }],
  'gravities-do-not-fit': ['source-history', now('2.60', '2.74', '0.9')],
  'specimen-light': ['cylinder', { ...round, mass: kg('3.4'), fresh: q('2300', 'kg/m3') }],
  'strength-off-ratio': ['early-warning', { pairs: pairs((i) => 20 + i), now: MPa('24'), late: MPa('30') }],
  'strength-off-history': ['early-warning', { pairs: pairs((i) => 20 + i), now: MPa('24'), late: MPa('60') }],
  'one-grab': ['composite', { portions: [{ at: at(0) }], finished: at(1) }],
  'portions-apart': ['composite', { portions: [{ at: at(0) }, { at: at(16) }], finished: at(17) }],
  'portion-at-end': ['composite', { portions: [{ at: at(0), part: 'last' }, { at: at(6) }], finished: at(7) }],
  'portions-out-of-order': ['composite', { portions: [{ at: at(0) }, { at: at(6) }], finished: at(5) }],
  'sample-too-small': ['composite', { portions: [{ at: at(0) }, { at: at(6) }], finished: at(7), volume: q('27', 'L'), specimens: 'yes' }],
  late: ['slump', heap, { events: { 'sample.final-portion': 0, 'test.started': 301_000 } }],
  'out-of-calibration': [
    'pressure-air',
    meter,
    {
      marks: kitMarks(AIR_METER, '2026-04-02'),
    },
  ],
};

const EVIDENCE = {
  pressure: '8',
  gravimetric: '5',
  meterAge: 1,
  measureAge: 1,
  gravitiesAge: 1,
  correction: false,
  fromDesign: false,
  waterAdded: null,
};

describe('the catalogue of codes', () => {
  for (const [code, [id, inputs, how]] of Object.entries(WAYS)) {
    it(`${code} comes from ${id}, with its sentence filled in`, () => {
      const m = methodById(id) ?? factsForm('field-sample');
      const e = evaluate(m, inputs, { variant: Object.keys(m.variants)[0]!, system: 'si', ...how });
      const found = [...e.issues, ...e.validity.reasons, ...e.notes].find((said) => said.code === code);
      expect(found).toBeDefined();
      const said = [say(code as Code, found?.params), nextStep(code as Code, found?.params) ?? ''];
      for (const sentence of said) expect(sentence).not.toMatch(/undefined|NaN| {2}|\( |“”|…/);
      // Whatever stops or marks a test says what to do, and a mark what it means for acceptance.
      const [issue, reason] = [e.issues.some((i) => i.code === code), e.validity.reasons.some((r) => r.code === code)];
      if (issue || reason) expect(said[1]).not.toBe('');
      if (reason && e.validity.state === 'marked') expect(countsWords(code as Code)).not.toBeNull();
    });
  }

  it('offers nothing that is a slip itself: what was meant makes the whole likelier, and stays inside what the method works with', () => {
    const offered = (m: AnyMethod, readings: object) =>
      evaluate(m, readings as AnyInputs, { variant: Object.keys(m.variants)[0]!, system: 'si' }).issues.map((i) => i.offer ?? null);
    const [head, field] = [methodById('constant-head')!, factsForm('field-sample')];
    const cell = (more: object) => ({
      ...{ volume: { text: '12.1', unit: 'mL' }, time: { text: '5400', unit: 's' }, area: { text: '176.7', unit: 'cm2' } },
      ...{ thickness: mm('150'), temperature: { text: '24.5', unit: 'C' }, concrete: 'structural', ...more },
    });
    // Increments are counted, and nobody misses a figure of two; what a head is meant to be is one that a cell is worked at.
    expect(offered(field, { takenAt: moment(0), from: 'stockpile', increments: { text: '2', unit: '1' } })).toEqual([null]);
    expect(offered(head, cell({ head: { text: '1', unit: 'm' } }))).toEqual([{ text: '100', unit: 'm' }]);
    expect(offered(head, cell({ pressure: { text: '10', unit: 'MPa' } }))).toEqual([{ text: '10', unit: 'kgf/cm2' }]);
    // A figure with a slip in it is offered only where nothing else speaks against what it would be.
    const bulk = methodById('slump')!;
    expect(offered(bulk, { shape: 'zero', mold: mm('300'), drop: mm('9500') }).filter((o) => o !== null)).toEqual([]);
  });

  it('has nothing that no test produces', () => {
    const heapOf = (drop: string) =>
      evaluate(methodById('slump')!, { shape: 'true', mold: mm('300'), drop: mm(drop) }, { variant: 'us', system: 'si' });
    const checks = [
      crossCheckAir(EVIDENCE),
      crossCheckAir({ ...EVIDENCE, gravimetric: '9.2', fromDesign: true, waterAdded: '120 kg' }),
      ...['2200', '2400'].map((density) => crossCheckDensity({ density, theoretical: '2424', airPercent: '6', unit: 'kg/m3' })),
      crossCheckYield('1.04'),
      crossCheckYield('0.95'),
      testsApart(methodById('slump')!, heapOf('145'), heapOf('115')),
      duplicatesApart(methodById('slump')!, [heapOf('145')], heapOf('115')),
    ].filter((check) => check !== null);
    for (const check of checks)
      for (const { code, params } of [check, ...check.causes]) expect(say(code, params)).not.toMatch(/undefined|NaN/);
    const figures = { of: '5', least: '1', most: '3', step: '1', count: 3, digits: '~3', rows: [{ size: '1' }, { size: '2' }] };
    const own = [
      ...[{ of: 'x' }, { of: '51' }, { gone: '1' }, { step: '3' }, { count: '2.5' }, { digits: '0' }],
      ...[{ least: '4' }, { 'rows|#2|size': '0.5' }],
    ].flatMap((mine) => Object.values(ownFaults(figures, mine)));
    for (const { code, params } of own) expect(say(code, params)).not.toMatch(/undefined|NaN/);
    const water = ['120', '10'].map((text, i) => ({ mass: { text, unit: 'kg' }, at: moment(40 + i) }));
    const twice = [0, 1].map((i) =>
      item('load', `Load ${i + 1}`, 'pour', { ...TICKET, design: { text: '12', unit: 'm3' } }, { at: moment(i) }),
    );
    const one = lineWith({ sample: { portions: [{ at: moment(10) }] } });
    const doubts = [
      ...[
        { water },
        { design: { text: '12', unit: 'm3' } },
        { materials: TICKET.materials.map((m, i) => (i === 2 ? { ...m, actual: { text: '9000', unit: 'kg' } } : m)) },
      ]
        .map((load) => lineWith({ load }))
        .flatMap((line) => doubtsOn(line, line.items[0]!)),
      ...doubtsOn({ ...lineWith(), items: [...lineWith().above, ...twice] }, twice[1]!),
      ...doubtsOn(one, one.items[1]!),
      ...Object.values(prismRemarks({ castAt: moment(0), demolded: moment(60), initialAt: moment(60) }, [])).flat(),
      otherInstrument('gauge', { kind: 'air-meter', name: 'Meter 3' }, [{ kind: 'air-meter', name: 'Meter 2' }])!,
    ];
    for (const { code, params } of doubts) expect(say(code, params)).not.toMatch(/undefined|NaN/);
    const produced = new Set([
      ...Object.keys(WAYS),
      ...doubts.map((d) => d.code),
      ...own.map((o) => o.code),
      ...checks.flatMap((c) => [c.code, ...c.causes.map((cause) => cause.code)]),
    ]);
    expect(Object.keys(CATALOGUE).filter((code) => !produced.has(code))).toEqual([]);
  });
});
