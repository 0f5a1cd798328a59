import { CURING } from '../methods/curing/curing.js';
import {
  instant,
  pick,
  qty,
  rows,
  text,
  type AnyInputs,
  type EventId,
  type Parameters,
  type QtyField,
  type Run,
  type Shape,
  type Source,
} from '../methods/definition.js';
import { leastCheck, NOMINAL } from '../methods/reduction/least-mass.js';
import { WAYS } from '../methods/reduction/reduction.js';
import { REGIMES } from '../methods/length-change/schedule.js';
import { runsOn, STEP_LABELS } from '../time/runs.js';

/** Everything that is tested or sampled, by the word of ISO/IEC 17025. */
export type ItemKind =
  | 'structure'
  | 'element'
  | 'area'
  | 'pour'
  | 'load'
  | 'sample'
  | 'specimen-set'
  | 'specimen'
  | 'source'
  | 'field-sample'
  | 'portion'
  | 'prism-set'
  | 'prism'
  | 'trial-batch'
  | 'storage';

/** What an item is made of: a mix or a source; what was found on it is history of that. */
export type Subject = 'mix' | 'source';

/** How an item is called: its own letters and number in the project, the next of its parent, or the name that people gave it. */
export type Coding =
  | { readonly of: 'project'; readonly letters: string; readonly from: number }
  | { readonly of: 'parent'; readonly word: string }
  | { readonly of: 'parent'; readonly letters: true }
  | { readonly of: 'name' };

export interface ItemKindDefinition {
  readonly label: string;
  readonly plural: string;
  /** Kinds that it comes from or lies in; none: it stands at the top of a tree. `null` among them: it may. */
  readonly parents: readonly (ItemKind | null)[];
  readonly coding: Coding;
  /** Whether the maker names what it is made of; where not, it is its parent’s. */
  readonly subject?: Subject;
  /** What is known of it: keyed like readings, amended like readings. */
  readonly facts: Shape;
  /** The fact that is its moment; where none, when it was made. */
  readonly at?: string;
  /** Facts that fields of methods take. */
  readonly gives?: Readonly<Record<string, Source>>;
  /** What lies in it begins a line of its own: it is judged without the others that lie there. */
  readonly holdsLines?: true;
  /** Moments that start and stop clocks; of rows, the column that is the moment. */
  readonly tells?: Readonly<Record<string, EventId>>;
  /** What of its facts is unlikely beside each other: kept with a reason. */
  readonly check?: (r: Pick<Run<Shape, Parameters, unknown>, 'doubt'>, facts: AnyInputs) => void;
}

const LENGTH = { possible: { unit: 'mm', above: '0', most: '5000' } } as const;

const air = (symbol: string, label: string) =>
  qty(
    'temperature',
    symbol,
    label,
    { si: 'C', us: 'F' },
    { optional: true, possible: { unit: 'C', least: '-40', most: '70' }, plausible: { unit: 'C', least: '0', most: '45' } },
  );

/** Mass of a material on a ticket: water and admixtures also as they are measured. */
const ticketMass = (label: string, more: Partial<Pick<QtyField, 'optional' | 'plausible'>> = {}) =>
  qty('mass', 'm', label, { si: 'kg', us: 'lb' }, { kgPerLitre: '1', possible: { unit: 'kg', least: '0', most: '100000' }, ...more });
/** Nobody adds less than a litre to a truck, nor, unless a figure slipped, more than a few barrels. */
const ADDED = { unit: 'kg', least: '1', most: '300' } as const;

/** A share that was keyed as a fraction is too small to be one. */
const share = (label: string) =>
  qty(
    'percent',
    'w',
    label,
    { si: '%', us: '%' },
    {
      optional: true,
      possible: { unit: '%', least: '0', most: '50' },
      plausible: { unit: '%', least: '0.1', most: '20' },
      typical: { text: '4', unit: '%' },
    },
  );

/** What an item goes through at the bench, and when each of its steps was done. */
const runShape = (kind: 'trial-batch' | 'portion'): Shape => ({
  run: pick('Goes through', runsOn(kind), { optional: true, later: true }),
  begins: instant('First step planned at', { optional: true, later: true, ahead: true }),
  steps: rows('Steps done', { step: pick('Step', STEP_LABELS), at: instant('At') }, { optional: true, later: true }),
});
const RUN = runShape('portion');
const GIVES_RUN = { run: 'portion.run', steps: 'portion.steps' } as const;

/** Parts of the discharge that a portion may be taken from. */
export const PORTION_PARTS = { middle: 'the middle', first: 'the first tenth', last: 'the last tenth' } as const;

/** What a material of a batch is. */
export const MATERIAL_ROLES = {
  cement: 'Cement',
  cementitious: 'Cementitious material',
  water: 'Water',
  fine: 'Fine aggregate',
  coarse: 'Coarse aggregate',
  admixture: 'Admixture',
} as const;

export const ITEM_KINDS: Readonly<Record<ItemKind, ItemKindDefinition>> = {
  structure: {
    label: 'Structure',
    plural: 'Structures',
    parents: [null],
    coding: { of: 'name' },
    holdsLines: true,
    facts: { where: text('Where it stands', { optional: true }) },
  },
  element: {
    label: 'Element',
    plural: 'Elements',
    parents: ['structure'],
    coding: { of: 'name' },
    facts: {
      kind: pick('What it is', { deck: 'Deck or slab', wall: 'Wall', column: 'Column or pier', beam: 'Beam', footing: 'Footing' }),
      thickness: qty('length', 't', 'Thickness', { si: 'mm', us: 'in' }, { ...LENGTH, optional: true }),
    },
  },
  area: {
    label: 'Area',
    plural: 'Areas',
    parents: ['element', 'structure'],
    coding: { of: 'name' },
    facts: { extent: text('Where it is, and how large', { optional: true }) },
  },
  pour: {
    label: 'Pour',
    plural: 'Pours',
    parents: [null, 'element'],
    coding: { of: 'name' },
    subject: 'mix',
    holdsLines: true,
    facts: {
      element: text('Element'),
      planned: qty('volume', 'V', 'Planned volume', { si: 'm3', us: 'yd3' }, { possible: { unit: 'm3', above: '0', most: '100000' } }),
      weather: text('Weather', { optional: true, hint: 'as it is while it is placed' }),
      air: qty(
        'temperature',
        'ta',
        'Air temperature',
        { si: 'C', us: 'F' },
        { optional: true, possible: { unit: 'C', least: '-50', most: '60' }, plausible: { unit: 'C', least: '-15', most: '45' } },
      ),
    },
    gives: { planned: 'pour.planned' },
  },
  load: {
    label: 'Load',
    plural: 'Loads',
    parents: ['pour'],
    coding: { of: 'parent', word: 'Load' },
    facts: {
      ticket: text('Ticket number'),
      truck: text('Truck'),
      plant: text('Plant', { optional: true, hint: 'where it was batched' }),
      batchedAt: instant('Water met cement at'),
      design: qty(
        'volume',
        'Yd',
        'Volume batched',
        { si: 'm3', us: 'yd3' },
        { possible: { unit: 'm3', above: '0', most: '30' }, plausible: { unit: 'm3', least: '0.5', most: '15' } },
      ),
      materials: rows('Batch weights', {
        name: text('Material'),
        role: pick('What it is', MATERIAL_ROLES),
        target: ticketMass('Target', { optional: true }),
        actual: ticketMass('Batched'),
        moisture: share('Total moisture'),
        absorption: share('Absorption'),
      }),
      water: rows(
        'Water added on site',
        { mass: ticketMass('How much', { plausible: ADDED }), at: instant('Added at') },
        { optional: true },
      ),
      discharged: instant('Truck empty at', { optional: true }),
    },
    at: 'batchedAt',
    gives: { design: 'ticket.design', batchedAt: 'ticket.batched', discharged: 'load.discharged' },
    tells: { batchedAt: 'load.batched', discharged: 'load.discharged' },
  },
  sample: {
    label: 'Sample',
    plural: 'Samples',
    parents: ['load', 'trial-batch'],
    coding: { of: 'project', letters: 'Q', from: 101 },
    facts: {
      portions: rows('Portions', {
        at: instant('Taken at'),
        part: pick('From', PORTION_PARTS, { optional: true }),
      }),
      finished: instant('Composite mixed at', { optional: true }),
      molding: instant('Molding started at', { optional: true }),
    },
    gives: { portions: 'sample.portions', finished: 'sample.finished' },
    tells: { finished: 'sample.finished', molding: 'sample.molding' },
  },
  'specimen-set': {
    label: 'Set of specimens',
    plural: 'Sets of specimens',
    parents: ['sample', 'trial-batch', 'element', 'area'],
    coding: { of: 'project', letters: 'D', from: 1 },
    facts: {
      madeAt: instant('Molded or drilled at'),
      shape: pick('Shape', { cylinder: 'Cylinder', cube: 'Cube', beam: 'Beam', core: 'Core' }),
      width: qty('length', 'd', 'Nominal diameter or width', { si: 'mm', us: 'in' }, LENGTH),
      length: qty('length', 'L', 'Nominal length', { si: 'mm', us: 'in' }, { ...LENGTH, optional: true }),
      curing: pick('Curing', CURING, { optional: true, usual: 'standard' }),
      drilled: pick('Drilled, of cores', { along: 'along the way it was placed', across: 'across it' }, { optional: true }),
      moisture: pick(
        'Kept before the test, of cores',
        { bagged: 'sealed, five days and more', wet: 'in water', dry: 'in air' },
        { optional: true },
      ),
      place: text('Where they are kept first', { optional: true, hint: 'like cure box 2, at the site hut' }),
      low: air('tl', 'Coldest beside them in the first two days'),
      high: air('th', 'Warmest beside them in the first two days'),
      moved: instant('Moved off the site at', { optional: true }),
      arrived: instant('At the laboratory at', { optional: true }),
      demolded: instant('Demolded at', { optional: true }),
      cured: instant('In final curing at', { optional: true }),
      tank: text('In which tank or moist room', { optional: true, later: true, hint: 'as it is called in the laboratory' }),
    },
    at: 'madeAt',
    gives: {
      madeAt: 'specimens.made',
      shape: 'specimens.shape',
      width: 'specimens.width',
      curing: 'specimens.curing',
      low: 'specimens.low',
      high: 'specimens.high',
      moved: 'specimens.moved',
      arrived: 'specimens.arrived',
      demolded: 'specimens.demolded',
      cured: 'specimens.cured',
    },
  },
  specimen: {
    label: 'Specimen',
    plural: 'Specimens',
    parents: ['specimen-set'],
    coding: { of: 'parent', letters: true },
    facts: {
      age: qty(
        'time',
        't',
        'Age at which it is broken',
        { si: 'd', us: 'd' },
        { optional: true, possible: { unit: 'd', above: '0', most: '36500' } },
      ),
      note: text('Note', { optional: true }),
      became: pick('Never broken: it was', { lost: 'lost', damaged: 'damaged' }, { optional: true, later: true }),
      left: text('Left out of its strength test, because', {
        optional: true,
        later: true,
        hint: 'a cause that was seen, never the figure alone',
      }),
    },
    gives: { age: 'specimen.age', left: 'specimen.left' },
  },
  source: {
    label: 'Source',
    plural: 'Sources',
    parents: [null],
    coding: { of: 'name' },
    subject: 'source',
    holdsLines: true,
    facts: {
      pit: text('Pit or quarry'),
      kind: pick('What it gives', { fine: 'Fine aggregate', coarse: 'Coarse aggregate' }),
      nominal: qty('length', 'D', 'Nominal maximum size', { si: 'mm', us: 'in' }, { ...LENGTH, optional: true }),
    },
    gives: { kind: 'source.kind', nominal: 'source.nominal' },
  },
  'field-sample': {
    label: 'Field sample',
    plural: 'Field samples',
    parents: ['source'],
    coding: { of: 'project', letters: 'B', from: 1 },
    facts: {
      takenAt: instant('Taken at'),
      from: pick('From', { stockpile: 'Stockpile', belt: 'Belt', bin: 'Bin', truck: 'Truck', roadway: 'Roadway' }),
      increments: qty(
        'ratio',
        'n',
        'Increments combined',
        { si: '1', us: '1' },
        {
          optional: true,
          hint: 'three or more',
          possible: { unit: '1', least: '1', most: '1000' },
          plausible: { unit: '1', least: '3', most: '100' },
        },
      ),
      nominal: { ...NOMINAL, optional: true },
      mass: qty('mass', 'm', 'Mass', { si: 'kg', us: 'lb' }, { optional: true, possible: { unit: 'kg', above: '0', most: '1000' } }),
      place: text('Where it is kept', { optional: true, hint: 'like shelf 6, until all is accepted' }),
      custody: rows('Handed over', { to: text('To whom'), at: instant('At') }, { optional: true, later: true }),
      ...RUN,
    },
    at: 'takenAt',
    gives: { ...GIVES_RUN, nominal: 'source.nominal', mass: 'field.mass' },
    check: (r, x) => leastCheck(r, 'd75', x),
  },
  portion: {
    label: 'Test portion',
    plural: 'Test portions',
    parents: ['field-sample', 'portion'],
    coding: { of: 'parent', letters: true },
    facts: {
      mass: qty('mass', 'm', 'Mass', { si: 'g', us: 'g' }, { optional: true, possible: { unit: 'g', above: '0', most: '500000' } }),
      for: text('For', { optional: true }),
      way: pick('Reduced with', WAYS, { optional: true }),
      place: text('Where it is kept', { optional: true, hint: 'a split that is kept until all is accepted' }),
      ...RUN,
    },
    gives: GIVES_RUN,
  },
  'prism-set': {
    label: 'Set of prisms',
    plural: 'Sets of prisms',
    parents: ['sample', 'trial-batch'],
    coding: { of: 'project', letters: 'L', from: 1 },
    facts: {
      castAt: instant('Water met cement at'),
      regime: pick('Kept', REGIMES, { optional: true, usual: 'air' }),
      gauge: qty('length', 'G', 'Gauge length', { si: 'mm', us: 'in' }, { possible: { unit: 'mm', above: '0', most: '1000' } }),
      demolded: instant('Demolded at', { optional: true }),
      initialAt: instant('First read at', { optional: true }),
      drying: instant('Drying started at', { optional: true }),
    },
    at: 'castAt',
    gives: {
      gauge: 'prisms.gauge',
      castAt: 'prisms.cast',
      regime: 'prisms.regime',
      demolded: 'prisms.demolded',
      initialAt: 'prisms.initial',
    },
  },
  prism: {
    label: 'Prism',
    plural: 'Prisms',
    parents: ['prism-set'],
    coding: { of: 'parent', letters: true },
    facts: { note: text('Note', { optional: true }) },
  },
  'trial-batch': {
    label: 'Trial batch',
    plural: 'Trial batches',
    parents: [null],
    coding: { of: 'project', letters: 'T', from: 1 },
    subject: 'mix',
    facts: {
      mixedAt: instant('Water met cement at'),
      volume: qty('volume', 'V', 'Volume', { si: 'L', us: 'ft3' }, { possible: { unit: 'L', above: '0', most: '1000' } }),
      ...runShape('trial-batch'),
    },
    at: 'mixedAt',
    gives: GIVES_RUN,
  },
  storage: {
    label: 'Tank or moist room',
    plural: 'Tanks and moist rooms',
    parents: [null],
    coding: { of: 'name' },
    facts: { kind: pick('What it is', { tank: 'Tank of lime water', room: 'Moist room' }) },
  },
};

export const ITEM_KIND_IDS = Object.keys(ITEM_KINDS) as [ItemKind, ...ItemKind[]];

/** Whether an item of this kind may lie under one of that; `null` is the top. */
export const mayLieIn = (kind: ItemKind, parent: ItemKind | null): boolean => ITEM_KINDS[kind].parents.includes(parent);

/**
 * The item at the head of a line: what lies in it is judged together with it, and written by one at a time. A load heads its
 * samples, sets and specimens; a field sample its portions.
 * @param path an item and all that it lies in, the top first
 */
export const headOf = <T extends { readonly kind: ItemKind }>(path: readonly T[]): T =>
  path.findLast((_item, i) => i === 0 || ITEM_KINDS[path[i - 1]!.kind].holdsLines === true)!;

/** Letters as people count with them: A … Z, AA. */
export function lettersOf(n: number): string {
  const last = String.fromCharCode(65 + ((n - 1) % 26));
  return n <= 26 ? last : lettersOf(Math.floor((n - 1) / 26)) + last;
}

/** What codes of a kind begin with on the n-th device that makes them without a network, `D-K`; null for kinds without letters. */
export function issuedFrom(kind: ItemKind, device: number): string | null {
  const { coding } = ITEM_KINDS[kind];
  return coding.of === 'project' ? `${coding.letters}-${lettersOf(device)}` : null;
}

/** Whether a device may have called one of this kind so: `D-K7`. */
export function isIssued(kind: ItemKind, code: string): boolean {
  const { coding } = ITEM_KINDS[kind];
  return coding.of === 'project' && new RegExp(`^${coding.letters}-[A-Z]{1,3}[1-9]\\d{0,4}$`).test(code);
}

/** The code of the n-th of its kind: in the project, or of its parent (whose code it carries where it is lettered). */
export function codeOf(kind: ItemKind, n: number, parentCode: string, name: string | null): string {
  const { coding } = ITEM_KINDS[kind];
  if (coding.of === 'name') return name ?? '';
  if (coding.of === 'project') return `${coding.letters}-${coding.from + n - 1}`;
  return 'word' in coding ? `${coding.word} ${n}` : `${parentCode}-${lettersOf(n)}`;
}
