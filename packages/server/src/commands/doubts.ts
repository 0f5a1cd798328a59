import type { ToldFault } from '../faults.js';
import type { Item, Reading } from '@keen-mortar/contract';
import { doubtsOn, factsForm, headOf, isDoubtedBeside, pathOnRecord, type Issue, type Line, type LineItem } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { faultOf, Refused } from '../problems.js';
import { lineOnRecord } from '../queries/line.js';
import { lineOf, madeAfter } from '../store/items.js';
import { projectOf } from '../store/projects.js';
import { factsOf } from './facts.js';

interface Kept {
  readonly id: string;
  readonly before: readonly Reading[];
  readonly added: readonly Reading[];
}

interface Answering {
  readonly reason?: string | undefined;
  readonly known?: string | undefined;
}

/** What needs nothing beside it is asked about by itself. */
const alone = (project: Line['project'], item: LineItem): Line => ({
  ...{ project, above: [], items: [item], tests: [] },
  ...{ revision: null, specifications: [], decisions: [] },
});

/** Lines that an item is judged on: its own, and of a load that of its pour, beside the others. */
async function linesOf(cx: PoolConnection, path: readonly Item[]): Promise<Line[]> {
  const item = path.at(-1)!;
  if (!isDoubtedBeside(item.kind)) return [alone(await projectOf(cx, item.projectId), item)];
  const head = headOf(path);
  const pour = item.kind === 'load' ? path.at(-2) : undefined;
  const ids = [head.id, ...(pour?.kind === 'pour' ? [pour.id] : [])];
  const lines: Line[] = [];
  for (const id of ids) lines.push((await lineOnRecord(cx, id)).line);
  return lines;
}

const doubtsIn = (lines: readonly Line[], item: LineItem): Issue[] => lines.flatMap((line) => doubtsOn(line, item));

/**
 * What of an item is unlikely where it was keyed just now is kept with a reason. What only the record can see, and its maker could
 * not know, is kept as it is: it is asked about afterwards.
 * @param kept an item as it stands on record already, and what was keyed of it
 * @param place the path that a fault is told at
 * @returns what was keyed, with the reason where it answers something
 * @throws Refused where a reason is wanted
 */
export async function explain(
  cx: PoolConnection,
  { id, before, added }: Kept,
  { reason, known }: Answering,
  place: (path: string) => string,
): Promise<readonly Reading[]> {
  const path = await lineOf(cx, id);
  const item = path.at(-1)!;
  const lines = await linesOf(cx, path);
  const keyed = new Map(added.map((e) => [e.field, e]));
  const open = (doubts: readonly Issue[], of: LineItem): Issue[] =>
    doubts.filter((d) => keyed.get(pathOnRecord(of, d.path))?.reason === null);
  const asked = open(doubtsIn(lines, item), item);
  if (asked.length === 0) return added;
  if (reason !== undefined) {
    const answered = new Set(asked.map((d) => pathOnRecord(item, d.path)));
    return added.map((e) => (answered.has(e.field) ? { ...e, reason } : e));
  }
  const then = known === undefined ? null : new Date(known);
  const wanted = then === null ? asked : open(...(await inMind(cx, lines, { id, before, added }, item, then)));
  if (wanted.length === 0) return added;
  const m = factsForm(item.kind);
  throw new Refused(
    'needs-reason',
    'What is unlikely is kept with a reason.',
    wanted.map((d): ToldFault => ({ ...faultOf(m, d), code: 'needs-reason', path: place(d.path) })),
  );
}

/** What its maker could doubt, who knew the record as it was at a moment: without what came since. */
async function inMind(
  cx: PoolConnection,
  lines: readonly Line[],
  { before, added }: Kept,
  item: Item,
  known: Date,
): Promise<[Issue[], LineItem]> {
  const later = await madeAfter(
    cx,
    lines.flatMap((l) => l.items.map((i) => i.id)),
    known,
  );
  const seen = before.filter((e) => Date.parse(e.receivedAt) <= known.getTime());
  const then: LineItem = { ...item, facts: factsOf(item.kind, [...seen, ...added]).facts };
  const others = lines.map((line) => ({ ...line, items: line.items.filter((i) => i === line.items[0] || !later.has(i.id)) }));
  return [doubtsIn(others, then), then];
}
