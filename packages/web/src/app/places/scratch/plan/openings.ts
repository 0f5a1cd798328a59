import type { Interval } from '@keen-mortar/core';

/** When somebody is there. */
export interface Hours {
  readonly opens: string;
  readonly closes: string;
  /** Days of the week, 0 is Sunday. */
  readonly days: readonly number[];
}

export const USUAL_HOURS: Hours = { opens: '07:00', closes: '17:30', days: [1, 2, 3, 4, 5] };

const KEY = 'km.hours';

export function rememberedHours(): Hours {
  try {
    const hours = JSON.parse(localStorage.getItem(KEY) ?? 'null') as Hours | null;
    return hours && minutesOf(hours.opens) < minutesOf(hours.closes) && Array.isArray(hours.days) ? hours : USUAL_HOURS;
  } catch {
    return USUAL_HOURS;
  }
}

export const rememberHours = (hours: Hours): void => localStorage.setItem(KEY, JSON.stringify(hours));

/** Minutes from midnight of `07:30`; NaN for what is no time. */
export function minutesOf(time: string): number {
  const [, hours, minutes] = /^(\d{2}):(\d{2})/.exec(time) ?? [];
  return hours === undefined ? NaN : Number(hours) * 60 + Number(minutes);
}

/** Openings between two moments by this device's calendar, daylight saving and all. */
export function openings({ opens, closes, days }: Hours, from: number, to: number): Interval[] {
  const found: Interval[] = [];
  const [open, close] = [minutesOf(opens), minutesOf(closes)];
  if (!(open < close)) return found;
  const day = new Date(from);
  day.setHours(0, 0, 0, 0);
  for (; day.getTime() <= to; day.setDate(day.getDate() + 1)) {
    if (!days.includes(day.getDay())) continue;
    const at = (minutes: number): number => new Date(day.getFullYear(), day.getMonth(), day.getDate(), 0, minutes).getTime();
    found.push({ from: at(open), to: at(close) });
  }
  return found;
}
