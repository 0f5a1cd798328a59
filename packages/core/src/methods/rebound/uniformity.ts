import { exact } from '../../numbers/exact.js';
import { method, rows, text } from '../definition.js';
import { deviationOf } from '../lists.js';
import { column } from '../rows.js';
import { C805, reboundNumber } from './rebound.js';

type UniformityParams = {
  /** Areas further from the mean than this many standard deviations stand out. */
  standOut: string;
  least: number;
};

export const reboundUniformity = method({
  id: 'rebound-uniformity',
  on: ['area', 'element'],
  title: 'Uniformity of an element by rebound',
  names: ['rebound map', 'uniformity', 'rebound areas'],
  follows: [C805],
  about: 'Rebound numbers of the areas of one element: mean, scatter, and the areas that stand out. Elements and surfaces are never mixed.',
  panel: 'rebound',
  fields: {
    areas: rows('Areas', {
      element: text('Element and surface'),
      area: text('Area', { optional: true }),
      number: reboundNumber('R', 'Rebound number'),
    }),
  },
  results: {
    mean: { label: 'Mean rebound number', symbol: 'R̄', units: { si: '1', us: '1' }, main: true },
    deviation: { label: 'Standard deviation', symbol: 's', units: { si: '1', us: '1' } },
    variation: { label: 'Coefficient of variation', symbol: 'V', units: { si: '%', us: '%' }, main: true },
    standOut: { label: 'Areas that stand out', symbol: 'out', units: { si: '1', us: '1' } },
  },
  variants: {
    two: {
      label: 'further than two standard deviations',
      source: C805,
      params: { standOut: '2', least: 3 } satisfies UniformityParams as UniformityParams,
    },
  },
  steps: [{ text: 'Smooth, dry, fixed, at least 100 mm thick; the same orientation and hammer for all areas of an element.' }],
  example: {
    areas: 'A1/39 A2/40 A3/38 A4/41 A5/39 B1/40 B2/31 B3/39'.split(' ').map((pair) => {
      const [area, number] = pair.split('/');
      return { element: 'Pier 2, formed', area: area ?? '', number: number ?? '' };
    }),
  },
  run(r) {
    const { c, x, p } = r;
    const values = column(r, 'areas', 'number', '1', 'R', p.least);
    const elements = new Set((x.areas ?? []).map((row) => row.element?.trim() ?? ''));
    if (elements.has('')) r.missing(`areas.${(x.areas ?? []).findIndex((row) => !row.element?.trim())}.element`);
    else if (elements.size > 1) return r.refuse('elements-mixed', 'areas', { elements: [...elements].join(', ') });
    if (!values) return;
    const mean = c.name('R̄', c.mean(values), '1');
    const s = c.name('s', deviationOf(c, values, mean), '1');
    r.result('mean', mean, '1', { '1': '1' });
    r.result('deviation', s, '1', { '1': '0.1' });
    if (c.value(mean).sign() > 0) r.result('variation', c.name('V', c.div(c.mul(c.num('100'), s), mean), '%'), '%', { '%': '0.1' });
    const far = c.value(s).mul(exact(p.standOut));
    r.says(
      'standOut',
      values.flatMap((v, i) => (c.value(v).sub(c.value(mean)).abs().compare(far) > 0 ? [x.areas?.[i]?.area?.trim() || String(i + 1)] : [])),
    );
  },
});
