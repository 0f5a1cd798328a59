/** To make one costs many times what it costs to use it. */
function formatter(locale: string, options: Intl.DateTimeFormatOptions): (timeZone?: string) => Intl.DateTimeFormat {
  const made = new Map<string | undefined, Intl.DateTimeFormat>();
  return (timeZone) => {
    const known = made.get(timeZone);
    if (known) return known;
    const one = new Intl.DateTimeFormat(locale, { ...options, ...(timeZone ? { timeZone } : {}) });
    made.set(timeZone, one);
    return one;
  };
}

const CLOCK = formatter('en-GB', { hour: '2-digit', minute: '2-digit' });
const LONG = formatter('en-GB', { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric' });
const PLAIN = formatter('sv-SE', { year: 'numeric', month: '2-digit', day: '2-digit' });
const WHOLE = formatter('en-GB', { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' });

/** A moment as the project's clock shows it: `14:07`. */
export const zonedTime = (iso: string, timeZone?: string): string => CLOCK(timeZone).format(new Date(iso));

/** A calendar day for people: `Wed 25 Nov 2026`. `day` is yyyy-mm-dd, in no zone. */
export const longDay = (day: string): string => LONG('UTC').format(new Date(`${day}T00:00:00Z`));

/** Today where the project is, yyyy-mm-dd. */
export const today = (timeZone?: string, now = new Date()): string => PLAIN(timeZone).format(now);

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
  return WHOLE().format(at);
}
