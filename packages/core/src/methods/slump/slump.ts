import { brief, exact } from '../../numbers/exact.js';
import { unitLabel, type System, type UnitId } from '../../units/units.js';
import { duration } from '../evaluate.js';
import { method, pick, qty, type Citation, type Run, type Increments } from '../definition.js';
import { startWithin5 } from '../composite/windows.js';

const C143: Citation = { designation: 'ASTM C143/C143M', edition: '2020' };
const T119: Citation = { designation: 'AASHTO T 119', edition: '2023' };
const EN: Citation = { designation: 'EN 12350-2', edition: '2019' };
const IS: Citation = { designation: 'IS 1199', edition: '1959' };

type Span = { least: string; most: string };

type SlumpParams = {
  /** To which point of the concrete the slump is measured. */
  measureTo: 'centre' | 'highest';
  /** How the mold is filled, as a technician reads it. */
  layers: string;
  /** Seconds for lifting the mold; none where the method gives only words. */
  lift: Span | null;
  /** Seconds from the start of filling until the mold is off; none where the method sets none. */
  total: string | null;
  /** Whether collapsed concrete may be read. */
  collapse: 'read' | 'void';
  increments: Increments;
  /** Where the test speaks; outside it the number stands with a note. */
  speaks: Record<System, Span>;
  mold: Record<System, Span>;
  largest: Record<System, string>;
};

/** C143 5.1: 12 in or 300 mm, each within 1/8 in or 3 mm. */
const MOLD: SlumpParams['mold'] = { us: { least: '11.875', most: '12.125' }, si: { least: '297', most: '303' } };

const US: SlumpParams = {
  measureTo: 'centre',
  layers: 'Three layers of equal volume: fill to 70 mm, then 160 mm (2 5/8, then 6 1/8 in), then heap over the top.',
  lift: { least: '3', most: '7' },
  total: '150',
  collapse: 'read',
  increments: { mm: '5', in: '0.25' },
  speaks: { us: { least: '0.5', most: '9' }, si: { least: '15', most: '230' } },
  mold: MOLD,
  largest: { us: '1.5', si: '37.5' },
};

const unitOf = (system: System): UnitId => (system === 'us' ? 'in' : 'mm');
const withUnit = (text: string, system: System): string => `${text} ${unitLabel(unitOf(system))}`;

const SHAPES = { true: 'True', shear: 'Shear', collapse: 'Collapse', zero: 'No slump' } as const;

/** What went wrong, in words for the reason. */
const MISHAPS = {
  twisted: 'Mold twisted or knocked on lifting',
  base: 'Base soft or sloped',
  vibration: 'Vibration nearby',
  interrupted: 'Interrupted while filling or lifting',
  bumped: 'Concrete or base bumped before it was measured',
} as const;

const height = (symbol: string, label: string) =>
  qty(
    'length',
    symbol,
    label,
    { si: 'mm', us: 'in' },
    {
      hint: 'read instead of the slump',
      optional: true,
      minor: true,
      possible: { unit: 'mm', least: '0', most: '1000' },
      plausible: { unit: 'mm', least: '30', most: '308' },
      typical: { text: '200', unit: 'mm' },
    },
  );

const measured = (symbol: string, hint: string) =>
  qty(
    'length',
    symbol,
    'Slump, measured',
    { si: 'mm', us: 'in' },
    { hint, optional: true, possible: { unit: 'mm', least: '0', most: '1000' }, typical: { text: '100', unit: 'mm' } },
  );

export const slump = method({
  id: 'slump',
  on: ['sample', 'trial-batch'],
  kit: 'slump-cone',
  title: 'Slump',
  names: ['slump', 'slump test', 'consistency', 'workability', 'cone drop'],
  follows: [C143, T119, EN, IS],
  about: 'How far fresh concrete slumps when the mold is lifted off. The shape decides whether the figure means anything.',
  fields: {
    shape: pick('Shape of the slump', SHAPES),
    lift: qty('time', 't_lift', 'Lift', { si: 's', us: 's' }, { optional: true, possible: { unit: 's', above: '0', most: '120' } }),
    total: qty(
      'time',
      't_total',
      'Whole test',
      { si: 's', us: 's' },
      {
        optional: true,
        possible: { unit: 's', above: '0', most: '3600' },
        plausible: { unit: 's', least: '20', most: '900' },
      },
    ),
    drop: measured('s', 'down to the displaced centre'),
    dropHighest: measured('s', 'down to the highest point'),
    centre: height('h', 'Height of the displaced centre'),
    highest: height('h_max', 'Height of the highest point'),
    mold: qty(
      'length',
      'H',
      'Height of the mold',
      { si: 'mm', us: 'in' },
      {
        usual: { si: '300', us: '12' },
        minor: true,
        possible: { unit: 'mm', above: '0', most: '1000' },
        plausible: { unit: 'mm', least: '290', most: '312' },
      },
    ),
    mishap: pick('What went wrong', { none: 'Nothing', ...MISHAPS }, { optional: true, usual: 'none' }),
    largest: qty(
      'length',
      'D_max',
      'Maximum size of aggregate (required to pass)',
      { si: 'mm', us: 'in' },
      {
        optional: true,
        from: 'mix.largest',
        possible: { unit: 'mm', above: '0', most: '300' },
      },
    ),
    sieved: pick('Wet-sieved on 37.5 mm (1 1/2 in)', { no: 'No', yes: 'Yes' }, { optional: true, usual: 'no' }),
    previous: pick('Shape of the test before, same sample', SHAPES, { optional: true, from: 'retest.shape' }),
  },
  results: {
    slump: {
      label: 'Slump',
      symbol: 'slump',
      units: { si: 'mm', us: 'in' },
      property: 'slump',
      precision: 'slump',
      main: true,
    },
  },
  variants: {
    us: { label: 'three layers by volume, displaced centre', source: C143, params: US, without: ['highest', 'dropHighest'] },
    en: {
      label: 'three layers by height, highest point, to 10 mm',
      source: EN,
      without: ['centre', 'drop'],
      practices: ['en'],
      params: {
        ...US,
        measureTo: 'highest',
        layers: 'Three layers of equal height: thirds of the mold, the last heaped over the top.',
        lift: { least: '2', most: '5' },
        collapse: 'void',
        increments: { mm: '10' },
        speaks: { us: { least: '0.4', most: '8.3' }, si: { least: '10', most: '210' } },
        largest: { us: '1.575', si: '40' },
      },
    },
    four_layer: {
      label: 'four layers by height, highest point, to 5 mm',
      source: IS,
      without: ['centre', 'drop'],
      practices: ['is'],
      params: {
        ...US,
        measureTo: 'highest',
        layers: 'Four layers of equal height: quarters of the mold, the last heaped over the top.',
        lift: null,
        total: null,
        collapse: 'void',
        increments: { mm: '5' },
        largest: { us: '1.575', si: '40' },
      },
    },
  },
  hints: (p) => ({
    ...(p.lift ? { lift: `${p.lift.least} to ${p.lift.most} s, straight up` } : { lift: 'slow and straight up' }),
    ...(p.total ? { total: `mold off within ${duration(Number(p.total))}` } : {}),
  }),
  steps: [
    { text: 'Damp the mold and a rigid, level, non-absorbent base free of vibration.' },
    { text: (p) => p.layers },
    { text: '25 strokes each layer, half of the bottom layer’s along the edge; into the layer below by about 25 mm (1 in).' },
    { text: 'Keep the top layer heaped, strike off by rolling the rod, hold the mold down and clear its foot.' },
    { text: (p) => `Lift ${p.lift ? `in ${p.lift.least} to ${p.lift.most} s, ` : 'slowly, '}straight up, no twist.` },
    {
      text: (p) =>
        p.measureTo === 'centre'
          ? 'Set the mold upside down beside it, the rod across; measure down to the displaced centre of the top.'
          : 'Set the mold upside down beside it, the rod across; measure down to the highest point.',
    },
    { text: 'Gloves, eyes covered. Fresh paste burns skin: rinse at once, never kneel in it.', caution: true },
  ],
  work: { on: 'fresh', order: 2 },
  way: { of: 'consistency', usual: true },
  gives: { slump: { as: 'test.slump', to: 'item' } },
  windows: [startWithin5(C143, 'Slump test started')],
  advice: [
    {
      result: 'slump',
      side: 'low',
      steps: [
        'Make a check test at once.',
        'Water may be added once, if w/cm and time leave room and it is allowed: see water on site. Then 30 revolutions and a new test.',
        'First and check test both out: the load fails the requirement. Tell whoever may reject it.',
      ],
      bothOut: ['Tell whoever may reject the load.'],
      levers: ['Water: costs strength and shrinkage', 'Admixture: ask the plant', 'Time and heat: hot concrete loses slump in the truck'],
    },
    {
      result: 'slump',
      side: 'high',
      steps: [
        'Make a check test at once: water cannot be taken out again.',
        'First and check test both out: the load fails the requirement. Tell whoever may reject it.',
      ],
      bothOut: ['Tell whoever may reject the load.'],
      levers: ['Look for extra water: wash water, wet sand, added on site', 'Admixture dose: ask for the ticket'],
    },
  ],
  example: { shape: 'true', lift: '4.5 s', total: '1:52', mold: '300 mm', drop: '96 mm', dropHighest: '90 mm', largest: '19 mm' },
  further: [{ shape: 'true', mold: '300 mm', centre: '204 mm', highest: '210 mm' }],
  run(r) {
    const { x, p, c, system } = r;
    const unit = unitOf(system);
    judgeProcedure(r);
    const mold = r.need('mold', unit);
    if (x.shape === null) r.missing('shape');
    if (mold === null || x.shape === null) return;
    const span = p.mold[system];
    if (c.value(mold).compare(exact(span.least)) < 0 || c.value(mold).compare(exact(span.most)) > 0) {
      r.marks('mold-height', { least: withUnit(span.least, system), most: withUnit(span.most, system) });
    }
    const found = fallen(r, mold, unit);
    if (found === null) return;
    const size = c.value(found);
    // “No slump” with a slump is one of the two: not plainly inside any limit.
    if (x.shape === 'zero' && size.sign() > 0)
      r.doubt('shape-against-height', 'shape', { shape: SHAPES.zero, slump: withUnit(brief(size), system) });
    const limits = p.speaks[system];
    if (x.shape === 'collapse' && p.collapse === 'read') {
      if (size.compare(exact(limits.most)) <= 0)
        r.doubt('shape-against-height', 'shape', { shape: SHAPES.collapse, slump: withUnit(brief(size), system) });
      r.marks('collapse-read');
    }
    if (size.compare(exact(limits.least)) < 0 || size.compare(exact(limits.most)) > 0) {
      r.note('slump-says-little', {
        slump: withUnit(brief(size), system),
        least: withUnit(limits.least, system),
        most: withUnit(limits.most, system),
      });
    }
    r.result('slump', found, unit, p.increments);
  },
});

type R<V> = Run<typeof slump.fields, SlumpParams, V>;

/** Shape, times, mishaps and aggregate: what makes the test void before any number is looked at. */
function judgeProcedure<V>(r: R<V>): void {
  const { x, p, c, system } = r;
  if (x.shape === 'shear') r.voids(x.previous === 'shear' ? 'sheared-twice' : 'shape-shear');
  if (x.shape === 'collapse' && p.collapse === 'void') r.voids(x.previous === 'collapse' ? 'collapsed-twice' : 'shape-collapse');
  const lift = r.have('lift', 's');
  if (lift !== null && p.lift) {
    const seconds = c.value(lift);
    const [least, most] = [exact(p.lift.least), exact(p.lift.most)];
    if (seconds.compare(least) < 0 || seconds.compare(most) > 0)
      r.voids('lift-time', { got: brief(seconds, 2, seconds.compare(least) < 0 ? least : most), ...p.lift });
  }
  const total = r.have('total', 's');
  if (total !== null && p.total !== null && c.value(total).compare(exact(p.total)) > 0) {
    r.voids('total-time', { got: duration(Math.ceil(c.value(total).valueOf())), most: duration(Number(p.total)) });
  }
  if (x.mishap !== null && x.mishap !== 'none' && Object.hasOwn(MISHAPS, x.mishap)) r.voids('mold-moved', { what: MISHAPS[x.mishap] });
  const largest = r.have('largest', unitOf(system));
  if (largest !== null && x.sieved !== 'yes' && c.value(largest).compare(exact(p.largest[system])) > 0) {
    r.voids('not-sieved', { most: withUnit(p.largest[system], system) });
  }
}

/** The slump: keyed itself, or mold less the height that this variant measures to. */
function fallen<V>(r: R<V>, mold: V, unit: UnitId): V | null {
  const { x, p, c, system } = r;
  const top = c.value(mold);
  const moldText = withUnit(brief(top, 4), system);
  const [drop, field] = p.measureTo === 'centre' ? (['drop', 'centre'] as const) : (['dropHighest', 'highest'] as const);
  const isKeyed = (id: 'drop' | 'dropHighest' | 'centre' | 'highest'): boolean => (x[id]?.text ?? '').trim() !== '';
  if (isKeyed(drop) && isKeyed(field)) {
    r.refuse('slump-and-height', drop);
    return null;
  }
  if (!isKeyed(drop) && !isKeyed(field)) {
    if (x.shape === 'zero') return c.name('slump', c.num('0'), unit);
    r.missing(drop);
    return null;
  }
  if (isKeyed(drop)) {
    const keyed = r.need(drop, unit);
    if (keyed === null) return null;
    if (c.value(keyed).compare(top) > 0) {
      r.refuse('slump-above-mold', drop, { mold: moldText });
      return null;
    }
    return c.name('slump', keyed, unit);
  }
  const stands = r.need(field, unit);
  if (stands === null) return null;
  if (c.value(stands).compare(top) > 0) {
    r.refuse('heap-above-mold', field, { mold: moldText });
    return null;
  }
  return c.name('slump', c.sub(mold, stands), unit);
}
