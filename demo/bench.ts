/* Runs at the bench as they stand now: one that may be drained, one that soaks on, one in the oven, one back in the water, one washed. */
import type { DemoItem } from './months.js';

/** Before now, in minutes. */
const ago = (hours: number): string => `minutes ${-Math.round(hours * 60)}`;

function run(key: string, of: string, job: string, by: string, mass: string, steps: Readonly<Record<string, number>>): DemoItem {
  const rows = Object.entries(steps).map(([step, hours]) => ({ step, at: ago(hours) }));
  const last = Math.min(...Object.values(steps));
  return { key, kind: 'portion', in: of, made: ago(last), by, facts: { mass, run: job, steps: rows } };
}

/** @param week the newest one of the sand’s and of the stone’s field samples */
export const benchRuns = (sand: string, stone: string): DemoItem[] => [
  run('run sand drained', sand, 'fine-aashto', 'sallow', '1105 g', { oven: 27, dry: 23, soak: 16.6 }),
  run('run sand soaking', sand, 'fine-aashto', 'sallow', '1090 g', { oven: 20, dry: 16, soak: 12.2 }),
  run('run stone drying', stone, 'bulk', 'oakhanger', '9400 g', { oven: 1.2 }),
  run('run stone gravity', stone, 'coarse-aashto', 'oakhanger', '3120 g', { oven: 26, dry: 21, soak: 16.4, back: 0.2 }),
  run('run sand washed', sand, 'wash-sieve', 'sallow', '522 g', { oven: 8, dry: 6, washed: 1.4 }),
];
