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
      { possible: { unit: 'm3', above: '0', most: '100000' } },
    ),
    area: qty(
      'area',
      'A',
      'Surface of slabs or walls',
      { si: 'm2', us: 'ft2' },
      { optional: true, possible: { unit: 'm2', least: '0', most: '1000000' } },
    ),
    taken: count('n', 'Tests of the class so far', true),
    batches: count('N', 'Batches of the class in all', true),
  },
  results: {
    day: { label: 'Tests that day', symbol: 'tests', units: { si: '1', us: '1' }, main: true },
    short: { label: 'Still short of the least in all', symbol: 'short', units: { si: '1', us: '1' } },
  },
  variants: {
    aci318: {
      label: 'each day, 110 m³ (150 yd³), 460 m² (5000 ft²)',
      source: ACI,
      params: { volume: { si: '110', us: '150' }, area: { si: '460', us: '5000' }, leastInAll: '5' } as FrequencyParams,
    },
  },
  steps: [],
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
    r.result('day', c.num(day.compare(1) > 0 ? day.toString() : '1'), '1', { '1': '1' });
    const [taken, batches] = [r.have('taken', '1'), r.have('batches', '1')];
    if (taken === null) return;
    const least = batches !== null && c.value(batches).compare(5) < 0 ? batches : c.num(p.leastInAll);
    const short = c.sub(least, taken);
    r.result('short', c.value(short).compare(0) > 0 ? short : c.num('0'), '1', { '1': '1' });
  },
});

/** `take` different loads of 1 … `loads`, in the order drawn. Each is equally likely: a draw that would favour some is thrown away. */
export function drawLoads(loads: number, take: number, seed: number): number[] {
  const left = Array.from({ length: loads }, (_l, i) => i + 1);
  const drawn: number[] = [];
  const source = seeded(seed);
  while (drawn.length < take && left.length > 0) {
    const fair = 2 ** 32 - (2 ** 32 % left.length);
    const n = source.next().value;
    if (n < fair) drawn.push(...left.splice(n % left.length, 1));
  }
  return drawn;
}

export const randomLoads = method({
  id: 'random-loads',
  title: 'Which loads, at random',
  names: ['random loads', 'random sampling', 'which load', 'D3665'],
  follows: [D3665],
  about: 'Loads to sample, drawn before the pour with a seed that is recorded; spares in case a load is missed.',
  fields: {
    loads: count('N', 'Loads expected'),
    samples: count('n', 'Samples wanted'),
    spares: count('k', 'Spares', true),
    seed: qty('ratio', 'seed', 'Seed, recorded', { si: '1', us: '1' }, { possible: { unit: '1', least: '0', most: '4294967295' } }),
  },
  results: {
    sample: { label: 'Sample loads', symbol: 'loads', units: { si: '1', us: '1' }, main: true },
    spares: { label: 'Spares', symbol: 'spares', units: { si: '1', us: '1' } },
  },
  variants: { d3665: { label: 'every load equally likely', source: D3665, params: {} } },
  steps: [{ text: 'Not “that one looks wet”: testing another load as well is allowed, and marked as by choice.' }],
  run(r) {
    const { c } = r;
    const [loads, samples, seed, spares] = [r.need('loads', '1'), r.need('samples', '1'), r.need('seed', '1'), r.have('spares', '1')];
    if (loads === null || samples === null || seed === null) return;
    const whole = [loads, samples, seed, ...(spares === null ? [] : [spares])].map((v) => c.value(v));
    if (whole.some((v) => !v.isWhole())) return r.refuse('not-whole', 'loads');
    const [n, take, from, more = 0] = whole.map((v) => v.valueOf()) as [number, number, number, number?];
    if (take > n) return r.refuse('more-than-loads', 'samples', { loads: String(n) });
    const drawn = drawLoads(n, Math.min(n, take + more), from);
    r.says(
      'sample',
      drawn
        .slice(0, take)
        .sort((a, b) => a - b)
        .map(String),
    );
    r.says('spares', drawn.slice(take).map(String));
  },
});
