import { brief, exact } from '../../numbers/exact.js';
import { method, pick, qty, rows, type Citation, type Run, type Increments } from '../definition.js';

const C127: Citation = { designation: 'ASTM C127', edition: '2015' };
const T85: Citation = { designation: 'AASHTO T 85', edition: '2022' };

export type GravityParams = {
  gravity: Increments;
  absorption: Increments;
  water: string;
  /** Flask: a companion dried instead must have weighed the same at SSD, within this, g. */
  companionWithin?: string;
};

const ABSORPTION: Increments = { '%': '0.1' };
/** Density of water at 23 °C as the method prints it, kg/m³. */
const WATER = '997.5';

/** Of concrete aggregate; beyond, a reading has slipped more often than not. */
const USUAL_GRAVITY = { unit: '1', least: '2.2', most: '3.2' } as const;
const USUAL_ABSORPTION = { unit: '%', least: '0', most: '8' } as const;

export const gravityVariants = (astm: Citation, aashto: Citation, more: Pick<GravityParams, 'companionWithin'> = {}) => {
  const to = (step: string): GravityParams => ({ gravity: { '1': step }, absorption: ABSORPTION, water: WATER, ...more });
  return {
    astm: { label: 'to 0.01', source: astm, params: to('0.01') },
    aashto: { label: 'to 0.001', source: aashto, params: to('0.001') },
  };
};

export const gravityResults = (material: 'coarse' | 'fine') =>
  ({
    od: {
      label: 'Specific gravity OD',
      symbol: 'G_OD',
      units: { si: '1', us: '1' },
      property: 'sg-od',
      precision: `${material}-sg-od`,
      plausible: USUAL_GRAVITY,
    },
    ssd: {
      label: 'Specific gravity SSD',
      symbol: 'G_SSD',
      units: { si: '1', us: '1' },
      property: 'sg-ssd',
      plausible: USUAL_GRAVITY,
      precision: `${material}-sg-ssd`,
      main: true,
    },
    apparent: {
      label: 'Apparent specific gravity',
      symbol: 'G_A',
      units: { si: '1', us: '1' },
      property: 'sg-apparent',
      precision: `${material}-sg-apparent`,
    },
    absorption: {
      label: 'Absorption',
      symbol: 'abs',
      units: { si: '%', us: '%' },
      property: 'absorption',
      plausible: USUAL_ABSORPTION,
      precision: `${material}-absorption`,
      main: true,
    },
    densityOd: { label: 'Density OD', symbol: 'ρ_OD', units: { si: 'kg/m3', us: 'kg/m3' } },
    densitySsd: { label: 'Density SSD', symbol: 'ρ_SSD', units: { si: 'kg/m3', us: 'kg/m3' } },
  }) as const;

/** The three gravities and the densities from what was displaced, the same for coarse and fine. */
export function gravities<V>(
  r: Pick<Run<never, GravityParams, V>, 'c' | 'p' | 'result'>,
  masses: { dry: V; ssd: V; displacedSsd: V; displacedDry: V },
): void {
  const { c, p } = r;
  const od = c.name('G_OD', c.div(masses.dry, masses.displacedSsd), '1');
  const ssd = c.name('G_SSD', c.div(masses.ssd, masses.displacedSsd), '1');
  const apparent = c.name('G_A', c.div(masses.dry, masses.displacedDry), '1');
  r.result('od', od, '1', p.gravity);
  r.result('ssd', ssd, '1', p.gravity);
  r.result('apparent', apparent, '1', p.gravity);
  r.result('densityOd', c.mul(od, c.num(p.water)), 'kg/m3');
  r.result('densitySsd', c.mul(ssd, c.num(p.water)), 'kg/m3');
}

const mass = {
  possible: { unit: 'g', above: '0', most: '100000' },
  plausible: { unit: 'g', least: '200', most: '40000' },
  typical: { text: '3000', unit: 'g' },
} as const;

export const coarseGravity = method({
  id: 'coarse-gravity',
  on: ['field-sample', 'portion'],
  least: { table: 'c127', of: 'dry' },
  kit: 'balance',
  uses: ['oven'],
  suits: { 'source.kind': ['coarse'] },
  gives: { ssd: { as: 'source.gravity', to: 'subject' }, absorption: { as: 'source.absorption', to: 'subject' } },
  title: 'Coarse aggregate: specific gravity and absorption',
  names: ['coarse specific gravity', 'SG', 'absorption', 'relative density', 'basket'],
  follows: [C127, T85, { designation: 'EN 1097-6', edition: '2022' }, { designation: 'IS 2386-3', edition: '1963' }],
  about: 'Three masses of one sample: oven-dry, saturated surface-dry, and in water.',
  fields: {
    dry: qty('mass', 'A', 'Oven-dry mass in air', { si: 'g', us: 'g' }, mass),
    ssd: qty('mass', 'B', 'SSD mass in air', { si: 'g', us: 'g' }, mass),
    inWater: qty('mass', 'C', 'Apparent mass in water', { si: 'g', us: 'g' }, mass),
    look: pick(
      'The stones looked',
      { film: 'Film, it shines', damp: 'Damp and dark', edges: 'Edges lighten', pale: 'Pale all over' },
      { optional: true, minor: true, hint: 'when B was weighed' },
    ),
  },
  panel: 'stones',
  results: {
    ...gravityResults('coarse'),
    displaced: { label: 'Water that the stone pushes out', symbol: 'B − C', units: { si: 'g', us: 'g' }, drawn: true },
  },
  variants: gravityVariants(C127, T85),
  steps: [
    { text: 'Sieve, wash, dry, cool, sieve again; soak 15 to 19 h (AASHTO) or 24 ± 4 h (ASTM).' },
    { text: 'Wet stone is heavy and slips: lift pans and basket with two.', caution: true },
    { text: 'SSD with a damp towel: the sheen gone, still dark. Lightening edges have gone too far: back in water 30 min.' },
    { text: 'Basket tared submerged; wait until the overflow stops before the tare and before the reading; shake out air.' },
  ],
  scene: {
    scale: [
      { thing: 'stone-wet', shows: 'ssd' },
      { thing: 'stone-in-water', shows: 'inWater', sign: '−' },
      { thing: 'pushed-out', shows: 'displaced', sign: '=' },
      { thing: 'stone-dry', shows: 'dry' },
    ],
  },
  example: { dry: '3012.4 g', ssd: '3041.9 g', inWater: '1906.8 g' },
  run(r) {
    const { c, p } = r;
    const [dry, ssd, inWater] = [r.need('dry', 'g'), r.need('ssd', 'g'), r.need('inWater', 'g')];
    if (ssd !== null && r.x.look === 'film') r.doubt('film-on-stone', 'ssd');
    if (ssd !== null && (r.x.look === 'edges' || r.x.look === 'pale')) r.doubt('stone-past-ssd', 'ssd');
    if (dry === null || ssd === null || inWater === null) return;
    if (c.value(ssd).compare(c.value(dry)) < 0) return r.refuse('ssd-below-dry', 'ssd');
    if (c.value(inWater).compare(c.value(dry)) >= 0) return r.refuse('submerged-too-heavy', 'inWater');
    const absorption = c.name('abs', c.div(c.mul(c.num('100'), c.sub(ssd, dry)), dry), '%');
    r.result('absorption', absorption, '%', p.absorption);
    const displacedSsd = c.sub(ssd, inWater);
    r.result('displaced', displacedSsd, 'g');
    gravities(r, { dry, ssd, displacedSsd, displacedDry: c.sub(dry, inWater) });
  },
});

export const combinedGravity = method({
  id: 'combined-gravity',
  on: ['source'],
  title: 'Specific gravity and absorption of size fractions together',
  names: ['combined specific gravity', 'fractions', 'weighted average'],
  follows: [C127, T85],
  about: 'Gravity of a material that was tested in fractions: the harmonic mean by shares; absorption the plain one.',
  fields: {
    fractions: rows('Fractions', {
      share: qty('percent', 'P', 'Share of the whole', { si: '%', us: '%' }, { possible: { unit: '%', above: '0', most: '100' } }),
      sg: qty(
        'ratio',
        'G',
        'Specific gravity',
        { si: '1', us: '1' },
        { possible: { unit: '1', above: '0', most: '10' }, plausible: { unit: '1', least: '2.2', most: '3.2' } },
      ),
      absorption: qty(
        'percent',
        'A',
        'Absorption',
        { si: '%', us: '%' },
        {
          possible: { unit: '%', least: '0', most: '50' },
          plausible: { unit: '%', least: '0.1', most: '8', zero: true },
          typical: { text: '1', unit: '%' },
        },
      ),
    }),
  },
  results: {
    gravity: { label: 'Specific gravity', symbol: 'G', units: { si: '1', us: '1' }, main: true },
    absorption: { label: 'Absorption', symbol: 'abs', units: { si: '%', us: '%' }, main: true },
  },
  variants: gravityVariants(C127, T85),
  steps: [{ text: 'Each fraction by itself; the shares are of the whole sample, and add up to 100 %.' }],
  example: {
    fractions: [
      { share: '45 %', sg: '2.66', absorption: '1.1 %' },
      { share: '55 %', sg: '2.69', absorption: '0.8 %' },
    ],
  },
  run(r) {
    const { c, x, p } = r;
    const parts = (x.fractions ?? []).map((_row, i) => ({
      share: r.inRow('fractions', i, 'share', '%', 'P'),
      sg: r.inRow('fractions', i, 'sg', '1', 'G'),
      absorption: r.inRow('fractions', i, 'absorption', '%', 'A'),
    }));
    if (parts.length === 0) return r.missing('fractions');
    const hundred = c.num('100');
    const complete = parts.flatMap(({ share, sg, absorption }) =>
      share === null || sg === null || absorption === null ? [] : [{ share, sg, absorption }],
    );
    if (complete.length < parts.length) return;
    const shares = complete.map((part) => part.share);
    const volumes = complete.map((part) => c.div(part.share, c.mul(hundred, part.sg)));
    const waters = complete.map((part) => c.div(c.mul(part.share, part.absorption), hundred));
    const sum = c.value(c.sum(shares));
    if (!sum.equals(100)) return r.refuse('shares-not-whole', 'fractions', { sum: brief(sum, 4, exact('100')) });
    r.result('gravity', c.name('G', c.div(c.num('1'), c.sum(volumes)), '1'), '1', p.gravity);
    r.result('absorption', c.name('abs', c.sum(waters), '%'), '%', p.absorption);
  },
});
