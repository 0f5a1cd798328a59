import { exact } from '../../numbers/exact.js';
import { method, qty, type Citation, type Increments } from '../definition.js';
import { DECIDES } from './fields.js';

const IS10262: Citation = { designation: 'IS 10262', edition: '2019', part: 'target strength' };

type MarginParams = {
  /** Up to a grade, MPa: the least margin X over it, and the standard deviation that is assumed without a record. */
  margins: readonly { upTo: string; leastMargin: string; assumed: string }[];
  /** Five in a hundred may fall below. */
  factor: string;
  increments: Increments;
};

export const isRequiredAverage = method({
  id: 'is-required-average',
  title: 'Required average strength by grade',
  names: ['target mean strength', 'IS 10262', 'required average, IS', 'margin over the grade'],
  follows: [IS10262],
  about:
    'How strong a mix must be on average by its grade: the larger of 1.65 standard deviations and a margin over the characteristic strength.',
  fields: {
    specified: qty(
      'stress',
      'fck',
      'Characteristic strength fck',
      { si: 'MPa', us: 'MPa' },
      { possible: { unit: 'MPa', least: '10', most: '80' } },
    ),
    deviation: qty(
      'stress',
      'S',
      'Standard deviation',
      { si: 'MPa', us: 'MPa' },
      { optional: true, hint: 'assumed by grade where there is no record', possible: { unit: 'MPa', least: '0', most: '30' } },
    ),
  },
  results: {
    used: { label: 'Standard deviation used', symbol: 'S', units: { si: 'MPa', us: 'MPa' } },
    margin: { label: 'Least margin', symbol: 'X', units: { si: 'MPa', us: 'MPa' } },
    required: { label: 'Required average', symbol: 'f’ck', units: { si: 'MPa', us: 'MPa' }, main: true },
  },
  variants: {
    is10262: {
      label: 'fck + 1.65·S or fck + X, the larger',
      source: IS10262,
      params: {
        margins: [
          { upTo: '15', leastMargin: '5.0', assumed: '3.5' },
          { upTo: '25', leastMargin: '5.5', assumed: '4.0' },
          { upTo: '60', leastMargin: '6.5', assumed: '5.0' },
          { upTo: '80', leastMargin: '8.0', assumed: '6.0' },
        ],
        factor: '1.65',
        increments: { MPa: '0.1' },
      } satisfies MarginParams as MarginParams,
    },
  },
  steps: [{ text: 'S of the record where there are enough tests; without them, that of the group of its grade.' }, DECIDES],
  example: { specified: '30 MPa', deviation: '4.2 MPa' },
  further: [{ specified: '40 MPa' }, { specified: '20 MPa', deviation: '2.1 MPa' }],
  run(r) {
    const { c, p } = r;
    const [specified, deviation] = [r.need('specified', 'MPa'), r.have('deviation', 'MPa')];
    if (specified === null) return;
    const group = p.margins.find(({ upTo }) => c.value(specified).compare(exact(upTo)) <= 0)!;
    const used = c.name('S', deviation ?? c.num(group.assumed), 'MPa');
    const margin = c.name('X', c.num(group.leastMargin), 'MPa');
    r.result('used', used, 'MPa');
    r.result('margin', margin, 'MPa');
    const scatter = c.name('1.65·S', c.mul(c.num(p.factor), used), 'MPa');
    const over = c.value(scatter).compare(c.value(margin)) >= 0 ? scatter : margin;
    r.result('required', c.name('f’ck', c.add(specified, over), 'MPa'), 'MPa', p.increments);
  },
});
