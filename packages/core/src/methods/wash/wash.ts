import { exact } from '../../numbers/exact.js';
import { method, qty, type Citation } from '../definition.js';

const C117: Citation = { designation: 'ASTM C117', edition: '2023' };
const T11: Citation = { designation: 'AASHTO T 11', edition: '2023' };

type WashParams = {
  /** Below this, unrounded, the finer step holds. */
  fineBelow: string;
  fineStep: string;
  coarseStep: string;
};

const PARAMS: WashParams = { fineBelow: '10', fineStep: '0.1', coarseStep: '1' };
const mass = {
  possible: { unit: 'g', above: '0', most: '200000' },
  plausible: { unit: 'g', least: '100', most: '20000' },
  typical: { text: '1000', unit: 'g' },
} as const;

export const wash = method({
  id: 'wash',
  on: ['field-sample', 'portion'],
  least: { table: 'c117', of: 'before' },
  kit: 'balance',
  uses: ['sieves', 'oven'],
  gives: { before: { as: 'test.before-wash', to: 'item' }, after: { as: 'test.after-wash', to: 'item' } },
  title: 'Material finer than 75 µm, by washing',
  names: ['wash', 'minus 200', 'No. 200', 'finer than 75 µm', 'fines', 'silt'],
  follows: [C117, T11],
  about: 'What an aggregate loses when it is washed over the 75 µm (No. 200) sieve.',
  fields: {
    before: qty('mass', 'B', 'Dry mass before washing', { si: 'g', us: 'g' }, mass),
    after: qty('mass', 'C', 'Dry mass after washing', { si: 'g', us: 'g' }, mass),
  },
  results: {
    finer: {
      label: 'Finer than 75 µm',
      symbol: 'A',
      units: { si: '%', us: '%' },
      property: 'finer-75',
      precision: 'wash-fine',
      plausible: { unit: '%', least: '0', most: '30' },
      main: true,
    },
  },
  variants: {
    a: { label: 'plain water (procedure A)', source: C117, params: PARAMS, needs: 'washing with plain water' },
    b: { label: 'with a wetting agent (procedure B)', source: C117, params: PARAMS, needs: 'washing with a wetting agent' },
  },
  steps: [
    { text: 'Agitate, decant over the 75 µm sieve under a 1.18 to 2.36 mm one, until the water runs clear.' },
    { text: 'What both sieves hold goes back to the sample. Brush out every pan. Do not trim to an exact mass.' },
  ],
  example: { before: '512.4 g', after: '503.1 g' },
  run(r) {
    const { c, p } = r;
    const [before, after] = [r.need('before', 'g'), r.need('after', 'g')];
    if (before === null || after === null) return;
    if (c.value(after).compare(c.value(before)) > 0) return r.refuse('washed-heavier', 'after');
    const finer = c.name('A', c.div(c.mul(c.num('100'), c.sub(before, after)), before), '%');
    r.result('finer', finer, '%', { '%': c.value(finer).compare(exact(p.fineBelow)) < 0 ? p.fineStep : p.coarseStep });
  },
});
