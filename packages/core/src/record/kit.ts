import type { Remark } from '../methods/running.js';
import type { Params } from '../problems.js';
import type { Dimension } from '../units/units.js';
import type { AnyMethod, Source } from '../methods/definition.js';
import type { Picture } from '../methods/families.js';
import type { Sources } from './sources.js';
import { padsServe } from '../methods/compression/broken.js';
import type { Keyed } from '../units/reading.js';

export type KitKind =
  | 'measure'
  | 'air-meter'
  | 'volume-meter'
  | 'slump-cone'
  | 'thermometer'
  | 'balance'
  | 'oven'
  | 'sieves'
  | 'flask'
  | 'splitter'
  | 'mold'
  | 'machine'
  | 'pads'
  | 'comparator'
  | 'hammer'
  | 'electrode';

/** The lab’s shelves, in the order of the work. */
export const SHELVES = {
  fresh: 'Fresh concrete',
  aggregate: 'Aggregate and weighing',
  strength: 'Strength',
  place: 'In place and long runs',
} as const;

interface Keeping {
  readonly label: string;
  readonly shelf: keyof typeof SHELVES;
  /** So many months a calibration holds; null: as long as the lab says at each. */
  readonly months: number | null;
  readonly source: string;
  readonly picture: Picture;
  /** It is not calibrated: what it was used on is counted, and it is worn out by that. */
  readonly wears?: true;
  /** What it shows is the result: nobody can say later what that was worth where nobody said which one it was. */
  readonly shows?: true;
}

const OWN_RULE = 'the lab’s own interval';
const own = (label: string, picture: Picture, shelf: Keeping['shelf']): Keeping => ({
  label,
  shelf,
  months: null,
  source: OWN_RULE,
  picture,
});

/** What is kept on the shelves, and how long a calibration of each kind holds at the most. */
export const CALIBRATION: Readonly<Record<KitKind, Keeping>> = {
  measure: { label: 'Density measure', shelf: 'fresh', months: 12, source: 'ASTM C138/C138M-23, ASTM C29/C29M-23', picture: 'bowl' },
  'air-meter': { label: 'Air meter', shelf: 'fresh', months: 3, source: 'ASTM C231/C231M-22', picture: 'meter', shows: true },
  'volume-meter': { ...own('Volumetric air meter', 'meter', 'fresh'), shows: true },
  'slump-cone': own('Slump cone', 'mold', 'fresh'),
  thermometer: { label: 'Thermometer', shelf: 'fresh', months: 12, source: OWN_RULE, picture: 'thermo' },
  balance: own('Balance', 'scale', 'aggregate'),
  oven: own('Oven', 'oven', 'aggregate'),
  sieves: own('Sieves', 'sieve', 'aggregate'),
  flask: own('Flask', 'flask', 'aggregate'),
  splitter: own('Splitter', 'heap', 'aggregate'),
  mold: own('Mold', 'cyl', 'strength'),
  machine: { label: 'Compression machine', shelf: 'strength', months: 13, source: 'ASTM C39/C39M-24', picture: 'press' },
  pads: { label: 'Pair of pads', shelf: 'strength', months: null, source: 'ASTM C1231/C1231M-23', picture: 'cyl', wears: true },
  comparator: own('Length comparator', 'comparator', 'place'),
  hammer: own('Rebound hammer', 'hammer', 'place'),
  electrode: own('Reference electrode', 'cell', 'place'),
};

export const KIT_KINDS = Object.keys(CALIBRATION) as KitKind[];

interface KitValues {
  readonly own: readonly Source[];
  readonly calibrated: readonly Source[];
  /** Methods that work out what a calibration finds, from what was read then. */
  readonly by?: Partial<Readonly<Record<Source, { readonly method: string; readonly result: string }>>>;
}

const VALUES: Partial<Readonly<Record<KitKind, KitValues>>> = {
  measure: {
    own: ['measure.nominal'],
    calibrated: ['measure.volume'],
    by: { 'measure.volume': { method: 'measure-calibration', result: 'volume' } },
  },
  'air-meter': { own: ['meter.division'], calibrated: [] },
  pads: { own: ['pads.hardness'], calibrated: [] },
  splitter: { own: ['splitter.chutes', 'splitter.width'], calibrated: [] },
};

const NO_VALUES: KitValues = { own: [], calibrated: [] };

/** What an instrument of a kind has of its own, and what each calibration finds: fields of methods take these. */
export const KIT_VALUES = Object.fromEntries(KIT_KINDS.map((kind) => [kind, VALUES[kind] ?? NO_VALUES])) as Readonly<
  Record<KitKind, KitValues>
>;

export interface Kit {
  readonly id: string;
  readonly kind: KitKind;
  readonly name: string;
  /** ISO dates (yyyy-mm-dd) of the calibration in force and of the last day it holds. */
  readonly calibratedOn: string | null;
  readonly until: string | null;
  /** It was found wrong, and not calibrated since; or, of what was tested with it, found so later. */
  readonly wrong: FoundWrong | null;
  readonly sources: Sources;
}

export interface FoundWrong {
  /** The day on which it was found, yyyy-mm-dd. */
  readonly on: string;
  readonly why: string;
  /** Of a test that was made before: nobody knew then. */
  readonly later: boolean;
}

/**
 * Remarks when equipment was past its calibration on the day (yyyy-mm-dd) of the test, never had one, or was found wrong.
 * @param used why it was used all the same
 */
export function kitMarks(kit: Kit | null | undefined, day: string, used: string | null = null): Remark[] {
  if (!kit) return [];
  const told = { name: kit.name, ...(used === null ? {} : { used }) };
  const wrong = wrongMarks(kit, day, told);
  if (CALIBRATION[kit.kind].wears) return wrong;
  if (kit.calibratedOn === null) return [...wrong, { code: 'never-calibrated', params: told }];
  if (kit.until === null || day <= kit.until) return wrong;
  return [...wrong, { code: 'out-of-calibration', params: { ...told, at: kit.calibratedOn, until: kit.until } }];
}

/** The kind of instrument that a test made without one should have named: what it shows is the result. Null where none needs to be. */
export const unsaidKit = (m: Pick<AnyMethod, 'kit'>, equipmentId: string | null): KitKind | null =>
  equipmentId === null && m.kit !== undefined && CALIBRATION[m.kit].shows === true ? m.kit : null;

/**
 * What stands on a test for which nobody said with which instrument it was made.
 * @param why as it was said when the test was begun
 */
export const unsaidRemark = (kind: KitKind, why: string | null = null): Remark => ({
  code: 'instrument-not-said',
  params: { kind: CALIBRATION[kind].label.toLowerCase(), ...(why === null ? {} : { why }) },
});

/** Why it was used all the same is no answer to what was found later; and what is found later is nothing to a test of before. */
function wrongMarks({ name, wrong }: Kit, day: string, told: Params): Remark[] {
  if (!wrong || (!wrong.later && day < wrong.on)) return [];
  return [{ code: 'found-wrong', params: { ...(wrong.later ? { name } : told), at: wrong.on, why: wrong.why } }];
}

/** Whether it was used as often as it may be already. */
export function isWornOut({ sources }: Kit): boolean {
  const [hardness, uses] = [sources['pads.hardness'], sources['pads.uses']] as (Keyed | undefined)[];
  const most = hardness ? padsServe(hardness.text) : null;
  return most !== null && Number(uses?.text ?? 0) > most;
}

/** What an instrument of a kind shows, where it can be read by a line. */
export const READS: Partial<Readonly<Record<KitKind, Dimension>>> = {
  balance: 'mass',
  'air-meter': 'percent',
  thermometer: 'temperature',
  machine: 'force',
};

/** Every kind that a method is done with, the one whose size or calibration enters its result first. */
export const kitOfMethod = (m: Pick<AnyMethod, 'kit' | 'uses'>): readonly KitKind[] => [...(m.kit ? [m.kit] : []), ...(m.uses ?? [])];
