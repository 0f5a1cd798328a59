import { brief, exact, type Exact } from '../../numbers/exact.js';
import { convert } from '../../units/units.js';
import { method, pick, qty, rows, text } from '../definition.js';
import { leastFor, largestFor, NOMINAL, TESTS } from './least-mass.js';
import { C702, R76 } from './reduction.js';

/**
 * A branch in the tree of halves: '' is the bulk, 'L' its left half, 'LR' the right half of that.
 * Only codes are made here: which pan is left is the technician's to alternate.
 */
type Branch = string;

/** Whether leaves at these depths fit into one whole: Σ 2⁻ⁿ ≤ 1. */
const fit = (depths: readonly number[]): boolean => depths.reduce((sum, d) => sum + 2 ** -d, 0) <= 1;

/**
 * Hands out branches at these depths so that none lies within another, shallow ones first; and what
 * is left over, which is kept. Null when the depths ask for more than the whole.
 */
export function branches(depths: readonly number[]): { leaves: Branch[]; kept: Branch[] } | null {
  if (!fit(depths)) return null;
  const leaves: Branch[] = depths.map(() => '');
  /** Free branches by their depth. */
  const free: Branch[][] = [['']];
  const order = depths.map((_d, i) => i).sort((a, b) => depths[a]! - depths[b]! || a - b);
  for (const i of order) {
    const depth = depths[i]!;
    // The deepest free branch that is shallow enough: the larger splits stay whole.
    let at = Math.min(depth, free.length - 1);
    while (at > 0 && !free[at]?.length) at--;
    let branch = free[at]!.shift()!;
    while (branch.length < depth) {
      (free[branch.length + 1] ??= []).push(`${branch}R`);
      branch += 'L';
    }
    leaves[i] = branch;
  }
  return { leaves, kept: free.flatMap((level) => level?.sort() ?? []) };
}

export const reductionTree = method({
  id: 'reduction-tree',
  on: ['field-sample'],
  title: 'One bulk for several tests',
  names: ['reduction tree', 'splits', 'several tests', 'sample plan', 'reduction plan'],
  follows: [C702, R76],
  about:
    'Which split of a bulk feeds which test, each halved as often as its least mass allows, and which splits are kept until all tests are accepted.',
  panel: 'tree',
  fields: {
    bulk: qty(
      'mass',
      'M',
      'Bulk',
      { si: 'kg', us: 'lb' },
      {
        takes: 'field.mass',
        possible: { unit: 'kg', least: '0.01', most: '2000' },
        plausible: { unit: 'kg', least: '0.5', most: '1000' },
        typical: { text: '40', unit: 'kg' },
      },
    ),
    nominal: { ...NOMINAL, takes: 'source.nominal' },
    leaves: rows(
      'Tests that it must feed',
      {
        test: pick('Test', {
          c566: TESTS.c566,
          c117: TESTS.c117,
          c136: TESTS.c136,
          c127: TESTS.c127,
          c128: 'Fine specific gravity',
          other: 'Other',
        }),
        note: text('Note', { optional: true }),
        least: qty(
          'mass',
          'm',
          'Least mass, where the lab wants more',
          { si: 'kg', us: 'lb' },
          { optional: true, possible: { unit: 'kg', least: '0.01', most: '500' } },
        ),
        weighed: qty(
          'mass',
          'w',
          'Weighed',
          { si: 'kg', us: 'lb' },
          { optional: true, possible: { unit: 'kg', above: '0', most: '2000' } },
        ),
      },
      { most: 40 },
    ),
  },
  results: {
    splits: { label: 'Split', symbol: 'split', units: { si: '1', us: '1' }, along: 'leaves', main: true },
    cuts: { label: 'Cuts', symbol: 'n', units: { si: '1', us: '1' }, along: 'leaves' },
    least: { label: 'Least mass', symbol: 'm', units: { si: 'kg', us: 'lb' }, along: 'leaves' },
    masses: { label: 'Leaves about', symbol: 'M/2ⁿ', units: { si: 'kg', us: 'lb' }, along: 'leaves' },
    kept: { label: 'Kept until all tests are accepted', symbol: 'kept', units: { si: '1', us: '1' } },
    keptMasses: { label: 'Kept, about', symbol: 'M/2ⁿ', units: { si: 'kg', us: 'lb' } },
    needed: { label: 'Bulk needed', symbol: 'M ≥', units: { si: 'kg', us: 'lb' } },
  },
  variants: {
    halves: {
      label: 'halving, at least the least mass in each',
      source: C702,
      params: { fine: '1', farAbove: '1.7' } satisfies { fine: string; farAbove: string },
    },
  },
  steps: [
    { text: 'Only one pan goes on to the next cut, alternate which; name each kept split and where it is.' },
    { text: 'Never trim to an exact mass: what the last cut leaves is the test sample.' },
    { text: 'Dust: mask. A full pan is heavy: lift with two.', caution: true },
  ],
  example: {
    bulk: '48 kg',
    nominal: '19 mm',
    leaves: [{ test: 'c136' }, { test: 'c117' }, { test: 'c127' }, { test: 'c566' }],
  },
  run(r) {
    const { c, x, p, system } = r;
    const unit = system === 'us' ? 'lb' : 'kg';
    const [bulk, nominal] = [r.need('bulk', unit), r.need('nominal', 'mm')];
    const leaves = x.leaves ?? [];
    if (leaves.length === 0) r.missing('leaves');
    if (nominal === null) return;
    const least = leaves.map(({ test, least: own }, i) => {
      if (own !== null) return r.inRow('leaves', i, 'least', unit, 'm');
      if (test === null || test === 'other') {
        r.missing(`leaves.${i}.${test === null ? 'test' : 'least'}`);
        return null;
      }
      const inBulk = (kg: string) => c.enter(`m${i + 1}`, convert(exact(kg), 'kg', unit), unit);
      if (test === 'c128') return inBulk(p.fine);
      const listed = leastFor(test, c.value(nominal));
      if (listed !== undefined) return inBulk(listed);
      r.refuse('nominal-too-large', 'nominal', { most: largestFor(test) });
      return null;
    });
    const known = least.filter((m) => m !== null);
    if (known.length === 0 || known.length < leaves.length) return;
    r.series('least', known, unit);
    if (bulk === null) return;
    const depths = known.map((m) => depthOf(c.value(bulk), c.value(m)));
    const plan = depths.some((d) => d < 0) ? null : branches(depths);
    if (!plan) {
      // The least bulk, by doubling what the least masses ask for, that feeds them all.
      const needed = needs(known.map((m) => c.value(m)));
      r.result('needed', c.num(needed), unit);
      return r.refuse('bulk-too-small-for-all', 'bulk', { least: `${brief(exact(needed), 4)} ${unit}` });
    }
    const mass = (branch: Branch) => c.div(bulk, c.num(String(2 ** branch.length)));
    r.says('splits', plan.leaves);
    r.series(
      'cuts',
      depths.map((d) => c.num(String(d))),
      '1',
      { '1': '1' },
    );
    const masses = plan.leaves.map(mass);
    r.series('masses', masses, unit);
    r.says('kept', plan.kept);
    r.series('keptMasses', plan.kept.map(mass), unit);
    leaves.forEach((leaf, i) => {
      const weighed = leaf.weighed === null ? null : r.inRow('leaves', i, 'weighed', unit, 'w');
      if (weighed !== null && c.value(weighed).compare(c.value(known[i]!)) < 0)
        r.refuse('leaf-below-least', `leaves.${i}.weighed`, { least: `${brief(c.value(known[i]!), 4)} ${unit}` });
    });
    if (masses.some((m, i) => c.value(m).compare(c.value(known[i]!).mul(exact(p.farAbove))) >= 0)) r.note('far-above-least');
  },
});

/** From the largest bulk to the least mass that may be keyed it is fewer cuts. */
const MOST_CUTS = 20;

/** How often `bulk` may be halved with `least` still left: ⌊log2(M/m)⌋; below zero when it is not even enough whole. */
function depthOf(bulk: Exact, least: Exact): number {
  const ratio = bulk.div(least);
  // The double tells but for a whole power of two: there the exact comparison decides.
  let depth = Math.min(MOST_CUTS + 1, Math.max(-1, Math.floor(Math.log2(ratio.near)) - 1));
  while (depth <= MOST_CUTS && ratio.compare(2 ** (depth + 1)) >= 0) depth++;
  return depth;
}

/** The least bulk for which the leaves fit into one tree, as `n/d` text: one of the least masses, doubled some times. */
function needs(least: readonly Exact[]): string {
  const candidates = least.flatMap((m) => Array.from({ length: MOST_CUTS }, (_d, k) => m.mul(2 ** k))).sort((a, b) => a.near - b.near);
  const enough = (bulk: Exact): boolean => {
    const depths = least.map((m) => depthOf(bulk, m));
    return depths.every((d) => d >= 0) && fit(depths);
  };
  // More bulk is never worse: the first that is enough is found by halving.
  let [low, high] = [0, candidates.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (enough(candidates[middle]!)) high = middle;
    else low = middle + 1;
  }
  return candidates[low]!.toString();
}
