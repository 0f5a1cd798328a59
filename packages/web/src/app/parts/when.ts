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

/** What a stopwatch shows: `4.8` below a minute, `1:52` from there. */
export function elapsed(ms: number): string {
  const seconds = Math.max(0, ms) / 1000;
  if (seconds < 60) return seconds.toFixed(1);
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

/** A moment as this device's clock shows it, for a reader: `Tue 9 Jun 2026, 10:20`. */
export function momentText(iso: string): string {
  const at = new Date(iso);
  if (Number.isNaN(at.getTime())) return iso;
  return new Intl.DateTimeFormat('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
  }).format(at);
}
