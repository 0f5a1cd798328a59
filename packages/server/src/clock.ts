declare const KEEN_MORTAR_CLOCK_MOVES: boolean | undefined;

/** So many seconds the server's clock goes before the database's: in a build for tests alone, where days have to pass in one. */
function movedBy(): number {
  if (typeof KEEN_MORTAR_CLOCK_MOVES === 'undefined' || !KEEN_MORTAR_CLOCK_MOVES) return 0;
  return Math.trunc(Number(process.env['KEEN_MORTAR_MOVED_BY'] ?? 0));
}

/** What o'clock it is for every record, in SQL. */
export const NOW = movedBy() === 0 ? 'UTC_TIMESTAMP(3)' : `UTC_TIMESTAMP(3) + INTERVAL ${movedBy()} SECOND`;
