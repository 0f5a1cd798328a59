import { seeded } from '../../numbers/seeded.js';
import type { System } from '../../units/units.js';
import { method, qty, type Citation } from '../definition.js';

const ACI: Citation = { designation: 'ACI 318', edition: '2019', part: 'frequency of testing' };
const D3665: Citation = { designation: 'ASTM D3665', edition: '2012', part: 'random sampling' };

type FrequencyParams = { volume: Record<System, string>; area: Record<System, string>; leastInAll: string };

const count = (symbol: string, label: string, optional = false) =>
  qty('ratio', symbol, label, { si: '1', us: '1' }, { optional, possible: { unit: '1', least: '0', most: '100000' } });

export const samplingFrequency = method({
  id: 'sampling-frequency',
  title: 'How many samples',
  names: ['sampling frequency', 'how many samples', 'number of strength tests'],
  follows: [ACI],
  about: 'Strength tests of a class in a day: the most of once a day, by volume and by area; and at least five in all, or each batch.',
  fields: {
    volume: qty(
      'volume',
      'V',
      'Concrete of the class that day',
      { si: 'm3', us: 'yd3' },
      { takes: 'pour.planned', possible: { unit: 'm3', above: '0', most: '100000' } },
    ),
    area: qty(
      'area',
      'A',
      'Surface of slabs or walls',
      { si: 'm2', us: 'ft2' },
      { optional: true, possible: { unit: 'm2', least: '0', most: '1000000' } },
    ),
    taken: count('n', 'Tests of the class before that day', true),
    batches: count('N', 'Batches of the class in all', true),
  },
  on: ['pour'],
  gives: { day: { as: 'test.samples', to: 'item' } },
  results: {
    day: { label: 'Tests that day', symbol: 'tests', units: { si: '1', us: '1' }, main: true },
    short: { label: 'Still short of the least in all, that day’s counted', symbol: 'short', units: { si: '1', us: '1' } },
  },
  variants: {
    aci318: {
      label: 'each day, 110 m³ (150 yd³), 460 m² (5000 ft²)',
      source: ACI,
      params: {
        volume: { si: '110', us: '150' },
        area: { si: '460', us: '5000' },
        leastInAll: '5',
      } satisfies FrequencyParams as FrequencyParams,
    },
  },
  steps: [
    { text: 'Other codes ask for other numbers. Air and slump with every strength sample, and whenever the concrete seems to change.' },
  ],
  example: { volume: '310 m3', area: '720 m2', taken: '1', batches: '48' },
  run(r) {
    const { c, p, system } = r;
    const volume = r.need('volume', system === 'us' ? 'yd3' : 'm3');
    if (volume === null) return;
    const area = r.have('area', system === 'us' ? 'ft2' : 'm2');
    const needs = [
      c.value(c.div(volume, c.num(p.volume[system]))).ceil(),
      ...(area === null ? [] : [c.value(c.div(area, c.num(p.area[system]))).ceil()]),
    ];
    const day = needs.reduce((most, n) => (n.compare(most) > 0 ? n : most));
    const today = c.num(day.compare(1) > 0 ? day.toString() : '1');
    r.result('day', today, '1', { '1': '1' });
    const [taken, batches] = [r.have('taken', '1'), r.have('batches', '1')];
    if (taken === null) return;
    const least = batches !== null && c.value(batches).compare(5) < 0 ? batches : c.num(p.leastInAll);
    const short = c.sub(least, c.add(taken, today));
    r.result('short', c.value(short).compare(0) > 0 ? short : c.num('0'), '1', { '1': '1' });
  },
});

/** A whole number below `below`, each equally likely: a draw that would favour some is thrown away. */
function fairly(source: Generator<number, never>, below: number): number {
  const fair = 2 ** 32 - (2 ** 32 % below);
  for (;;) {
    const n = source.next().value;
    if (n < fair) return n % below;
  }
}

/**
 * Loads of 1 … `loads` to sample: one at random in each of `take` equal sublots, so that no stretch goes
 * without (D3665); then spares from all that are left, in the order drawn.
 */
export function drawLoads(loads: number, take: number, seed: number, spares = 0): { readonly picks: number[]; readonly spares: number[] } {
  const source = seeded(seed);
  const start = (k: number): number => Math.floor((k * loads) / take);
  const picks = Array.from({ length: take }, (_p, k) => start(k) + 1 + fairly(source, start(k + 1) - start(k)));
  const left = Array.from({ length: loads }, (_l, i) => i + 1).filter((n) => !picks.includes(n));
  const drawn: number[] = [];
  while (drawn.length < spares && left.length > 0) drawn.push(...left.splice(fairly(source, left.length), 1));
  return { picks, spares: drawn };
}

export const randomLoads = method({
  id: 'random-loads',
  title: 'Which loads, at random',
  names: ['random loads', 'random sampling', 'which load', 'D3665'],
  follows: [D3665],
  about: 'Loads to sample, drawn before the pour with a seed that is recorded; spares in case a load is missed.',
  fields: {
    loads: qty('ratio', 'N', 'Loads expected', { si: '1', us: '1' }, { possible: { unit: '1', least: '1', most: '5000' } }),
    samples: qty(
      'ratio',
      'n',
      'Samples wanted',
      { si: '1', us: '1' },
      { takes: 'test.samples', possible: { unit: '1', least: '1', most: '1000' } },
    ),
    spares: qty('ratio', 'k', 'Spares', { si: '1', us: '1' }, { optional: true, possible: { unit: '1', least: '0', most: '1000' } }),
    seed: qty(
      'ratio',
      'seed',
      'Seed, recorded',
      { si: '1', us: '1' },
      { hint: 'any whole number, before the first load', possible: { unit: '1', least: '0', most: '4294967295' } },
    ),
  },
  on: ['pour'],
  results: {
    sample: { label: 'Sample loads', symbol: 'loads', units: { si: '1', us: '1' }, main: true },
    spares: { label: 'Spares', symbol: 'spares', units: { si: '1', us: '1' } },
  },
  variants: { d3665: { label: 'one in each of equal sublots, every load of it equally likely', source: D3665, params: {} } },
  steps: [{ text: 'Not “that one looks wet”: another load may be tested as well, and is noted as tested by choice.' }],
  example: { loads: '48', samples: '4', spares: '2', seed: '2611' },
  run(r) {
    const { c } = r;
    const [loads, samples, seed, spares] = [r.need('loads', '1'), r.need('samples', '1'), r.need('seed', '1'), r.have('spares', '1')];
    if (loads === null || samples === null || seed === null) return;
    const whole = [loads, samples, seed, ...(spares === null ? [] : [spares])].map((v) => c.value(v));
    if (whole.some((v) => !v.isWhole())) return r.refuse('not-whole', 'loads');
    const [n, take, from, more = 0] = whole.map((v) => v.valueOf()) as [number, number, number, number?];
    if (take > n) return r.refuse('more-than-loads', 'samples', { loads: String(n) });
    if (take < 1) return r.missing('samples');
    const drawn = drawLoads(n, take, from, more);
    r.says('sample', drawn.picks.map(String));
    r.says('spares', drawn.spares.map(String));
  },
});
