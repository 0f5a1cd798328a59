import { seeded } from '../numbers/seeded.js';

/** How a simulated compression machine loads a cylinder. */
export interface Loading {
  /** Diameter of the cylinder, mm. */
  readonly diameter: number;
  /** Stress at which it breaks, MPa. */
  readonly strength: number;
  /** Rate through the latter half, MPa/s; the first half goes at twice that, as a hurried operator drives it. */
  readonly rate: number;
  readonly seed: number;
}

const STEP_S = 2;
/** The gauge's last digit, kN, and its noise. */
const GAUGE_KN = 0.5;
const NOISE_KN = 0.8;

/** Time (s) and load (kN) of a simulated break, as a machine's display would be written down every two seconds. */
export function simulatedTrace({ diameter, strength, rate, seed }: Loading): { time: number; load: number }[] {
  const area = (Math.PI * diameter ** 2) / 4;
  const source = seeded(seed);
  const trace: { time: number; load: number }[] = [];
  let stress = 0;
  for (let time = 0; stress < strength; time += STEP_S) {
    const noise = time === 0 ? 0 : (source.next().value / 2 ** 32 - 0.5) * 2 * NOISE_KN;
    const load = Math.max(0, (Math.min(stress, strength) * area) / 1000 + noise);
    trace.push({ time, load: Math.round(load / GAUGE_KN) * GAUGE_KN });
    stress += rate * STEP_S * (stress < strength / 2 ? 2 : 1);
  }
  // It breaks between two looks at the display, and the load falls away.
  const last = trace.at(-1)!;
  trace.push({ time: last.time + STEP_S, load: Math.round((last.load * 0.3) / GAUGE_KN) * GAUGE_KN });
  return trace;
}

/** A series of strength tests of a production, MPa to 0.1: normal about its mean, which sinks by `drift` from the middle on. */
export function simulatedSeries(count: number, mean: number, deviation: number, drift: number, seed: number): string[] {
  const source = seeded(seed);
  const uniform = (): number => (source.next().value + 0.5) / 2 ** 32;
  return Array.from({ length: count }, (_t, i) => {
    const normal = Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
    return (mean - (i >= count / 2 ? drift : 0) + deviation * normal).toFixed(1);
  });
}
