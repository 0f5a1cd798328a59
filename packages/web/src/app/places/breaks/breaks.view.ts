import type { BreakBeside, BreakDue, BreaksView } from '@keen-mortar/contract';
import { nextStep, say, type Evaluation } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import { leftWords } from '../../parts/ribbon';

export type DueState = 'open' | 'later' | 'late';

/** A line of the queue as it stands at a moment. */
export interface Waiting {
  readonly due: BreakDue;
  readonly state: DueState;
  /** `6:28`, `in 0:40`, `past 06:40`. */
  readonly left: string;
  readonly until: string;
  /** How much of its window is left, 0 to 1; of what is not open yet how soon it opens. */
  readonly share: number;
  /** Those of it that were not broken on this device since it was asked for. */
  readonly specimens: BreakDue['specimens'];
}

const DAY = 86_400_000;

const clock = (iso: string, now: number, zone: string): string => {
  const at = DateTime.fromISO(iso, { zone });
  const days = at.startOf('day').diff(DateTime.fromMillis(now, { zone }).startOf('day'), 'days').days;
  return at.toFormat(days === 0 ? 'HH:mm' : Math.abs(days) < 6 ? 'ccc HH:mm' : 'd LLL HH:mm');
};

export function waitingOf(due: BreakDue, now: number, zone: string, gone: ReadonlySet<string>): Waiting {
  const [opens, ends] = [Date.parse(due.opensAt), due.endsAt === null ? null : Date.parse(due.endsAt)];
  const state: DueState = opens > now ? 'later' : ends !== null && ends < now ? 'late' : 'open';
  const until = due.endsAt === null ? `from ${clock(due.opensAt, now, zone)}` : `ends ${clock(due.endsAt, now, zone)}`;
  const share =
    state === 'open' && ends !== null ? (ends - now) / (ends - opens) : state === 'later' ? Math.max(0, 1 - (opens - now) / DAY) : 0;
  const left =
    state === 'late' ? 'past' : state === 'later' ? `in ${leftWords(opens - now)}` : ends === null ? 'now' : leftWords(ends - now);
  return {
    due,
    state,
    left,
    share,
    until: state === 'later' ? `from ${clock(due.opensAt, now, zone)}` : until,
    specimens: due.specimens.filter((s) => !gone.has(s.id)),
  };
}

/** What ends first at the top, what is not open yet after it, what is past last but one day. */
export const inOrder = (view: BreaksView, now: number, gone: ReadonlySet<string>): Waiting[] => {
  const rank: Readonly<Record<DueState, number>> = { open: 0, late: 1, later: 2 };
  return view.queue
    .map((due) => waitingOf(due, now, view.timezone, gone))
    .filter((w) => w.specimens.length > 0)
    .sort((a, b) => rank[a.state] - rank[b.state]);
};

/** The specimen to take after one: of the same set first, then what ends next and may be broken now. */
export function nextOf(all: readonly Waiting[], after: string | null): string | null {
  const own = all.find((w) => after !== null && w.due.specimens.some((s) => s.id === after));
  return own?.specimens[0]?.id ?? all.find((w) => w.state === 'open')?.specimens[0]?.id ?? null;
}

/** Why a specimen is not to be broken now, while it can still be put back; empty where it is. */
export function notNow(all: readonly Waiting[], beside: BreakBeside, id: string): string {
  const own = beside.companions.find((c) => c.id === id);
  const same = all.find((w) => w.due.specimens.some((s) => s.id === id));
  const due = all.filter((w) => w.due.setId === beside.set.id && w.state === 'open').flatMap((w) => w.specimens.map((s) => s.code));
  const instead = due.length === 0 ? '' : ` Of this set are due now: ${due.join(', ')}.`;
  if (!own) return '';
  if (own.became !== null) return `${own.code} was noted as ${own.became}.${instead}`;
  if (own.ageDays === null) return `${own.code} is a spare: it has no age at which it is broken.${instead}`;
  if (!same) return `${own.code} is not due: it is for ${own.ageDays} days.${instead}`;
  if (same.state === 'later') return `Too early: its window (${same.due.window}) is ${same.until}.${instead}`;
  return same.state === 'late'
    ? `Too late: its window (${same.due.window}) is over. It is reported with a remark, and is not for acceptance.${instead}`
    : '';
}

/** The specimen that a label names: its code opens with letters, the code on the label holds its id. */
export function namedBy(text: string): { readonly id: string } | { readonly code: string } | null {
  const id = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/i.exec(text)?.[0];
  if (id) return { id: id.toLowerCase() };
  const code = text.trim().toUpperCase().replace(/\s+/g, '-');
  return /^[A-Z]+-[A-Z]*\d+-[A-Z]+$/.test(code) ? { code } : null;
}

/** The pair that takes the place of a worn one: the next number of its name. */
export function nextPads(names: readonly string[]): string {
  const numbers = names.flatMap((n) => Number(/^Pads (\d+)/.exec(n)?.[1] ?? NaN)).filter(Number.isFinite);
  return `Pads ${Math.max(0, ...numbers) + 1}`;
}

/**
 * How the companions of its age were broken, the last of them first: so is the next one, unless somebody says otherwise.
 * @param last what was broken on this device, and may not be known to the server yet
 * @returns the method; null where none was broken
 */
export function brokenHow(beside: BreakBeside, id: string, last: { readonly id: string; readonly method: string } | null): string | null {
  const own = beside.companions.find((c) => c.id === id);
  const companions = beside.companions.filter((c) => c.ageDays === own?.ageDays && c.id !== id);
  if (last && companions.some((c) => c.id === last.id)) return last.method;
  const broken = companions.flatMap((c) => c.broken ?? []).sort((a, b) => (a.at < b.at ? -1 : 1));
  return broken.at(-1)?.method ?? null;
}

/** Why a specimen gives no strength: said so that it is not loaded, and once it is that it counts for nothing. Empty where it does. */
export function voidWords({ validity }: Pick<Evaluation, 'validity'>, loaded: boolean): string {
  if (validity.state !== 'void') return '';
  const why = validity.reasons.map((r) => [say(r.code, r.params), nextStep(r.code, r.params)].filter(Boolean).join(' '));
  return `${loaded ? 'It is void.' : 'Do not load it.'} ${why.join(' ')}`;
}
