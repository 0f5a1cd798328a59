import { YIELD_WITHIN } from './cross-checks.js';

/** What is known about a load, each against what was designed or usual. Absent: not known. */
export interface Signs {
  readonly slump?: Level;
  readonly density?: Level;
  readonly yield?: Level;
  readonly wcm?: Level;
  readonly air?: Level;
  readonly temperature?: Level;
  readonly timeInTruck?: Level;
  readonly strength?: Level;
  readonly companions?: 'agree' | 'scatter';
  readonly fracture?: 'usual' | 'odd';
  readonly absorption?: Level;
  readonly gravity?: Level;
  /** 7-day strength against what this mix gives. */
  readonly early?: Level;
  /** Pressure and gravimetric air. */
  readonly airs?: 'agree' | 'apart';
  /** Fineness modulus against its base, ± 0.20. */
  readonly fineness?: 'usual' | 'moved';
  /** Prisms of a set and their reference bar. */
  readonly prisms?: 'apart' | 'together';
  readonly bar?: 'steady' | 'moved';
}

/** How far a figure may be from what it ought to be and still is usual: the rounding of a ticket. */
export const USUAL_WITHIN = { yield: YIELD_WITHIN, wcm: '0.02' } as const satisfies Partial<Record<keyof Signs, string>>;

export type Level = 'low' | 'usual' | 'high';
export type Sign = keyof Signs;

/** What each sign is called. */
export const SIGN_WORDS: Readonly<Record<Sign, string>> = {
  slump: 'slump',
  density: 'density',
  yield: 'yield',
  wcm: 'w/cm',
  air: 'air',
  temperature: 'temperature',
  timeInTruck: 'time in the truck',
  strength: 'strength',
  companions: 'companions',
  fracture: 'fracture',
  absorption: 'absorption',
  gravity: 'specific gravity',
  early: '7-day strength',
  airs: 'pressure and gravimetric air',
  fineness: 'fineness modulus',
  prisms: 'prisms',
  bar: 'reference bar',
};

/** Seen together, likely because of; and what to ask for. */
interface Pattern {
  readonly id: string;
  readonly likely: string;
  readonly ask: string;
  readonly signs: Signs;
}

const PATTERNS: readonly Pattern[] = [
  {
    id: 'extra-water',
    likely: 'Extra water: wet aggregate, wash water left in the drum, or added on site',
    ask: 'moisture test, ticket, driver’s additions',
    signs: { slump: 'high', density: 'low', yield: 'high', wcm: 'high' },
  },
  { id: 'admixture-dose', likely: 'Admixture dose', ask: 'ticket', signs: { slump: 'high', air: 'usual', density: 'usual' } },
  { id: 'slump-loss', likely: 'Slump loss', ask: 'times', signs: { slump: 'low', temperature: 'high', timeInTruck: 'high' } },
  {
    id: 'too-much-air',
    likely: 'Too much air: dose, finer sand, mixing',
    ask: 'gravimetric air, dose',
    signs: { air: 'high', density: 'low', yield: 'high' },
  },
  {
    id: 'air-lost',
    likely: 'Air lost: hot, long haul, carbon in ash, vibration',
    ask: 'times, temperature',
    signs: { air: 'low', density: 'high', yield: 'low' },
  },
  {
    id: 'weak-concrete',
    likely: 'The concrete',
    ask: 'cores by the engineer’s order',
    signs: { strength: 'low', companions: 'agree', density: 'low', wcm: 'high' },
  },
  {
    id: 'bad-testing',
    likely: 'Testing: caps, alignment, rate, diameter',
    ask: 'uses of the pads, loading trace',
    signs: { strength: 'low', companions: 'scatter', fracture: 'odd' },
  },
  {
    id: 'source-changed',
    likely: 'The source changed, or a film was left at SSD',
    ask: 'a repeat; then update mixes, air-free density, correction factor',
    signs: { absorption: 'high', gravity: 'low' },
  },
  { id: 'over-dried', likely: 'Over-dried at SSD', ask: 'a repeat', signs: { absorption: 'low', gravity: 'high' } },
  {
    id: 'airs-apart',
    likely: 'A fault of test or data: stale air-free density, correction factor, measure’s volume, leaking meter',
    ask: 'calibrations, age of the gravities, correction factor',
    signs: { airs: 'apart' },
  },
  {
    id: 'curing',
    likely: 'Curing or handling after the first week',
    ask: 'temperatures of the final cure, moves and rides',
    signs: { early: 'usual', strength: 'low' },
  },
  {
    id: 'early-curing',
    likely: 'Initial curing or handling: cold first nights, moved too early',
    ask: 'temperatures of the initial cure',
    signs: { early: 'low', strength: 'usual' },
  },
  { id: 'sand-changed', likely: 'The sand changed', ask: 'gradation, proportions', signs: { fineness: 'moved' } },
  {
    id: 'comparator',
    likely: 'The comparator or the room, not the prisms',
    ask: 'bar, room log',
    signs: { prisms: 'together', bar: 'moved' },
  },
];

/** A likely cause, with the evidence for and against it. Offered, never a verdict. */
export interface Diagnosis {
  readonly id: string;
  readonly likely: string;
  readonly ask: string;
  readonly supports: readonly Sign[];
  readonly against: readonly Sign[];
  /** What the signs are that speak for or against it. */
  readonly signs: Signs;
  /** Signs that would tell, and are not known. */
  readonly unknown: readonly Sign[];
}

/** Nothing to explain: as it was designed, or as the other says. */
const ASKS_NOTHING: ReadonlySet<string> = new Set(['usual', 'agree', 'together', 'steady']);

/**
 * Causes for which at least two signs speak (or the only one), and more speak for than against; the best supported
 * first. One of them has to be out of the usual: where nothing is wrong there is no cause.
 */
export function diagnose(known: Signs): Diagnosis[] {
  return PATTERNS.map((pattern): Diagnosis => {
    const signs = Object.entries(pattern.signs) as [Sign, string][];
    const pick = (test: (sign: Sign, value: string) => boolean): Sign[] =>
      signs.filter(([sign, value]) => test(sign, value)).map(([sign]) => sign);
    return {
      id: pattern.id,
      likely: pattern.likely,
      ask: pattern.ask,
      signs: known,
      supports: pick((sign, value) => known[sign] === value),
      against: pick((sign, value) => known[sign] !== undefined && known[sign] !== value),
      unknown: pick((sign) => known[sign] === undefined),
    };
  })
    .filter(
      (d) =>
        d.supports.some((sign) => !ASKS_NOTHING.has(known[sign]!)) &&
        d.supports.length >= Math.min(2, d.supports.length + d.against.length + d.unknown.length) &&
        d.supports.length > d.against.length,
    )
    .sort((a, b) => b.supports.length - b.against.length - (a.supports.length - a.against.length));
}
