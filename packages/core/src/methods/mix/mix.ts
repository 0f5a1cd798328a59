import { exact, shown } from '../../numbers/exact.js';
import { method, pick, qty, rows, text, type Citation, type Run } from '../definition.js';

const ACI: Citation = { designation: 'ACI 211.1', edition: '1991', part: 'absolute volume method' };
const C94: Citation = { designation: 'ASTM C94/C94M', edition: '2023', part: 'batch ticket' };

const mass = { possible: { unit: 'kg', least: '0', most: '60000' } } as const;
const gravity = { possible: { unit: '1', above: '0', most: '10' }, plausible: { unit: '1', least: '0.8', most: '5' } } as const;
const share = { possible: { unit: '%', least: '0', most: '100' } } as const;

const water = qty(
  'density',
  'ρw',
  'Density of water',
  { si: 'kg/m3', us: 'lb/ft3' },
  {
    usual: { si: '1000', us: '62.43' },
    possible: { unit: 'kg/m3', above: '0', most: '1100' },
    plausible: { unit: 'kg/m3', least: '990', most: '1001' },
  },
);

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

type DesignParams = { missWarns: string };

/** Volume that a design fills: 1 m³, or 27 ft³ for a yard. */
const WHOLE = { si: '1', us: '27' } as const;

export const absoluteVolume = method({
  id: 'absolute-volume',
  title: 'Mix design by absolute volumes',
  names: ['mix design', 'absolute volume', 'design yield', 'w/cm'],
  follows: [ACI],
  about: 'What volume a recipe really makes: masses over their densities, with its air.',
  fields: designFields,
  results: {
    volumes: { label: 'Volumes', symbol: 'V', units: { si: 'm3', us: 'ft3' } },
    airVolume: { label: 'Volume of air', symbol: 'Va', units: { si: 'm3', us: 'ft3' } },
    yield: { label: 'Design yield', symbol: 'ΣV', units: { si: 'm3', us: 'ft3' }, main: true },
    miss: { label: 'Over or short', symbol: 'miss', units: { si: 'm3', us: 'ft3' } },
    wcm: { label: 'Water to cementitious', symbol: 'w/cm', units: { si: '1', us: '1' }, property: 'wcm', main: true },
    theoretical: { label: 'Air-free density', symbol: 'T', units: { si: 'kg/m3', us: 'lb/ft3' } },
  },
  variants: { volume: { label: 'air as a share of the design volume', source: ACI, params: { missWarns: '0.02' } as DesignParams } },
  steps: [{ text: 'Dry cement and silica dust: mask. Fresh paste burns skin and eyes.', caution: true }],
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
    r.series('volumes', volumes, volume);
    r.result('airVolume', airVolume, volume);
    r.result('yield', made, volume);
    r.result('miss', miss, volume);
    if (
      c
        .value(miss)
        .abs()
        .compare(c.value(whole).mul(exact(p.missWarns))) > 0
    )
      r.note('does-not-fill', { made: shown(c.value(made), 4), whole: `${WHOLE[system]} ${volume === 'm3' ? 'm³' : 'ft³'}` });
    r.result('theoretical', c.name('T', c.div(c.sum(ingredients.map((i) => i.mass)), solid), density), density);
    const of = (role: string) => ingredients.filter((_i, k) => x.ingredients?.[k]?.role === role).map((i) => i.mass);
    if (of('cementitious').length === 0 || of('water').length === 0) return r.note('no-cement');
    r.result('wcm', c.name('w/cm', c.div(c.sum(of('water')), c.sum(of('cementitious'))), '1'), '1');
  },
});

function designRows<V>(r: Run<typeof designFields, DesignParams, V>, unit: 'kg' | 'lb'): { mass: V; sg: V }[] | null {
  const list = (r.x.ingredients ?? []).map((_row, i) => ({
    mass: r.inRow('ingredients', i, 'mass', unit, `M${i + 1}`),
    sg: r.inRow('ingredients', i, 'sg', '1', `G${i + 1}`),
  }));
  if (list.length === 0) r.missing('ingredients');
  const complete = list.flatMap(({ mass: m, sg }) => (m === null || sg === null ? [] : [{ mass: m, sg }]));
  return complete.length > 0 && complete.length === list.length ? complete : null;
}

export const proportions = method({
  id: 'proportions',
  title: 'Masses from proportions',
  names: ['proportions', '1:2:4', 'nominal mix', 'parts by mass'],
  follows: [ACI],
  about: 'Masses for one m³ or yd³ from parts by mass and w/c, such as 1 : 2 : 3.5, by the absolute volume rule.',
  fields: {
    fineParts: qty('ratio', 'f', 'Fine, parts to one of cement', { si: '1', us: '1' }, { possible: { unit: '1', above: '0', most: '20' } }),
    coarseParts: qty(
      'ratio',
      'k',
      'Coarse, parts to one of cement',
      { si: '1', us: '1' },
      { possible: { unit: '1', least: '0', most: '20' } },
    ),
    wc: qty(
      'ratio',
      'w/c',
      'Water to cement',
      { si: '1', us: '1' },
      { possible: { unit: '1', above: '0', most: '3' }, plausible: { unit: '1', least: '0.25', most: '0.9' } },
    ),
    sgCement: qty('ratio', 'Gc', 'Specific gravity, cement', { si: '1', us: '1' }, gravity),
    sgFine: qty('ratio', 'Gf', 'Specific gravity SSD, fine', { si: '1', us: '1' }, gravity),
    sgCoarse: qty('ratio', 'Gk', 'Specific gravity SSD, coarse', { si: '1', us: '1' }, gravity),
    air: qty('percent', 'a', 'Air', { si: '%', us: '%' }, { ...share, plausible: { unit: '%', least: '0', most: '30' } }),
    water,
  },
  results: {
    cement: { label: 'Cement', symbol: 'C', units: { si: 'kg', us: 'lb' }, main: true },
    fine: { label: 'Fine aggregate', symbol: 'F', units: { si: 'kg', us: 'lb' } },
    coarse: { label: 'Coarse aggregate', symbol: 'K', units: { si: 'kg', us: 'lb' } },
    water: { label: 'Water', symbol: 'W', units: { si: 'kg', us: 'lb' } },
    density: { label: 'Density', symbol: 'D', units: { si: 'kg/m3', us: 'lb/ft3' } },
  },
  variants: { mass: { label: 'parts by mass', source: ACI, params: {} } },
  steps: [],
  run(r) {
    const { c, system } = r;
    const [mass, density] = system === 'us' ? (['lb', 'lb/ft3'] as const) : (['kg', 'kg/m3'] as const);
    const [f, k, wc] = [r.need('fineParts', '1'), r.need('coarseParts', '1'), r.need('wc', '1')];
    const [gc, gf, gk] = [r.need('sgCement', '1'), r.need('sgFine', '1'), r.need('sgCoarse', '1')];
    const [air, rho] = [r.need('air', '%'), r.need('water', density)];
    if (f === null || k === null || wc === null || gc === null || gf === null || gk === null || air === null || rho === null) return;
    const one = c.num('1');
    const whole = c.num(WHOLE[system]);
    const perCement = c.name(
      'v',
      c.sum([c.div(one, c.mul(gc, rho)), c.div(f, c.mul(gf, rho)), c.div(k, c.mul(gk, rho)), c.div(wc, rho)]),
      system === 'us' ? 'ft3' : 'm3',
    );
    const room = c.mul(whole, c.sub(one, c.div(air, c.num('100'))));
    const cement = c.name('C', c.div(room, perCement), mass);
    const parts = { cement, fine: c.mul(cement, f), coarse: c.mul(cement, k), water: c.mul(cement, wc) };
    for (const [id, value] of Object.entries(parts)) r.result(id, value, mass);
    r.result('density', c.name('D', c.div(c.sum(Object.values(parts)), whole), density), density);
  },
});

const percent = (symbol: string, label: string) =>
  qty(
    'percent',
    symbol,
    label,
    { si: '%', us: '%' },
    { possible: { unit: '%', least: '0', most: '50' }, plausible: { unit: '%', least: '0', most: '15' } },
  );

export const moistureCorrection = method({
  id: 'moisture-correction',
  title: 'Batch weights corrected for moisture',
  names: ['moisture correction', 'batch weights', 'free water', 'batching'],
  follows: [ACI],
  about: 'What to weigh of damp aggregates, and what water is left to add. Moisture is total, on dry mass: p − a is free.',
  fields: {
    water: qty('mass', 'W', 'Design water', { si: 'kg', us: 'lb' }, mass),
    aggregates: rows('Aggregates', {
      name: text('Aggregate', { optional: true }),
      ssd: qty('mass', 'S', 'Design mass, SSD', { si: 'kg', us: 'lb' }, mass),
      moisture: percent('p', 'Total moisture'),
      absorption: percent('a', 'Absorption'),
    }),
  },
  results: {
    ovenDry: { label: 'Oven-dry', symbol: 'D', units: { si: 'kg', us: 'lb' } },
    batch: { label: 'To weigh', symbol: 'B', units: { si: 'kg', us: 'lb' }, main: true },
    free: { label: 'Free water', symbol: 'F', units: { si: 'kg', us: 'lb' } },
    toWeigh: { label: 'Water to weigh', symbol: 'W2', units: { si: 'kg', us: 'lb' }, main: true },
  },
  variants: { dry: { label: 'moisture on dry mass', source: ACI, params: {} } },
  steps: [{ text: 'Worst field errors: p taken for p − a, moisture on wet mass, yesterday’s moisture after rain.' }],
  run(r) {
    const { c, x, system } = r;
    const unit = system === 'us' ? 'lb' : 'kg';
    const water = r.need('water', unit);
    const list = (x.aggregates ?? []).map((_row, i) => ({
      ssd: r.inRow('aggregates', i, 'ssd', unit, `S${i + 1}`),
      p: r.inRow('aggregates', i, 'moisture', '%', `p${i + 1}`),
      a: r.inRow('aggregates', i, 'absorption', '%', `a${i + 1}`),
    }));
    if (list.length === 0) return r.missing('aggregates');
    const parts = list.flatMap(({ ssd, p, a }) => (ssd === null || p === null || a === null ? [] : [{ ssd, p, a }]));
    if (parts.length < list.length) return;
    const hundred = c.num('100');
    const dry = parts.map(({ ssd, a }, i) => c.name(`D${i + 1}`, c.div(c.mul(hundred, ssd), c.add(hundred, a)), unit));
    const batch = parts.map(({ p }, i) => c.name(`B${i + 1}`, c.div(c.mul(dry[i]!, c.add(hundred, p)), hundred), unit));
    const free = parts.map(({ ssd }, i) => c.sub(batch[i]!, ssd));
    r.series('ovenDry', dry, unit);
    r.series('batch', batch, unit);
    r.series('free', free, unit);
    if (water === null) return;
    const left = c.name('W2', c.sub(water, c.sum(free)), unit);
    if (c.value(left).compare(0) < 0) return r.refuse('wetter-than-design', 'aggregates');
    r.result('toWeigh', left, unit);
  },
});

export const actualWcm = method({
  id: 'actual-wcm',
  title: 'Actual w/cm from a ticket',
  names: ['actual w/cm', 'water cement ratio', 'ticket', 'water that may still be added'],
  follows: [C94],
  about:
    'Water batched, added and free in the aggregates over what was weighed of cementitious material; and how much water the load may still get.',
  fields: {
    cementitious: qty(
      'mass',
      'C',
      'Cementitious, weighed',
      { si: 'kg', us: 'lb' },
      { possible: { unit: 'kg', above: '0', most: '20000' } },
    ),
    batched: qty('mass', 'W', 'Water batched', { si: 'kg', us: 'lb' }, mass),
    added: qty('mass', 'Wa', 'Water added after batching', { si: 'kg', us: 'lb' }, mass),
    aggregates: rows('Aggregates', {
      name: text('Aggregate', { optional: true }),
      batched: qty('mass', 'B', 'Mass batched, damp', { si: 'kg', us: 'lb' }, mass),
      moisture: percent('p', 'Total moisture'),
      absorption: percent('a', 'Absorption'),
    }),
    most: qty(
      'ratio',
      'w/cm',
      'Largest w/cm allowed',
      { si: '1', us: '1' },
      { optional: true, possible: { unit: '1', above: '0', most: '2' } },
    ),
  },
  results: {
    free: { label: 'Free water in the aggregates', symbol: 'F', units: { si: 'kg', us: 'lb' } },
    wcm: { label: 'Actual w/cm', symbol: 'w/cm', units: { si: '1', us: '1' }, property: 'wcm', main: true },
    room: { label: 'Water that may still be added', symbol: 'room', units: { si: 'kg', us: 'lb' } },
  },
  variants: { ticket: { label: 'from scaled weights', source: C94, params: {} } },
  steps: [],
  run(r) {
    const { c, x, system } = r;
    const unit = system === 'us' ? 'lb' : 'kg';
    const list = (x.aggregates ?? []).map((_row, i) => ({
      batched: r.inRow('aggregates', i, 'batched', unit, `B${i + 1}`),
      p: r.inRow('aggregates', i, 'moisture', '%', `p${i + 1}`),
      a: r.inRow('aggregates', i, 'absorption', '%', `a${i + 1}`),
    }));
    if (list.length === 0) r.missing('aggregates');
    const parts = list.flatMap(({ batched, p, a }) => (batched === null || p === null || a === null ? [] : [{ batched, p, a }]));
    const [cementitious, batched, added, most] = [
      r.need('cementitious', unit),
      r.need('batched', unit),
      r.need('added', unit),
      r.have('most', '1'),
    ];
    if (parts.length === 0 || parts.length < list.length) return;
    const hundred = c.num('100');
    // Free water of a damp mass B: B·(p − a)/(100 + p).
    const free = c.name('F', c.sum(parts.map((part) => c.div(c.mul(part.batched, c.sub(part.p, part.a)), c.add(hundred, part.p)))), unit);
    r.result('free', free, unit);
    if (cementitious === null || batched === null || added === null) return;
    const water = c.sum([batched, added, free]);
    r.result('wcm', c.name('w/cm', c.div(water, cementitious), '1'), '1');
    if (most === null) return;
    const room = c.name('room', c.sub(c.mul(most, cementitious), water), unit);
    if (c.value(room).compare(0) < 0) r.note('no-room-for-water');
    r.result('room', room, unit);
  },
});
