/** The day (yyyy-mm-dd) that it is in a zone at a moment. */
export const dayIn = (zone: string, iso: string): string =>
  new Intl.DateTimeFormat('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' }).format(new Date(iso));
