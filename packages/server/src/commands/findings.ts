import type { Item } from '@keen-mortar/contract';
import {
  findingsOf,
  GRAVITY_PROPERTIES,
  headOf,
  partOf,
  SCHOOLS,
  schoolOn,
  STRAYS,
  strengthsOn,
  type Finding,
  type Line,
} from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { lineOnRecord, mixLine, withSeries, type LineOnRecord } from '../queries/line.js';
import { lineDone, postponeLines, setFindings, type FindingRow } from '../store/findings.js';
import { setCountsFrom, WAITS } from '../store/gifts.js';
import { inLineOrder, linesInTank, lockLine } from '../store/items.js';
import { lockMix, mixHead } from '../store/mixes.js';
import { linesAfterStanding } from '../store/standing.js';
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

/** What hangs on a line, and is judged after it. */
interface Hanging {
  readonly lines: readonly string[];
  readonly mixes: readonly string[];
  /** Tests on it are held against the history of their source, and enter that of later ones. */
  readonly history: boolean;
}
const NONE: Hanging = { lines: [], mixes: [], history: false };

/** The strength tests of a line are made again. @returns lines of later tests of the mix whose means these enter, and the mix where any moved */
async function keepStrengths(
  cx: PoolConnection,
  { line, head }: LineOnRecord,
): Promise<{ readonly lines: string[]; readonly mixId: string | null }> {
  const sets = line.items.filter((i) => i.kind === 'specimen-set');
  if (sets.length === 0) return { lines: [], mixId: null };
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
  return { lines: after, mixId: moved.length > 0 ? head.subjectId : null };
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

/** From when on each gravity test counts for others: at once, not while it waits for a look, or from somebody’s word on. */
const countingFrom = (testIds: readonly string[], found: readonly Finding[]): [string, Date | null][] =>
  testIds.map((id) => {
    const strays = found.find((f) => f.finding === STRAYS && f.stoodOn.includes(id));
    if (!strays) return [id, null];
    return [id, strays.acceptance === 'counts' && strays.decision !== null ? new Date(strays.decision.at) : WAITS];
  });

/** What is found of a line is made again. */
async function keepFindings(cx: PoolConnection, record: LineOnRecord): Promise<void> {
  const line = await withSeries(cx, record);
  const { head } = record;
  const found = findingsOf(line);
  if (line.history) await setCountsFrom(cx, countingFrom(Object.keys(line.history), found));
  const rows = found.map(({ decision, ...f }): FindingRow => ({
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
 * @returns what else hangs on it
 */
export async function judgeLine(cx: PoolConnection, lineId: string, above: readonly Item[] | null = null): Promise<Hanging> {
  if (above === null && !(await lockLine(cx, lineId))) {
    await judgeMix(cx, lineId);
    return NONE;
  }
  const record = await lineOnRecord(cx, lineId, above);
  const { lines, mixId } = await keepStrengths(cx, record);
  await keepFindings(cx, record);
  const { head } = record;
  const since = head.kind === 'storage' ? sinceFor(record.line) : null;
  const tanks = since === null ? [] : await linesInTank(cx, head.projectId, head.code, since);
  return {
    lines: [...lines, ...tanks].filter((id) => id !== lineId),
    mixes: mixId === null ? [] : [mixId],
    history: record.line.history !== undefined,
  };
}

/** What a mix gives at the ages at which it is accepted is judged again: after the lines, which everybody comes by first. */
async function judgeMix(cx: PoolConnection, mixId: string): Promise<void> {
  if (!(await lockMix(cx, mixId))) return;
  const mix = await mixHead(cx, mixId);
  const rows = findingsOf(await mixLine(cx, mix)).map(({ decision: _, ...f }): FindingRow => ({
    ...f,
    ...{ lineId: mixId, projectId: mix.projectId, decisionId: null },
  }));
  await setFindings(cx, mixId, rows);
}

/** Lines with later tests of the same source, which are held against those of this one. */
const historyAfter = async (cx: PoolConnection, lineId: string): Promise<string[]> =>
  (await linesAfterStanding(cx, lineId, GRAVITY_PROPERTIES)).filter((id) => id !== lineId);

/**
 * Judges a line that waits, in a transaction of its own. It is struck off before it is read: who asks for it once more meanwhile
 * waits, and finds it to be asked for again.
 */
export async function judgePostponed(cx: PoolConnection, lineId: string): Promise<boolean> {
  await lineDone(cx, lineId);
  const { lines, mixes } = await judgeLine(cx, lineId);
  await postponeLines(cx, [...lines, ...mixes]);
  return true;
}

/**
 * What was touched by a write is judged before it ends, in one order everywhere. What hangs on that is judged as well; where it
 * is too much the rest waits.
 * @returns the lines and mixes that were judged
 */
export async function judgeTouched(cx: PoolConnection, act: Act): Promise<readonly string[]> {
  const done = new Set<string>();
  const mixes = new Set<string>();
  let wanted = await inLineOrder(cx, [...act.touched.keys()]);
  while (wanted.length > 0) {
    const [now, later] = [wanted.slice(0, AT_ONCE - done.size), wanted.slice(Math.max(0, AT_ONCE - done.size))];
    const after = new Set<string>();
    for (const lineId of now) {
      done.add(lineId);
      const hanging = await judgeLine(cx, lineId, act.touched.get(lineId) ?? null);
      for (const id of hanging.mixes) mixes.add(id);
      for (const id of hanging.lines) after.add(id);
      // What is only judged again moves nothing after it.
      if (hanging.history && act.touched.has(lineId)) for (const id of await historyAfter(cx, lineId)) after.add(id);
    }
    if (later.length > 0) {
      await postponeLines(
        cx,
        [...later, ...after, ...mixes].filter((id) => !done.has(id)),
      );
      return [...done];
    }
    wanted = await inLineOrder(
      cx,
      [...after].filter((id) => !done.has(id)),
    );
  }
  for (const mixId of [...mixes].sort()) await judgeMix(cx, mixId);
  return [...done, ...mixes];
}
