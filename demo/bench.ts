/* Runs at the bench as they stand now: one that may be drained, one that soaks on, one in the oven, one back in the water, one washed. */
import type { DemoItem } from './months.js';

/** Before now, in minutes. */
const ago = (hours: number): string => `minutes ${-Math.round(hours * 60)}`;

function run(key: string, of: string, job: string, by: string, mass: string, steps: Readonly<Record<string, number>>): DemoItem {
  const rows = Object.entries(steps).map(([step, hours]) => ({ step, at: ago(hours) }));
  const last = Math.min(...Object.values(steps));
  return { key, kind: 'portion', in: of, made: ago(last), by, facts: { mass, run: job, steps: rows } };
}

const CUT = 27;
const KEPT = { place: 'shelf 6, until all is accepted' };

/** What a cut of the splitter left. */
const split = (key: string, of: string, mass: string, facts: object): DemoItem => ({
  key,
  kind: 'portion',
  in: of,
  made: ago(CUT),
  by: 'oakhanger',
  facts: { mass, way: 'A', ...facts },
});
const cut = (key: string, of: string, left: readonly [string, object], right: readonly [string, object]): DemoItem[] => [
  split(`${key} left`, of, ...left),
  split(`${key} right`, of, ...right),
];

/** Stone of yesterday, cut down to what its tests need. */
const STONE: DemoItem = {
  key: 'stone of the bench',
  kind: 'field-sample',
  in: 'source stone',
  made: ago(28),
  by: 'oakhanger',
  facts: { takenAt: ago(28.4), from: 'stockpile', increments: '4', nominal: '19 mm', mass: '62.4 kg', place: 'shelf 6' },
};

/** @param sand its newest field sample */
export const benchRuns = (sand: string): DemoItem[] => [
  STONE,
  run('run sand drained', sand, 'fine-aashto', 'sallow', '1105 g', { oven: 27, dry: 23, soak: 16.6 }),
  run('run sand soaking', sand, 'fine-aashto', 'sallow', '1090 g', { oven: 20, dry: 16, soak: 12.2 }),
  ...cut('stone cut 1', STONE.key, ['31.1 kg', {}], ['31.2 kg', KEPT]),
  run('run stone drying', 'stone cut 1 left', 'bulk', 'oakhanger', '15.6 kg', { oven: 1.2 }),
  split('stone cut 2 right', 'stone cut 1 left', '15.4 kg', {}),
  ...cut('stone cut 3', 'stone cut 2 right', ['7.66 kg', {}], ['7.72 kg', KEPT]),
  run('run stone gravity', 'stone cut 3 left', 'coarse-aashto', 'oakhanger', '3.86 kg', { oven: 26, dry: 21, soak: 16.4, back: 0.2 }),
  split('stone moisture', 'stone cut 3 left', '3.77 kg', { for: 'moisture' }),
  run('run sand washed', sand, 'wash-sieve', 'sallow', '522 g', { oven: 8, dry: 6, washed: 1.4 }),
];
