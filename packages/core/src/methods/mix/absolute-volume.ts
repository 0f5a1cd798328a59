import { brief, exact } from '../../numbers/exact.js';
import { method, pick, qty, rows, text, type Run } from '../definition.js';
import { ACI, gravity, mass, share, water, WCM_INCREMENTS, WHOLE } from './fields.js';
import { DECK } from '../../examples/write.js';

const designFields = {
  ingredients: rows('Ingredients, for one m³ or yd³', {
    name: text('Ingredient', { optional: true }),
    role: pick('Kind', { cementitious: 'Cementitious', water: 'Water', aggregate: 'Aggregate, SSD', admixture: 'Admixture' }),
    mass: qty('mass', 'M', 'Mass', { si: 'kg', us: 'lb' }, mass),
    sg: qty('ratio', 'G', 'Specific gravity (aggregate: SSD)', { si: '1', us: '1' }, gravity),
  }),
  air: qty('percent', 'a', 'Design air', { si: '%', us: '%' }, { ...share, plausible: { unit: '%', least: '0', most: '30' } }),
  water,
};

/** The method prints none: as designs are written. */
const VOLUME_INCREMENTS = { m3: '0.001', ft3: '0.01' } as const;

type DesignParams = { missWarns: string };

export const absoluteVolume = method({
  id: 'absolute-volume',
  on: ['trial-batch'],
  title: 'Mix design by absolute volumes',
  names: ['mix design', 'absolute volume', 'design yield', 'w/cm'],
  follows: [ACI],
  about: 'What volume a recipe really makes: masses over their densities, with its air.',
  fields: designFields,
  results: {
    volumes: { label: 'Volumes', symbol: 'V', units: { si: 'm3', us: 'ft3' }, along: 'ingredients' },
    airVolume: { label: 'Volume of air', symbol: 'Va', units: { si: 'm3', us: 'ft3' } },
    yield: { label: 'Design yield', symbol: 'ΣV', units: { si: 'm3', us: 'ft3' }, main: true },
    miss: { label: 'Over or short', symbol: 'miss', units: { si: 'm3', us: 'ft3' } },
    wcm: {
      label: 'Water to cementitious',
      symbol: 'w/cm',
      units: { si: '1', us: '1' },
      property: 'wcm-design',
      plausible: { unit: '1', least: '0.2', most: '0.9' },
      main: true,
    },
    theoretical: { label: 'Air-free density', symbol: 'T', units: { si: 'kg/m3', us: 'lb/ft3' } },
  },
  variants: {
    volume: {
      label: 'air as a share of the design volume',
      source: ACI,
      params: { missWarns: '0.02' } satisfies DesignParams as DesignParams,
    },
  },
  steps: [{ text: 'Dry cement and silica dust: mask. Fresh paste burns skin and eyes.', caution: true }],
  example: { ingredients: DECK, air: '6.0 %', water: '1000 kg/m3' },
  run(r) {
    const { c, x, p, system } = r;
    const [massUnit, volume, density] = system === 'us' ? (['lb', 'ft3', 'lb/ft3'] as const) : (['kg', 'm3', 'kg/m3'] as const);
    const ingredients = designRows(r, massUnit);
    const [air, water] = [r.need('air', '%'), r.need('water', density)];
    if (!ingredients || air === null || water === null) return;
    const volumes = ingredients.map((i) => c.div(i.mass, c.mul(i.sg, water)));
    const whole = c.num(WHOLE[system]);
    const airVolume = c.name('Va', c.div(c.mul(whole, air), c.num('100')), volume);
    const solid = c.name('V', c.sum(volumes), volume);
    const made = c.name('ΣV', c.add(solid, airVolume), volume);
    const miss = c.name('miss', c.sub(made, whole), volume);
    r.series('volumes', volumes, volume, VOLUME_INCREMENTS);
    r.result('airVolume', airVolume, volume, VOLUME_INCREMENTS);
    r.result('yield', made, volume, VOLUME_INCREMENTS);
    r.result('miss', miss, volume);
    if (
      c
        .value(miss)
        .abs()
        .compare(c.value(whole).mul(exact(p.missWarns))) > 0
    )
      r.note('does-not-fill', {
        made: `${brief(c.value(made), 4)} ${volume === 'm3' ? 'm³' : 'ft³'}`,
        whole: `${WHOLE[system]} ${volume === 'm3' ? 'm³' : 'ft³'}`,
      });
    r.result('theoretical', c.name('T', c.div(c.sum(ingredients.map((i) => i.mass)), solid), density), density);
    const of = (role: string) => ingredients.filter((_i, k) => x.ingredients?.[k]?.role === role).map((i) => i.mass);
    if (of('cementitious').length === 0 || of('water').length === 0) return r.note('no-cement');
    r.result('wcm', c.name('w/cm', c.div(c.sum(of('water')), c.sum(of('cementitious'))), '1'), '1', WCM_INCREMENTS);
  },
});

function designRows<V>(r: Run<typeof designFields, DesignParams, V>, unit: 'kg' | 'lb'): { mass: V; sg: V }[] | null {
  const list = (r.x.ingredients ?? []).map((_row, i) => ({
    mass: r.inRow('ingredients', i, 'mass', unit, 'M'),
    sg: r.inRow('ingredients', i, 'sg', '1', 'G'),
  }));
  if (list.length === 0) r.missing('ingredients');
  const complete = list.flatMap(({ mass: m, sg }) => (m === null || sg === null ? [] : [{ mass: m, sg }]));
  return complete.length > 0 && complete.length === list.length ? complete : null;
}
