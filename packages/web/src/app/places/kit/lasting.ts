import { dayIn, type Equipment } from '@keen-mortar/contract';
import { DateTime } from 'luxon';
import { longDay } from '../../parts/when';

/** How long a calibration lasts yet, in words, and how much of its time is left. */
export interface Lasting {
  readonly state: 'good' | 'soon' | 'past' | 'never';
  readonly says: string;
  /** Of its whole time: 1 at first, 0 at the end. */
  readonly left: number;
}

/** It is said that it ends so many days before. */
const SOON = 14;

export function lastingOf(
  { calibratedOn, until, wrong }: Pick<Equipment, 'calibratedOn' | 'until' | 'wrong'>,
  now: number,
  zone: string,
): Lasting {
  if (wrong) return { state: 'past', says: `found wrong: ${wrong.why}`, left: 0 };
  if (calibratedOn === null) return { state: 'never', says: 'never calibrated', left: 0 };
  if (until === null) return { state: 'good', says: `calibrated ${longDay(calibratedOn)}`, left: 1 };
  const [today, end, from] = [dayIn(zone, new Date(now).toISOString()), until, calibratedOn].map((day) =>
    DateTime.fromISO(day, { zone: 'utc' }),
  );
  const days = Math.round(end!.diff(today!, 'days').days);
  if (days < 0) return { state: 'past', says: `${-days} ${days === -1 ? 'day' : 'days'} past`, left: 0 };
  const left = Math.min(1, days / Math.max(1, end!.diff(from!, 'days').days));
  if (days <= SOON) return { state: 'soon', says: days === 0 ? 'ends today' : `${days} ${days === 1 ? 'day' : 'days'} left`, left };
  return { state: 'good', says: `to ${longDay(until)}`, left };
}
