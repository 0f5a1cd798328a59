/* npm run demo: makes the demonstration scenario, the same files every time, from one seed. */
import { DEMONSTRATION } from '../packages/contract/src/index.js';
import { seeded } from '../packages/core/src/numbers/seeded.js';
import { writeFileSync } from 'node:fs';
import { months } from './months.js';
import { benchRuns } from './bench.js';
import { specimens } from './specimens.js';
import { series } from './series.js';
import { join } from 'node:path';

const SEED = 20_117;

/** The same scenario on every machine. */
const draws = seeded(SEED);
const random = (): number => draws.next().value / 2 ** 32;
/** About normal, within two and a half sigmas. */
const near = (mean: number, sigma: number): number =>
  mean + sigma * Math.max(-2.5, Math.min(2.5, (random() + random() + random() - 1.5) * 2));

interface Ingredient {
  name: string;
  role: 'cement' | 'cementitious' | 'water' | 'fine' | 'coarse' | 'admixture';
  /** At SSD. */
  kg: number;
  sg: string;
  /** As batched, and what it soaks up: per cent of the oven-dry mass. */
  moisture?: string;
  absorption?: string;
}

const CEMENT = { name: 'Cement', role: 'cement', sg: '3.15' } as const;
const SAND = { name: 'Brackdown sand', role: 'fine', sg: '2.63', moisture: '4.1', absorption: '1.3' } as const;
const STONE = { name: 'Pellick stone', role: 'coarse', sg: '2.68', moisture: '1.1', absorption: '0.9' } as const;
const WATER = { name: 'Water', role: 'water', sg: '1.000' } as const;

const MIXES: Record<
  string,
  {
    code: string;
    name: string;
    air: string;
    correction?: string;
    specification: string;
    ingredients: Ingredient[];
    next?: { from: string; made: string; why: string; kg: Record<string, number> };
  }
> = {
  deck: {
    code: 'D-32A',
    name: 'Deck mix 32 A',
    air: '6.0',
    correction: '0.4',
    specification: 'spec-deck',
    // The sand drinks more than it did: what it weighs and takes is found again from then on.
    next: {
      from: 'day 3 06:00',
      made: 'day -2 16:10',
      why: 'Brackdown sand takes 0.6 % more water since October: less sand, gravities as found',
      kg: { 'Brackdown sand': 712, 'Pellick stone': 1006 },
    },
    ingredients: [
      { ...CEMENT, kg: 340 },
      { name: 'Fly ash', role: 'cementitious', kg: 60, sg: '2.35' },
      { ...WATER, kg: 160 },
      { ...SAND, kg: 720 },
      { ...STONE, kg: 1000 },
      { name: 'Admixtures', role: 'admixture', kg: 2, sg: '1.10' },
    ],
  },
  pier: {
    code: 'P-40S',
    name: 'Pier mix 40 S',
    air: '5.0',
    correction: '0.4',
    specification: 'spec-pier',
    ingredients: [
      { ...CEMENT, kg: 380 },
      { name: 'Slag', role: 'cementitious', kg: 90, sg: '2.90' },
      { ...WATER, kg: 165 },
      { ...SAND, kg: 700 },
      { ...STONE, kg: 985 },
      { name: 'Admixtures', role: 'admixture', kg: 3, sg: '1.10' },
    ],
  },
  path: {
    code: 'F-12',
    name: 'Pervious path mix 12',
    air: '20.0',
    specification: 'spec-path',
    ingredients: [
      { ...CEMENT, kg: 330 },
      { ...WATER, kg: 100 },
      { ...SAND, kg: 90 },
      { ...STONE, kg: 1450 },
      { name: 'Admixtures', role: 'admixture', kg: 2, sg: '1.10' },
    ],
  },
};

const FIELD = (from: string, until: string) => ({ what: 'Field testing of concrete', from: `${from} 00:00`, until: `${until} 00:00` });

const PEOPLE = [
  { key: 'oakhanger', name: 'Rosalind Oakhanger', role: 'Technician', certificates: [FIELD('day -1077', 'day 18')] },
  { key: 'sallow', name: 'Merrin Sallow', role: 'Technician', certificates: [FIELD('day -310', 'day 785')] },
  { key: 'thwaite', name: 'Idris Thwaitewood', role: 'Lab manager' },
  { key: 'pendry', name: 'Corliss Pendry-Vale', role: 'Inspector' },
];

const PROJECT = {
  key: 'quillmouth',
  code: DEMONSTRATION,
  name: 'Tidal footbridge and boardwalk',
  site: 'Quillmouth',
  system: 'si',
  practice: 'us-astm',
};

const truck = {
  property: 'time-in-truck',
  unit: 'min',
  upper: '90',
  source: 'project specification 03 30 00, 3.6',
  onFail: 'Do not place it. Call the resident engineer.',
};
const SPECIFICATIONS = [
  {
    key: 'spec-deck',
    name: 'Deck concrete, 03 30 00',
    comparison: 'reported',
    limits: [
      {
        property: 'slump',
        unit: 'mm',
        target: '100',
        minus: '25',
        plus: '25',
        source: 'project specification 03 30 00, 2.4',
        onFail: 'Check test at once; both out: reject the load.',
      },
      {
        property: 'air',
        unit: '%',
        target: '6.0',
        minus: '1.5',
        plus: '1.5',
        source: 'project specification 03 30 00, 2.5',
        onFail: 'Check test at once; both out: reject the load.',
      },
      { property: 'temperature', unit: 'C', lower: '10', upper: '30', source: 'project specification 03 30 00, 2.6' },
      { property: 'density', unit: 'kg/m3', lower: '2220', upper: '2360', source: 'project specification 03 30 00, 2.7' },
      {
        property: 'relative-yield',
        unit: '1',
        lower: '0.98',
        upper: '1.02',
        source: 'project specification 03 30 00, 2.8',
        onFail: 'Tell the plant before the next load is batched.',
      },
      {
        property: 'wcm',
        unit: '1',
        upper: '0.45',
        source: 'project specification 03 30 00, 2.9',
        onFail: 'No more water. Tell the resident engineer.',
      },
      truck,
      {
        property: 'strength',
        unit: 'MPa',
        lower: '32',
        source: 'project specification 03 30 00, 2.3',
        onFail: 'Tell the engineer; break the spare; plan cores where the engineer asks for them.',
      },
    ],
  },
  {
    key: 'spec-pier',
    name: 'Pier concrete, 03 31 10',
    comparison: 'reported',
    limits: [
      {
        property: 'slump',
        unit: 'mm',
        target: '150',
        minus: '40',
        plus: '40',
        source: 'project specification 03 31 10, 2.3',
        onFail: 'Check test at once; both out: reject the load.',
      },
      { property: 'air', unit: '%', target: '5.0', minus: '1.5', plus: '1.5', source: 'project specification 03 31 10, 2.4' },
      { property: 'temperature', unit: 'C', lower: '7', upper: '32', source: 'project specification 03 31 10, 2.5' },
      { property: 'relative-yield', unit: '1', lower: '0.98', source: 'project specification 03 31 10, 2.6' },
      truck,
      { property: 'strength', unit: 'MPa', lower: '40', source: 'project specification 03 31 10, 2.1' },
    ],
  },
  {
    key: 'spec-path',
    name: 'Pervious path, 32 13 43',
    comparison: 'reported',
    limits: [
      { property: 'density', unit: 'kg/m3', target: '1900', minus: '80', plus: '80', source: 'project specification 32 13 43, 2.2' },
      { property: 'temperature', unit: 'C', lower: '5', upper: '30', source: 'project specification 32 13 43, 2.3' },
    ],
  },
  {
    key: 'spec-sand',
    name: 'Sand, 03 05 10',
    comparison: 'reported',
    limits: [
      { property: 'sg-ssd', unit: '1', lower: '2.60', upper: '2.66', source: 'project specification 03 05 10, 2.1' },
      {
        property: 'absorption',
        unit: '%',
        upper: '1.8',
        source: 'project specification 03 05 10, 2.1',
        onFail: 'Tell the plant; look again at the mixes that use it.',
      },
      { property: 'finer-75', unit: '%', upper: '3.0', source: 'project specification 03 05 10, 2.2' },
      {
        property: 'fineness-modulus',
        unit: '1',
        target: '2.85',
        minus: '0.20',
        plus: '0.20',
        source: 'project specification 03 05 10, 2.3',
      },
    ],
  },
  {
    key: 'spec-stone',
    name: 'Stone, 03 05 20',
    comparison: 'reported',
    limits: [
      { property: 'sg-ssd', unit: '1', lower: '2.64', upper: '2.72', source: 'project specification 03 05 20, 2.1' },
      { property: 'absorption', unit: '%', upper: '1.5', source: 'project specification 03 05 20, 2.1' },
    ],
  },
];

const pads = (key: string, name: string) => ({
  key,
  kind: 'pads',
  name,
  values: [{ item: 'pads.hardness', value: { text: '60', unit: '1' } }],
  calibrations: [],
});
const KIT = [
  {
    key: 'measure-1',
    kind: 'measure',
    name: 'Measure 1, 7 L',
    values: [{ item: 'measure.nominal', value: { text: '7', unit: 'L' } }],
    calibrations: [{ on: -130, values: [{ item: 'measure.volume', value: { text: '7.043', unit: 'L' } }] }],
  },
  {
    key: 'measure-2',
    kind: 'measure',
    name: 'Measure 2, 14 L',
    values: [{ item: 'measure.nominal', value: { text: '14', unit: 'L' } }],
    calibrations: [{ on: -75, values: [{ item: 'measure.volume', value: { text: '14.121', unit: 'L' } }] }],
  },
  {
    key: 'meter-1',
    kind: 'air-meter',
    name: 'Air meter 1',
    values: [{ item: 'meter.division', value: { text: '0.5', unit: '%' } }],
    calibrations: [{ on: -41, values: [] }],
  },
  {
    key: 'meter-2',
    kind: 'air-meter',
    name: 'Air meter 2',
    values: [{ item: 'meter.division', value: { text: '0.5', unit: '%' } }],
    calibrations: [{ on: -108, values: [] }],
  },
  { key: 'thermometer-1', kind: 'thermometer', name: 'Thermometer 1', values: [], calibrations: [{ on: -190, values: [] }] },
  { key: 'cone-1', kind: 'slump-cone', name: 'Slump cone 1', values: [], calibrations: [{ on: -210, values: [] }] },
  { key: 'balance-1', kind: 'balance', name: 'Balance 1, 30 kg', values: [], calibrations: [{ on: -230, values: [] }] },
  { key: 'balance-2', kind: 'balance', name: 'Balance 2, 8 kg', values: [], calibrations: [{ on: -225, values: [], due: 8 }] },
  { key: 'oven-1', kind: 'oven', name: 'Oven 1', values: [], calibrations: [{ on: -215, values: [] }] },
  { key: 'sieves-1', kind: 'sieves', name: 'Sieves 1, 200 mm', values: [], calibrations: [{ on: -260, values: [] }] },
  {
    key: 'splitter-1',
    kind: 'splitter',
    name: 'Splitter 1, 12 chutes',
    values: [
      { item: 'splitter.chutes', value: { text: '12', unit: '1' } },
      { item: 'splitter.width', value: { text: '38', unit: 'mm' } },
    ],
    calibrations: [{ on: -120, values: [] }],
  },
  { key: 'flask-1', kind: 'flask', name: 'Flask 1, 500 mL', values: [], calibrations: [{ on: -190, values: [], due: 120 }] },
  { key: 'press-1', kind: 'machine', name: 'Press 1, 2000 kN', values: [], calibrations: [{ on: -170, values: [] }] },
  pads('pads-1', 'Pads 1, hardness 60'),
  pads('pads-2', 'Pads 2, hardness 60'),
  { key: 'comparator-1', kind: 'comparator', name: 'Comparator 1', values: [], calibrations: [{ on: -205, values: [] }] },
  { key: 'hammer-1', kind: 'hammer', name: 'Hammer 1', values: [], calibrations: [{ on: -220, values: [] }] },
  { key: 'cell-1', kind: 'electrode', name: 'Half-cell 1, CSE', values: [], calibrations: [{ on: -180, values: [] }] },
];

const POURS = [
  {
    key: 'span-3',
    mix: 'deck',
    name: 'Boardwalk span 3',
    element: 'Deck, bents 7 to 9',
    on: -1,
    planned: { text: '36', unit: 'm3' },
    weather: 'overcast, light wind',
    air: { text: '14', unit: 'C' },
  },
  {
    key: 'span-4',
    mix: 'deck',
    name: 'Boardwalk span 4',
    element: 'Deck, bents 9 to 11',
    on: 0,
    planned: { text: '36', unit: 'm3' },
    weather: 'clear, wind from the sea',
    air: { text: '15', unit: 'C' },
  },
];

interface LoadPlan {
  key: string;
  pour: string;
  number: number;
  batched: string;
  /** Water added after batching, kg. */
  added?: number;
  sample?: SamplePlan;
}

interface SamplePlan {
  by: string;
  /** Minutes from batching to the first portion. */
  after: number;
  temperature: string;
  air: number;
  slump: { shape: string; height: string; lift: string; total: string }[];
  meter: string;
  /** A mass mistyped first and corrected later. */
  mistyped?: boolean;
}

const LOADS: LoadPlan[] = [
  {
    key: 'span-3-1',
    pour: 'span-3',
    number: 1,
    batched: 'day -1 08:05',
    sample: {
      by: 'oakhanger',
      after: 31,
      temperature: '17.5',
      air: 5.9,
      meter: 'meter-1',
      slump: [{ shape: 'true', height: '203', lift: '5.1', total: '1:58' }],
    },
  },
  { key: 'span-3-2', pour: 'span-3', number: 2, batched: 'day -1 08:50' },
  {
    key: 'span-3-3',
    pour: 'span-3',
    number: 3,
    batched: 'day -1 09:35',
    added: 118,
    sample: {
      by: 'sallow',
      after: 38,
      temperature: '18.5',
      air: 6.6,
      meter: 'meter-1',
      slump: [
        { shape: 'true', height: '138', lift: '4.6', total: '2:04' },
        { shape: 'true', height: '142', lift: '5.0', total: '1:55' },
      ],
    },
  },
  { key: 'span-3-4', pour: 'span-3', number: 4, batched: 'day -1 10:20' },
  {
    key: 'span-3-5',
    pour: 'span-3',
    number: 5,
    batched: 'day -1 11:10',
    sample: {
      by: 'oakhanger',
      after: 29,
      temperature: '19',
      air: 6.3,
      meter: 'meter-1',
      mistyped: true,
      slump: [{ shape: 'true', height: '196', lift: '5.4', total: '1:49' }],
    },
  },
  { key: 'span-3-6', pour: 'span-3', number: 6, batched: 'day -1 11:55' },
  {
    key: 'span-4-1',
    pour: 'span-4',
    number: 1,
    batched: 'minutes -252',
    sample: {
      by: 'sallow',
      after: 33,
      temperature: '16.5',
      air: 6.2,
      meter: 'meter-2',
      slump: [{ shape: 'true', height: '208', lift: '4.9', total: '2:01' }],
    },
  },
  { key: 'span-4-2', pour: 'span-4', number: 2, batched: 'minutes -205' },
  {
    key: 'span-4-3',
    pour: 'span-4',
    number: 3,
    batched: 'minutes -158',
    sample: {
      by: 'oakhanger',
      after: 30,
      temperature: '17',
      air: 5.6,
      meter: 'meter-1',
      slump: [
        { shape: 'shear', height: '184', lift: '5.2', total: '1:52' },
        { shape: 'true', height: '206', lift: '4.7', total: '1:57' },
      ],
    },
  },
  { key: 'span-4-4', pour: 'span-4', number: 4, batched: 'minutes -112' },
  { key: 'span-4-5', pour: 'span-4', number: 5, batched: 'minutes -66' },
  { key: 'span-4-6', pour: 'span-4', number: 6, batched: 'minutes -22' },
];

const VOLUME = 6;
const MEASURE_L = 7.043;

interface Ticket {
  rows: { name: string; role: string; target: number; actual: number; sg: number; moisture?: string; absorption?: string }[];
}

/** Water on the grains of a damp mass: what it weighs above SSD. */
const freeWater = (row: { actual: number; moisture?: string; absorption?: string }): number =>
  row.moisture === undefined ? 0 : (row.actual * (Number(row.moisture) - Number(row.absorption))) / (100 + Number(row.moisture));

function ticketFor(plan: LoadPlan): Ticket {
  const mix = MIXES[POURS.find((p) => p.key === plan.pour)!.mix]!;
  // Damp aggregate weighs more than at SSD, and brings so much water less to be weighed.
  const damp = (i: Ingredient): number => (i.moisture === undefined ? 1 : (100 + Number(i.moisture)) / (100 + Number(i.absorption)));
  const free = mix.ingredients.reduce((sum, i) => sum + i.kg * (damp(i) - 1), 0);
  const rows: Ticket['rows'] = mix.ingredients.map((i) => {
    const target = (i.role === 'water' ? i.kg - free : i.kg * damp(i)) * VOLUME;
    const actual = Math.round(near(target, i.kg * VOLUME * 0.004));
    const { moisture, absorption } = i;
    const moist = moisture === undefined || absorption === undefined ? {} : { moisture, absorption };
    return { name: i.name, role: i.role, target: Math.round(target), actual, sg: Number(i.sg), ...moist };
  });
  if (plan.added) rows.push({ name: 'Water added', role: 'water-added', target: plan.added, actual: plan.added, sg: 1 });
  return { rows };
}

/** Adds minutes to a moment of the files, whichever of the two forms it has. */
function later(moment: string, minutes: number): string {
  const [kind, amount, clock] = moment.split(' ');
  if (kind === 'minutes') return `minutes ${Math.round((Number(amount) + minutes) * 100) / 100}`;
  const [hour, minute] = clock!.split(':').map(Number);
  const at = hour! * 60 + minute! + Math.floor(minutes);
  return `day ${amount} ${String(Math.floor(at / 60)).padStart(2, '0')}:${String(at % 60).padStart(2, '0')}`;
}

function sampleFor(plan: LoadPlan, ticket: Ticket): unknown {
  const s = plan.sample!;
  const first = later(plan.batched, s.after);
  const final = later(first, 6);
  const finished = later(first, 8);
  const at = (minutes: number): string => later(final, minutes);
  const mass = ticket.rows.reduce((sum, row) => sum + row.actual, 0);
  const volume = ticket.rows.reduce((sum, row) => sum + (row.actual - freeWater(row)) / (row.sg * 1000) + freeWater(row) / 1000, 0);
  const density = (mass / volume) * (1 - near(s.air, 0.1) / 100);
  const empty = near(3.21, 0.01);
  const full = empty + (density * MEASURE_L) / 1000;
  const gauge = Math.round((near(s.air, 0.08) + 0.4) * 10) / 10;
  const key = (name: string): string => `${plan.key} ${name}`;
  const slumps = s.slump.map((slump, i) => ({
    key: key(`slump ${i + 1}`),
    method: 'slump',
    variant: 'us',
    by: s.by,
    started: at(i === 0 ? 1 : 5),
    ...(i > 0 ? { retestOf: key(`slump ${i}`) } : {}),
    keeps: [
      {
        by: s.by,
        readings: [
          { field: 'shape', text: slump.shape, at: at(i === 0 ? 3 : 7) },
          { field: 'lift', text: slump.lift, unit: 's', at: at(i === 0 ? 3 : 7) },
          { field: 'total', text: slump.total, unit: 's', at: at(i === 0 ? 3 : 7) },
          { field: 'mold', text: '300', unit: 'mm', at: at(i === 0 ? 3 : 7) },
          { field: 'drop', text: String(300 - Number(slump.height)), unit: 'mm', at: at(i === 0 ? 3 : 7) },
        ],
      },
    ],
  }));
  const weighed = full.toFixed(2);
  // Two digits changed places: the usual slip, found when the density looked odd.
  const slipped = `${weighed.slice(0, -2)}${weighed.at(-1)}${weighed.at(-2)}`;
  const wrong = slipped === weighed ? (full + 0.18).toFixed(2) : slipped;
  return {
    key: `sample ${plan.key}`,
    load: plan.key,
    by: s.by,
    events: [
      { kind: 'portion', at: first },
      { kind: 'portion', at: final },
      { kind: 'finished', at: finished },
      { kind: 'molding', at: later(finished, 11) },
      { kind: 'discharged', at: later(plan.batched, s.after + 24) },
    ],
    tests: [
      {
        key: key('temperature'),
        method: 'temperature',
        variant: 'c1064',
        by: s.by,
        started: at(1),
        equipment: 'thermometer-1',
        keeps: [
          {
            by: s.by,
            readings: [
              { field: 'temperature', text: s.temperature, unit: 'C', at: at(4) },
              { field: 'inPlace', text: '3', unit: 'min', at: at(4) },
            ],
          },
        ],
      },
      slumps[0],
      {
        key: key('yield'),
        method: 'yield',
        variant: 'exact',
        by: s.by,
        started: at(4),
        equipment: 'measure-1',
        keeps: [
          {
            by: s.by,
            readings: [
              { field: 'empty', text: empty.toFixed(2), unit: 'kg', at: at(5) },
              { field: 'full', text: s.mistyped ? wrong : weighed, unit: 'kg', at: at(9) },
            ],
          },
          ...(s.mistyped
            ? [
                {
                  by: s.by,
                  readings: [
                    {
                      field: 'full',
                      text: weighed,
                      unit: 'kg',
                      at: at(12),
                      corrects: true,
                      reason: 'Two digits swapped; the balance still showed the mass',
                    },
                  ],
                },
              ]
            : []),
        ],
      },
      ...slumps.slice(1),
      {
        key: key('air'),
        method: 'pressure-air',
        variant: 'type-b',
        by: s.by,
        started: at(4),
        equipment: s.meter,
        ...(s.meter === 'meter-2' ? { kitReason: 'the other meter was at the pier' } : {}),
        keeps: [{ by: s.by, readings: [{ field: 'gauge', text: gauge.toFixed(1), unit: '%', at: at(14) }] }],
      },
    ],
  };
}

const tickets = new Map(LOADS.map((plan) => [plan.key, ticketFor(plan)]));

/** The sources of the fifteen weeks, by what the recipes call them. */
const SOURCES: Readonly<Record<string, string>> = { 'Brackdown sand': 'source sand', 'Pellick stone': 'source stone' };

const mixes = Object.entries(MIXES).map(([key, mix]) => {
  const same = {
    largest: { text: '25', unit: 'mm' },
    nominal: { text: '19', unit: 'mm' },
    air: mix.air,
    ...(mix.correction ? { correction: mix.correction } : {}),
  };
  const ingredient = ({ name, role, kg, sg }: Ingredient, found = false) => ({
    name,
    role,
    mass: { text: String(kg), unit: 'kg' },
    ...(found && SOURCES[name] ? {} : { sg }),
    ...(SOURCES[name] ? { source: SOURCES[name] } : {}),
  });
  const { next } = mix;
  return {
    key,
    code: mix.code,
    name: mix.name,
    specifications: [mix.specification],
    revisions: [
      { number: 1, from: 'day -120 00:00', made: 'day -120 00:00', ...same, ingredients: mix.ingredients.map((i) => ingredient(i)) },
      ...(next
        ? [
            {
              number: 2,
              from: next.from,
              made: next.made,
              why: next.why,
              ...same,
              ingredients: mix.ingredients.map((i) => ingredient({ ...i, kg: next.kg[i.name] ?? i.kg }, true)),
            },
          ]
        : []),
    ],
  };
});

/** What the sources must meet, and since when. */
const MEETINGS = [
  { key: 'meets sand', item: 'source sand', specifications: ['spec-sand'], from: 'day -118 08:00' },
  { key: 'meets stone', item: 'source stone', specifications: ['spec-stone'], from: 'day -118 08:00' },
];

/** What was found of the sand once it had moved was found again before it was taken over; what came after waits. */
const ACCEPTANCES = [
  {
    key: 'sand taken over',
    source: 'source sand',
    test: 'sand 11 test 2',
    from: 'day -25 08:00',
    by: 'oakhanger',
    why: 'Three weeks agree, a new face at the pit',
  },
];

/** A mix that somebody looked at since, and left as it is. */
const LOOKS = [
  {
    key: 'pier left',
    mix: 'pier',
    test: 'sand 11 test 2',
    at: 'day -24 10:20',
    by: 'oakhanger',
    why: 'Two kilograms of water: the tickets withhold it',
  },
];

const header = 'load,pour,number,ticket,truck,batched,volume,volume_unit,material,role,target,actual,unit,moisture,absorption';
const csv = LOADS.flatMap((plan) =>
  tickets
    .get(plan.key)!
    .rows.map((row) =>
      [
        plan.key,
        plan.pour,
        plan.number,
        `F-${4200 + LOADS.indexOf(plan)}`,
        `Truck ${11 + (LOADS.indexOf(plan) % 5)}`,
        plan.batched,
        VOLUME.toFixed(1),
        'm3',
        row.name,
        row.role,
        row.target,
        row.actual,
        'kg',
        row.moisture ?? '',
        row.absorption ?? '',
      ].join(','),
    ),
);

const write = (name: string, content: unknown): void =>
  writeFileSync(join(import.meta.dirname, `${name}.json`), `${JSON.stringify(content, null, 2)}\n`);
write('people', PEOPLE);
write('project', PROJECT);
write('specifications', SPECIFICATIONS);
write('mixes', mixes);
write('meetings', MEETINGS);
write('acceptances', ACCEPTANCES);
write('looks', LOOKS);
write('kit', KIT);
write('pours', POURS);
write(
  'samples',
  LOADS.filter((plan) => plan.sample).map((plan) => sampleFor(plan, tickets.get(plan.key)!)),
);
writeFileSync(join(import.meta.dirname, 'tickets.csv'), `${[header, ...csv].join('\n')}\n`);
// Last, so that what came before is drawn as it was.
write('items', [...months({ near }), ...benchRuns('sand 14')]);
write('specimens', specimens({ near }));
write('series', series({ near }));
