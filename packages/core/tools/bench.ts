/* npm run bench: the core against the bare operation in the same run. Ratios, since machines differ. */
import { evaluate, methodById, type AnyInputs } from '../src/index.js';

const ROUNDS = 25;

interface Work {
  readonly name: string;
  readonly calls: number;
  readonly work: (i: number) => unknown;
}

let sink = 0;

/** ns for one call, over some calls. */
function time({ calls, work }: Work): number {
  const since = process.hrtime.bigint();
  for (let i = 0; i < calls; i++) sink += work(i) === null ? 1 : 0;
  return Number(process.hrtime.bigint() - since) / calls;
}

const median = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[list.length >> 1]!;

/**
 * Each against the bare work, round by round in turn: a shared machine is twice as fast in one second as in
 * the next, and only what was measured side by side can be divided. Prints the median of time and ratio.
 */
function against(bare: Work, ...works: readonly Work[]): void {
  const rounds = Array.from({ length: ROUNDS }, () => [bare, ...works].map(time));
  [bare, ...works].forEach(({ name }, k) => {
    const ns = median(rounds.map((round) => round[k]!));
    const ratio = median(rounds.map((round) => round[k]! / round[0]!));
    console.log(`${name.padEnd(64)} ${(ns / 1000).toFixed(2).padStart(11)} µs ${ratio.toFixed(1).padStart(8)} ×`);
  });
}

function density(): void {
  const m = methodById('density')!;
  const inputs = Array.from({ length: 512 }, (_, i) => ({
    full: { text: (19 + i / 1000).toFixed(3), unit: 'kg' as const },
    empty: { text: '3.211', unit: 'kg' as const },
    volume: { text: '7.043', unit: 'L' as const },
  }));
  const bare = (i: number): string => {
    const x = inputs[i & 511]!;
    return (((Number(x.full.text) - Number(x.empty.text)) / Number(x.volume.text)) * 1000).toFixed(0);
  };
  // Written out: an object spread at each call would take as long as the evaluation.
  const main = (working: boolean) => (i: number) =>
    evaluate(m, inputs[i & 511]!, { variant: 'astm', system: 'si', working }).results[0]!.reported;
  against(
    { name: 'density, bare doubles with toFixed', calls: 40_000, work: bare },
    { name: 'density, evaluation', calls: 10_000, work: main(false) },
    { name: 'density, evaluation with working', calls: 4_000, work: main(true) },
  );
}

const COUNT = 100_000;

/** Strengths around 37 MPa, the same in every run. */
const makeStrengths = (): string[] => {
  let seed = 2611;
  return Array.from({ length: COUNT }, () => {
    seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648;
    return (33 + (seed / 2_147_483_648) * 9).toFixed(1);
  });
};

const MPa = (text: string) => ({ text, unit: 'MPa' as const });

function acceptance(strengths: readonly string[]): void {
  const m = methodById('aci-acceptance')!;
  const inputs: AnyInputs = { specified: MPa('35'), tests: strengths.map((text) => ({ strength: MPa(text) })) };
  const bare = (): unknown => {
    const x = strengths.map(Number);
    const [fc, floor] = [35, 31.5];
    const [runs, ruleA, ruleB]: [number[], number[], number[]] = [[], [], []];
    for (let i = 2; i < x.length; i++) {
      const mean = (x[i - 2]! + x[i - 1]! + x[i]!) / 3;
      runs.push(mean);
      if (mean < fc) ruleA.push(i + 1);
    }
    for (let i = 0; i < x.length; i++) if (x[i]! < floor) ruleB.push(i + 1);
    return [runs, ruleA, ruleB];
  };
  const work = (): unknown => evaluate(m, inputs, { variant: 'aci318', system: 'si' });
  against(
    { name: 'acceptance of 100 000 strength tests, plain loops', calls: 1, work: bare },
    { name: 'acceptance of 100 000 strength tests, evaluation', calls: 1, work },
  );
}

function statistics(strengths: readonly string[]): void {
  const m = methodById('strength-statistics')!;
  const pairs = Array.from({ length: COUNT / 2 }, (_p, i) => [strengths[2 * i]!, strengths[2 * i + 1]!]);
  const inputs: AnyInputs = { tests: pairs.map((pair) => ({ companions: pair.map((text) => ({ strength: MPa(text) })) })) };
  const bare = (): unknown => {
    const sets = pairs.map((pair) => pair.map(Number));
    const x = sets.map((set) => (set[0]! + set[1]!) / 2);
    const mean = x.reduce((a, b) => a + b, 0) / x.length;
    const s = Math.sqrt(x.reduce((a, b) => a + (b - mean) ** 2, 0) / (x.length - 1));
    const runs = x.slice(2).map((v, i) => (x[i]! + x[i + 1]! + v) / 3);
    const ranges = sets.map((set) => Math.abs(set[0]! - set[1]!));
    const tens = ranges.slice(9).map((_r, i) => ranges.slice(i, i + 10).reduce((a, b) => a + b, 0) / 10);
    let sum = 0;
    const cusum = x.map((v) => (sum += v - mean));
    const range = ranges.reduce((a, b) => a + b, 0) / ranges.length;
    return [mean, s, runs, tens, cusum, range / 1.128];
  };
  const work = (): unknown => evaluate(m, inputs, { variant: 'aci214', system: 'si' });
  against(
    { name: 'statistics of 50 000 pairs, plain loops', calls: 1, work: bare },
    { name: 'statistics of 50 000 pairs, evaluation', calls: 1, work },
  );
}

function gradations(): void {
  const m = methodById('gradation')!;
  const openings = ['9.5', '4.75', '2.36', '1.18', '0.600', '0.300', '0.150', '0.075'];
  const masses = ['0', '12.8', '57.1', '95.3', '128.6', '131.2', '58.9', '15.4'];
  const inputs: AnyInputs = {
    dry: { text: '512.4', unit: 'g' },
    area: { text: '0.0285', unit: 'm2' },
    washed: { text: '503.1', unit: 'g' },
    sieves: openings.map((opening, i) => ({ opening: { text: opening, unit: 'mm' }, retained: { text: masses[i]!, unit: 'g' } })),
    pan: { text: '3.4', unit: 'g' },
  };
  const bare = (): unknown => {
    const dry = Number('512.4');
    let sum = 0;
    const passing = masses.map((text) => (100 - ((sum += Number(text)) / dry) * 100).toFixed(0));
    const limits = openings.map((text) => (Number(text) >= 4.75 ? 2.5 * Number(text) * 0.0285 : 7 * 0.0285));
    let cumulative = 0;
    const fm = masses.slice(0, 7).reduce((total, text) => total + ((cumulative += Number(text)) / dry) * 100, 0) / 100;
    return [passing, limits, fm.toFixed(2), ((dry - sum) / dry) * 100];
  };
  const how = { variant: 'c136', system: 'si' } as const;
  const work = (): unknown => evaluate(m, inputs, how).results.map((r) => r.series?.map((f) => f.reported) ?? r.reported);
  against(
    { name: 'one of 10 000 gradations, plain loops with toFixed', calls: 4_000, work: bare },
    { name: 'one of 10 000 gradations, evaluation and its reported texts', calls: 2_000, work },
  );
}

density();
const strengths = makeStrengths();
acceptance(strengths);
statistics(strengths);
gradations();
if (sink < 0) throw new Error('never');
