import { exact, shown, significant, toStep } from '../../numbers/exact.js';
import { method, pick, qty, rows, text, type Run, type Steps } from '../definition.js';
import { startWithin5 } from '../composite/windows.js';
import { ASTM, C138, densityFields, EN, EN6, freshDensity, T121, type DensityParams } from './fields.js';
import { FILLING_STEPS } from './density.js';
import { airFromDensity, AIR_STEPS } from './gravimetric.js';

type YieldParams = DensityParams & {
  /** Worksheet school: the density as reported goes on into the yield. */
  carryReported: boolean;
  volumeSteps: Steps;
  cementSteps: Steps;
  relativeStep: string;
  plausibleRelative: { least: string; most: string };
};

const REPORTING: Omit<YieldParams, keyof DensityParams | 'carryReported'> = {
  volumeSteps: { m3: '0.1', yd3: '0.1' },
  cementSteps: { 'kg/m3': '0.5', 'lb/yd3': '1' },
  relativeStep: '0.01',
  plausibleRelative: { least: '0.7', most: '1.4' },
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
          cementitious: 'Cementitious',
          water: 'Water',
          'water-added': 'Water added after batching',
          fine: 'Fine aggregate',
          coarse: 'Coarse aggregate',
          admixture: 'Admixture',
        },
        { optional: true },
      ),
      mass: qty('mass', 'M', 'Actual mass', { si: 'kg', us: 'lb' }, { possible: { unit: 'kg', least: '0', most: '60000' } }),
    },
    { from: 'ticket.batch' },
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
    'Cementitious material in the batch',
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
      possible: { unit: 'kg/m3', above: '0', most: '6000' },
      plausible: { unit: 'kg/m3', least: '1700', most: '2800' },
    },
  ),
};

export const yieldMethod = method({
  id: 'yield',
  title: 'Density and yield',
  short: 'Density',
  names: ['yield', 'relative yield', 'cement content', 'unit weight', 'density', 'gravimetric air'],
  follows: [C138, T121, EN6],
  about: 'What volume the batch really made: every material weighed in, over the density of the concrete.',
  fields,
  results: {
    density: { label: 'Density', symbol: 'D', units: { si: 'kg/m3', us: 'lb/ft3' }, property: 'density', precision: 'density', main: true },
    densityUsed: { label: 'Density carried into the yield', symbol: 'D', units: { si: 'kg/m3', us: 'lb/ft3' } },
    yieldFt3: { label: 'Yield in cubic feet', symbol: 'Yf', units: { si: 'ft3', us: 'ft3' }, system: 'us' },
    yield: { label: 'Yield', symbol: 'Y', units: { si: 'm3', us: 'yd3' } },
    perDesign: { label: 'Cubic feet per design cubic yard', symbol: 'Yf/Yd', units: { si: 'ft3', us: 'ft3' }, system: 'us' },
    relative: { label: 'Relative yield', symbol: 'Ry', units: { si: '1', us: '1' }, property: 'relative-yield', main: true },
    cementContent: { label: 'Cement content', symbol: 'C', units: { si: 'kg/m3', us: 'lb/yd3' }, property: 'cement-content' },
    air: { label: 'Air, gravimetric', symbol: 'A', units: { si: '%', us: '%' } },
  },
  variants: {
    exact: { label: 'unrounded density carried on', source: C138, params: { ...ASTM, ...REPORTING, carryReported: false } as YieldParams },
    worksheet: {
      label: 'reported density carried on, as on worksheets',
      source: C138,
      params: { ...ASTM, ...REPORTING, carryReported: true } as YieldParams,
    },
    en: {
      label: 'density to 10 kg/m³, unrounded carried on',
      source: EN6,
      params: { ...EN, ...REPORTING, carryReported: false } as YieldParams,
    },
  },
  steps: FILLING_STEPS,
  windows: [startWithin5(C138, 'Filling the measure started')],
  advice: [
    {
      result: 'relative',
      side: 'low',
      steps: [
        'Check the weighings and the measure’s calibration, then repeat.',
        'Below one: the load is short. Tell the plant and the office before the next load.',
      ],
    },
    {
      result: 'relative',
      side: 'high',
      steps: [
        'Check the weighings and whether all water is on the ticket, then repeat.',
        'Above one: more concrete than designed, so it is leaner or holds more air. Look at air and slump.',
      ],
    },
    {
      result: 'density',
      side: 'low',
      steps: [
        'Weigh again, outside of the measure clean.',
        'Low density with high air: too much air. Low density with high slump and yield above one: extra water.',
      ],
    },
    {
      result: 'density',
      side: 'high',
      steps: ['Weigh again, surface struck off level.', 'High density with low air: air was lost. Look at times and temperature.'],
    },
  ],
  run(r) {
    const { c, p, system } = r;
    const unit = p.units[system];
    const density = freshDensity(r);
    if (density !== null) r.result('density', density, unit, p.steps);
    const batch = batchMass(r);
    const design = r.need('design', system === 'us' ? 'yd3' : 'm3');
    if (density === null) return;
    const step = p.steps[unit];
    const used = p.carryReported && step !== undefined ? c.round('D', density, step, unit) : density;
    r.result('densityUsed', used, unit);
    gravimetric(r, used);
    if (batch === null) return;
    const made = volumeMade(r, batch.mass, used);
    if (batch.cement !== null) {
      const content = system === 'us' ? 'lb/yd3' : 'kg/m3';
      r.result('cementContent', c.name('C', c.div(batch.cement, made), content), content, p.cementSteps);
    }
    if (design === null) return;
    const relative = c.name('Ry', c.div(made, design), '1');
    const { least, most } = p.plausibleRelative;
    if (c.value(relative).compare(exact(least)) < 0 || c.value(relative).compare(exact(most)) > 0) {
      r.doubt('unlikely-yield', 'design', { ratio: significant(c.value(relative), 3) });
    }
    r.result('relative', relative, '1', { '1': p.relativeStep });
    if (p.carryReported) sayOther(r, batch.mass, density);
  },
});

type R<V> = Run<typeof fields, YieldParams, V>;

/** Every material in the batch, water added on site included, and the cementitious part of it. */
function batchMass<V>(r: R<V>): { mass: V; cement: V | null } | null {
  const { c, x, system } = r;
  const unit = system === 'us' ? 'lb' : 'kg';
  const batch = x.batch ?? [];
  if (batch.length === 0) {
    r.missing('batch');
    return null;
  }
  const masses = batch.map((_row, i) => r.inRow('batch', i, 'mass', unit, 'M'));
  if (masses.some((mass) => mass === null)) return null;
  const total = c.name('M', c.sum(masses as V[]), unit);
  const given = r.have('cement', unit);
  const cementitious = (masses as V[]).filter((_mass, i) => batch[i]?.role === 'cementitious');
  if (given === null && cementitious.length === 0) {
    r.note('no-cement');
    return { mass: total, cement: null };
  }
  return { mass: total, cement: given ?? c.name('Cb', c.sum(cementitious), unit) };
}

/** Yf = M/D, and in US units Y = Yf/27 (yd³). An EN density in kg/m³ meets masses in the same system. */
function volumeMade<V>(r: R<V>, mass: V, density: V): V {
  const { c, p, system } = r;
  if (system === 'si') {
    const made = c.name('Y', c.div(mass, density), 'm3');
    r.result('yield', made, 'm3', p.volumeSteps);
    return made;
  }
  const feet = c.name('Yf', c.div(mass, density), 'ft3');
  r.result('yieldFt3', feet, 'ft3');
  const yards = c.name('Y', c.div(feet, c.num('27')), 'yd3');
  r.result('yield', yards, 'yd3', p.volumeSteps);
  const design = r.have('design', 'yd3');
  // Over the *design* yards: over the actual ones it is always 27, a slip often made.
  if (design !== null) r.result('perDesign', c.name('Yf/Yd', c.div(feet, design), 'ft3'), 'ft3');
  return yards;
}

function gravimetric<V>(r: R<V>, density: V): void {
  const theoretical = r.have('theoretical', r.p.units[r.system]);
  if (theoretical === null) return;
  if (r.c.value(density).compare(r.c.value(theoretical)) > 0) r.note('dense-without-air');
  r.result('air', airFromDensity(r.c, theoretical, density), '%', AIR_STEPS);
}

/** Worksheet school: say when the unrounded density would have reported another yield. */
function sayOther<V>(r: R<V>, mass: V, density: V): void {
  const { c, p, system } = r;
  const unit = system === 'us' ? 'yd3' : 'm3';
  const step = p.volumeSteps[unit];
  if (step === undefined) return;
  const factor = system === 'us' ? exact('27') : exact('1');
  const volume = (d: V) => toStep(c.value(mass).div(c.value(d)).div(factor), exact(step));
  const rounded = toStep(c.value(density), exact(p.steps[p.units[system]] ?? '1'));
  const worksheet = toStep(c.value(mass).div(rounded).div(factor), exact(step));
  if (!volume(density).equals(worksheet))
    r.note('worksheet-differs', { other: `${shown(volume(density))} ${system === 'us' ? 'yd³' : 'm³'}` });
}
