import { exact, type Exact } from '../../numbers/exact.js';
import type { Citation } from '../definition.js';

export const C33: Citation = { designation: 'ASTM C33/C33M', edition: '2023', part: 'grading requirements' };

/** Opening in mm, least and most passing in %. */
export type Band = readonly { opening: string; least: string; most: string }[];

export const BAND_LABELS = {
  fine: 'Fine aggregate',
  '57': 'Size 57',
  '67': 'Size 67',
  '7': 'Size 7',
  '8': 'Size 8',
  '467': 'Size 467',
} as const;
export type BandId = keyof typeof BAND_LABELS;

export type BandParams = {
  bands: Readonly<Record<BandId, Band>>;
  /** Fine only: no more than this between two neighbours, and the modulus within. */
  neighboursMost: string;
};

export const BANDS: BandParams['bands'] = {
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

/** Of a fine aggregate, %. */
export const NEIGHBOURS_MOST = '45';

/** A band as it is drawn by some parameters; nothing where none is named. */
export const bandOf = (params: unknown, id: string | null): Band => {
  const bands = (params as Partial<BandParams> | null)?.bands;
  return bands && id !== null && Object.hasOwn(bands, id) ? bands[id as BandId] : [];
};

export interface AgainstBand {
  /** Openings on which too much passes, or too little; those of the band that were not sieved. */
  readonly above: readonly string[];
  readonly below: readonly string[];
  readonly missing: readonly string[];
  /** Too much between two neighbours. */
  readonly steep: boolean;
}

/**
 * What passes, as it is reported, against a band.
 * @param openings mm, coarsest first
 * @param passing %, one for each of them
 */
export function againstBand(id: BandId, p: BandParams, openings: readonly Exact[], passing: readonly Exact[]): AgainstBand {
  const out = (side: 1 | -1): string[] =>
    p.bands[id].flatMap(({ opening, least, most }) => {
      const at = openings.findIndex((o) => o.equals(exact(opening)));
      return at >= 0 && passing[at]!.compare(exact(side > 0 ? most : least)) * side > 0 ? [opening] : [];
    });
  return {
    above: out(1),
    below: out(-1),
    missing: p.bands[id].filter(({ opening }) => !openings.some((o) => o.equals(exact(opening)))).map(({ opening }) => opening),
    steep: id === 'fine' && passing.some((v, i) => i > 0 && passing[i - 1]!.sub(v).compare(exact(p.neighboursMost)) > 0),
  };
}

/** Results of whatever is held against a band. */
export const BAND_RESULTS = {
  inside: { label: 'Within the band', symbol: 'inside', units: { si: '1', us: '1' }, words: { yes: 'yes', no: 'no' } },
  above: { label: 'Above the band on', symbol: 'above', units: { si: '1', us: '1' } },
  below: { label: 'Below the band on', symbol: 'below', units: { si: '1', us: '1' } },
} as const;

interface Says {
  says: (id: 'inside' | 'above' | 'below', words: readonly string[]) => void;
  note: (code: 'band-sieves-missing' | 'too-much-between' | 'outside-band', params: Readonly<Record<string, string>>) => void;
}

/** Says of a run how it lies against a band. */
export function sayAgainst(r: Says, id: BandId, against: AgainstBand, p: BandParams): void {
  const { above, below, missing, steep } = against;
  if (above.length + below.length > 0)
    r.note('outside-band', { band: BAND_LABELS[id].toLowerCase(), above: above.join(', '), below: below.join(', ') });
  if (missing.length > 0) r.note('band-sieves-missing', { sieves: missing.join(', ') });
  if (steep) r.note('too-much-between', { most: p.neighboursMost });
  r.says('above', above);
  r.says('below', below);
  r.says('inside', [above.length + below.length === 0 && !steep ? 'yes' : 'no']);
}
