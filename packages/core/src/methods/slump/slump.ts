import { exact, shown } from '../../numbers/exact.js';
import { unitLabel, type System, type UnitId } from '../../units/units.js';
import { clock } from '../evaluate.js';
import { method, pick, qty, type Citation, type Run, type Steps } from '../definition.js';
import { startWithin5 } from '../composite/windows.js';

const C143: Citation = { designation: 'ASTM C143/C143M', edition: '2020' };
const T119: Citation = { designation: 'AASHTO T 119', edition: '2023' };
const EN: Citation = { designation: 'EN 12350-2', edition: '2019' };
const IS: Citation = { designation: 'IS 1199', edition: '1959' };

type Span = { least: string; most: string };

type SlumpParams = {
  /** To which point of the heap the drop is measured. */
  measureTo: 'centre' | 'highest';
  layers: string;
  /** Seconds for lifting the mold; none where the method gives only words. */
  lift: Span | null;
  /** Seconds from the first scoop to mold off; none where the method sets none. */
  total: string | null;
  /** Whether a collapsed heap may be read. */
  collapse: 'read' | 'void';
  steps: Steps;
  /** Where the test speaks; outside it the number stands with a note. */
  speaks: Record<System, Span>;
  mold: Record<System, Span>;
  largest: Record<System, string>;
};

/** C143 5.1: 12 in or 300 mm, each within 1/8 in or 3 mm. */
const MOLD: SlumpParams['mold'] = { us: { least: '11.875', most: '12.125' }, si: { least: '297', most: '303' } };

const US: SlumpParams = {
  measureTo: 'centre',
  layers: '3 layers by volume, filled to 70 and 160 mm (2 5/8 and 6 1/8 in)',
  lift: { least: '3', most: '7' },
  total: '150',
  collapse: 'read',
  steps: { mm: '5', in: '0.25' },
  speaks: { us: { least: '0.5', most: '9' }, si: { least: '15', most: '230' } },
  mold: MOLD,
  largest: { us: '1.5', si: '37.5' },
};

const unitOf = (system: System): UnitId => (system === 'us' ? 'in' : 'mm');
const withUnit = (text: string, system: System): string => `${text} ${unitLabel(unitOf(system))}`;

export const slump = method({
  id: 'slump',
  title: 'Slump',
  names: ['slump', 'slump test', 'consistency', 'workability', 'cone drop'],
  follows: [C143, T119, EN, IS],
  about: 'How far fresh concrete drops when the mold is lifted off. The shape decides whether the drop means anything.',
  fields: {
    shape: pick('What the heap did', { true: 'True', shear: 'Shear', collapse: 'Collapse', zero: 'No slump' }),
    lift: qty('time', 't_lift', 'Lift', { si: 's', us: 's' }, { optional: true, possible: { unit: 's', above: '0', most: '120' } }),
    total: qty(
      'time',
      't_total',
      'Scoop to mold off',
      { si: 's', us: 's' },
      {
        optional: true,
        possible: { unit: 's', above: '0', most: '3600' },
        plausible: { unit: 's', least: '20', most: '900' },
      },
    ),
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
    centre: qty(
      'length',
      'h',
      'Height of the displaced centre',
      { si: 'mm', us: 'in' },
      {
        only: ['us'],
        possible: { unit: 'mm', least: '0', most: '1000' },
        plausible: { unit: 'mm', least: '30', most: '308' },
      },
    ),
    highest: qty(
      'length',
      'h_max',
      'Height of the highest point',
      { si: 'mm', us: 'in' },
      {
        only: ['en', 'four_layer'],
        possible: { unit: 'mm', least: '0', most: '1000' },
        plausible: { unit: 'mm', least: '30', most: '308' },
      },
    ),
    drop: qty(
      'length',
      's',
      'Or the drop itself',
      { si: 'mm', us: 'in' },
      {
        optional: true,
        minor: true,
        possible: { unit: 'mm', least: '0', most: '1000' },
      },
    ),
    mishap: pick('What went wrong', { none: 'Nothing', twisted: 'Mold twisted or knocked on lifting' }, { optional: true, usual: 'none' }),
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
    previous: pick(
      'Shape of the test before, same sample',
      { true: 'True', shear: 'Shear', collapse: 'Collapse', zero: 'No slump' },
      {
        optional: true,
        from: 'retest.shape',
      },
    ),
  },
  results: {
    slump: { label: 'Slump', symbol: 'slump', units: { si: 'mm', us: 'in' }, property: 'slump', precision: 'slump', main: true },
  },
  variants: {
    us: { label: 'three layers by volume, displaced centre', source: C143, params: US },
    en: {
      label: 'three layers by height, highest point, to 10 mm',
      source: EN,
      params: {
        ...US,
        measureTo: 'highest',
        layers: '3 layers by height, thirds of the mold',
        lift: { least: '2', most: '5' },
        collapse: 'void',
        steps: { mm: '10' },
        speaks: { us: { least: '0.4', most: '8.3' }, si: { least: '10', most: '210' } },
        largest: { us: '1.575', si: '40' },
      },
    },
    four_layer: {
      label: 'four layers by height, highest point, to 5 mm',
      source: IS,
      params: {
        ...US,
        measureTo: 'highest',
        layers: '4 layers by height, quarters of the mold',
        lift: null,
        total: null,
        collapse: 'void',
        steps: { mm: '5' },
        largest: { us: '1.575', si: '40' },
      },
    },
  },
  hints: (p) => ({
    ...(p.lift ? { lift: `${p.lift.least} to ${p.lift.most} s, straight up` } : { lift: 'slow and straight up' }),
    ...(p.total ? { total: `at most ${clock(Number(p.total))}` } : {}),
  }),
  steps: [
    { text: 'Damp the mold and a rigid, level, non-absorbent base free of vibration.' },
    { text: '25 strokes each layer, half of the bottom layer’s along the edge; into the layer below by about 25 mm (1 in).' },
    { text: 'Keep the top layer heaped, strike off by rolling the rod, hold the mold down and clear its foot.' },
    { text: 'Lift straight, no twist. Measure from the mold set upside down beside the heap.' },
    { text: 'Gloves, eyes covered. Fresh paste burns skin: rinse at once, never kneel in it.', caution: true },
  ],
  windows: [startWithin5(C143, 'Slump started')],
  advice: [
    {
      result: 'slump',
      side: 'low',
      steps: [
        'Make a check test at once.',
        'Water may be added once, if the mix leaves room in its w/cm and the time limit holds; then at least 30 drum revolutions and a new test.',
        'First and check test both out: the load fails the requirement. Call whoever may reject it.',
      ],
      bothOut: ['Call whoever may reject the load.'],
      levers: ['Water: costs strength and shrinkage', 'Admixture: ask the plant', 'Time and heat: hot concrete loses slump in the truck'],
    },
    {
      result: 'slump',
      side: 'high',
      steps: [
        'Make a check test at once: water cannot be taken out again.',
        'First and check test both out: the load fails the requirement. Call whoever may reject it.',
      ],
      bothOut: ['Call whoever may reject the load.'],
      levers: ['Look for extra water: wash water, wet sand, added on site', 'Admixture dose: ask for the ticket'],
    },
  ],
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
    const measured = drop(r, mold, unit);
    if (measured === null) return;
    const height = c.value(measured);
    const limits = p.speaks[system];
    if (height.compare(exact(limits.least)) < 0 || height.compare(exact(limits.most)) > 0) {
      r.note('slump-says-little', {
        slump: withUnit(shown(height), system),
        least: withUnit(limits.least, system),
        most: withUnit(limits.most, system),
      });
    }
    r.result('slump', measured, unit, p.steps);
  },
});

type R<V> = Run<typeof slump.fields, SlumpParams, V>;

/** Shape, times, mishaps and aggregate: what makes the test void before any number is looked at. */
function judgeProcedure<V>(r: R<V>): void {
  const { x, p, c, system } = r;
  if (x.shape === 'shear') {
    r.voids('shape-shear');
    if (x.previous === 'shear') r.note('lacks-cohesion');
  }
  if (x.shape === 'collapse' && p.collapse === 'void') r.voids('shape-collapse');
  const lift = r.have('lift', 's');
  if (lift !== null && p.lift) {
    const seconds = c.value(lift);
    if (seconds.compare(exact(p.lift.least)) < 0 || seconds.compare(exact(p.lift.most)) > 0) {
      r.voids('lift-time', { got: shown(seconds), ...p.lift });
    }
  }
  const total = r.have('total', 's');
  if (total !== null && p.total !== null && c.value(total).compare(exact(p.total)) > 0) {
    r.voids('total-time', { got: clock(Math.ceil(c.value(total).valueOf())), most: clock(Number(p.total)) });
  }
  if (x.mishap === 'twisted') r.voids('mold-twisted');
  const largest = r.have('largest', unitOf(system));
  if (largest !== null && x.sieved !== 'yes' && c.value(largest).compare(exact(p.largest[system])) > 0) {
    r.voids('not-sieved', { most: withUnit(p.largest[system], system) });
  }
}

/** The drop: keyed itself, or mold less the height that this variant measures to. */
function drop<V>(r: R<V>, mold: V, unit: UnitId): V | null {
  const { x, p, c, system } = r;
  const top = c.value(mold);
  const moldText = withUnit(shown(top), system);
  const field = p.measureTo;
  const given = x.drop !== null && x.drop.text.trim() !== '';
  if (given && (x[field]?.text ?? '').trim() !== '') {
    r.refuse('drop-and-height', 'drop');
    return null;
  }
  if (given) {
    const keyed = r.need('drop', unit);
    if (keyed === null) return null;
    if (c.value(keyed).compare(top) > 0) {
      r.refuse('slump-above-mold', 'drop', { mold: moldText });
      return null;
    }
    return c.name('slump', keyed, unit);
  }
  if (x.shape === 'zero' && (x[field]?.text ?? '').trim() === '') return c.name('slump', c.num('0'), unit);
  const height = r.need(field, unit);
  if (height === null) return null;
  if (c.value(height).compare(top) > 0) {
    r.refuse('heap-above-mold', field, { mold: moldText });
    return null;
  }
  const fallen = c.sub(mold, height);
  if (x.shape === 'zero' && c.value(fallen).compare(0) > 0) {
    r.doubt('zero-with-drop', 'shape', { drop: withUnit(shown(c.value(fallen)), system) });
  }
  return c.name('slump', fallen, unit);
}
