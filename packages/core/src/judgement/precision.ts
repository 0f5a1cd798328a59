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

interface Precision {
  readonly source: string;
  readonly note?: string;
  readonly points: readonly Point[];
}

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
    source: 'ASTM C138/C138M-17a, precision',
    points: [{ oneSigma: { 'lb/ft3': '0.65', 'kg/m3': '10.4' }, twoResults: { 'lb/ft3': '1.85', 'kg/m3': '29.6' } }],
  },
  air: {
    source: 'ASTM C231/C231M-22, precision',
    note: 'several operators: no other figure is published',
    points: [{ oneSigma: { '%': '0.28' }, twoResults: { '%': '0.8' } }],
  },
};

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
