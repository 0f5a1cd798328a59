import { exact } from '../../numbers/exact.js';
import type { Calc } from '../calc.js';
import { method, pick, qty, type Citation } from '../definition.js';

const C702: Citation = { designation: 'ASTM C702/C702M', edition: '2018' };
const R76: Citation = { designation: 'AASHTO R 76', edition: '2016' };
const MASSES: Citation = { designation: 'ASTM C136/C136M', edition: '2019', part: 'test samples; with C117, C127, C566 and D75' };

/** Least masses, kg, by nominal maximum size in mm; between two sizes the larger one's holds. */
const LEAST: Readonly<Record<string, readonly (readonly [string, string])[]>> = {
  c566: [
    ['4.75', '0.5'],
    ['9.5', '1.5'],
    ['12.5', '2'],
    ['19.0', '3'],
    ['25.0', '4'],
    ['37.5', '6'],
    ['50', '8'],
    ['63', '10'],
    ['75', '13'],
  ],
  c117: [
    ['4.75', '0.3'],
    ['9.5', '1.0'],
    ['12.5', '2.5'],
    ['19.0', '2.5'],
    ['25.0', '5'],
    ['37.5', '5'],
    ['50', '5'],
    ['63', '5'],
    ['75', '5'],
  ],
  c136: [
    ['4.75', '0.3'],
    ['9.5', '1'],
    ['12.5', '2'],
    ['19.0', '5'],
    ['25.0', '10'],
    ['37.5', '15'],
    ['50', '20'],
    ['63', '35'],
    ['75', '60'],
  ],
  c127: [
    ['9.5', '2'],
    ['12.5', '2'],
    ['19.0', '3'],
    ['25.0', '4'],
    ['37.5', '5'],
    ['50', '8'],
    ['63', '12'],
    ['75', '18'],
  ],
  d75: [
    ['4.75', '10'],
    ['9.5', '10'],
    ['12.5', '15'],
    ['19.0', '25'],
    ['25.0', '50'],
    ['37.5', '75'],
    ['50', '100'],
    ['63', '125'],
    ['75', '150'],
    ['90', '175'],
  ],
};

export const leastMass = method({
  id: 'least-mass',
  title: 'Least mass of a sample',
  names: ['least mass', 'minimum mass', 'test sample mass', 'field sample'],
  follows: [MASSES],
  about: 'How much of an aggregate a test, or a field sample, needs at least, by its nominal maximum size.',
  fields: {
    test: pick('For', {
      d75: 'Field sample',
      c566: 'Total moisture',
      c117: 'Finer than 75 µm',
      c136: 'Gradation',
      c127: 'Coarse specific gravity',
    }),
    nominal: qty(
      'length',
      'D',
      'Nominal maximum size (permitted to pass)',
      { si: 'mm', us: 'in' },
      { possible: { unit: 'mm', above: '0', most: '150' } },
    ),
  },
  results: { least: { label: 'Least mass', symbol: 'm', units: { si: 'kg', us: 'kg' }, main: true } },
  variants: { astm: { label: 'by nominal maximum size', source: MASSES, params: {} } },
  steps: [],
  run(r) {
    const { c, x } = r;
    const nominal = r.need('nominal', 'mm');
    if (x.test === null) r.missing('test');
    if (nominal === null || x.test === null) return;
    const table = LEAST[x.test] ?? [];
    const row = table.find(([size]) => c.value(nominal).compare(exact(size)) <= 0);
    if (row) r.result('least', c.num(row[1]), 'kg');
    else r.refuse('nominal-too-large', 'nominal', { most: `${table.at(-1)?.[0] ?? ''} mm` });
  },
});

type Material = 'coarse' | 'fine' | 'mixture';

export const reduction = method({
  id: 'reduction',
  title: 'Reduction to test size',
  names: ['reduction', 'splitting', 'quartering', 'splitter', 'miniature stockpile'],
  follows: [C702, R76],
  about: 'How often a bulk is halved, what that leaves, and by which methods. Never trimmed to an exact mass.',
  fields: {
    bulk: qty('mass', 'M', 'Bulk', { si: 'kg', us: 'lb' }, { possible: { unit: 'kg', above: '0', most: '2000' } }),
    least: qty('mass', 'm', 'Least test mass', { si: 'kg', us: 'lb' }, { possible: { unit: 'kg', above: '0', most: '500' } }),
    exactly: qty(
      'mass',
      'm',
      'Wished exact mass',
      { si: 'kg', us: 'lb' },
      { optional: true, minor: true, possible: { unit: 'kg', above: '0', most: '500' } },
    ),
    material: pick('Material', { coarse: 'Coarse', fine: 'Fine', mixture: 'Coarse and fine' }),
    wet: pick('Wetter than SSD', { no: 'No', yes: 'Yes, holds its shape in the fist' }),
    wished: pick('Wished method', { A: 'A, splitter', B: 'B, quartering', C: 'C, miniature stockpile' }, { optional: true, minor: true }),
  },
  results: {
    cuts: { label: 'Cuts', symbol: 'n', units: { si: '1', us: '1' }, main: true },
    left: { label: 'Leaves about', symbol: 'M/2ⁿ', units: { si: 'kg', us: 'lb' } },
    methods: { label: 'Methods', symbol: 'methods', units: { si: '1', us: '1' } },
    refused: { label: 'Sample again', symbol: 'refused', units: { si: '1', us: '1' } },
  },
  variants: { c702: { label: 'halving', source: C702, params: { farAbove: '1.7' } } },
  steps: [
    { text: 'Only one pan goes on to the next cut, alternate which; keep the other until all tests are accepted.' },
    { text: 'Never trim to an exact mass: what the last cut leaves is the test sample.' },
    { text: 'Dust: mask, and wet the floor. A full pan is heavy: lift with two.', caution: true },
  ],
  run(r) {
    const { c, x, p, system } = r;
    const unit = system === 'us' ? 'lb' : 'kg';
    const [bulk, least] = [r.need('bulk', unit), r.need('least', unit)];
    if (r.have('exactly', unit) !== null) r.refuse('no-trimming', 'exactly');
    if (x.material === null) r.missing('material');
    if (x.wet === null) r.missing('wet');
    if (x.material !== null && x.wet !== null) {
      const methods = methodsFor(x.material, x.wet === 'yes');
      r.says('methods', methods);
      if (x.wished !== null && !methods.includes(x.wished)) r.refuse('method-unfit', 'wished', { methods: methods.join(', ') });
    }
    if (bulk === null || least === null) return;
    if (c.value(bulk).compare(c.value(least)) < 0) {
      r.says('refused', ['yes']);
      r.note('bulk-too-small');
      return;
    }
    r.says('refused', ['no']);
    const { cuts, left } = halved(c, bulk, least);
    r.result('cuts', c.num(String(cuts)), '1', { '1': '1' });
    r.result('left', c.name('M/2ⁿ', left, unit), unit);
    // Halving leaves far too much: a quarter of the last reject goes back.
    if (c.value(left).compare(c.value(least).mul(exact(p.farAbove))) >= 0) r.note('far-above-least');
  },
});

/** Halves as often as at least the least mass is left: n = ⌊log2(M/m)⌋, M/2ⁿ. */
function halved<V>(c: Calc<V>, bulk: V, least: V): { cuts: number; left: V } {
  let [cuts, left] = [0, bulk];
  while (c.value(left).compare(c.value(least).mul(2)) >= 0) {
    left = c.div(left, c.num('2'));
    cuts++;
  }
  return { cuts, left };
}

/** Stockpile for damp fine only; the splitter takes no wet fine; quartering takes no dry fine, which segregates. */
function methodsFor(material: Material, wet: boolean): ('A' | 'B' | 'C')[] {
  if (material !== 'fine') return ['A', 'B'];
  return wet ? ['B', 'C'] : ['A'];
}
