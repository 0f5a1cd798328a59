import type { Citation } from '../methods/definition.js';
import { ageTolerance } from './age-tolerances.js';
import type { PlanEvent, PlanLink } from './plan.js';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

export interface JobEvent extends Omit<PlanEvent, 'notBefore' | 'notAfter'> {
  /** The test that is kept at it. */
  readonly test?: string;
}

/** A delay; `late`: what is so once it was longer, where the method prints its end. */
export interface JobLink extends PlanLink {
  readonly why: string;
  readonly late?: string;
}

/** Back from a step that went too far: what it leads to waits so long again, ms. */
export interface JobBack {
  readonly id: string;
  readonly label: string;
  readonly to: string;
  readonly least: number;
  readonly why: string;
}

/**
 * A run of work with its delays. Soaks, ages and curing times are those of the test methods; delays that no
 * method prints (how long SSD, flask and washing out take; when concrete has set) are a lab's usual ones:
 * room to plan with, never a limit to judge by.
 * What is planned forwards or backwards from one of its moments.
 */
export interface Job {
  readonly id: string;
  readonly label: string;
  readonly source: Citation;
  readonly events: readonly JobEvent[];
  readonly links: readonly JobLink[];
  /** Ways back to an earlier step, where something went too far. */
  readonly backs?: readonly JobBack[];
  /** Tests in which it ends, where it is a run at the bench. */
  readonly tests?: readonly string[];
  /** Of which kind of item it is a run; a portion of an aggregate, where it says nothing else. */
  readonly on?: 'trial-batch';
  /** The moment that people usually wish for. */
  readonly wished: string;
}

const at = (id: string, label: string, attended = true): JobEvent => ({ id, label, attended });
const kept = (id: string, label: string, test: string): JobEvent => ({ id, label, attended: true, test });
const link = (from: string, to: string, why: string, least: number, most?: number, late?: string): JobLink => ({
  from,
  to,
  why,
  least,
  ...(most === undefined ? {} : { most }),
  ...(late === undefined ? {} : { late }),
});
const SOAKED_LONG = 'it soaked longer than the method has it, and the result is marked';

const AASHTO_SOAK = [15 * HOUR, 19 * HOUR] as const;
const ASTM_SOAK = [20 * HOUR, 28 * HOUR] as const;
/** An hour to the first weighing and half an hour to the next: sooner, nothing can be constant. */
const OVEN_LEAST = 90 * MINUTE;

function fine(id: string, label: string, source: Citation, [least, most]: readonly [number, number]): Job {
  return {
    id,
    label,
    source,
    events: [
      at('oven', 'Sand into the oven'),
      kept('dry', 'Constant mass, out to cool', 'constant-mass'),
      at('soak', 'Into the water'),
      kept('cone', 'Drain, first cone trial', 'cone'),
      kept('flask', 'SSD: into the flask', 'fine-gravity'),
      at('oven2', 'Into the oven again'),
      kept('weigh', 'Dry weighing', 'fine-gravity'),
    ],
    links: [
      link('oven', 'dry', 'dried to constant mass, an hour and a half at the least', OVEN_LEAST),
      link('dry', 'soak', 'cools for 1 h ± 30 min', 30 * MINUTE),
      link('soak', 'cone', `soaks for ${least / HOUR} to ${most / HOUR} h`, least, most, SOAKED_LONG),
      link('cone', 'flask', 'dried to SSD between trials', 20 * MINUTE, 4 * HOUR),
      link('flask', 'oven2', 'air out 15 to 20 min, weighed, washed out', 40 * MINUTE, 6 * HOUR),
      link('oven2', 'weigh', 'dried to constant mass, then cools for 1 h ± 30 min', OVEN_LEAST + 30 * MINUTE),
    ],
    backs: [
      { id: 'wetted', label: 'Past SSD: water mixed in, covered', to: 'flask', least: 30 * MINUTE, why: 'covered for 30 min at the least' },
    ],
    tests: ['fine-gravity'],
    wished: 'cone',
  };
}

function coarse(id: string, label: string, source: Citation, [least, most]: readonly [number, number]): Job {
  return {
    id,
    label,
    source,
    events: [
      at('oven', 'Stone into the oven'),
      kept('dry', 'Constant mass, out to cool', 'constant-mass'),
      at('soak', 'Into the water'),
      kept('ssd', 'Drain, towel to SSD, weigh', 'coarse-gravity'),
      at('oven2', 'Into the oven again'),
      kept('weigh', 'Dry weighing', 'coarse-gravity'),
    ],
    links: [
      link('oven', 'dry', 'dried to constant mass, an hour and a half at the least', OVEN_LEAST),
      link('dry', 'soak', 'cools for 1 to 3 h', HOUR),
      link('soak', 'ssd', `soaks for ${least / HOUR} to ${most / HOUR} h`, least, most, SOAKED_LONG),
      link('ssd', 'oven2', 'weighed in water', 10 * MINUTE, 4 * HOUR),
      link('oven2', 'weigh', 'dried to constant mass, then cools for 1 to 3 h', OVEN_LEAST + HOUR),
    ],
    backs: [
      { id: 'back', label: 'Edges lighten: back in the water', to: 'ssd', least: 30 * MINUTE, why: 'in the water for 30 min at the least' },
    ],
    tests: ['coarse-gravity'],
    wished: 'ssd',
  };
}

const C39: Citation = { designation: 'ASTM C39/C39M', edition: '2024', part: 'permissible time tolerance' };

/** A break at its age. */
function broken(days: number) {
  const tolerance = ageTolerance(days)!;
  return link('cast', `d${days}`, `${days} d ± ${tolerance / HOUR} h`, days * DAY - tolerance, days * DAY + tolerance);
}

export const JOBS: readonly Job[] = [
  fine('fine-aashto', 'Fine specific gravity, 15 to 19 h soak', { designation: 'AASHTO T 84', edition: '2022' }, AASHTO_SOAK),
  fine('fine-astm', 'Fine specific gravity, 24 ± 4 h soak', { designation: 'ASTM C128', edition: '2022' }, ASTM_SOAK),
  coarse('coarse-aashto', 'Coarse specific gravity, 15 to 19 h soak', { designation: 'AASHTO T 85', edition: '2022' }, AASHTO_SOAK),
  coarse('coarse-astm', 'Coarse specific gravity, 24 ± 4 h soak', { designation: 'ASTM C127', edition: '2015' }, ASTM_SOAK),
  {
    id: 'moisture',
    label: 'Total moisture',
    source: { designation: 'ASTM C566', edition: '2019' },
    events: [
      kept('weighed', 'Weigh as received', 'moisture'),
      at('oven', 'Into the oven'),
      kept('dry', 'Constant mass, out to cool', 'constant-mass'),
      kept('weigh', 'Dry weighing', 'moisture'),
    ],
    links: [
      link('weighed', 'oven', 'at once, before it dries', 0, HOUR),
      link('oven', 'dry', 'dried to constant mass, an hour and a half at the least', OVEN_LEAST),
      link('dry', 'weigh', 'cools until it can be handled', 30 * MINUTE),
    ],
    tests: ['moisture'],
    wished: 'weigh',
  },
  {
    id: 'wash-sieve',
    label: 'Wash and gradation',
    source: { designation: 'ASTM C117', edition: '2017' },
    events: [
      at('oven', 'Into the oven'),
      kept('dry', 'Constant mass, out to cool', 'constant-mass'),
      kept('washed', 'Weigh, wash over the 75 µm sieve', 'wash'),
      at('oven2', 'Into the oven again'),
      kept('weigh', 'Dry weighing', 'wash'),
      kept('sieved', 'Sieve, weigh each sieve', 'gradation'),
    ],
    links: [
      link('oven', 'dry', 'dried to constant mass, an hour and a half at the least', OVEN_LEAST),
      link('dry', 'washed', 'cools for half an hour at the least', 30 * MINUTE),
      link('washed', 'oven2', 'washed until the water is clear', 15 * MINUTE, 4 * HOUR),
      link('oven2', 'weigh', 'dried to constant mass, then cools', OVEN_LEAST + 30 * MINUTE),
      link('weigh', 'sieved', 'sieved dry', 0),
    ],
    tests: ['wash', 'gradation'],
    wished: 'sieved',
  },
  {
    id: 'bulk',
    label: 'Bulk density and voids',
    source: { designation: 'ASTM C29/C29M', edition: '2017' },
    events: [
      at('oven', 'Into the oven'),
      kept('dry', 'Constant mass, out to cool', 'constant-mass'),
      kept('filled', 'Fill the measure, strike off, weigh', 'bulk-density'),
    ],
    links: [
      link('oven', 'dry', 'dried to constant mass, an hour and a half at the least', OVEN_LEAST),
      link('dry', 'filled', 'cools for an hour at the least', HOUR),
    ],
    tests: ['bulk-density'],
    wished: 'filled',
  },
  {
    id: 'correction',
    label: 'Aggregate correction factor',
    source: { designation: 'ASTM C231/C231M', edition: '2022' },
    events: [
      at('bowlful', 'Sand and stone for the bowl weighed'),
      at('inundated', 'Into the bowl under water, stirred'),
      kept('metered', 'Close, take water out, run the meter', 'aggregate-correction'),
    ],
    links: [
      link('bowlful', 'inundated', 'each spoon stirred in, no air taken along', 5 * MINUTE),
      link('inundated', 'metered', 'lies under water about as long as the concrete did before its air was read', 10 * MINUTE),
    ],
    tests: ['aggregate-correction'],
    on: 'trial-batch',
    wished: 'metered',
  },
  {
    id: 'breaks',
    label: 'Breaks at 3, 7 and 28 days',
    source: C39,
    events: [
      at('cast', 'Cast'),
      at('cure', 'Demolded, into final curing'),
      at('d3', 'Break at 3 days'),
      at('d7', 'Break at 7 days'),
      at('d28', 'Break at 28 days'),
    ],
    links: [
      link('cast', 'cure', 'initial curing: 8 h after final set at the earliest, up to 48 h', 16 * HOUR, 48 * HOUR),
      broken(3),
      broken(7),
      broken(28),
    ],
    wished: 'cast',
  },
  {
    id: 'prisms',
    label: 'Prisms for length change',
    source: { designation: 'ASTM C157/C157M', edition: '2017' },
    events: [at('batched', 'Water meets cement'), at('demold', 'Demold, wipe, mark'), at('initial', 'Initial reading')],
    links: [
      link('batched', 'demold', '23 1/2 ± 1/2 h', 23 * HOUR, 24 * HOUR),
      link('batched', 'initial', '24 ± 1/2 h', 23.5 * HOUR, 24.5 * HOUR),
      link('demold', 'initial', 'in lime water for 30 min at the least', 30 * MINUTE),
    ],
    wished: 'initial',
  },
];

/** Plans run this far to either side of the wished moment, ms: its longest wait, and some closed days. */
export function reachOf(job: Job): number {
  return job.links.reduce((sum, { least }) => Math.max(sum, least), 0) + 4 * DAY;
}
