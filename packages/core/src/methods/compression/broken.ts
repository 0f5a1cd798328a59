import { brief, exact, type Exact } from '../../numbers/exact.js';
import type { Code, Params } from '../../problems.js';
import { unitLabel, type System } from '../../units/units.js';
import type { Calc } from '../calc.js';
import { pick, qty, text } from '../definition.js';

/** What lies between a specimen and the platens. */
export const CAPS = { pads: 'Rubber pads', sulfur: 'Sulfur caps', ground: 'Ground flat' } as const;

/** How a cylinder broke, by the six types of ASTM C39; each has a drawing of its own. */
export const FRACTURES = {
  '1': 'cones at both ends',
  '2': 'cone at one end, splits at the other',
  '3': 'upright splits, no cones',
  '4': 'one slant, no split at the ends',
  '5': 'sides off at one end',
  '6': 'sides off, end pointed',
} as const;

/** Types that speak of the caps and of how it stood before they speak of the concrete. */
const OF_THE_ENDS: readonly string[] = ['5', '6'];

export const defects = text('What was wrong with it', { optional: true, minor: true, hint: 'voids, a broken edge, a crooked end' });

/** Rubber pads by their hardness: for which strengths, and for how many specimens. */
export type PadRange = {
  readonly hardness: string;
  readonly least: Readonly<Record<System, string>>;
  readonly most: Readonly<Record<System, string>>;
  readonly uses: string;
};

/** ASTM C1231/C1231M-2023, table of unbonded pads; the last only with pads that were qualified for it. */
export const PADS: readonly PadRange[] = [
  { hardness: '50', least: { si: '10', us: '1500' }, most: { si: '40', us: '6000' }, uses: '100' },
  { hardness: '60', least: { si: '17', us: '2500' }, most: { si: '50', us: '7000' }, uses: '100' },
  { hardness: '70', least: { si: '28', us: '4000' }, most: { si: '50', us: '7000' }, uses: '100' },
  { hardness: '70', least: { si: '50', us: '7000' }, most: { si: '80', us: '12000' }, uses: '50' },
];

/** On how many specimens pads of a hardness serve at the most, whatever their strength; null for pads that are in no table. */
export function padsServe(hardness: string): number | null {
  const own = PADS.filter((p) => exact(p.hardness).equals(exact(hardness))).map((p) => Number(p.uses));
  return own.length === 0 ? null : Math.max(...own);
}

/** What is keyed of any cylinder that is broken, beside its sizes and its load. */
export const ends = {
  cap: pick('Ends', CAPS, { optional: true, minor: true, usual: 'pads' }),
  hardness: qty(
    'ratio',
    'H',
    'Hardness of the pads',
    { si: '1', us: '1' },
    { from: 'pads.hardness', optional: true, minor: true, possible: { unit: '1', least: '10', most: '100' } },
  ),
  uses: qty(
    'ratio',
    'n',
    'Specimens broken on these pads, with this one',
    { si: '1', us: '1' },
    { from: 'pads.uses', optional: true, minor: true, possible: { unit: '1', least: '1', most: '100000' } },
  ),
  fracture: pick('How it broke', FRACTURES, { optional: true }),
  defects,
};

interface EndsRun<V> {
  readonly c: Calc<V>;
  readonly x: { readonly cap?: string | null | undefined; readonly fracture?: string | null | undefined };
  readonly system: System;
  have(id: 'hardness' | 'uses', unit: '1'): V | null;
  marks(code: Code, params?: Params): void;
  note(code: Code, params?: Params): void;
}

/** Pads that are worn, or too soft or hard for what they were used on; and a fracture that speaks of the ends. */
export function judgeEnds<V>(r: EndsRun<V>, strength: Exact | null, pads: readonly PadRange[]): void {
  const { c, system } = r;
  if (OF_THE_ENDS.includes(r.x.fracture ?? '')) r.note('fracture-of-the-ends', { type: r.x.fracture! });
  if ((r.x.cap ?? 'pads') !== 'pads') return;
  const [hardness, uses] = [r.have('hardness', '1'), r.have('uses', '1')];
  if (hardness === null) return;
  const own = pads.filter((p) => exact(p.hardness).equals(c.value(hardness)));
  const serves = (p: PadRange): boolean =>
    strength === null || (strength.compare(exact(p.least[system])) >= 0 && strength.compare(exact(p.most[system])) <= 0);
  const right = own.find(serves);
  if (strength !== null && !right) {
    const others = [...new Set(pads.filter(serves).map((p) => p.hardness))].join(' or ');
    r.marks('pads-hardness', {
      hardness: brief(c.value(hardness), 3),
      strength: `${brief(strength, 3)} ${unitLabel(system === 'us' ? 'psi' : 'MPa')}`,
      right: others === '' ? 'none' : others,
    });
  }
  // Before its strength is known the pads may be used as often as any of their kind.
  const most = (right ?? own[0])?.uses;
  if (uses !== null && most !== undefined && c.value(uses).compare(exact(most)) > 0)
    r.marks('pads-worn', { uses: brief(c.value(uses), 4), most });
}
