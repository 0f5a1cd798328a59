/* Fifteen weeks before today, on every kind of item: the aggregates from their pits, a trial mix with its breaks and prisms, and the deck that was surveyed. */
import type { Spelled } from '../packages/core/src/index.js';

export interface DemoTest {
  readonly method: string;
  readonly variant?: string;
  readonly at: string;
  readonly by: string;
  readonly readings: Spelled;
  readonly reason?: string;
  /** Kit beside the usual, by its key: what enters the result. */
  readonly also?: readonly string[];
}

export interface DemoItem {
  readonly key: string;
  readonly kind: string;
  readonly in?: string;
  readonly mix?: string;
  readonly name?: string;
  readonly made: string;
  readonly by: string;
  readonly facts: Spelled | Readonly<Record<string, unknown>>;
  /** What was known of it later. */
  readonly later?: { readonly at: string; readonly by: string; readonly facts: Spelled };
  readonly tests?: readonly DemoTest[];
}

const WEEKS = 15;
/** From this week on the sand drinks more than it did: a new face of the pit. */
const SHIFT = 9;
const TRIAL = -84;

interface Dice {
  near(mean: number, sigma: number): number;
}

const g = (value: number): string => `${value.toFixed(1)} g`;

/** Sand in a flask: gravity and absorption as they were meant, read with the scatter of one person. */
function flask(dice: Dice, absorption: number): Spelled {
  const ssd = 500 + dice.near(0, 0.4);
  const dry = ssd / (1 + (absorption + dice.near(0, 0.08)) / 100);
  const gravity = 2.632 - 0.012 * (absorption - 1.3) + dice.near(0, 0.004);
  return { ssd: g(ssd), flaskWater: g(661.8), flaskSample: g(661.8 + ssd - ssd / gravity), dry: g(dry) };
}

function basket(dice: Dice): Spelled {
  const dry = 3000 + dice.near(0, 8);
  const ssd = dry * (1 + (0.9 + dice.near(0, 0.05)) / 100);
  return { dry: g(dry), ssd: g(ssd), inWater: g(ssd - ssd / (2.68 + dice.near(0, 0.004))) };
}

const FINE = { openings: '9.5 4.75 2.36 1.18 0.600 0.300 0.150 0.075', shares: [0, 2.5, 11.1, 18.6, 25.1, 25.6, 11.5, 3] };
const COARSE = { openings: '25 19 12.5 9.5 4.75 2.36', shares: [0, 4, 31, 24, 36, 3.2] };

function sieved(dice: Dice, { openings, shares }: typeof FINE, dry: number, frame: string): Spelled {
  const washed = frame === 'd8' ? dry * (1 - (1.8 + dice.near(0, 0.15)) / 100) : dry;
  const drawn = shares.map((share) => (share === 0 ? 0 : share + dice.near(0, share * 0.03)));
  // What the sieves and the pan hold is what went in, but for a little dust.
  const all = drawn.reduce((sum, share) => sum + share, 0);
  const masses = drawn.map((share) => (share / all) * washed * 0.992);
  return {
    dry: g(dry),
    frame,
    ...(frame === 'd8' ? { washed: g(washed) } : {}),
    sieves: openings.split(' ').map((opening, i) => ({ opening: `${opening} mm`, retained: g(masses[i]!) })),
    pan: g(washed * 0.0072),
  };
}

/** What the wash found is not keyed again for the sieves. */
function washedAndSieved(dice: Dice, at: (clock: string, later?: number) => string, by: string): DemoTest[] {
  const { dry, washed, ...sieves } = sieved(dice, FINE, 512 + dice.near(0, 6), 'd8');
  return [
    { method: 'wash', at: at('11:20', 1), by, readings: { before: dry!, after: washed! } },
    { method: 'gradation', at: at('14:10', 1), by, readings: sieves },
  ];
}

function aggregates(dice: Dice): DemoItem[] {
  const items: DemoItem[] = [
    {
      key: 'source sand',
      kind: 'source',
      name: 'Brackdown sand',
      made: `day -${WEEKS * 7 + 2} 08:00`,
      by: 'oakhanger',
      facts: { pit: 'Brackdown', kind: 'fine', nominal: '4.75 mm' },
    },
    {
      key: 'source stone',
      kind: 'source',
      name: 'Pellick stone, 19 mm',
      made: `day -${WEEKS * 7 + 2} 08:10`,
      by: 'oakhanger',
      facts: { pit: 'Pellick Pit', kind: 'coarse', nominal: '19 mm' },
    },
  ];
  for (let week = 0; week < WEEKS; week++) {
    const day = -7 * (WEEKS - week);
    const at = (clock: string, later = 0): string => `day ${day + later} ${clock}`;
    const by = week % 3 === 1 ? 'sallow' : 'oakhanger';
    items.push(
      {
        key: `sand ${week}`,
        kind: 'field-sample',
        in: 'source sand',
        made: at('07:40'),
        by,
        facts: { takenAt: at('07:30'), from: week % 2 === 0 ? 'stockpile' : 'belt', mass: `${(24 + dice.near(0, 1)).toFixed(1)} kg` },
        tests: [
          ...washedAndSieved(dice, at, by),
          { method: 'fine-gravity', at: at('09:20', 2), by, readings: flask(dice, week < SHIFT ? 1.3 : 2.1) },
          { method: 'moisture', at: at('08:15'), by, readings: { wet: g(1052 + dice.near(0, 6)), dry: g(1010 + dice.near(0, 3)) } },
        ],
      },
      ...(week % 3 === 0
        ? [
            {
              key: `stone ${week}`,
              kind: 'field-sample',
              in: 'source stone',
              made: at('08:20'),
              by,
              facts: { takenAt: at('08:05'), from: 'stockpile', mass: `${(62 + dice.near(0, 2)).toFixed(0)} kg` },
            },
            {
              key: `stone ${week} sieved`,
              kind: 'portion',
              in: `stone ${week}`,
              made: at('10:00'),
              by,
              facts: { mass: '10020 g', for: 'gradation' },
              tests: [{ method: 'gradation', at: at('15:30', 1), by, readings: sieved(dice, COARSE, 10_020 + dice.near(0, 60), 'd12') }],
            },
            {
              key: `stone ${week} gravity`,
              kind: 'portion',
              in: `stone ${week}`,
              made: at('10:05'),
              by,
              facts: { mass: '3030 g', for: 'specific gravity' },
              tests: [{ method: 'coarse-gravity', at: at('10:40', 2), by, readings: basket(dice) }],
            },
          ]
        : []),
    );
  }
  return items;
}

/** The trial of the low-shrinkage mix: breaks at 28 days, prisms read for twelve weeks. */
function trial(dice: Dice): DemoItem[] {
  const at = (days: number, clock: string): string => `day ${TRIAL + days} ${clock}`;
  const prism = (days: number): Spelled => {
    const shrunk = -0.045 * (1 - Math.exp(-days / 30));
    const rows = [2.104, 2.312, 2.251].map((initial) => ({
      initial: `${initial.toFixed(3)} mm`,
      now: `${(initial + 2.5 * (shrunk + dice.near(0, 0.0012))).toFixed(3)} mm`,
    }));
    return { gauge: '250 mm', initialBar: '1.200 mm', bar: `${(1.2 + dice.near(0, 0.001)).toFixed(3)} mm`, prisms: rows };
  };
  return [
    {
      key: 'trial',
      kind: 'trial-batch',
      mix: 'pier',
      made: at(0, '10:30'),
      by: 'sallow',
      facts: { mixedAt: at(0, '10:12'), volume: '40 L' },
      tests: [
        {
          method: 'aggregate-correction',
          at: at(0, '13:40'),
          by: 'sallow',
          readings: { bowl: '7.043 L', batch: '6 m3', fine: '4352 kg', coarse: '6078 kg', reading: '5.4 %', removed: '350 mL' },
        },
      ],
    },
    {
      key: 'trial set',
      kind: 'specimen-set',
      in: 'trial',
      made: at(0, '11:10'),
      by: 'sallow',
      facts: { madeAt: at(0, '11:05'), shape: 'cylinder', width: '100 mm', length: '200 mm', curing: 'standard', place: 'moist room' },
      tests: [{ method: 'companions', variant: 'lab-4x8', at: at(28, '11:30'), by: 'oakhanger', readings: { age: '28 d' } }],
    },
    ...['A', 'B', 'C'].map((letter) => ({
      key: `trial ${letter}`,
      kind: 'specimen',
      in: 'trial set',
      made: at(0, '11:12'),
      by: 'sallow',
      facts: { age: '28 d' },
      tests: [
        {
          method: 'cylinder',
          at: at(28, '10:20'),
          by: 'oakhanger',
          readings: {
            d1: `${(101.5 + dice.near(0, 0.2)).toFixed(2)} mm`,
            d2: `${(101.6 + dice.near(0, 0.2)).toFixed(2)} mm`,
            length: '203 mm',
            // The third one stood on worn pads.
            load: `${(letter === 'C' ? 352 : 392 + dice.near(0, 5)).toFixed(1)} kN`,
          },
        },
      ],
    })),
    {
      key: 'trial prisms',
      kind: 'prism-set',
      in: 'trial',
      made: at(28, '09:05'),
      by: 'sallow',
      facts: { castAt: at(0, '10:12'), gauge: '250 mm', drying: at(28, '09:00') },
      tests: [4, 7, 14, 28, 56].map((days) => ({
        method: 'length-change',
        at: at(28 + days > 84 ? 83 : 28 + days, '09:30'),
        by: 'oakhanger',
        readings: prism(days),
      })),
    },
    { key: 'trial prism A', kind: 'prism', in: 'trial prisms', made: at(28, '09:10'), by: 'sallow', facts: { note: 'studs checked' } },
  ];
}

function survey(dice: Dice): DemoItem[] {
  const impacts = (mean: number): Spelled => ({
    readings: Array.from({ length: 10 }, () => ({ value: Math.round(mean + dice.near(0, 1.6)).toFixed(0) })),
  });
  return [
    {
      key: 'bridge',
      kind: 'structure',
      name: 'Quillmouth footbridge',
      made: 'day -90 09:00',
      by: 'oakhanger',
      facts: { where: 'Over the tidal creek' },
    },
    {
      key: 'span 2',
      kind: 'element',
      in: 'bridge',
      name: 'Deck, span 2',
      made: 'day -90 09:05',
      by: 'oakhanger',
      facts: { kind: 'deck', thickness: '220 mm' },
    },
    ...(['North', 'South'] as const).map((side) => ({
      key: `span 2 ${side}`,
      kind: 'area',
      in: 'span 2',
      name: `${side} half`,
      made: 'day -30 10:00',
      by: 'sallow',
      facts: { extent: '3 m by 2 m' },
      tests: [{ method: 'rebound', at: 'day -30 10:20', by: 'sallow', readings: impacts(side === 'North' ? 40 : 36) }],
    })),
  ];
}

/** In the order in which they are made: what lies in another after it. */
export const months = (dice: Dice): DemoItem[] => [...aggregates(dice), ...trial(dice), ...survey(dice)];
