/** To make one costs many times what it costs to use it; there are as many as there are zones. */
const DAYS = new Map<string, Intl.DateTimeFormat>();

function daysOf(zone: string): Intl.DateTimeFormat {
  const known = DAYS.get(zone);
  if (known) return known;
  const made = new Intl.DateTimeFormat('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' });
  DAYS.set(zone, made);
  return made;
}

/** The day (yyyy-mm-dd) that it is in a zone at a moment. */
export const dayIn = (zone: string, iso: string): string => daysOf(zone).format(new Date(iso));
