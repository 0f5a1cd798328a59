import { convert, type System } from '../../units/units.js';
import { read, type Keyed } from '../../units/reading.js';
import { Exact } from '../../numbers/value.js';
import { FILLINGS, fillingWords, RODS, SIZES, type Filling, type SpecimenSize, type Way } from './consolidation.js';

/** How one specimen is filled. */
export interface Molding {
  readonly way: Way;
  readonly words: string;
  readonly rod: string | null;
  /** None where it is not filled in layers. */
  readonly layers: number | null;
  /** Strokes, or insertions, of each layer; none where the method gives no number. */
  readonly each: number | null;
  /** What is done to a layer: `25 strokes`. */
  readonly layer: string;
}

/** A mold that the methods name, by its sizes in each system. */
export interface Mold {
  readonly id: SpecimenSize;
  readonly shape: 'cylinder' | 'cube' | 'beam';
  readonly label: string;
  readonly width: Readonly<Record<System, string>>;
  readonly length: Readonly<Record<System, string>>;
  /** Of these so many make a strength test at one age: ASTM C39, ACI 318; EN 12390-3 and IS 516 for cubes. */
  readonly companions: number;
}

const mold = (id: SpecimenSize, shape: Mold['shape'], companions: number, width: [string, string], length = width): Mold => ({
  id,
  shape,
  label: SIZES[id],
  width: { si: width[0], us: width[1] },
  length: { si: length[0], us: length[1] },
  companions,
});

/** mm and in. */
export const MOLDS: readonly Mold[] = [
  mold('cylinder-4x8', 'cylinder', 3, ['100', '4'], ['200', '8']),
  mold('cylinder-6x12', 'cylinder', 2, ['150', '6'], ['300', '12']),
  mold('cube-150', 'cube', 3, ['150', '6']),
  mold('cube-100', 'cube', 3, ['100', '4']),
  mold('beam', 'beam', 2, ['150', '6'], ['500', '20']),
];

/** Widths nearer to one than this, mm, are that mold: 4 in and 100 mm are one size, and 6 in and 150 mm. */
const NEAR = 5;

/** C31: of a beam one stroke for each 14 cm² of its top, mm². */
const AREA_PER_STROKE = 1400;

function layerWords(way: Way, each: number | null): string {
  if (each === null) return way === 'rod' ? 'rod it' : 'vibrate it';
  return `${each} ${way === 'rod' ? 'stroke' : 'insertion'}${each === 1 ? '' : 's'}`;
}

function mm(keyed: Keyed | null | undefined): number | null {
  const value = keyed && read(keyed, 'length');
  return value instanceof Exact ? Number(convert(value, keyed!.unit as 'mm', 'mm').valueOf()) : null;
}

/**
 * How specimens of a set are filled, rodded first; nothing for a mold that the methods do not name.
 * @param ways those that the slump allows; both where it is not known
 */
export function moldingsOf(shape: string, width: Keyed | null, length: Keyed | null, ways: readonly Way[] = ['rod', 'vibrate']): Molding[] {
  const [wide, long] = [mm(width), mm(length)];
  const size = wide === null ? undefined : MOLDS.find((m) => m.shape === shape && Math.abs(Number(m.width.si) - wide) <= NEAR)?.id;
  if (size === undefined) return [];
  return ways.map((way) => {
    const filling: Filling = FILLINGS[size][way];
    const byArea = size === 'beam' && way === 'rod' && long !== null ? Math.ceil((wide! * long) / AREA_PER_STROKE) : null;
    return {
      way,
      words: fillingWords(size, way, filling),
      rod: way === 'rod' ? (RODS[size] ?? null) : null,
      layers: filling.layers,
      each: filling.each ?? byArea,
      layer: layerWords(way, filling.each ?? byArea),
    };
  });
}
