import { acceptanceBy, type BreakBeside, type BreakDue, type BreaksView, type BrokeToday, type Companion } from '@keen-mortar/contract';
import { EARLY_AT_DAYS, ageWords, daysOf, fitInto, partOf, type BrokenSpecimen, type Interval } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { Cx } from '../db.js';
import { notFound, Refused } from '../problems.js';
import type { Letter } from '../reports/letter.js';
import { breaksWithin, duesDone, type DueRow } from '../store/dues.js';
import { childrenOf, itemsNamed } from '../store/items.js';
import { mixHead, mixHeads } from '../store/mixes.js';
import { projectOf } from '../store/projects.js';
import { countStrengths, pairsOfMix, strengthsBefore, strengthsOfMix, strengthsOfSets } from '../store/strengths.js';
import { frameOf } from './around.js';
import { curingPlaces } from './curing-places.js';
import { placesOf, type Place } from './day.js';
import { findingsOnPaths } from './findings.js';
import { openingsOf } from './hours.js';

const DAY = 86_400_000;
/** What ended so long ago and was not broken is no longer waited for; so far ahead it is seen. */
const BACK = 3 * DAY;
const AHEAD = 14 * DAY;
/** Nobody breaks more in two weeks from one list. */
const MOST = 1000;
/** Of the tests before it, as its chart shows them; of pairs, as the early warning takes them. */
const RECENT = 9;
/** So far back reaches what a school may ask of the next test, as in the series of its mix. */
const BEFORE = 240;
const PAIRS = 60;

/** What waits to be broken, what ends first at the top; and what was broken today. */
export async function breaksOf(cx: Cx, projectId: string, now: Date): Promise<BreaksView> {
  const { timezone } = await projectOf(cx, projectId);
  const at = (ms: number): Date => new Date(now.getTime() + ms);
  const begins = DateTime.fromJSDate(now, { zone: timezone }).startOf('day').toJSDate();
  const [{ openings }, rows, done, places] = await Promise.all([
    openingsOf(cx, projectId, timezone, at(-BACK), at(AHEAD)),
    breaksWithin(cx, projectId, { from: at(-BACK), to: at(AHEAD) }, MOST + 1),
    duesDone(cx, projectId, begins, MOST),
    curingPlaces(cx, projectId),
  ]);
  const where = await placesOf(cx, rows);
  const setIds = [...new Set(rows.flatMap((r) => r.parentId ?? []))];
  const [sets, siblings] = await Promise.all([itemsNamed(cx, setIds), childrenOf(cx, setIds)]);
  const mixes = await mixHeads(cx, [...new Set(sets.flatMap((s) => s.subjectId ?? []))]);
  const groups = new Map<string, DueRow[]>();
  for (const row of rows.slice(0, MOST)) {
    if (row.parentId === null || where.get(row.parentId)?.gone) continue;
    const key = [row.parentId, row.opensAt.getTime(), row.plannedAt?.getTime(), row.whoId].join();
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  const queue = [...groups.values()].flatMap((all) => {
    const set = sets.find((s) => s.id === all[0]!.parentId);
    const of = siblings.filter((s) => s.parentId === set?.id && !s.voided);
    return set ? [dueOf(all, set, of, mixes.get(set.subjectId ?? '')?.name ?? null, where, openings, now.getTime())] : [];
  });
  return { now: now.toISOString(), timezone, queue, today: await brokeOf(cx, done), places, more: rows.length > MOST };
}

interface SetLike {
  readonly id: string;
  readonly code: string;
  readonly parentId: string | null;
  readonly facts: unknown;
}

function dueOf(
  all: readonly DueRow[],
  set: SetLike,
  siblings: readonly { readonly facts: unknown }[],
  mix: string | null,
  where: ReadonlyMap<string, Place>,
  openings: readonly Interval[],
  now: number,
): BreakDue {
  const [first] = all as [DueRow, ...DueRow[]];
  const days = ageOf(first.facts) ?? 0;
  const { curing, shape } = set.facts as { curing?: string; shape?: string };
  const [opens, ends] = [first.opensAt.getTime(), first.endsAt?.getTime() ?? null];
  const until = ends ?? opens + DAY;
  return {
    setId: set.id,
    setCode: set.code,
    where: where.get(set.id)?.where ?? '',
    mix,
    ageDays: days,
    window: ageWords(days),
    opensAt: first.opensAt.toISOString(),
    endsAt: first.endsAt?.toISOString() ?? null,
    cured: curing ?? null,
    shape: shape ?? null,
    of: siblings.filter((s) => ageOf(s.facts) === days).length,
    specimens: all.map((r) => ({ id: r.itemId, code: r.code })),
    plannedAt: first.plannedAt?.toISOString() ?? null,
    who: first.whoId,
    fit: until > now ? fitInto({ from: Math.max(opens, now), to: until }, ends === null ? opens : (opens + ends) / 2, openings) : null,
  };
}

const ageOf = (facts: unknown): number | null => daysOf((facts as { age?: unknown }).age);

/** What was broken of what was due, the newest first. */
async function brokeOf(cx: Cx, done: readonly DueRow[]): Promise<BrokeToday[]> {
  const broke = done.filter((r) => r.due === 'break' && r.parentId !== null);
  const tests = await strengthsOfSets(cx, [...new Set(broke.map((r) => r.parentId!))]);
  const all = tests.flatMap((t) => t.specimens.map((s) => ({ ...s, setId: t.setId })));
  return broke.flatMap((r) => all.find((s) => s.id === r.itemId) ?? []);
}

/** All that stands beside a specimen while it is broken: its companions, and what its mix gave before. */
export async function breakBeside(cx: Cx, specimenId: string, now: Date): Promise<BreakBeside> {
  const { line, item, project, specifications } = await frameOf(cx, specimenId);
  const set = line.find((i) => i.kind === 'specimen-set');
  if (item.kind !== 'specimen' || !set) throw notFound('specimen', specimenId);
  const before = new Date(Date.parse(set.at) - 1);
  const mixId = set.subjectId;
  const property = (set.facts as { shape?: string }).shape === 'cube' ? 'cube-strength' : 'strength';
  // At its own age where concrete is accepted by that.
  const accepted = acceptanceBy(specifications, project, ageOf(item.facts));
  const at = { property, ageDays: accepted.ageDays, before };
  const [siblings, tests, mix, strengths, recent, pairs] = await Promise.all([
    childrenOf(cx, [set.id]),
    strengthsOfSets(cx, [set.id]),
    mixId === null ? null : mixHead(cx, mixId),
    mixId === null ? [] : strengthsBefore(cx, mixId, { ...at, most: BEFORE }),
    mixId === null ? [] : strengthsOfMix(cx, mixId, { ...at, most: RECENT }),
    mixId === null ? [] : pairsOfMix(cx, mixId, { property, early: EARLY_AT_DAYS, late: accepted.ageDays, before, most: PAIRS }),
  ]);
  // Only where there are more than are asked for they are counted.
  const more = mixId !== null && strengths.length === BEFORE;
  const earlier = more ? (await countStrengths(cx, mixId, at, before)).counting - BEFORE : 0;
  const broken = new Map(tests.flatMap((t) => t.specimens.map((s): [string, BrokenSpecimen] => [s.id, s])));
  return {
    set: { id: set.id, code: set.code, at: set.at, facts: set.facts },
    companions: siblings
      .filter((s) => !s.voided)
      .map((s): Companion => ({
        id: s.id,
        code: s.code,
        ageDays: ageOf(s.facts),
        became: (s.facts as { became?: string }).became ?? null,
        broken: broken.get(s.id) ?? null,
      })),
    tests,
    mix: mix && { id: mix.id, name: mix.name },
    accepted,
    before: strengths,
    earlier,
    recent: recent.filter((t) => t.notFor === null && t.reported !== null),
    pairs,
    findings: (await findingsOnPaths(cx, [set.id], now)).get(set.id) ?? [],
  };
}

/** What a letter says about the strength test that a specimen is one of; refused where it is not low. */
export async function letterAbout(cx: Cx, specimenId: string, address: string, now: Date): Promise<Letter> {
  const { line, project } = await frameOf(cx, specimenId);
  const beside = await breakBeside(cx, specimenId, now);
  const own = beside.companions.find((c) => c.id === specimenId);
  const test = beside.tests.find((t) => t.ageDays === own?.ageDays && t.specimens.some((s) => s.id === specimenId));
  const low = test && beside.findings.find((f) => f.finding === 'low-strength' && f.subjectId === test.setId && f.part === partOf(test));
  if (!test || !low) throw new Refused('not-found', 'The strength test of this specimen is not low: there is nothing to tell.');
  const where = line.filter((i) => ['pour', 'load', 'sample', 'element'].includes(i.kind)).map((i) => i.name ?? i.code);
  return { project, beside, test, low, where: where.join(', '), link: `${address}/record/${beside.set.id}`, now };
}
