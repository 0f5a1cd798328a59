import { exact } from '../../numbers/exact.js';
import type { System } from '../../units/units.js';
import { method, pick, qty, type Citation } from '../definition.js';

const C138: Citation = { designation: 'ASTM C138/C138M', edition: '2023' };
const C31: Citation = { designation: 'ASTM C31/C31M', edition: '2024' };

type Use = 'measure' | 'specimen';
type Way = 'rod' | 'vibrate';
type Size = 'cylinder-4x8' | 'cylinder-6x12' | 'beam' | 'cube-100' | 'cube-150';

/** Above `rodAbove` only rodding; from `rodFrom` up either; below it only vibration. */
type Span = { rodFrom: string; rodAbove: string | null };

type ConsolidationParams = {
  unit: Record<System, 'mm' | 'in'>;
  use: Record<Use, Record<System, Span>>;
  /** How a measure or a specimen of a size is filled. */
  how: Record<'measure' | Size, Record<Way, string>>;
};

const SIZES: Readonly<Record<Size, string>> = {
  'cylinder-4x8': 'Cylinder 100 × 200 mm (4 × 8 in)',
  'cylinder-6x12': 'Cylinder 150 × 300 mm (6 × 12 in)',
  beam: 'Beam 150 × 150 mm (6 × 6 in)',
  'cube-100': 'Cube 100 mm',
  'cube-150': 'Cube 150 mm',
};

export const consolidation = method({
  id: 'consolidation',
  title: 'Consolidation',
  names: ['consolidation', 'rodding', 'vibration', 'rod or vibrate', 'layers'],
  follows: [C138, C31],
  about:
    'Whether fresh concrete is rodded or vibrated into a measure, an air bowl or a specimen, and in how many layers: its slump picks it.',
  fields: {
    use: pick('What is filled', { measure: 'Density measure or air bowl', specimen: 'Strength specimen' }),
    size: pick('Which specimen', SIZES, { optional: true }),
    slump: qty(
      'length',
      's',
      'Slump',
      { si: 'mm', us: 'in' },
      {
        takes: 'test.slump',
        possible: { unit: 'mm', least: '0', most: '305' },
        plausible: { unit: 'mm', least: '5', most: '260', zero: true },
        typical: { text: '100', unit: 'mm' },
      },
    ),
  },
  results: {
    allowed: { label: 'Allowed', symbol: 'by', units: { si: '1', us: '1' }, drawn: true },
    choice: {
      label: 'Consolidate',
      symbol: 'by',
      units: { si: '1', us: '1' },
      words: { rod: 'by rodding', vibrate: 'by vibrating', either: 'by rodding or by vibrating: either will do' },
      main: true,
    },
    how: { label: 'How', symbol: 'how', units: { si: '1', us: '1' } },
  },
  variants: {
    astm: {
      label: 'by slump: above 75 mm (3 in) rod, below 25 mm (1 in) vibrate',
      source: C138,
      params: {
        unit: { si: 'mm', us: 'in' },
        use: {
          measure: { si: { rodFrom: '25', rodAbove: '75' }, us: { rodFrom: '1', rodAbove: '3' } },
          specimen: { si: { rodFrom: '25', rodAbove: null }, us: { rodFrom: '1', rodAbove: null } },
        },
        how: {
          measure: {
            rod: 'Rod: three equal layers, strokes by the size of the measure, 10 to 15 taps after each.',
            vibrate: 'Vibrate: two equal layers, three insertions each, until the surface turns smooth.',
          },
          'cylinder-4x8': {
            rod: 'Rod: two layers, 25 strokes each with the 10 mm (3/8 in) rod, 10 to 15 taps after each.',
            vibrate: 'Vibrate: two layers, one insertion each.',
          },
          'cylinder-6x12': {
            rod: 'Rod: three layers, 25 strokes each with the 16 mm (5/8 in) rod, 10 to 15 taps after each.',
            vibrate: 'Vibrate: two layers, two insertions each.',
          },
          beam: {
            rod: 'Rod: two layers, a stroke for each 14 cm² (2 in²) of top surface, 10 to 15 taps after each; spade the sides.',
            vibrate: 'Vibrate: along the middle of the length, until the surface turns smooth.',
          },
          'cube-100': { rod: 'Rod: two layers, 25 strokes each, 10 to 15 taps after each.', vibrate: 'Vibrate: two layers.' },
          'cube-150': { rod: 'Rod: three layers, 35 strokes each, 10 to 15 taps after each.', vibrate: 'Vibrate: two layers.' },
        },
      } satisfies ConsolidationParams as ConsolidationParams,
    },
  },
  steps: [
    { text: 'Rod the first layer through its depth without hitting the bottom hard, later ones about 25 mm (1 in) into the one below.' },
    { text: 'Vibrator: keep off the walls and the bottom; stop before the surface froths, entrained air is leaving then.' },
    { text: 'Gloves, eyes covered. Fresh paste burns skin: rinse at once.', caution: true },
  ],
  example: { use: 'measure', slump: '95 mm' },
  further: [{ use: 'specimen', size: 'cylinder-6x12', slump: '60 mm' }],
  run(r) {
    const { x, p, c, system } = r;
    const slump = r.need('slump', p.unit[system]);
    if (x.use === null) r.missing('use');
    if (slump === null || x.use === null) return;
    const { rodFrom, rodAbove } = p.use[x.use][system];
    const value = c.value(slump);
    const allowed: Way[] =
      value.compare(exact(rodFrom)) < 0
        ? ['vibrate']
        : rodAbove !== null && value.compare(exact(rodAbove)) > 0
          ? ['rod']
          : ['rod', 'vibrate'];
    r.says('allowed', allowed);
    r.says('choice', [allowed.length > 1 ? 'either' : allowed[0]!]);
    const what = x.use === 'measure' ? 'measure' : x.size;
    if (what === null) return r.missing('size');
    r.says(
      'how',
      allowed.map((way) => p.how[what][way]),
    );
  },
});
