const FIRST = Date.UTC(1900, 0, 1);
const LAST = Date.UTC(2200, 0, 1);

const MINUTE = 60_000;

/** `50 min`, `4 h 20 min`, `48 h`: to the minute. */
export function spanWords(ms: number): string {
  const minutes = Math.round(ms / MINUTE);
  const [hours, rest] = [Math.floor(minutes / 60), minutes % 60];
  return [hours > 0 ? `${hours} h` : '', rest > 0 || hours === 0 ? `${rest} min` : ''].filter(Boolean).join(' ');
}

/**
 * ms since the epoch of an ISO text; null for what is no moment, or one that no record can be of (before
 * 1900, from 2200 on): `9999-12-31T23:59-14:00` is in a year that cannot be written back.
 */
export function momentOf(iso: string | null | undefined): number | null {
  const ms = Date.parse(iso ?? '');
  return ms >= FIRST && ms < LAST ? ms : null;
}

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** `12 May 2026` of a day yyyy-mm-dd. */
export function dayWords(day: string): string {
  const [year, month, date] = day.split('-').map(Number);
  return `${date} ${MONTHS[month! - 1]} ${year}`;
}
