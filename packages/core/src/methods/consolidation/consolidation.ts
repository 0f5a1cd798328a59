import { exact } from '../../numbers/exact.js';
import type { System } from '../../units/units.js';
import { method, pick, qty, type Citation } from '../definition.js';

const C138: Citation = { designation: 'ASTM C138/C138M', edition: '2023' };
const C31: Citation = { designation: 'ASTM C31/C31M', edition: '2024' };

type Use = 'measure' | 'specimen';
export type Way = 'rod' | 'vibrate';
export const WAY_WORDS: Readonly<Record<Way, string>> = { rod: 'Rodded', vibrate: 'Vibrated' };
export type SpecimenSize = 'cylinder-4x8' | 'cylinder-6x12' | 'beam' | 'cube-100' | 'cube-150';

/** Above `rodAbove` only rodding; from `rodFrom` up either; below it only vibration. */
type Span = { rodFrom: string; rodAbove: string | null };

type ConsolidationParams = {
  unit: Record<System, 'mm' | 'in'>;
  use: Record<Use, Record<System, Span>>;
  /** How a measure or a specimen of a size is filled. */
  how: Record<'measure' | SpecimenSize, Record<Way, Filling>>;
};

/** Layers, and in each so many strokes or insertions; null where they follow from its surface or its length. */
export type Filling = {
  layers: number | null;
  each: number | null;
};

const rodded = (layers: number, each: number | null): Filling => ({ layers, each });
const vibrated = (layers: number | null, each: number | null): Filling => ({ layers, each });

export const FILLINGS: ConsolidationParams['how'] = {
  measure: { rod: rodded(3, null), vibrate: vibrated(2, 3) },
  'cylinder-4x8': { rod: rodded(2, 25), vibrate: vibrated(2, 1) },
  'cylinder-6x12': { rod: rodded(3, 25), vibrate: vibrated(2, 2) },
  beam: { rod: rodded(2, null), vibrate: vibrated(null, null) },
  'cube-100': { rod: rodded(2, 25), vibrate: vibrated(2, null) },
  'cube-150': { rod: rodded(3, 35), vibrate: vibrated(2, null) },
};

const WORDS = ['no', 'one', 'two', 'three', 'four', 'five'];
const inWords = (n: number): string => WORDS[n] ?? String(n);
const TAPS = '10 to 15 taps after each';

/** The rod of a specimen; a measure has that of its own method. */
export const RODS: Partial<Record<'measure' | SpecimenSize, string>> = {
  'cylinder-4x8': 'the 10 mm (3/8 in) rod',
  'cylinder-6x12': 'the 16 mm (5/8 in) rod',
};
const BY_SIZE: Partial<Record<'measure' | SpecimenSize, string>> = {
  measure: 'strokes by the size of the measure',
  beam: 'a stroke for each 14 cm² (2 in²) of top surface',
};

/** `Rod: two layers, 25 strokes each with the 10 mm (3/8 in) rod, 10 to 15 taps after each.` */
export function fillingWords(what: 'measure' | SpecimenSize, way: Way, { layers, each }: Filling): string {
  const count = layers === null ? '' : `${inWords(layers)} ${what === 'measure' ? 'equal ' : ''}layers`;
  if (way === 'rod') {
    const rod = RODS[what] === undefined ? '' : ` with ${RODS[what]}`;
    const strokes = each === null ? BY_SIZE[what] : `${each} strokes each${rod}`;
    return `Rod: ${[count, strokes, TAPS].filter(Boolean).join(', ')}${what === 'beam' ? '; spade the sides' : ''}.`;
  }
  if (layers === null) return 'Vibrate: along the middle of the length, until the surface turns smooth.';
  const insertions = each === null ? '' : `${inWords(each)} insertion${each === 1 ? '' : 's'} each`;
  return `Vibrate: ${[count, insertions, what === 'measure' ? 'until the surface turns smooth' : ''].filter(Boolean).join(', ')}.`;
}

export const SIZES: Readonly<Record<SpecimenSize, string>> = {
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
        how: FILLINGS,
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
      allowed.map((way) => fillingWords(what, way, p.how[what][way])),
    );
  },
});
