import { exact } from '../../numbers/exact.js';
import { method, pick, qty, rows } from '../definition.js';
import { column } from '../rows.js';
import { againstBand, BAND_LABELS, BAND_RESULTS, BANDS, C33, NEIGHBOURS_MOST, sayAgainst, type BandParams } from './bands.js';
import { PASSING_RULE, reportedPassing, type PassingRule } from './passing.js';

type Params = BandParams & { reporting: PassingRule };

export const gradingBand = method({
  id: 'grading-band',
  title: 'Grading against a band',
  names: ['grading band', 'C33', 'No. 57', 'No. 67', 'fine aggregate grading'],
  follows: [C33],
  about: 'Shares passing, as reported, against the band of a size: which sieves are out, and on which side.',
  fields: {
    band: pick('Band', BAND_LABELS),
    sieves: rows('Sieves, coarsest first', {
      opening: qty('length', 'o', 'Sieve', { si: 'mm', us: 'mm' }, { sieve: true, possible: { unit: 'mm', above: '0', most: '300' } }),
      passing: qty('percent', 'P', 'Passing', { si: '%', us: '%' }, { possible: { unit: '%', least: '0', most: '100' } }),
    }),
  },
  results: { ...BAND_RESULTS, inside: { ...BAND_RESULTS.inside, main: true } },
  variants: {
    c33: {
      label: 'bands as printed; a lab adds its own',
      source: C33,
      params: { bands: BANDS, neighboursMost: NEIGHBOURS_MOST, reporting: PASSING_RULE } satisfies Params as Params,
    },
  },
  steps: [{ text: 'A band is the specification’s: another one of the project goes first.' }],
  example: {
    band: 'fine',
    sieves: '9.5/100 4.75/98 2.36/86 1.18/68 0.600/43 0.300/17 0.150/6 0.075/2.5'.split(' ').map((pair) => {
      const [opening, passing] = pair.split('/');
      return { opening: `${opening ?? ''} mm`, passing: `${passing ?? ''} %` };
    }),
  },
  run(r) {
    const { c, x, p } = r;
    if (x.band === null) r.missing('band');
    const [openings, passing] = [column(r, 'sieves', 'opening', 'mm', 'o'), column(r, 'sieves', 'passing', '%', 'P')];
    if (x.band === null || !openings || !passing) return;
    const [sieves, shares] = [openings.map((o) => c.value(o)), passing.map((v) => c.value(v))];
    const rounded = shares.map((v, i) => exact(reportedPassing(v, sieves[i]!, p.reporting)));
    sayAgainst(r, x.band, againstBand(x.band, p, sieves, rounded), p);
  },
});
