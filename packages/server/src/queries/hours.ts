import { USUAL_WEEK, type NewHours } from '@keen-mortar/contract';
import type { Interval } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { Cx } from '../db.js';
import { hoursFrom } from '../store/hours.js';

export interface Opened {
  /** As it is on a usual week of now. */
  readonly week: NewHours['week'];
  readonly openings: readonly Interval[];
}

/** When somebody is in the laboratory between two moments, by the clock of its zone: the newest that was said of a day counts. */
export async function openingsOf(cx: Cx, projectId: string, zone: string, from: Date, to: Date): Promise<Opened> {
  const [first, last] = [from, to].map((at) => DateTime.fromJSDate(at, { zone }).startOf('day')) as [DateTime, DateTime];
  const said = await hoursFrom(cx, projectId, first.toISODate()!, last.toISODate()!);
  const weekOn = (day: string) => said.find((h) => h.from <= day && (h.to === undefined || day <= h.to))?.week ?? USUAL_WEEK;
  const openings: Interval[] = [];
  for (let day = first; day <= last; day = day.plus({ days: 1 })) {
    const hours = weekOn(day.toISODate()!)[day.weekday - 1];
    if (!hours) continue;
    const [open, close] = hours.map((text) => {
      const [hour, minute] = text.split(':').map(Number) as [number, number];
      return day.set({ hour, minute }).toMillis();
    }) as [number, number];
    openings.push({ from: open, to: close });
  }
  const usual = said.find((h) => h.to === undefined && h.from <= first.toISODate()!)?.week ?? USUAL_WEEK;
  return { week: usual, openings };
}
