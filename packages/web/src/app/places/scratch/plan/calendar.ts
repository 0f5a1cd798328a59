import type { Job, PlannedEvent } from '@keen-mortar/core';
import { createEvents, type DateArray } from 'ics';

const utc = (ms: number): DateArray => {
  const at = new Date(ms);
  return [at.getUTCFullYear(), at.getUTCMonth() + 1, at.getUTCDate(), at.getUTCHours(), at.getUTCMinutes()];
};

/** A plan as an iCalendar file: each moment at the time that is offered, with the interval in which it may be. */
export function calendarOf(job: Job, planned: readonly PlannedEvent[], moment: (ms: number) => string): string {
  const { value, error } = createEvents(
    planned.map((p) => {
      const event = job.events.find((e) => e.id === p.id)!;
      return {
        uid: `${job.id}-${p.id}-${p.best}@keen-mortar`,
        title: event.label,
        description: `${job.label}. Between ${moment(p.feasible.from)} and ${moment(p.feasible.to)}. ${job.source.designation}.`,
        start: utc(p.best),
        startInputType: 'utc' as const,
        startOutputType: 'utc' as const,
        duration: { minutes: 15 },
        productId: 'keen-mortar/plan',
      };
    }),
  );
  if (typeof value !== 'string') throw error ?? new Error('No calendar could be made.');
  return value;
}
