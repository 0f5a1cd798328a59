/* npm run bench: the core against the bare operation in the same run. Ratios, since machines differ. */
import { evaluate, methodById } from '../src/index.js';

const ROUNDS = 5;

/** Best time of some rounds, ns for one call. */
function best(calls: number, work: (i: number) => unknown): number {
  let least = Infinity;
  let sink = 0;
  for (let round = 0; round < ROUNDS; round++) {
    const since = process.hrtime.bigint();
    for (let i = 0; i < calls; i++) sink += work(i) === null ? 1 : 0;
    least = Math.min(least, Number(process.hrtime.bigint() - since) / calls);
  }
  if (sink < 0) throw new Error('never');
  return least;
}

const density = methodById('density')!;
const inputs = Array.from({ length: 512 }, (_, i) => ({
  full: { text: (19 + i / 1000).toFixed(3), unit: 'kg' as const },
  empty: { text: '3.211', unit: 'kg' as const },
  volume: { text: '7.043', unit: 'L' as const },
}));

const bare = best(200_000, (i) => {
  const x = inputs[i & 511]!;
  return (((Number(x.full.text) - Number(x.empty.text)) / Number(x.volume.text)) * 1000).toFixed(0);
});
const plain = best(20_000, (i) => evaluate(density, inputs[i & 511]!, { variant: 'astm', system: 'si' }));
const working = best(10_000, (i) => evaluate(density, inputs[i & 511]!, { variant: 'astm', system: 'si', working: true }));

const row = (name: string, ns: number) =>
  console.log(`${name.padEnd(44)} ${(ns / 1000).toFixed(2).padStart(9)} µs ${(ns / bare).toFixed(1).padStart(8)} ×`);
row('density, bare doubles with toFixed', bare);
row('density, evaluation', plain);
row('density, evaluation with working', working);
