import type { Remark } from '../methods/running.js';
import type { Source } from '../methods/definition.js';
import type { Sources } from './sources.js';

export type KitKind = 'measure' | 'air-meter' | 'thermometer';

/** How long a calibration holds. Null: the lab's own interval. */
export const CALIBRATION: Readonly<Record<KitKind, { label: string; months: number | null; source: string }>> = {
  measure: { label: 'Density measure', months: 12, source: 'ASTM C138/C138M-23, ASTM C29/C29M-23' },
  'air-meter': { label: 'Air meter', months: 3, source: 'ASTM C231/C231M-22' },
  thermometer: { label: 'Thermometer', months: 12, source: 'the lab’s own interval' },
};

export const KIT_KINDS = Object.keys(CALIBRATION) as KitKind[];

interface KitValues {
  readonly own: readonly Source[];
  readonly calibrated: readonly Source[];
  /** Methods that work out what a calibration finds, from what was read then. */
  readonly by?: Partial<Readonly<Record<Source, { readonly method: string; readonly result: string }>>>;
}

/** What an instrument of a kind has of its own, and what each calibration finds: fields of methods take these. */
export const KIT_VALUES: Readonly<Record<KitKind, KitValues>> = {
  measure: {
    own: ['measure.nominal'],
    calibrated: ['measure.volume'],
    by: { 'measure.volume': { method: 'measure-calibration', result: 'volume' } },
  },
  'air-meter': { own: ['meter.division'], calibrated: [] },
  thermometer: { own: [], calibrated: [] },
};

export interface Kit {
  readonly id: string;
  readonly kind: KitKind;
  readonly name: string;
  /** ISO dates (yyyy-mm-dd) of the calibration in force and of the last day it holds. */
  readonly calibratedOn: string | null;
  readonly until: string | null;
  readonly sources: Sources;
}

/** A remark when the equipment was past its calibration on the day (yyyy-mm-dd) of the test, or never had one. */
export function kitMarks(kit: Kit | undefined, day: string): Remark[] {
  if (!kit) return [];
  if (kit.calibratedOn === null) return [{ code: 'never-calibrated', params: { name: kit.name } }];
  if (kit.until === null || day <= kit.until) return [];
  return [{ code: 'out-of-calibration', params: { name: kit.name, at: kit.calibratedOn, until: kit.until } }];
}
