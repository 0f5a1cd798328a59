/* Sets of cylinders: of trial batches of the deck mix that follow the sand, and of yesterday's pour after a cold night. */
import type { DemoItem } from './months.js';

interface Dice {
  near(mean: number, sigma: number): number;
}

/** One cylinder of 100 mm at an age: MPa as it was meant, load in kN. */
const STRENGTHS: Readonly<Record<number, number>> = { 1: 11.5, 7: 27.5, 28: 38.5 };
const AREA_KN = 8.107;

interface SetPlan {
  readonly key: string;
  readonly in: string;
  /** Day on which it was cast, and when. */
  readonly day: number;
  readonly at: string;
  readonly by: string;
  /** Ages in days; none for a spare. */
  readonly ages: readonly (number | null)[];
  readonly place?: string;
  readonly later?: DemoItem['later'];
}

const on = (day: number, clock: string): string => `day ${day} ${clock}`;
const minutesOn = (clock: string, minutes: number): string => {
  const [h, m] = clock.split(':').map(Number) as [number, number];
  const all = h * 60 + m + minutes;
  return `${String(Math.floor(all / 60)).padStart(2, '0')}:${String(all % 60).padStart(2, '0')}`;
};

function batch(key: string, day: number, at: string): DemoItem {
  return {
    key,
    kind: 'trial-batch',
    mix: 'deck',
    made: on(day, minutesOn(at, 20)),
    by: 'sallow',
    facts: { mixedAt: on(day, at), volume: '30 L' },
  };
}

/** The set, and its cylinders with those that were broken at their ages by now. */
function set(plan: SetPlan, dice: Dice): DemoItem[] {
  const { key, day, at, by } = plan;
  const fetched = { demolded: on(day + 1, '08:10'), cured: on(day + 1, '08:25'), low: '18.5 C', high: '22.0 C' };
  return [
    {
      key,
      kind: 'specimen-set',
      in: plan.in,
      made: on(day, minutesOn(at, 15)),
      by,
      facts: {
        madeAt: on(day, at),
        shape: 'cylinder',
        width: '100 mm',
        length: '200 mm',
        curing: 'standard',
        place: plan.place ?? 'cure box 1',
      },
      later: plan.later ?? { at: on(day + 1, '08:30'), by, facts: fetched },
    },
    ...plan.ages.map((age, i): DemoItem => {
      const broken = age !== null && day + age < 0;
      const strength = dice.near(STRENGTHS[age ?? 28]!, 0.7);
      return {
        key: `${key} ${String.fromCharCode(65 + i)}`,
        kind: 'specimen',
        in: key,
        made: on(day, minutesOn(at, 16 + i)),
        by,
        facts: age === null ? {} : { age: `${age} d` },
        ...(broken
          ? {
              tests: [
                {
                  method: 'cylinder',
                  at: on(day + age, minutesOn(at, 8 * i)),
                  by: 'sallow',
                  readings: {
                    d1: `${(101.5 + dice.near(0, 0.15)).toFixed(2)} mm`,
                    d2: `${(101.5 + dice.near(0, 0.15)).toFixed(2)} mm`,
                    length: '203 mm',
                    load: `${(strength * AREA_KN).toFixed(1)} kN`,
                  },
                },
              ],
            }
          : {}),
      };
    }),
  ];
}

/** In the order in which they are made: what lies in another after it. */
export const specimens = (dice: Dice): DemoItem[] => [
  batch('trial 2', -28, '10:05'),
  ...set({ key: 'set 2', in: 'trial 2', day: -28, at: '10:40', by: 'sallow', ages: [7, 7, 28, 28, 28, null] }, dice),
  batch('trial 3', -7, '09:30'),
  ...set({ key: 'set 3', in: 'trial 3', day: -7, at: '10:10', by: 'sallow', ages: [7, 7, 28, 28, 28, null] }, dice),
  batch('trial 4', -3, '13:10'),
  ...set({ key: 'set 4', in: 'trial 4', day: -3, at: '13:50', by: 'sallow', ages: [7, 7, 28, 28, 28] }, dice),
  // The lamp went out: that night it was too cold in the box at the site hut.
  ...set(
    {
      key: 'set 5',
      in: 'sample span-3-1',
      day: -1,
      at: '08:56',
      by: 'oakhanger',
      ages: [1, 7, 7, 28, 28, 28],
      place: 'cure box 2, at the site hut',
      later: { at: 'minutes -20', by: 'oakhanger', facts: { low: '11.0 C', high: '21.5 C' } },
    },
    dice,
  ),
];
