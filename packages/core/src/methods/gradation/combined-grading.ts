import { brief, exact } from '../../numbers/exact.js';
import { method, pick, qty, rows, text, YES_NO } from '../definition.js';
import { column } from '../rows.js';
import { againstBand, BAND_LABELS, BAND_RESULTS, BANDS, C33, NEIGHBOURS_MOST, sayAgainst, type BandParams } from './bands.js';
import { PASSING_RULE, reportedPassing, type PassingRule } from './passing.js';
import { bestShares } from './shares.js';

type Params = BandParams & { reporting: PassingRule };

/** Columns of the table: what passes of each aggregate, in the order in which they stand above. */
const OF = ['first', 'second', 'third', 'fourth'] as const;
const passing = (word: string, symbol: string, optional: boolean) =>
  qty('percent', symbol, `Passing, the ${word}`, { si: '%', us: '%' }, { optional, possible: { unit: '%', least: '0', most: '100' } });

const fields = {
  band: pick('Band', BAND_LABELS, { optional: true }),
  parts: rows(
    'Aggregates',
    {
      name: text('Aggregate', { optional: true }),
      share: qty('percent', 'w', 'Share by mass', { si: '%', us: '%' }, { possible: { unit: '%', least: '0', most: '100' } }),
    },
    { most: OF.length },
  ),
  sieves: rows('Sieves, coarsest first', {
    opening: qty('length', 'o', 'Sieve', { si: 'mm', us: 'mm' }, { sieve: true, possible: { unit: 'mm', above: '0', most: '300' } }),
    first: passing('first', 'P1', false),
    second: passing('second', 'P2', false),
    third: passing('third', 'P3', true),
    fourth: passing('fourth', 'P4', true),
  }),
};

export const combinedGrading = method({
  id: 'combined-grading',
  on: ['trial-batch'],
  title: 'Grading of several aggregates together',
  names: ['combined gradation', 'blend', 'blending', 'combined grading', 'shares'],
  follows: [C33],
  about: 'What passes of a mixture of up to four aggregates by their shares, against a band; and the shares that lie in it best.',
  panel: 'shares',
  fields,
  results: {
    passing: { label: 'Passing, together', symbol: 'P', units: { si: '%', us: '%' }, along: 'sieves', main: true },
    reported: { label: 'Passing, as reported', symbol: 'P', units: { si: '1', us: '1' }, along: 'sieves' },
    ...BAND_RESULTS,
    best: { label: 'Share that lies best', symbol: 'w', units: { si: '%', us: '%' }, along: 'parts' },
    possible: { label: 'Some shares lie in the band', symbol: 'possible', units: { si: '1', us: '1' }, words: YES_NO },
  },
  variants: {
    c33: {
      label: 'by mass, bands as printed; a lab adds its own',
      source: C33,
      params: { bands: BANDS, neighboursMost: NEIGHBOURS_MOST, reporting: PASSING_RULE } satisfies Params as Params,
    },
  },
  steps: [
    { text: 'Shares are of the dry masses. Aggregates of unlike gravity are shared by volume in the mix: convert first.' },
    { text: 'The newest gradation of each source counts: a mixture is no better than its oldest sieves.' },
  ],
  example: {
    band: '467',
    parts: [
      { name: 'Pellick stone, 38 mm', share: '50 %' },
      { name: 'Pellick stone, 19 mm', share: '50 %' },
    ],
    sieves: ['50/100/100', '37.5/92/100', '19.0/8/95', '9.5/1/38', '4.75/0.5/4'].map((row) => {
      const [opening, first, second] = row.split('/');
      return { opening: `${opening ?? ''} mm`, first: `${first ?? ''} %`, second: `${second ?? ''} %` };
    }),
  },
  run(r) {
    const { c, p } = r;
    const openings = column(r, 'sieves', 'opening', 'mm', 'o');
    const shares = column(r, 'parts', 'share', '%', 'w', 2);
    if (!openings || !shares) return;
    const parts = OF.slice(0, shares.length).map((id, i) => column(r, 'sieves', id, '%', `P${i + 1}`));
    if (parts.some((part) => part === null)) return;
    const sum = c.value(c.sum(shares));
    const each = openings.map((_o, k) => c.sum(shares.map((share, i) => c.mul(share, parts[i]![k]!))));
    const sieves = openings.map((o) => c.value(o));
    const wrong = sieves.findIndex((o, i) => i > 0 && o.compare(sieves[i - 1]!) >= 0);
    if (wrong > 0) return r.refuse('sieves-in-disorder', `sieves.${wrong}.opening`);
    if (r.x.band) {
      const band = p.bands[r.x.band].filter(({ opening }) => sieves.some((o) => o.equals(exact(opening))));
      const at = band.map(({ opening }) => sieves.findIndex((o) => o.equals(exact(opening))));
      const { shares: best, inside } = bestShares(
        parts.map((part) => at.map((k) => c.value(part![k]!).valueOf())),
        band,
      );
      r.series(
        'best',
        best.map((share) => c.num(String(share))),
        '%',
        { '%': p.reporting.step },
      );
      r.says('possible', [inside ? 'yes' : 'no']);
    }
    if (!sum.equals(100)) return r.refuse('shares-not-whole', 'parts.0.share', { sum: brief(sum, 4, exact('100')) });
    const together = each.map((v, k) => c.name(`P${k + 1}`, c.div(v, c.num('100')), '%'));
    r.series('passing', together, '%', { '%': p.reporting.step });
    const reported = together.map((v, k) => reportedPassing(c.value(v), sieves[k]!, p.reporting));
    r.says('reported', reported);
    if (r.x.band) sayAgainst(r, r.x.band, againstBand(r.x.band, p, sieves, reported.map(exact)), p);
  },
});
