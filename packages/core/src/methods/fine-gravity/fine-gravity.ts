import { brief, exact } from '../../numbers/exact.js';
import { method, pick, qty, YES_NO, type Citation, type Run } from '../definition.js';
import { gravities, gravityResults, gravityVariants, type GravityParams } from '../coarse-gravity/coarse-gravity.js';
import { waterDensity } from '../volumes/volumes.js';

const C128: Citation = { designation: 'ASTM C128', edition: '2022' };
const T84: Citation = { designation: 'AASHTO T 84', edition: '2022' };

const mass = { possible: { unit: 'g', above: '0', most: '5000' } } as const;
/** Flask and water, or flask, sample and water. */
const filled = { ...mass, plausible: { unit: 'g', least: '300', most: '3000' } } as const;

const fields = {
  ssd: qty(
    'mass',
    'S',
    'SSD mass put in the flask',
    { si: 'g', us: 'g' },
    { ...mass, plausible: { unit: 'g', least: '450', most: '600' } },
  ),
  flaskWater: qty('mass', 'B', 'Flask and water to the mark', { si: 'g', us: 'g' }, filled),
  flaskSample: qty('mass', 'C', 'Flask, sample and water to the mark', { si: 'g', us: 'g' }, filled),
  water: qty(
    'temperature',
    't',
    'Water in the flask, at the mark',
    { si: 'C', us: 'C' },
    { optional: true, minor: true, possible: { unit: 'C', least: '0', most: '40' }, plausible: { unit: 'C', least: '15', most: '30' } },
  ),
  dry: qty('mass', 'A', 'Oven-dry mass of the flask’s contents', { si: 'g', us: 'g' }, { ...mass, optional: true }),
  companionSsd: qty('mass', 'S2', 'Companion, SSD', { si: 'g', us: 'g' }, { ...mass, optional: true }),
  companionDry: qty('mass', 'A2', 'Companion, oven-dry', { si: 'g', us: 'g' }, { ...mass, optional: true }),
  cone: pick('The cone says', { yes: 'SSD', no: 'not SSD' }, { optional: true, minor: true, takes: 'test.cone' }),
};

/** °C at which the flask is filled to its mark. */
interface FilledAt {
  readonly target: string;
  readonly tolerance: string;
}
type FineParams = GravityParams & { filledAt: FilledAt };
type R<V> = Run<typeof fields, FineParams, V>;

const BASE = gravityVariants(C128, T84, { companionWithin: '0.2' });

export const fineGravity = method({
  id: 'fine-gravity',
  on: ['field-sample', 'portion'],
  kit: 'flask',
  uses: ['balance', 'oven'],
  suits: { 'source.kind': ['fine'] },
  gives: { ssd: { as: 'source.gravity', to: 'subject' }, absorption: { as: 'source.absorption', to: 'subject' } },
  title: 'Fine aggregate: specific gravity and absorption',
  names: ['fine specific gravity', 'SG', 'absorption', 'pycnometer', 'flask', 'cone test'],
  follows: [C128, T84],
  about: 'Sand at SSD in a flask of known volume; dried from the flask, or a companion of the same mass dried beside it.',
  fields,
  results: {
    ...gravityResults('fine'),
    displaced: { label: 'Water that the sand pushes out', symbol: 'B + S − C', units: { si: 'g', us: 'g' }, drawn: true },
    dryUsed: { label: 'Oven-dry mass used', symbol: 'A', units: { si: 'g', us: 'g' } },
    companion: { label: 'Companion within its tolerance', symbol: 'companion', units: { si: '1', us: '1' }, words: YES_NO },
  },
  variants: {
    astm: { ...BASE.astm, params: { ...BASE.astm.params, filledAt: { target: '23', tolerance: '2' } } satisfies FineParams as FineParams },
    aashto: {
      ...BASE.aashto,
      params: { ...BASE.aashto.params, filledAt: { target: '23', tolerance: '1.7' } } satisfies FineParams as FineParams,
    },
  },
  steps: [
    { text: 'Dry, soak, bring back to SSD with gentle warm air and the cone; cover, and keep covered between the two weighings.' },
    { text: 'Some water in the flask first; roll and agitate until no more bubbles rise; to temperature, then to the mark, neck dry.' },
    { text: 'Warm air only while you stand by. Pans from the oven are at 110 °C.', caution: true },
  ],
  scene: {
    scale: [
      { thing: 'flask-water', shows: 'flaskWater' },
      { thing: 'sand-wet', shows: 'ssd', sign: '+' },
      { thing: 'flask-sand', shows: 'flaskSample', sign: '−' },
      { thing: 'pushed-out', shows: 'displaced', sign: '=' },
      { thing: 'sand-dry', shows: 'dryUsed' },
    ],
  },
  example: { ssd: '500.3 g', flaskWater: '661.8 g', flaskSample: '971.6 g', dry: '493.6 g' },
  further: [{ ssd: '500.3 g', flaskWater: '661.8 g', flaskSample: '971.6 g', companionSsd: '500.4 g', companionDry: '493.7 g' }],
  run(r) {
    const { c, p } = r;
    const [ssd, flaskWater, flaskSample] = [r.need('ssd', 'g'), r.need('flaskWater', 'g'), r.need('flaskSample', 'g')];
    filledWarm(r);
    if (ssd !== null && r.x.cone === 'no') r.doubt('not-at-ssd', 'ssd');
    const drying = dryingOf(r, ssd);
    if (drying) {
      r.result('absorption', drying.absorption, '%', p.absorption);
    }
    if (ssd === null || flaskWater === null || flaskSample === null || !drying) return;
    r.result('dryUsed', drying.dry, 'g');
    const displacedSsd = c.sub(c.add(flaskWater, ssd), flaskSample);
    const displacedDry = c.sub(c.add(flaskWater, drying.dry), flaskSample);
    if (c.value(displacedDry).compare(0) <= 0) return r.refuse('flask-too-heavy', 'flaskSample');
    r.result('displaced', displacedSsd, 'g');
    gravities(r, { dry: drying.dry, ssd, displacedSsd, displacedDry });
  },
});

/** Filled to its mark too warm or too cold, the flask holds another mass of water than the one it was calibrated with. */
function filledWarm<V>(r: R<V>): void {
  const { target, tolerance } = r.p.filledAt;
  const water = r.have('water', 'C');
  if (water === null || r.c.value(water).sub(exact(target)).abs().compare(exact(tolerance)) <= 0) return;
  r.voids('flask-temperature', { got: brief(r.c.value(water), 4), target, tolerance });
}

/** A from the flask's own contents where they were dried; otherwise from a companion within its tolerance. */
function dryingOf<V>(r: R<V>, ssd: V | null): { dry: V; absorption: V } | null {
  const ownDry = r.have('dry', 'g');
  const companion = r.have('companionSsd', 'g') !== null || r.have('companionDry', 'g') !== null ? companionOf(r, ssd) : null;
  if (ownDry === null && companion !== null) return companion;
  return ownDry === null && r.have('companionSsd', 'g') !== null ? null : ownOf(r, ssd);
}

function ownOf<V>(r: R<V>, ssd: V | null): { dry: V; absorption: V } | null {
  const { c } = r;
  const dry = r.need('dry', 'g');
  if (dry === null || ssd === null) return null;
  if (c.value(dry).compare(c.value(ssd)) > 0) {
    r.refuse('ssd-below-dry', 'ssd');
    return null;
  }
  return { dry, absorption: c.name('abs', c.div(c.mul(c.num('100'), c.sub(ssd, dry)), dry), '%') };
}

/** A = A2·S/S2, absorption from the companion's own masses; null while it lacks a mass or may not be used. */
function companionOf<V>(r: R<V>, ssd: V | null): { dry: V; absorption: V } | null {
  const { c } = r;
  const [wet, dried] = [r.need('companionSsd', 'g'), r.need('companionDry', 'g')];
  if (wet === null || dried === null || ssd === null) return null;
  if (c.value(dried).compare(c.value(wet)) > 0) {
    r.refuse('ssd-below-dry', 'companionSsd');
    return null;
  }
  const most = r.p.companionWithin ?? '0';
  const apart = c.value(wet).sub(c.value(ssd)).abs();
  const agrees = apart.compare(exact(most)) <= 0;
  r.says('companion', [agrees ? 'yes' : 'no']);
  if (!agrees) {
    const params = { apart: brief(apart, 2, exact(most)), most };
    // Beside a dry mass of the flask's own contents it is not needed: nothing is refused then.
    if (r.have('dry', 'g') === null) r.refuse('companion-apart', 'companionSsd', params);
    else r.note('companion-not-used', params);
    return null;
  }
  return {
    dry: c.name('A', c.div(c.mul(dried, ssd), wet), 'g'),
    absorption: c.name('abs', c.div(c.mul(c.num('100'), c.sub(wet, dried)), dried), '%'),
  };
}

type FlaskParams = { target: string; tolerance: string };

export const flaskCorrection = method({
  id: 'flask-correction',
  title: 'Flask corrected to the test’s temperature',
  names: ['flask', 'pycnometer calibration', 'flask temperature'],
  follows: [C128, T84],
  about:
    'Mass of flask and water to the mark at the test’s temperature, from a calibration at another one: 2 °C shift a gravity by about 0.003.',
  fields: {
    empty: qty('mass', 'F', 'Flask, empty and dry', { si: 'g', us: 'g' }, mass),
    water: qty('mass', 'B', 'Flask and water to the mark, calibrated', { si: 'g', us: 'g' }, mass),
    calibratedAt: qty(
      'temperature',
      't1',
      'Water at calibration',
      { si: 'C', us: 'C' },
      { possible: { unit: 'C', least: '0', most: '40' } },
    ),
    testedAt: qty('temperature', 't2', 'Water at the test', { si: 'C', us: 'C' }, { possible: { unit: 'C', least: '0', most: '40' } }),
    target: qty(
      'temperature',
      't',
      'Temperature of this variant',
      { si: 'C', us: 'C' },
      { optional: true, possible: { unit: 'C', least: '0', most: '40' } },
    ),
    tolerance: qty(
      'temperature-difference',
      'Δt',
      'Its tolerance',
      { si: 'dC', us: 'dC' },
      { optional: true, possible: { unit: 'dC', least: '0', most: '10' } },
    ),
  },
  results: {
    volume: { label: 'Volume of the flask to its mark', symbol: 'V', units: { si: 'mL', us: 'mL' }, places: 2, whenVoid: true },
    corrected: { label: 'Flask and water at the test', symbol: 'B2', units: { si: 'g', us: 'g' }, places: 2, whenVoid: true, main: true },
    shift: { label: 'Shift', symbol: 'B2 − B', units: { si: 'g', us: 'g' }, places: 2, whenVoid: true },
    fits: { label: 'Temperature within its tolerance', symbol: 'fits', units: { si: '1', us: '1' }, words: YES_NO, whenVoid: true },
  },
  variants: {
    astm: { label: '23 ± 2 °C', source: C128, params: { target: '23', tolerance: '2' } satisfies FlaskParams as FlaskParams },
    aashto: { label: '23 ± 1.7 °C', source: T84, params: { target: '23', tolerance: '1.7' } satisfies FlaskParams as FlaskParams },
    warm: { label: '25 ± 1.7 °C', source: T84, params: { target: '25', tolerance: '1.7' } satisfies FlaskParams as FlaskParams },
  },
  steps: [
    {
      text: 'Bath, water and flask at one temperature before the mark is set; the flask is used at the temperature it was calibrated for.',
    },
  ],
  example: { empty: '163.2 g', water: '661.8 g', calibratedAt: '23.0 C', testedAt: '24.4 C' },
  run(r) {
    const { c, p } = r;
    const [empty, water, first, second] = [
      r.need('empty', 'g'),
      r.need('water', 'g'),
      r.need('calibratedAt', 'C'),
      r.need('testedAt', 'C'),
    ];
    const target = r.have('target', 'C') ?? c.num(p.target);
    const tolerance = r.have('tolerance', 'dC') ?? c.num(p.tolerance);
    if (second !== null) {
      const fits = c.value(second).sub(c.value(target)).abs().compare(c.value(tolerance)) <= 0;
      r.says('fits', [fits ? 'yes' : 'no']);
      if (!fits)
        r.voids('flask-temperature', {
          got: brief(c.value(second), 4),
          target: brief(c.value(target), 4),
          tolerance: brief(c.value(tolerance)),
        });
    }
    if (empty === null || water === null || first === null || second === null) return;
    if (c.value(water).compare(c.value(empty)) <= 0) return r.refuse('lighter-full', 'water');
    // Densities in g/mL.
    const density = (t: typeof first) => c.div(waterDensity(c, t), c.num('1000'));
    const volume = c.name('V', c.div(c.sub(water, empty), density(first)), 'mL');
    const corrected = c.name('B2', c.add(empty, c.mul(volume, density(second))), 'g');
    r.result('volume', volume, 'mL');
    r.result('corrected', corrected, 'g');
    r.result('shift', c.sub(corrected, water), 'g');
  },
});
