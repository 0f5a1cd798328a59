import { brief, exact } from '../../numbers/exact.js';
import { method, qty, rows, type Citation, type Increments } from '../definition.js';
import type { Calc } from '../calc.js';
import { column } from '../rows.js';
import { defects } from '../compression/broken.js';
import { units } from '../compression/compression.js';
import { GUARD } from '../compression/guard.js';
import { MACHINE, MACHINE_RANGE, rateOf, rateResult, toSet, traceRows, type RateLimits } from '../loading-rate/rate.js';
import { each } from '../../examples/write.js';

const C78: Citation = { designation: 'ASTM C78/C78M', edition: '2022' };
const C293: Citation = { designation: 'ASTM C293/C293M', edition: '2016' };

const size = {
  possible: { unit: 'mm', least: '1', most: '1000' },
  plausible: { unit: 'mm', least: '40', most: '400' },
  typical: { text: '150', unit: 'mm' },
} as const;

/** Three of each at the break: ASTM C78/C78M, C293/C293M. */
const AT_THE_BREAK = { times: 3, afterwards: true };

const fields = {
  side: qty(
    'length',
    'b₀',
    'Nominal width and depth',
    { si: 'mm', us: 'in' },
    {
      ...size,
      from: 'specimens.width',
      optional: true,
      minor: true,
      hint: 'for the rate to set on the machine',
    },
  ),
  span: qty(
    'length',
    'L',
    'Span',
    { si: 'mm', us: 'in' },
    { possible: { unit: 'mm', above: '0', most: '3000' }, plausible: { unit: 'mm', least: '200', most: '1000' } },
  ),
  load: qty(
    'force',
    'P',
    'Largest load',
    { si: 'kN', us: 'lbf' },
    {
      possible: { unit: 'kN', above: '0', most: '2000' },
      plausible: { unit: 'kN', least: '1', most: '500' },
      typical: { text: '30', unit: 'kN' },
    },
  ),
  widths: rows('Widths at the break', { b: qty('length', 'b', 'Width', { si: 'mm', us: 'in' }, size) }, AT_THE_BREAK),
  depths: rows('Depths at the break', { d: qty('length', 'd', 'Depth', { si: 'mm', us: 'in' }, size) }, AT_THE_BREAK),
  at: qty(
    'length',
    'a',
    'Break from the nearest support',
    { si: 'mm', us: 'in' },
    { afterwards: true, possible: { unit: 'mm', least: '0', most: '3000' } },
  ),
  defects,
  trace: traceRows({ optional: true }),
};

const ZONES = {
  middle_third: 'in the middle third',
  within_5_pct: 'outside it by no more than 5 % of the span',
  outside: 'further outside',
} as const;

type FlexureParams = {
  loading: 'third' | 'centre';
  increments: Increments;
  /** How far outside the middle third a break may lie, % of span. */
  outsideMost: string;
  rate: RateLimits;
};

const PER_MINUTE = { si: 'MPa/min', us: 'psi/min' } as const;
/** ASTM C78/C78M and C293/C293M: the same rate of the outer fibre. */
const RATE: RateLimits = {
  target: { si: '1.05', us: '150' },
  tolerance: { si: '0.15', us: '25' },
  unit: PER_MINUTE,
  upperShare: '0.5',
  increments: { 'MPa/min': '0.01', 'psi/min': '1' },
};

const PARAMS = { increments: { MPa: '0.05', psi: '5' } as Increments, outsideMost: '5', rate: RATE };

/** Over which a load gives its stress: bd²/L at the third points, two thirds of that at the centre. */
function areaOf<V>(c: Calc<V>, bdd: V, span: V, loading: FlexureParams['loading']): V {
  const third = c.div(bdd, span);
  return loading === 'third' ? third : c.div(c.mul(c.num('2'), third), c.num('3'));
}

export const flexure = method({
  id: 'flexure',
  on: ['specimen'],
  breaks: true,
  kit: 'machine',
  suits: { 'specimens.shape': ['beam'] },
  title: 'Flexural strength of a beam',
  names: ['flexure', 'modulus of rupture', 'beam', 'third-point', 'centre-point'],
  follows: [C78, C293],
  about: 'Modulus of rupture of a beam, loaded at its third points or at its centre.',
  fields,
  results: {
    modulus: {
      label: 'Modulus of rupture',
      symbol: 'R',
      units: { si: 'MPa', us: 'psi' },
      property: 'flexure',
      plausible: { unit: 'MPa', least: '1.5', most: '12' },
      main: true,
    },
    machine: MACHINE,
    machineRange: MACHINE_RANGE,
    rate: rateResult(PER_MINUTE),
    zone: { label: 'Where it broke', symbol: 'zone', units: { si: '1', us: '1' }, words: ZONES, whenVoid: true },
  },
  variants: {
    'third-point': {
      label: 'third-point, to 0.05 MPa or 5 psi',
      source: C78,
      params: { ...PARAMS, loading: 'third' } satisfies FlexureParams as FlexureParams,
      needs: 'a beam loaded at its third points',
    },
    'centre-point': {
      label: 'centre-point, to 0.05 MPa or 5 psi',
      source: C293,
      params: { ...PARAMS, loading: 'centre' } satisfies FlexureParams as FlexureParams,
      without: ['at'],
      needs: 'a beam loaded at its centre',
    },
  },
  steps: [
    { text: 'Turn the beam on its side and centre it on the supports.' },
    { text: 'Load at 0.9 to 1.2 MPa/min (125 to 175 psi/min), without shock.' },
    { text: 'Measure width and depth at the break, three times each.' },
    { text: (p) => (p.loading === 'third' ? 'Measure from the break to the nearest support.' : null) },
    GUARD,
  ],
  scene: { specimen: 'beam', width: 'span', height: 'depths' },
  example: {
    load: '31.6 kN',
    span: '450 mm',
    widths: each('mm', 'b', '150.3 150.1 150.2'),
    depths: each('mm', 'd', '149.8 150.0 149.9'),
    at: '141 mm',
  },
  further: [
    {
      load: '31.6 kN',
      span: '450 mm',
      widths: each('mm', 'b', '150.3 150.1 150.2'),
      depths: each('mm', 'd', '149.8 150.0 149.9'),
      at: '160 mm',
    },
  ],
  run(r) {
    const { c, p, system } = r;
    const { length: l, force: f, stress } = units(system);
    const [load, span] = [r.need('load', f), r.need('span', l)];
    const [widths, depths] = [column(r, 'widths', 'b', l, 'b'), column(r, 'depths', 'd', l, 'd')];
    const width = widths && c.name('b', c.mean(widths), l);
    const depth = depths && c.name('d', c.mean(depths), l);
    const at = p.loading === 'third' ? r.need('at', l) : null;
    const side = r.have('side', l);
    if (span === null) return;
    const section = width === null || depth === null ? null : c.mul(width, c.mul(depth, depth));
    // Before it breaks its section is what it was molded to.
    if (section === null && side !== null) toSet(r, areaOf(c, c.mul(side, c.mul(side, side)), span, p.loading), p.rate);
    if (section === null) return;
    const area = areaOf(c, section, span, p.loading);
    toSet(r, area, p.rate);
    rateOf(r, area, p.rate);
    if (load === null) return;
    if (p.loading === 'centre') {
      r.result(
        'modulus',
        c.name('R', c.div(c.mul(c.num('3'), c.mul(load, span)), c.mul(c.num('2'), section)), stress),
        stress,
        p.increments,
      );
      return;
    }
    if (at === null) return;
    if (c.value(at).mul(2).compare(c.value(span)) > 0) return r.refuse('past-midspan', 'at');
    const short = c.value(span).div(3).sub(c.value(at));
    const zone =
      short.compare(0) <= 0
        ? 'middle_third'
        : short.compare(c.value(span).mul(exact(p.outsideMost)).div(100)) <= 0
          ? 'within_5_pct'
          : 'outside';
    r.says('zone', [zone]);
    if (zone === 'outside')
      r.voids('broke-outside', { by: brief(short.div(c.value(span)).mul(100), 3, exact(p.outsideMost)), most: p.outsideMost });
    const modulus = zone === 'middle_third' ? c.div(c.mul(load, span), section) : c.div(c.mul(c.num('3'), c.mul(load, at)), section);
    r.result('modulus', c.name('R', modulus, stress), stress, p.increments);
  },
});
