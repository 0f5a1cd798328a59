import { brief, exact, reported, toStep } from '../../numbers/exact.js';
import { dimensionOf, unitLabel, type System } from '../../units/units.js';
import { gravity, percent } from '../mix/fields.js';
import { isWhole } from '../rows.js';
import { method, pick, qty, rows, text, type Run, type Increments } from '../definition.js';
import { startWithin5 } from '../composite/windows.js';
import { ASTM, C138, densityFields, densityScene, EN, EN6, freshDensity, T121, USUAL_DENSITY, type DensityParams } from './fields.js';
import { FILLING_STEPS } from './density.js';
import { airFromDensity, AIR_INCREMENTS, USUAL_AIR } from './gravimetric.js';
import { airFree } from './air-free.js';
import { WEIGHED } from '../../examples/write.js';

type YieldParams = DensityParams & {
  /** Worksheet school: the density as reported goes on into the yield. */
  carryReported: boolean;
  volumeIncrements: Increments;
  cementIncrements: Increments;
  relativeStep: string;
  plausibleRelative: { least: string; most: string };
  /** For the volumes of the ingredients. */
  waterDensity: Record<System, string>;
};

const REPORTING: Omit<YieldParams, keyof DensityParams | 'carryReported'> = {
  volumeIncrements: { m3: '0.1', yd3: '0.1' },
  cementIncrements: { 'kg/m3': '0.5', 'lb/yd3': '1' },
  relativeStep: '0.01',
  plausibleRelative: { least: '0.7', most: '1.4' },
  waterDensity: { si: '1000', us: '62.43' },
};

const fields = {
  ...densityFields,
  batch: rows(
    'Batch, as weighed',
    {
      name: text('Material', { optional: true }),
      role: pick(
        'Kind',
        {
          cement: 'Cement',
          cementitious: 'Slag, fly ash, other cementitious',
          water: 'Water',
          'water-added': 'Water added after batching',
          fine: 'Fine aggregate',
          coarse: 'Coarse aggregate',
          admixture: 'Admixture',
        },
        { optional: true },
      ),
      mass: qty(
        'mass',
        'M',
        'Actual mass',
        { si: 'kg', us: 'lb' },
        { kgPerLitre: '1', possible: { unit: 'kg', least: '0', most: '60000' } },
      ),
      sg: { ...qty('ratio', 'G', 'Specific gravity (aggregate: SSD)', { si: '1', us: '1' }, gravity), optional: true },
      moisture: { ...percent('p', 'Total moisture'), optional: true },
      absorption: { ...percent('a', 'Absorption'), optional: true },
    },
    { from: 'ticket.batch', most: 60 },
  ),
  design: qty(
    'volume',
    'Yd',
    'Design volume of the load',
    { si: 'm3', us: 'yd3' },
    {
      from: 'ticket.design',
      possible: { unit: 'm3', above: '0', most: '30' },
      plausible: { unit: 'm3', least: '0.2', most: '15' },
    },
  ),
  cement: qty(
    'mass',
    'Cb',
    'Cement in the batch, where the weights do not say',
    { si: 'kg', us: 'lb' },
    {
      optional: true,
      from: 'ticket.batch',
      possible: { unit: 'kg', above: '0', most: '60000' },
    },
  ),
  theoretical: qty(
    'density',
    'T',
    'Theoretical density, air-free',
    { si: 'kg/m3', us: 'lb/ft3' },
    {
      optional: true,
      from: 'mix.theoretical',
      hint: 'the design’s, where the weights have no specific gravities',
      possible: { unit: 'kg/m3', above: '0', most: '6000' },
      plausible: { unit: 'kg/m3', least: '1700', most: '2800' },
    },
  ),
};

/** ASTM C94/C94M, basis of purchase: the volume of concrete is settled by the mean of at least three loads. */
const YIELD_STANDS = ['Tell the plant and the office. A yield is settled by the mean of three loads (ASTM C94/C94M), not by one.'];
const YIELD_OUT = 'Weighed twice, the yield is out: it is no slip of one weighing.';
const YIELD_CHECKED = 'Weighed again, the yield is inside: the first weighing was off.';

export const yieldMethod = method({
  id: 'yield',
  on: ['sample', 'trial-batch'],
  title: 'Density and yield',
  short: 'Density',
  names: ['yield', 'relative yield', 'cement content', 'unit weight', 'density', 'gravimetric air'],
  follows: [C138, T121, EN6],
  about: 'What volume the batch really made: every material weighed in, over the density of the concrete.',
  fields,
  results: {
    density: {
      label: 'Density',
      symbol: 'D',
      units: { si: 'kg/m3', us: 'lb/ft3' },
      property: 'density',
      precision: 'density',
      plausible: USUAL_DENSITY,
      main: true,
    },
    densityUsed: { label: 'Density carried into the yield', symbol: 'D', units: { si: 'kg/m3', us: 'lb/ft3' } },
    yieldFt3: { label: 'Yield in cubic feet', symbol: 'Yf', units: { si: 'ft3', us: 'ft3' }, system: 'us' },
    yield: { label: 'Yield', symbol: 'Y', units: { si: 'm3', us: 'yd3' }, property: 'yield' },
    perDesign: { label: 'Cubic feet per design cubic yard', symbol: 'Yf/Yd', units: { si: 'ft3', us: 'ft3' }, system: 'us' },
    relative: { label: 'Relative yield', symbol: 'Ry', units: { si: '1', us: '1' }, property: 'relative-yield', main: true },
    cementContent: { label: 'Cement content', symbol: 'C', units: { si: 'kg/m3', us: 'lb/yd3' }, property: 'cement-content' },
    cementitiousContent: {
      label: 'Content of all cementitious material',
      symbol: 'Cm',
      units: { si: 'kg/m3', us: 'lb/yd3' },
      property: 'cementitious-content',
    },
    airFree: { label: 'Air-free density of the load', symbol: 'T', units: { si: 'kg/m3', us: 'lb/ft3' } },
    air: { label: 'Air, gravimetric', symbol: 'A', units: { si: '%', us: '%' }, property: 'air-gravimetric', plausible: USUAL_AIR },
  },
  variants: {
    exact: {
      label: 'unrounded density carried on',
      source: C138,
      params: { ...ASTM, ...REPORTING, carryReported: false } satisfies YieldParams as YieldParams,
    },
    worksheet: {
      label: 'reported density carried on, as on worksheets',
      source: C138,
      params: { ...ASTM, ...REPORTING, carryReported: true } satisfies YieldParams as YieldParams,
    },
    en: {
      label: 'density to 10 kg/m³, unrounded carried on',
      source: EN6,
      params: { ...EN, ...REPORTING, carryReported: false } satisfies YieldParams as YieldParams,
      practices: ['en'],
    },
  },
  steps: FILLING_STEPS,
  kit: 'measure',
  uses: ['balance'],
  work: { on: 'fresh', order: 3, fills: 'measure' },
  gives: { density: { as: 'test.density', to: 'item' } },
  windows: [startWithin5(C138, 'Filling the measure started')],
  advice: [
    {
      result: 'relative',
      side: 'low',
      steps: [
        'Check the weighings and the measure’s calibration, then repeat.',
        'Below one: the load is short. Tell the plant and the office before the next load.',
      ],
      bothOut: YIELD_STANDS,
      outTwice: YIELD_OUT,
      checked: YIELD_CHECKED,
    },
    {
      result: 'relative',
      side: 'high',
      steps: [
        'Check that all water is in the weights: batched, left in the drum, added on site. Then check the weighings and repeat.',
        'Above one: more concrete than designed, so it is leaner or holds more air. Look at air and slump.',
      ],
      bothOut: YIELD_STANDS,
      outTwice: YIELD_OUT,
      checked: YIELD_CHECKED,
    },
    {
      result: 'density',
      side: 'low',
      steps: [
        'Weigh again, outside of the measure clean.',
        'Low density with high air: too much air. Low density with high slump and yield above one: extra water.',
      ],
      bothOut: ['Tell the plant and the office: look at air, slump and ticket.'],
      outTwice: 'Weighed twice, the density is out: it is no slip of one weighing.',
      checked: 'Weighed again, the density is inside: the first weighing was off.',
    },
    {
      result: 'density',
      side: 'high',
      steps: ['Weigh again, surface struck off level.', 'High density with low air: air was lost. Look at times and temperature.'],
      bothOut: ['Tell the plant and the office: look at air, slump and ticket.'],
      outTwice: 'Weighed twice, the density is out: it is no slip of one weighing.',
      checked: 'Weighed again, the density is inside: the first weighing was off.',
    },
  ],
  scene: densityScene,
  example: {
    ...WEIGHED,
    batch: [
      { name: 'Cement', role: 'cement', mass: '2164 kg', sg: '3.15' },
      { name: 'Slag', role: 'cementitious', mass: '361 kg', sg: '2.90' },
      { name: 'Water', role: 'water', mass: '742 kg' },
      { name: 'Added on site', role: 'water-added', mass: '24 L' },
      { name: 'Brackdown sand', role: 'fine', mass: '4352 kg', sg: '2.64', moisture: '5.1 %', absorption: '1.3 %' },
      { name: 'Pellick 19 mm', role: 'coarse', mass: '6078 kg', sg: '2.68', moisture: '1.4 %', absorption: '0.9 %' },
    ],
    design: '6 m3',
    theoretical: '2424 kg/m3',
  },
  run(r) {
    const { c, p, system } = r;
    const unit = p.units[system];
    const density = freshDensity(r);
    if (density !== null) r.result('density', density, unit, p.increments);
    const batch = batchMass(r);
    const design = r.need('design', system === 'us' ? 'yd3' : 'm3');
    if (density === null) return;
    const step = p.increments[unit];
    const used = p.carryReported && step !== undefined ? c.round('D', density, step, unit) : density;
    r.result('densityUsed', used, unit);
    gravimetric(r, used);
    if (batch === null) return;
    const made = volumeMade(r, batch.mass, used);
    const content = system === 'us' ? 'lb/yd3' : 'kg/m3';
    if (batch.cement !== null) r.result('cementContent', c.name('C', c.div(batch.cement, made), content), content, p.cementIncrements);
    if (batch.cementitious !== null)
      r.result('cementitiousContent', c.name('Cm', c.div(batch.cementitious, made), content), content, p.cementIncrements);
    if (design === null) return;
    const relative = c.name('Ry', c.div(made, design), '1');
    const { least, most } = p.plausibleRelative;
    if (c.value(relative).compare(exact(least)) < 0 || c.value(relative).compare(exact(most)) > 0) {
      r.doubt('unlikely-yield', 'design', { ratio: brief(c.value(relative)) });
    }
    r.result('relative', relative, '1', { '1': p.relativeStep });
    if (p.carryReported) sayOther(r, batch.mass, density);
  },
});

type R<V> = Run<typeof fields, YieldParams, V>;

interface Batch<V> {
  readonly mass: V;
  readonly cement: V | null;
  readonly cementitious: V | null;
}

/** Every material in the batch, water added on site included; of it the cement, and all that is cementitious. */
function batchMass<V>(r: R<V>): Batch<V> | null {
  const { c, x, system } = r;
  const unit = system === 'us' ? 'lb' : 'kg';
  const batch = x.batch ?? [];
  if (batch.length === 0) {
    r.missing('batch');
    return null;
  }
  const masses = batch.map((_row, i) => r.inRow('batch', i, 'mass', unit, 'M'));
  if (!isWhole(masses)) return null;
  const dry = batch.findIndex((row) => row.mass !== null && dimensionOf(row.mass.unit) === 'volume' && !LIQUID.has(row.role ?? ''));
  if (dry >= 0) {
    r.refuse('not-a-liquid', `batch.${dry}.mass`);
    return null;
  }
  const total = c.name('M', c.sum(masses), unit);
  if (batch.some((row) => row.role !== null) && !batch.some((row) => row.role === 'water' || row.role === 'water-added'))
    r.note('no-water-in-batch');
  return { mass: total, ...cementOf(r, masses, unit) };
}

const LIQUID: ReadonlySet<string> = new Set(['water', 'water-added', 'admixture']);

/** A clause asks for one or the other: cement alone, or everything that is cementitious. */
function cementOf<V>(r: R<V>, masses: readonly V[], unit: 'kg' | 'lb'): Omit<Batch<V>, 'mass'> {
  const { c, x } = r;
  const of = (...roles: string[]): V[] => masses.filter((_m, i) => roles.includes(x.batch?.[i]?.role ?? ''));
  const [plain, all] = [of('cement'), of('cement', 'cementitious')];
  const given = r.have('cement', unit);
  const cementitious = all.length === 0 ? null : c.name('Cm_b', c.sum(all), unit);
  // One material that is cementitious is the cement.
  const rows = plain.length > 0 ? plain : all.length === 1 ? all : [];
  const cement = given ?? (rows.length === 0 ? null : c.name('Cb', c.sum(rows), unit));
  if (cement === null) r.note(cementitious === null ? 'no-cement' : 'no-plain-cement');
  return { cement, cementitious };
}

/** Yf = M/D, and in US units Y = Yf/27 (yd³). An EN density in kg/m³ meets masses in the same system. */
function volumeMade<V>(r: R<V>, mass: V, density: V): V {
  const { c, p, system } = r;
  if (system === 'si') {
    const made = c.name('Y', c.div(mass, density), 'm3');
    r.result('yield', made, 'm3', p.volumeIncrements);
    return made;
  }
  const feet = c.name('Yf', c.div(mass, density), 'ft3');
  r.result('yieldFt3', feet, 'ft3');
  const yards = c.name('Y', c.div(feet, c.num('27')), 'yd3');
  r.result('yield', yards, 'yd3', p.volumeIncrements);
  const design = r.have('design', 'yd3');
  // Over the *design* yards: over the actual ones it is always 27, a slip often made.
  if (design !== null) r.result('perDesign', c.name('Yf/Yd', c.div(feet, design), 'ft3'), 'ft3');
  return yards;
}

function gravimetric<V>(r: R<V>, density: V): void {
  const unit = r.p.units[r.system];
  const inTruck = airFree(r, unit, r.p.waterDensity[r.system]);
  const theoretical = inTruck ?? r.have('theoretical', unit);
  if (theoretical === null) return;
  if (inTruck === null) r.note('air-free-from-design');
  else {
    r.result('airFree', inTruck, unit, r.p.increments);
    r.note('air-free-from-ticket', { theoretical: `${reported(r.c.value(inTruck), r.p.increments[unit] ?? '1')} ${unitLabel(unit)}` });
  }
  if (r.c.value(density).compare(r.c.value(theoretical)) > 0) r.doubt('denser-than-air-free', 'full');
  r.result('air', airFromDensity(r.c, theoretical, density), '%', AIR_INCREMENTS);
}

/** Worksheet school: say when the unrounded density would have reported another yield. */
function sayOther<V>(r: R<V>, mass: V, density: V): void {
  const { c, p, system } = r;
  const unit = system === 'us' ? 'yd3' : 'm3';
  const step = p.volumeIncrements[unit];
  if (step === undefined) return;
  const factor = system === 'us' ? exact('27') : exact('1');
  const volume = (d: V) => toStep(c.value(mass).div(c.value(d)).div(factor), exact(step));
  const rounded = toStep(c.value(density), exact(p.increments[p.units[system]] ?? '1'));
  const worksheet = toStep(c.value(mass).div(rounded).div(factor), exact(step));
  if (!volume(density).equals(worksheet))
    r.note('worksheet-differs', { other: `${brief(volume(density), 4)} ${system === 'us' ? 'yd³' : 'm³'}` });
}
