import { exact, type Exact } from '../numbers/exact.js';
import type { UnitId } from '../units/units.js';

interface Point {
  /** The level at which the figure was found, where it depends on the level. */
  readonly at?: Partial<Record<UnitId, string>>;
  /** 1s, each unit as quoted: not conversions of each other. */
  readonly oneSigma: Partial<Record<UnitId, string>>;
  /** d2s: acceptable range of two results. */
  readonly twoResults: Partial<Record<UnitId, string>>;
}

export interface Precision {
  readonly source: string;
  readonly note?: string;
  readonly points: readonly Point[];
}

/** One figure, at every level. */
const single = (source: string, unit: UnitId, oneSigma: string, twoResults: string): Precision => ({
  source,
  points: [{ oneSigma: { [unit]: oneSigma }, twoResults: { [unit]: twoResults } }],
});

/** Published repeatability. No entry: none is published, and no result is ever called `edge`. */
export const PRECISION: Readonly<Record<string, Precision>> = {
  slump: {
    source: 'ASTM C143/C143M-20, precision',
    points: [
      { at: { in: '1.2', mm: '30.48' }, oneSigma: { in: '0.23', mm: '6' }, twoResults: { in: '0.65', mm: '16' } },
      { at: { in: '3.4', mm: '86.36' }, oneSigma: { in: '0.38', mm: '9' }, twoResults: { in: '1.07', mm: '25' } },
      { at: { in: '6.5', mm: '165.1' }, oneSigma: { in: '0.40', mm: '10' }, twoResults: { in: '1.13', mm: '28' } },
    ],
  },
  temperature: {
    source: 'ASTM C1064/C1064M-23, precision',
    points: [{ oneSigma: { F: '0.5', C: '0.3' }, twoResults: { F: '1.4', C: '0.8' } }],
  },
  density: {
    source: 'ASTM C138/C138M-23, precision',
    points: [{ oneSigma: { 'lb/ft3': '0.65', 'kg/m3': '10.4' }, twoResults: { 'lb/ft3': '1.85', 'kg/m3': '29.6' } }],
  },
  air: {
    source: 'ASTM C231/C231M-22, precision',
    note: 'several operators: no other figure is published',
    points: [{ oneSigma: { '%': '0.28' }, twoResults: { '%': '0.8' } }],
  },
  'coarse-sg-od': single('ASTM C127-15, precision', '1', '0.009', '0.025'),
  'coarse-sg-ssd': single('ASTM C127-15, precision', '1', '0.007', '0.020'),
  'coarse-sg-apparent': single('ASTM C127-15, precision', '1', '0.007', '0.020'),
  'coarse-absorption': single('ASTM C127-15, precision', '%', '0.09', '0.25'),
  'fine-sg-od': single('ASTM C128-22, precision', '1', '0.011', '0.032'),
  'fine-sg-ssd': single('ASTM C128-22, precision', '1', '0.0095', '0.027'),
  'fine-sg-apparent': single('ASTM C128-22, precision', '1', '0.0095', '0.027'),
  'fine-absorption': single('ASTM C128-22, precision', '%', '0.11', '0.31'),
  'wash-fine': single('ASTM C117-23, precision, fine aggregate', '%', '0.15', '0.43'),
  rebound: single('ASTM C805/C805M-18, precision', '1', '2.5', '12'),
};

/** d2s in `unit` for two results of this level; null where none is published. */
export function twoResultsWithin(id: string, a: Exact, b: Exact, unit: UnitId): string | null {
  const points = PRECISION[id]?.points ?? [];
  const middle = a.add(b).div(2);
  // The point nearest in level; a single one holds everywhere.
  const distance = (point: Point): Exact =>
    exact(point.at?.[unit] ?? '0')
      .sub(middle)
      .abs();
  const nearest = [...points].sort((p, q) => distance(p).compare(distance(q)))[0];
  return nearest?.twoResults[unit] ?? null;
}

/**
 * Whether two results are further apart than d2s: then the method's own advice is a third. Null
 * where no figure is published for this result in this unit.
 */
export function furtherThanD2s(id: string, a: Exact, b: Exact, unit: UnitId): boolean | null {
  const d2s = twoResultsWithin(id, a, b, unit);
  return d2s === null ? null : a.sub(b).abs().compare(exact(d2s)) > 0;
}

/**
 * 1s at this level, in `unit`; linear between published levels and held beyond them.
 * Null where none is published for this result in this unit.
 */
export function oneSigma(id: string | undefined, value: Exact, unit: UnitId): Exact | null {
  const points = id === undefined ? undefined : PRECISION[id]?.points;
  if (!points) return null;
  const known = points.flatMap((point) => {
    const sigma = point.oneSigma[unit];
    return sigma === undefined ? [] : [{ at: exact(point.at?.[unit] ?? '0'), sigma: exact(sigma) }];
  });
  const [first, last] = [known[0], known.at(-1)];
  if (!first || !last) return null;
  if (value.compare(first.at) <= 0) return first.sigma;
  for (let i = 1; i < known.length; i++) {
    const [a, b] = [known[i - 1]!, known[i]!];
    if (value.compare(b.at) <= 0) return a.sigma.add(b.sigma.sub(a.sigma).mul(value.sub(a.at)).div(b.at.sub(a.at)));
  }
  return last.sigma;
}
