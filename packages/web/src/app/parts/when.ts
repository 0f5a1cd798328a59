/** A moment as the project's clock shows it: `14:07`. */
export function zonedTime(iso: string, timeZone?: string): string {
  return new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', ...(timeZone ? { timeZone } : {}) }).format(new Date(iso));
}

/** A calendar day for people: `Wed 25 Nov 2026`. `day` is yyyy-mm-dd, in no zone. */
export function longDay(day: string): string {
  return new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' }).format(
    new Date(`${day}T00:00:00Z`),
  );
}

/** Today where the project is, yyyy-mm-dd. */
export function today(timeZone?: string, now = new Date()): string {
  return new Intl.DateTimeFormat('sv-SE', { year: 'numeric', month: '2-digit', day: '2-digit', ...(timeZone ? { timeZone } : {}) }).format(
    now,
  );
}
