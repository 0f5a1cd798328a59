import { exact } from '../../numbers/exact.js';
import type { Calc } from '../calc.js';
import { method, pick, qty, YES_NO, type Citation } from '../definition.js';

export const C702: Citation = { designation: 'ASTM C702/C702M', edition: '2018' };
export const R76: Citation = { designation: 'AASHTO R 76', edition: '2016' };
export type Material = 'coarse' | 'fine' | 'mixture';

export const WAYS = { A: 'a splitter', B: 'quartering', C: 'a miniature stockpile' } as const;

export const reduction = method({
  id: 'reduction',
  on: ['field-sample'],
  uses: ['splitter'],
  title: 'Reduction to test size',
  names: ['reduction', 'splitting', 'quartering', 'splitter', 'miniature stockpile'],
  follows: [C702, R76],
  about: 'How often a bulk is halved, what that leaves, and by which methods. Never trimmed to an exact mass.',
  fields: {
    bulk: qty(
      'mass',
      'M',
      'Bulk',
      { si: 'kg', us: 'lb' },
      {
        takes: 'field.mass',
        possible: { unit: 'kg', least: '0.01', most: '2000' },
        plausible: { unit: 'kg', least: '0.5', most: '1000' },
        typical: { text: '40', unit: 'kg' },
      },
    ),
    least: qty(
      'mass',
      'm',
      'Least test mass',
      { si: 'kg', us: 'lb' },
      {
        possible: { unit: 'kg', least: '0.01', most: '500' },
        plausible: { unit: 'kg', least: '0.1', most: '200' },
        typical: { text: '3', unit: 'kg' },
      },
    ),
    exactly: qty(
      'mass',
      'm',
      'Wished exact mass',
      { si: 'kg', us: 'lb' },
      { optional: true, minor: true, possible: { unit: 'kg', above: '0', most: '500' } },
    ),
    material: pick('Material', { coarse: 'Coarse', fine: 'Fine', mixture: 'Coarse and fine' }, { takes: 'source.kind' }),
    wet: pick('Wetter than SSD', { no: 'No', yes: 'Yes, holds its shape in the fist' }),
    wished: pick('Wished method', WAYS, { optional: true, minor: true }),
  },
  results: {
    cuts: { label: 'Cuts', symbol: 'n', units: { si: '1', us: '1' }, main: true },
    left: { label: 'Leaves about', symbol: 'M/2ⁿ', units: { si: 'kg', us: 'lb' } },
    nextBest: { label: 'Next best: halve once more, with a part of the last reject', symbol: 'm2', units: { si: 'kg', us: 'lb' } },
    methods: { label: 'Methods', symbol: 'methods', units: { si: '1', us: '1' }, words: WAYS },
    refused: { label: 'Sample again', symbol: 'refused', units: { si: '1', us: '1' }, words: YES_NO },
  },
  variants: { c702: { label: 'halving', source: C702, params: { farAbove: '1.7' } } },
  steps: [
    { text: 'Only one pan goes on to the next cut, alternate which; keep the other until all tests are accepted.' },
    { text: 'Never trim to an exact mass: what the last cut leaves is the test sample.' },
    { text: 'Dust: mask, and wet the floor. A full pan is heavy: lift with two.', caution: true },
  ],
  example: { bulk: '48 kg', least: '5 kg', material: 'coarse', wet: 'no' },
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
      // B and C want some damp to hold the fines; a splitter wants none.
      if (x.material === 'fine' && x.wet === 'no' && (x.wished === 'B' || x.wished === 'C')) r.note('moisten-first');
      if (x.wished !== null && !methods.includes(x.wished))
        r.refuse('method-unfit', 'wished', { methods: methods.map((way) => WAYS[way]).join(' or ') });
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
    if (c.value(left).compare(c.value(least).mul(exact(p.farAbove))) < 0) return;
    r.note('far-above-least');
    r.result('nextBest', c.name('m2', nextBest(c, left, least), unit), unit);
  },
});

/** Halves as often as at least the least mass is left: n = ⌊log2(M/m)⌋, M/2ⁿ. */
export function halved<V>(c: Calc<V>, bulk: V, least: V): { cuts: number; left: V } {
  let [cuts, left] = [0, bulk];
  while (c.value(left).compare(c.value(least).mul(2)) >= 0) {
    left = c.div(left, c.num('2'));
    cuts++;
  }
  return { cuts, left };
}

/**
 * Halving leaves far too much: halve once more, and put back a quarter of that last reject (two or
 * three of its quarters where one is not enough): half of what is left, and one to three eighths.
 */
function nextBest<V>(c: Calc<V>, left: V, least: V): V {
  const parts = [5, 6, 7].map((eighths) => c.div(c.mul(left, c.num(String(eighths))), c.num('8')));
  return parts.find((m) => c.value(m).compare(c.value(least)) >= 0) ?? left;
}

/** Stockpile for damp fine only; the splitter takes no wet fine; quartering takes no dry fine, which segregates. */
export function methodsFor(material: Material, wet: boolean): ('A' | 'B' | 'C')[] {
  if (material !== 'fine') return ['A', 'B'];
  return wet ? ['B', 'C'] : ['A'];
}
