import type { Item } from '@keen-mortar/contract';
import { findingsOf, headOf, partOf, SCHOOLS, schoolOn, strengthsOn, type Line } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { lineOnRecord, withSeries, type LineOnRecord } from '../queries/line.js';
import { lineDone, postponeLines, setFindings, type FindingRow } from '../store/findings.js';
import { linesInTank, lockLine } from '../store/items.js';
import { linesAfter, setStrengths, strengthsKept, type StrengthRow } from '../store/strengths.js';
import { DateTime } from 'luxon';

/** So many lines are judged in the transaction that touched them; more wait, and are shown as such. */
const AT_ONCE = 100;

/** Something on this path was changed: its line is judged again before the write ends, and what holds it where it heads one. */
export function touch(act: Pick<Act, 'touched'>, path: readonly Item[]): void {
  const head = headOf(path);
  const above = path.slice(0, path.indexOf(head));
  act.touched.set(head.id, above);
  const holder = above.at(-1);
  if (holder?.kind === 'pour' && path.at(-1)!.id === head.id) act.touched.set(holder.id, null);
}

/** The strength tests of a line as rows. */
function strengthRows(line: Line, head: Item): StrengthRow[] {
  return line.items
    .filter((i) => i.kind === 'specimen-set')
    .flatMap((set) =>
      strengthsOn(line, set).map(({ property, ageDays, brokenAt, planned, test, specimens }): StrengthRow => ({
        setId: set.id,
        property,
        ageDays,
        subjectId: head.subjectId,
        castAt: set.at,
        brokenAt,
        unit: test.unit,
        mean: test.mean,
        reported: test.reported,
        count: test.count,
        planned,
        range: test.range,
        most: test.most,
        apart: test.apart,
        notFor: test.not,
        specimens,
      })),
    );
}

/** The strength tests of a line are made again. @returns lines of later tests of the mix whose means these enter */
async function keepStrengths(cx: PoolConnection, { line, head }: LineOnRecord): Promise<string[]> {
  const sets = line.items.filter((i) => i.kind === 'specimen-set');
  if (sets.length === 0) return [];
  const rows = strengthRows(line, head);
  const before = await strengthsKept(
    cx,
    sets.map((s) => s.id),
  );
  const moved = sets.filter((set) => {
    const [now, was] = [rows.filter((r) => r.setId === set.id), before.filter((r) => r.setId === set.id)];
    return JSON.stringify(now.map(written).sort()) !== JSON.stringify(was.map(written).sort());
  });
  const after: string[] = [];
  for (const set of moved) {
    const own = rows.filter((r) => r.setId === set.id);
    await setStrengths(cx, set.id, own);
    if (head.subjectId === null) continue;
    const parts = new Map([...own, ...before.filter((r) => r.setId === set.id)].map((r) => [partOf(r), r]));
    for (const { property, ageDays } of parts.values())
      after.push(
        ...(await linesAfter(cx, head.subjectId, { property, ageDays, after: new Date(set.at), most: SCHOOLS[schoolOn(line)].enters })),
      );
  }
  return after;
}

const written = (r: StrengthRow): string =>
  JSON.stringify([
    r.property,
    r.ageDays,
    r.castAt,
    r.brokenAt,
    r.unit,
    r.mean,
    r.reported,
    r.count,
    r.planned,
    r.range,
    r.most,
    r.apart,
    r.notFor,
    r.specimens,
  ]);

/** What is found of a line is made again. */
async function keepFindings(cx: PoolConnection, record: LineOnRecord): Promise<void> {
  const line = await withSeries(cx, record);
  const { head } = record;
  const rows = findingsOf(line).map(({ decision, ...f }): FindingRow => ({
    ...f,
    lineId: head.id,
    projectId: head.projectId,
    decisionId: decision?.id ?? null,
  }));
  await setFindings(cx, head.id, rows);
}

/** Sets in a tank are told by what it was found at: those that may have lain in it when it was read last. */
const sinceFor = ({ tests }: Line): string | null => {
  const last = Math.max(...tests.map((t) => Date.parse(t.startedAt)));
  return Number.isFinite(last) ? DateTime.fromMillis(last).minus({ days: 120 }).toISODate() : null;
};

/**
 * A line is judged again: its strength tests, and what several things on it mean together.
 * @param above what its head lies in, of a line that this write holds already
 * @returns other lines that hang on it
 */
export async function judgeLine(cx: PoolConnection, lineId: string, above: readonly Item[] | null = null): Promise<string[]> {
  if (above === null) await lockLine(cx, lineId);
  const record = await lineOnRecord(cx, lineId, above);
  const after = await keepStrengths(cx, record);
  await keepFindings(cx, record);
  const { head } = record;
  const since = head.kind === 'storage' ? sinceFor(record.line) : null;
  if (since !== null) after.push(...(await linesInTank(cx, head.projectId, head.code, since)));
  return after.filter((id) => id !== lineId);
}

/** Judges a line that waits, in a transaction of its own. */
export async function judgePostponed(cx: PoolConnection, lineId: string): Promise<boolean> {
  const after = await judgeLine(cx, lineId);
  await lineDone(cx, lineId);
  await postponeLines(cx, after);
  return true;
}

/**
 * What was touched by a write is judged before it ends, in one order everywhere. What hangs on that is judged as well; where it
 * is too much the rest waits.
 */
export async function judgeTouched(cx: PoolConnection, act: Act): Promise<void> {
  const done = new Set<string>();
  let wanted = [...act.touched.keys()].sort();
  while (wanted.length > 0) {
    const [now, later] = [wanted.slice(0, AT_ONCE - done.size), wanted.slice(Math.max(0, AT_ONCE - done.size))];
    const after = new Set<string>();
    for (const lineId of now) {
      done.add(lineId);
      for (const id of await judgeLine(cx, lineId, act.touched.get(lineId) ?? null)) after.add(id);
    }
    if (later.length > 0) {
      await postponeLines(
        cx,
        [...later, ...after].filter((id) => !done.has(id)),
      );
      return;
    }
    wanted = [...after].filter((id) => !done.has(id)).sort();
  }
}
