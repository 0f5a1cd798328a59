import { dayIn, type Item, type Project, type Revision, type Specification } from '@keen-mortar/contract';
import {
  acceptedOn,
  COMPRESSIVE,
  dayWords,
  factOf,
  GRAVITY_METHODS,
  GRAVITY_PROPERTIES,
  ITEM_KINDS,
  judgeAll,
  methodById,
  partOf,
  say,
  schoolOn,
  SCHOOLS,
  stateOfTest,
  strengthsOn,
  type Evaluation,
  type HistoryByProperty,
  type Line,
  type LineTest,
  type SeriesAt,
} from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { Cx } from '../db.js';
import { takenOver } from '../store/accepted.js';
import { decisionsOn } from '../store/decisions.js';
import { childrenOf, itemsOnLine, lineOf, storageNamed } from '../store/items.js';
import { revisionOf } from '../store/mixes.js';
import { projectOf } from '../store/projects.js';
import { metBy, specificationsNamed } from '../store/specifications.js';
import { markedOf } from '../store/standing.js';
import { agesOfMix, countStrengths, newestRevision, strengthsBefore, waitingStrengths } from '../store/strengths.js';
import { kitOfTests } from '../store/test-kit.js';
import { aroundTests, testsOfItems, type TestRecord } from '../store/tests.js';
import { historyBefore } from './history.js';

/** A line as it stands on record, with what is not judged but kept beside it. */
export interface LineOnRecord {
  readonly line: Line;
  readonly head: Item;
  readonly project: Project;
}

/** What is judged of a test: as it was kept, under the specifications that it was kept under. */
function lineTest(record: TestRecord, kit: LineTest['kit'], specifications: readonly Specification[]): LineTest | null {
  const m = methodById(record.method);
  if (!m) return null;
  const said = record.newest?.frozen.said ?? null;
  const under = specifications.filter((s) => record.newest?.frozen.specificationIds.includes(s.id) ?? false);
  const judged = said === null ? [] : judgeAll(m, said as unknown as Evaluation, under);
  return {
    id: record.id,
    itemId: record.itemId,
    method: m,
    system: record.system,
    startedAt: record.startedAt.toISOString(),
    by: record.by,
    retestOf: record.retestOf,
    kit,
    inputs: record.newest?.frozen.inputs ?? ({} as LineTest['inputs']),
    outcome: said,
    judged,
    state: said === null ? 'open' : said.validity.state === 'void' ? 'void' : stateOfTest(m, said as unknown as Evaluation, judged),
  };
}

/** Each item after what it lies in, the head first. */
function inTreeOrder(head: Item, items: readonly Item[]): Item[] {
  const below = (id: string): Item[] => items.filter((i) => i.parentId === id && i.id !== head.id).flatMap((i) => [i, ...below(i.id)]);
  return [head, ...below(head.id)];
}

const asked = async (cx: Cx, head: Item, above: readonly Item[], revision: Revision | null): Promise<Specification[]> =>
  specificationsNamed(
    cx,
    revision
      ? revision.specificationIds
      : await metBy(
          cx,
          [...above, head].map((i) => i.id),
          new Date(head.at),
        ),
  );

/** So many strengths before a test are read, where its school asks of more than the last few. */
const LONGEST_SERIES = 240;

/** All that a line is judged from. @param lineId the item at its head @param known what that lies in, where somebody has read it */
export async function lineOnRecord(cx: Cx, lineId: string, known: readonly Item[] | null = null): Promise<LineOnRecord> {
  const { items: found, holdsId } = await itemsOnLine(cx, lineId);
  const here = found.find((i) => i.id === lineId);
  const path = known && here ? [...known, here] : await lineOf(cx, lineId);
  const [above, head] = [path.slice(0, -1), path.at(-1)!];
  // What holds lines is judged with what lies in it, as far as that is on its own ticket.
  const own = head.kind === 'pour' ? (await childrenOf(cx, [lineId])).filter((i) => i.kind === 'load') : found;
  const items = inTreeOrder(head, own);
  const revision = head.revisionId === null ? null : await revisionOf(cx, head.revisionId);
  const records =
    head.kind === 'pour'
      ? []
      : await testsOfItems(
          cx,
          items.map((i) => i.id),
        );
  const testIds = records.map((r) => r.id);
  const [project, specifications, under, kit, decisions] = await Promise.all([
    projectOf(cx, head.projectId),
    asked(cx, head, above, revision),
    specificationsNamed(cx, [...new Set(records.flatMap((r) => r.newest?.frozen.specificationIds ?? []))]),
    kitOfTests(cx, testIds),
    decisionsOn(
      cx,
      items.map((i) => i.id),
    ),
  ]);
  const base: Line = {
    project,
    above,
    items,
    tests: records.flatMap((r) => lineTest(r, kit.get(r.id) ?? [], under) ?? []),
    revision,
    specifications,
    decisions,
  };
  const [storage, history, replaced] = [
    await storageOn(cx, project, items),
    await gravityHistory(cx, items, records),
    await replacedOn(cx, { project, head, revision, holdsId, specifications, under }),
  ];
  return {
    line: { ...base, ...(storage ? { storage } : {}), ...(history ?? {}), ...(replaced ? { replaced } : {}) },
    head,
    project,
  };
}

interface Judged {
  readonly project: Project;
  readonly head: Item;
  readonly revision: Revision | null;
  /** The revision that holds for its moment by now. */
  readonly holdsId: string | null;
  /** What it must meet, and what its tests were judged by. */
  readonly specifications: readonly Specification[];
  readonly under: readonly Specification[];
}

const named = (all: readonly Specification[]): string => all.map((s) => s.name).join(' and ');

/** What a line was judged by, where something else holds for its moment by now; null where nothing does. */
async function replacedOn(cx: Cx, { project, head, revision, holdsId, specifications, under }: Judged): Promise<Line['replaced'] | null> {
  const since = (from: string) => ({ day: dayWords(dayIn(project.timezone, from)) });
  if (revision !== null) {
    if (holdsId === null || holdsId === revision.id) return null;
    const holds = await revisionOf(cx, holdsId);
    const other = holds.specificationIds.filter((id) => !revision.specificationIds.includes(id));
    const [was, now] =
      other.length === 0
        ? [`revision ${revision.number} of the mix`, `revision ${holds.number}`]
        : [named(specifications.filter((s) => !holds.specificationIds.includes(s.id))), named(await specificationsNamed(cx, other))];
    return { was: was || 'no specification', now, ...since(holds.effectiveFrom), why: holds.why ?? null };
  }
  const gone = under.filter((s) => !specifications.some((now) => now.id === s.id));
  const came = specifications.filter((s) => !under.some((was) => was.id === s.id));
  if (gone.length === 0 || came.length === 0) return null;
  const why = came.find((s) => s.replaces)?.replaces?.why ?? null;
  return { was: named(gone), now: named(came), ...since(head.at), why };
}

/** What the source of each gravity test on a line gave before it, and which of them somebody took over. */
async function gravityHistory(
  cx: Cx,
  items: readonly Item[],
  records: readonly TestRecord[],
): Promise<Required<Pick<Line, 'history' | 'takenOver'>> | null> {
  const tests = records.filter((r) => GRAVITY_METHODS.includes(r.method));
  if (tests.length === 0) return null;
  const history: Record<string, HistoryByProperty> = {};
  for (const test of tests) {
    const item = items.find((i) => i.id === test.itemId);
    if (item) history[test.id] = await historyBefore(cx, { item }, GRAVITY_PROPERTIES);
  }
  const sourceId = items[0]!.subjectId;
  const taken = sourceId === null ? [] : await takenOver(cx, sourceId);
  const how = (test: TestRecord): 'own' | 'later' | null =>
    taken.some((t) => t.testId === test.id) ? 'own' : taken.some((t) => t.at > test.startedAt) ? 'later' : null;
  return { history, takenOver: Object.fromEntries(tests.flatMap((t) => (how(t) ? [[t.id, how(t)!]] : []))) };
}

/** So many tests of a mix are read, where its school asks for no more than the last few. */
const ofSchool = (specifications: readonly Specification[], project: Project): number => {
  const { reads } = SCHOOLS[schoolOn({ specifications, project })];
  return reads === undefined ? LONGEST_SERIES : reads + 1;
};

/** What a mix gives at each age, as a line of its own. @param mix whom somebody holds */
export async function mixLine(cx: Cx, mix: { readonly id: string; readonly projectId: string }): Promise<Line> {
  const project = await projectOf(cx, mix.projectId);
  const series: SeriesAt[] = [];
  for (const at of await agesOfMix(cx, mix.id)) {
    if (!COMPRESSIVE.includes(at.property)) continue;
    const newest = await newestRevision(cx, mix.id, at);
    if (newest === null) continue;
    const specifications = await specificationsNamed(cx, (await revisionOf(cx, newest)).specificationIds);
    if (!acceptedOn({ specifications }).some((a) => a.ageDays === at.ageDays)) continue;
    const most = ofSchool(specifications, project);
    const tests = await strengthsBefore(cx, mix.id, { ...at, before: EVER, most });
    // Only where all of a long series is not read does it matter where its groups begin.
    const more = tests.length === most && most >= LONGEST_SERIES;
    const earlier = more ? (await countStrengths(cx, mix.id, at)).counting - tests.length : 0;
    series.push({ ...at, tests, earlier, waiting: await waitingStrengths(cx, mix.id, at, LONGEST_SERIES), specifications });
  }
  return {
    project,
    ...{ above: [], items: [], tests: [], revision: null, specifications: [], decisions: [] },
    mix: { id: mix.id, series },
  };
}

const EVER = new Date(Date.UTC(2199, 0, 1));

/** The same with the strengths of the mix before each strength test that is accepted at its age: as many as its school needs. */
export async function withSeries(cx: Cx, { line, head, project }: LineOnRecord): Promise<Line> {
  const accepted = new Set(acceptedOn(line).map((a) => a.ageDays));
  const mixId = head.subjectId;
  if (mixId === null || ITEM_KINDS[head.kind].subject === 'source' || accepted.size === 0) return line;
  const most = SCHOOLS[schoolOn({ ...line, project })].reads ?? LONGEST_SERIES;
  const series: Record<string, { before: Awaited<ReturnType<typeof strengthsBefore>>; earlier: number }> = {};
  for (const set of line.items.filter((i) => i.kind === 'specimen-set'))
    for (const s of strengthsOn(line, set)) {
      if (!COMPRESSIVE.includes(s.property) || !accepted.has(s.ageDays)) continue;
      const at = { property: s.property, ageDays: s.ageDays, before: new Date(Date.parse(set.at) - 1) };
      const before = await strengthsBefore(cx, mixId, { ...at, most });
      const earlier =
        before.length < most || most < LONGEST_SERIES ? 0 : (await countStrengths(cx, mixId, at, at.before)).counting - before.length;
      series[`${set.id} ${partOf(s)}`] = { before, earlier };
    }
  // A line of its own: what was worked out of the one before does not hold of this one.
  return { ...line, series };
}

/** Nothing is cured for longer than that is looked at. */
const MOST_READ = 400;

/** What the tanks and moist rooms that sets say they lie in were found at, where that was not as asked. */
async function storageOn(cx: Cx, project: Project, items: readonly Item[]): Promise<Line['storage'] | null> {
  const sets = items.flatMap((i) => {
    const tank = i.kind === 'specimen-set' ? factOf<string>(i, 'tank') : undefined;
    return tank === undefined ? [] : [{ tank, from: Date.parse(factOf<string>(i, 'cured') ?? i.at) }];
  });
  if (sets.length === 0) return null;
  const places = await storageNamed(cx, project.id, [...new Set(sets.map((s) => s.tank))]);
  const from = new Date(Math.min(...sets.map((s) => s.from)));
  const marked = await markedOf(
    cx,
    places.map((p) => p.id),
    { from, to: new Date(Date.UTC(2199, 0, 1)) },
    MOST_READ,
  );
  const around = await aroundTests(cx, [...new Set(marked.map((m) => m.testId))]);
  const on = (at: Date): string => DateTime.fromISO(dayIn(project.timezone, at.toISOString())).toFormat('d LLL yyyy');
  return Object.fromEntries(
    places.map((place) => [
      place.code,
      [...new Map(marked.filter((m) => m.itemId === place.id).map((m) => [m.testId, m])).values()].map((m) => ({
        at: m.at.toISOString(),
        day: on(m.at),
        says: (around.get(m.testId)?.reasons ?? []).map((r) => say(r.code, r.params)).join(' '),
      })),
    ]),
  );
}
