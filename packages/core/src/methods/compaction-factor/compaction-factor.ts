import { brief, decimalsOf, exact, fixed, reported, toStep, type Exact } from '../../numbers/exact.js';
import { method, qty, type Citation, type Run } from '../definition.js';
import { startWithin5 } from '../composite/windows.js';

const IS: Citation = { designation: 'IS 1199-2', edition: '2018' };
const BS: Citation = { designation: 'EN 12350-4', edition: '2019', part: 'other compactability test, for comparison' };

type FactorParams = { least: string; most: string; increments: { '1': string } };

const mass = { possible: { unit: 'kg', above: '0', most: '200' }, plausible: { unit: 'kg', least: '1', most: '60' } } as const;

const fields = {
  empty: qty('mass', 'W', 'Cylinder, empty', { si: 'kg', us: 'lb' }, mass),
  partial: qty('mass', 'W1', 'Cylinder with concrete that fell', { si: 'kg', us: 'lb' }, mass),
  full: qty('mass', 'W2', 'Cylinder, fully compacted', { si: 'kg', us: 'lb' }, mass),
  stated: qty(
    'ratio',
    'CF',
    'Factor written down elsewhere',
    { si: '1', us: '1' },
    { optional: true, minor: true, possible: { unit: '1', least: '-5', most: '5' } },
  ),
};

/** Which slip explains a factor that cannot be, or a factor that somebody else wrote down. */
export type Finding = 'ok' | 'below_range' | 'masses_swapped' | 'agrees' | 'numerator_between_full_masses' | 'unexplained';

const FINDINGS: Readonly<Record<Finding, string>> = {
  ok: 'as it should be',
  below_range: 'below what the test can give',
  masses_swapped: 'the two masses were exchanged',
  agrees: 'the stated factor is right',
  numerator_between_full_masses: 'the numerator was taken between the two full masses',
  unexplained: 'the stated factor is not explained by a known slip',
};

export const compactionFactor = method({
  id: 'compaction-factor',
  on: ['sample'],
  kit: 'balance',
  way: { of: 'consistency' },
  title: 'Compaction factor',
  names: ['compaction factor', 'compacting factor', 'CF', 'two hoppers'],
  follows: [IS, BS],
  about: 'Concrete that fell through two hoppers, against the same cylinder fully compacted: for stiff mixes, where slump is blind.',
  fields,
  results: {
    factor: { label: 'Compaction factor', symbol: 'CF', units: { si: '1', us: '1' }, property: 'compaction-factor', main: true },
    asKeyed: { label: 'With the masses as keyed', symbol: 'CF', units: { si: '1', us: '1' } },
    swapped: { label: 'With the two masses exchanged', symbol: 'CF’', units: { si: '1', us: '1' } },
    finding: { label: 'What explains it', symbol: 'finding', units: { si: '1', us: '1' }, words: FINDINGS },
  },
  variants: {
    is: {
      label: 'partial over full, to 0.01',
      source: IS,
      params: { least: '0.6', most: '1', increments: { '1': '0.01' } } satisfies FactorParams as FactorParams,
    },
  },
  steps: [
    { text: 'Fill the upper hopper gently; open its door; when it has fallen, the lower one’s. Strike off level, wipe, weigh.' },
    { text: 'A filled cylinder is about 20 kg: lift with two. Gloves, eyes covered: fresh paste burns.', caution: true },
    { text: 'Empty, refill in layers rammed or vibrated to full compaction, weigh again.' },
  ],
  windows: [startWithin5(IS, 'Compaction factor started')],
  example: { empty: '8.12 kg', partial: '19.05 kg', full: '20.31 kg', stated: '-0.10' },
  run(r) {
    const { c, p } = r;
    const [empty, partial, full] = [r.need('empty', 'kg'), r.need('partial', 'kg'), r.need('full', 'kg')];
    if (empty === null || partial === null || full === null) return withoutMasses(r);
    if (c.value(partial).compare(c.value(empty)) <= 0) return r.refuse('lighter-filled', 'partial');
    if (c.value(full).compare(c.value(empty)) <= 0) return r.refuse('lighter-filled', 'full');
    const factor = c.name('CF', c.div(c.sub(partial, empty), c.sub(full, empty)), '1');
    const value = c.value(factor);
    const found = reported(value, p.increments['1']);
    if (value.compare(exact(p.most)) > 0) {
      r.result('asKeyed', factor, '1', p.increments);
      r.result('swapped', c.name('CF’', c.div(c.sub(full, empty), c.sub(partial, empty)), '1'), '1', p.increments);
      r.refuse('factor-above-one', 'partial', { factor: found });
      return r.says('finding', ['masses_swapped']);
    }
    r.result('factor', factor, '1', p.increments);
    if (value.compare(exact(p.least)) < 0) r.doubt('factor-below', 'partial', { factor: found, least: p.least });
    r.says('finding', [findingOf(r, value)]);
  },
});

/** A factor written down at or below zero was taken between the two full masses, whatever they were: it is the factor less one. */
function withoutMasses<V>(r: Run<typeof fields, FactorParams, V>): void {
  const stated = r.have('stated', '1');
  if (stated === null || r.c.value(stated).sign() > 0) return;
  const given = r.c.value(stated);
  r.says('finding', ['numerator_between_full_masses']);
  r.note('stated-slip', { stated: brief(given, 4), slip: BETWEEN, right: brief(given.add(1), 4) });
}

const BETWEEN = 'the numerator was taken between the two full masses, which gives the factor less one';

/** Recognises the two slips exactly, to the places of the factor that was written down. */
function findingOf<V>(r: Run<typeof fields, FactorParams, V>, factor: Exact): Finding {
  const stated = r.have('stated', '1');
  if (stated === null) {
    return factor.compare(exact(r.p.least)) < 0 ? 'below_range' : 'ok';
  }
  const given = r.c.value(stated);
  // To the places that were written down, at the least those of the method.
  const places = Math.max(2, decimalsOf(r.x.stated?.text.trim() ?? ''));
  const place = exact(`1/${10 ** Math.min(places, 12)}`);
  const same = (value: Exact): boolean => toStep(value, place).equals(toStep(given, place));
  if (same(factor)) return 'agrees';
  const slip: Finding = same(factor.inverse()) ? 'masses_swapped' : same(factor.sub(1)) ? 'numerator_between_full_masses' : 'unexplained';
  r.note(slip === 'unexplained' ? 'stated-unexplained' : 'stated-slip', {
    stated: brief(given, 4),
    right: fixed(factor, places),
    slip: slip === 'masses_swapped' ? 'the two masses were exchanged' : BETWEEN,
  });
  return slip;
}
