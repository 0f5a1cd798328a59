import type { Interval } from '@keen-mortar/core';
import { DateTime } from 'luxon';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;
/** Days to come that are drawn; what is later stands at the edge. */
const DAYS = 4;

/** One scale in four stretches: done, the next hour wide, to closing, days to come. */
export interface Ribbon {
  /** Where a moment stands, 0 to 1; what is before or after stands at the edge. */
  readonly x: (ms: number) => number;
  readonly at: (x: number) => number;
  /** `ends`: its words stand before it, for the days that follow begin there. */
  readonly ticks: readonly { readonly x: number; readonly text: string; readonly ends?: true }[];
  readonly stretches: readonly { readonly x: number; readonly to: number; readonly label: string }[];
  /** Where nobody is in the laboratory. */
  readonly closed: readonly { readonly x: number; readonly w: number }[];
}

const SHARES = [0, 0.13, 0.4, 0.66, 0.97];

/** @param openings in order of time */
export function ribbonOf(now: number, zone: string, openings: readonly Interval[]): Ribbon {
  const day = DateTime.fromMillis(now, { zone }).startOf('day');
  const [begins, ends] = [day.toMillis(), day.plus({ days: 1 }).toMillis()];
  const today = openings.find((o) => o.from < ends && o.to > begins);
  const from = Math.min(today?.from ?? now - 2 * HOUR, now - HOUR);
  const closes = today && today.to > now + 1.5 * HOUR;
  const closing = closes ? today.to : now + 4 * HOUR;
  const labels = ['done', 'next hour', closes ? 'to closing' : 'next hours', 'days to come'];
  const last = day.plus({ days: DAYS + 1 }).toMillis();
  const points = [from, now, now + HOUR, closing, last];
  const x = (ms: number): number => {
    if (ms <= from) return 0;
    const i = points.findIndex((p) => ms < p);
    if (i < 1) return 1;
    const [a, b] = [points[i - 1]!, points[i]!];
    return SHARES[i - 1]! + ((ms - a) / (b - a)) * (SHARES[i]! - SHARES[i - 1]!);
  };
  const at = (share: number): number => {
    const i = Math.min(4, Math.max(1, SHARES.findIndex((s) => share < s) === -1 ? 4 : SHARES.findIndex((s) => share < s)));
    const [a, b] = [SHARES[i - 1]!, SHARES[i]!];
    return points[i - 1]! + ((share - a) / (b - a)) * (points[i]! - points[i - 1]!);
  };
  const clock = (ms: number): string => DateTime.fromMillis(ms, { zone }).toFormat('HH:mm');
  const days = Array.from({ length: DAYS }, (_d, i) => day.plus({ days: i + 1 })).filter((d) => d.toMillis() > closing);
  return {
    x,
    at,
    ticks: [
      { x: x(now + 30 * MINUTE), text: clock(now + 30 * MINUTE) },
      { x: x(now + HOUR), text: clock(now + HOUR) },
      { x: x(closing), text: clock(closing), ends: true },
      ...days.map((d) => ({ x: x(d.plus({ hours: 12 }).toMillis()), text: d.toFormat('ccc') })),
    ],
    stretches: labels.map((label, i) => ({ x: SHARES[i]!, to: SHARES[i + 1]!, label })),
    closed: closedIn(openings, from, last).map((c) => ({ x: x(c.from), w: x(c.to) - x(c.from) })),
  };
}

/** What of a span lies in no opening. */
function closedIn(openings: readonly Interval[], from: number, to: number): Interval[] {
  const closed: Interval[] = [];
  let at = from;
  for (const o of openings) {
    if (o.to <= at) continue;
    if (o.from >= to) break;
    if (o.from > at) closed.push({ from: at, to: o.from });
    at = Math.max(at, o.to);
  }
  if (at < to) closed.push({ from: at, to });
  return closed;
}

/** `50 min`, `3:36 h`, `2 d 5 h`: what is left, as short as it is read. */
export function leftWords(ms: number): string {
  if (ms >= 2 * DAY) return `${Math.floor(ms / DAY)} d ${Math.floor((ms % DAY) / HOUR)} h`;
  if (ms >= HOUR) return `${Math.floor(ms / HOUR)} h ${String(Math.floor((ms % HOUR) / MINUTE)).padStart(2, '0')}`;
  if (ms >= 10 * MINUTE) return `${Math.floor(ms / MINUTE)} min`;
  return `${Math.floor(ms / MINUTE)}:${String(Math.floor((ms % MINUTE) / 1000)).padStart(2, '0')}`;
}
