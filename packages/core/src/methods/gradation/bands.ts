import { exact } from '../../numbers/exact.js';
import { method, pick, qty, rows, YES_NO, type Citation } from '../definition.js';
import { column } from '../rows.js';
import { PASSING_RULE, reportedPassing, type PassingRule } from './gradation.js';

const C33: Citation = { designation: 'ASTM C33/C33M', edition: '2023', part: 'grading requirements' };

/** Opening in mm, least and most passing in %. */
type Band = readonly { opening: string; least: string; most: string }[];

type BandParams = {
  bands: Readonly<Record<'fine' | '57' | '67' | '7' | '8' | '467', Band>>;
  /** Fine only: no more than this between two neighbours, and the modulus within. */
  neighboursMost: string;
  reporting: PassingRule;
};

const BANDS: BandParams['bands'] = {
  fine: [
    { opening: '9.5', least: '100', most: '100' },
    { opening: '4.75', least: '95', most: '100' },
    { opening: '2.36', least: '80', most: '100' },
    { opening: '1.18', least: '50', most: '85' },
    { opening: '0.600', least: '25', most: '60' },
    { opening: '0.300', least: '5', most: '30' },
    { opening: '0.150', least: '0', most: '10' },
    { opening: '0.075', least: '0', most: '3' },
  ],
  '57': [
    { opening: '37.5', least: '100', most: '100' },
    { opening: '25.0', least: '95', most: '100' },
    { opening: '12.5', least: '25', most: '60' },
    { opening: '4.75', least: '0', most: '10' },
    { opening: '2.36', least: '0', most: '5' },
  ],
  '67': [
    { opening: '25.0', least: '100', most: '100' },
    { opening: '19.0', least: '90', most: '100' },
    { opening: '9.5', least: '20', most: '55' },
    { opening: '4.75', least: '0', most: '10' },
    { opening: '2.36', least: '0', most: '5' },
  ],
  '7': [
    { opening: '19.0', least: '100', most: '100' },
    { opening: '12.5', least: '90', most: '100' },
    { opening: '9.5', least: '40', most: '70' },
    { opening: '4.75', least: '0', most: '15' },
    { opening: '2.36', least: '0', most: '5' },
  ],
  '8': [
    { opening: '12.5', least: '100', most: '100' },
    { opening: '9.5', least: '85', most: '100' },
    { opening: '4.75', least: '10', most: '30' },
    { opening: '2.36', least: '0', most: '10' },
    { opening: '1.18', least: '0', most: '5' },
  ],
  '467': [
    { opening: '50', least: '100', most: '100' },
    { opening: '37.5', least: '95', most: '100' },
    { opening: '19.0', least: '35', most: '70' },
    { opening: '9.5', least: '10', most: '30' },
    { opening: '4.75', least: '0', most: '5' },
  ],
};

/** A band as it is drawn: opening in mm, least and most passing in %. */
export const bandOf = (id: string): Band => (Object.hasOwn(BANDS, id) ? BANDS[id as keyof typeof BANDS] : []);

export const gradingBand = method({
  id: 'grading-band',
  title: 'Grading against a band',
  names: ['grading band', 'C33', 'No. 57', 'No. 67', 'fine aggregate grading'],
  follows: [C33],
  about: 'Shares passing, as reported, against the band of a size: which sieves are out, and on which side.',
  fields: {
    band: pick('Band', { fine: 'Fine aggregate', '57': 'Size 57', '67': 'Size 67', '7': 'Size 7', '8': 'Size 8', '467': 'Size 467' }),
    sieves: rows('Sieves, coarsest first', {
      opening: qty('length', 'o', 'Sieve', { si: 'mm', us: 'mm' }, { sieve: true, possible: { unit: 'mm', above: '0', most: '300' } }),
      passing: qty('percent', 'P', 'Passing', { si: '%', us: '%' }, { possible: { unit: '%', least: '0', most: '100' } }),
    }),
  },
  results: {
    inside: { label: 'Within the band', symbol: 'inside', units: { si: '1', us: '1' }, words: YES_NO, main: true },
    above: { label: 'Above the band on', symbol: 'above', units: { si: '1', us: '1' } },
    below: { label: 'Below the band on', symbol: 'below', units: { si: '1', us: '1' } },
  },
  variants: {
    c33: {
      label: 'bands as printed; a lab adds its own',
      source: C33,
      params: { bands: BANDS, neighboursMost: '45', reporting: PASSING_RULE } satisfies BandParams as BandParams,
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
    const rounded = passing.map((v, i) => exact(reportedPassing(c.value(v), c.value(openings[i]!), p.reporting)));
    const out = (side: 1 | -1): string[] =>
      p.bands[x.band!].flatMap(({ opening, least, most }) => {
        const at = openings.findIndex((o) => c.value(o).equals(exact(opening)));
        return at >= 0 && rounded[at]!.compare(exact(side > 0 ? most : least)) * side > 0 ? [opening] : [];
      });
    const missing = p.bands[x.band]
      .filter(({ opening }) => !openings.some((o) => c.value(o).equals(exact(opening))))
      .map(({ opening }) => opening);
    if (missing.length > 0) r.note('band-sieves-missing', { sieves: missing.join(', ') });
    const steep = x.band === 'fine' && rounded.some((v, i) => i > 0 && rounded[i - 1]!.sub(v).compare(exact(p.neighboursMost)) > 0);
    if (steep) r.note('too-much-between', { most: p.neighboursMost });
    const [above, below] = [out(1), out(-1)];
    r.says('above', above);
    r.says('below', below);
    r.says('inside', [above.length + below.length === 0 && !steep ? 'yes' : 'no']);
  },
});
