import { createEvents, type DateArray } from 'ics';

const utc = (ms: number): DateArray => {
  const at = new Date(ms);
  return [at.getUTCFullYear(), at.getUTCMonth() + 1, at.getUTCDate(), at.getUTCHours(), at.getUTCMinutes()];
};

export interface CalendarEntry {
  readonly uid: string;
  readonly title: string;
  readonly description: string;
  /** ms */
  readonly at: number;
}

/** Moments as an iCalendar file (RFC 5545): each a quarter of an hour. */
export function calendarOf(entries: readonly CalendarEntry[]): string {
  const { value, error } = createEvents(
    entries.map(({ uid, title, description, at }) => ({
      uid: `${uid}@keen-mortar`,
      title,
      description,
      start: utc(at),
      startInputType: 'utc' as const,
      startOutputType: 'utc' as const,
      duration: { minutes: 15 },
      productId: 'keen-mortar/plan',
    })),
  );
  if (typeof value !== 'string') throw error ?? new Error('No calendar could be made.');
  return value;
}

export function saveCalendar(name: string, entries: readonly CalendarEntry[]): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([calendarOf(entries)], { type: 'text/calendar' }));
  link.download = `${name}.ics`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href));
}
