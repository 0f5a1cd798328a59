const FIRST = Date.UTC(1900, 0, 1);
const LAST = Date.UTC(2200, 0, 1);

/**
 * ms since the epoch of an ISO text; null for what is no moment, or one that no record can be of (before
 * 1900, from 2200 on): `9999-12-31T23:59-14:00` is in a year that cannot be written back.
 */
export function momentOf(iso: string | null | undefined): number | null {
  const ms = Date.parse(iso ?? '');
  return ms >= FIRST && ms < LAST ? ms : null;
}
