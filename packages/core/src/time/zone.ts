/** To make one costs many times what it costs to use it; there are as many as there are zones. */
const made = new Map<string, Intl.DateTimeFormat>();

function kept(key: string, make: () => Intl.DateTimeFormat): Intl.DateTimeFormat {
  const known = made.get(key);
  if (known) return known;
  const one = make();
  made.set(key, one);
  return one;
}

/** The day (yyyy-mm-dd) that it is in a zone at a moment. */
export const dayIn = (zone: string, iso: string): string =>
  kept(`day ${zone}`, () => new Intl.DateTimeFormat('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' })).format(
    new Date(iso),
  );

/** The time of day in a zone at a moment, ms: `10:24`. */
export const clockIn = (zone: string, ms: number): string =>
  kept(`clock ${zone}`, () => new Intl.DateTimeFormat('en-GB', { timeZone: zone, hour: '2-digit', minute: '2-digit' })).format(
    new Date(ms),
  );
