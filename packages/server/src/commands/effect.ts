import { reportCode, type DecisionEffect, type DecisionTried, type MixSeries, type Report, type SeriesCourse } from '@keen-mortar/contract';
import { convert, exact, figuresOf, findingById, seriesView, stateAt, STRENGTH_FINDING, unitLabel, type Keyed } from '@keen-mortar/core';
import type { Pool } from 'mysql2/promise';
import { v7 as newId } from 'uuid';
import type { Act } from '../actor.js';
import { isCollision, transaction, type Cx } from '../db.js';
import { Refused } from '../problems.js';
import { placesOf } from '../queries/findings.js';
import { reportsOfTest } from '../queries/reports-of.js';
import { seriesOf } from '../queries/series.js';
import { findingsOnLines, type FindingRow } from '../store/findings.js';
import { itemOf } from '../store/items.js';
import { decide } from './decisions.js';
import { judgeTouched } from './findings.js';

/** Met by a write, it is simply tried again. */
async function uncollided<T>(work: () => Promise<T>, tries = 4): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (tries > 1 && isCollision(error)) return uncollided(work, tries - 1);
    throw error;
  }
}

/** How all that hangs on a decision stands with it. */
interface Tried {
  readonly judged: readonly string[];
  readonly found: readonly FindingRow[];
  readonly series: MixSeries | null;
}

/** All was worked out, and nothing of it is to be kept. */
class TakenBack extends Error {
  constructor(readonly tried: Tried) {
    super('taken back');
  }
}

const keyOf = (f: Pick<FindingRow, 'subjectId' | 'finding' | 'part'>): string => `${f.subjectId} ${f.finding} ${f.part}`;

/** The figures of a mix at an age, and its means of three, each at the test that ends it. */
function figures({ tests, earlier, accepted, project }: MixSeries) {
  const { specified, school } = accepted;
  const counted = tests.filter((t) => t.notFor === null);
  const view = seriesView(counted, { specified, system: project.system, school, earlier });
  const means = view.runs.map((mean, i) => ({ castAt: counted[i + counted.length - view.runs.length]!.castAt, mean }));
  return { view, rows: figuresOf(view, school), means };
}

/** Of which series of a mix a strength test that is decided on is; null where the decision is about something else. */
async function seriesWith(cx: Cx, tried: DecisionTried, now: Date): Promise<MixSeries | null> {
  if (tried.finding !== STRENGTH_FINDING) return null;
  const { subjectId } = await itemOf(cx, tried.subject);
  if (subjectId === null) return null;
  return seriesOf(cx, subjectId, now, Number(tried.part.split('@')[1])).catch((error: unknown) => {
    // By now the mix is accepted at another age: then it is of no series.
    if (error instanceof Refused) return null;
    throw error;
  });
}

/** Puts the decision on record, judges all that hangs on it by the rules of every other write, and takes it back. */
const triedOut = (pool: Pool, tried: DecisionTried, now: Date): Promise<Tried> =>
  transaction(pool, async (cx): Promise<Tried> => {
    const { subject: subjectId, finding, part, decided, by } = tried;
    const id = newId();
    const act: Act = { personId: by, writeId: id, now, touched: new Map() };
    await decide(cx, act, { id, by, subjectId, finding, part, decided, whoId: by, why: 'to be looked at', at: now.toISOString() });
    const judged = await judgeTouched(cx, act);
    throw new TakenBack({ judged, found: await findingsOnLines(cx, judged), series: await seriesWith(cx, tried, now) });
  }).catch((error: unknown) => {
    if (error instanceof TakenBack) return error.tried;
    throw error;
  });

/** So many of the newest tests are drawn. */
const DRAWN = 12;

/** How a series stands, before and after. @param decidedId the set whose strength test is decided on */
function seriesChange(was: MixSeries, then: MixSeries, decidedId: string): DecisionEffect['series'] {
  const [a, b] = [figures(was), figures(then)];
  const { unit } = b.view;
  const inUnit = (k: Keyed): number => convert(exact(k.text), k.unit, unit).near;
  const own = (t: MixSeries['tests'][number]): boolean => t.setId === decidedId;
  const tests = then.tests
    .filter((t) => t.notFor === null || own(t))
    .slice(-DRAWN)
    .map((t) => ({ castAt: t.castAt, strength: inUnit(t.strength), decided: own(t), counts: t.notFor === null }));
  const since = tests[0]?.castAt ?? '';
  const course: SeriesCourse = {
    unit,
    tests,
    now: a.means.filter((m) => m.castAt >= since),
    then: b.means.filter((m) => m.castAt >= since),
    specified: then.accepted.specified && inUnit(then.accepted.specified),
    floor: b.view.floor === null ? null : Number(b.view.floor),
  };
  return {
    course,
    title: `${was.mix.name}, ${was.accepted.ageDays} days, ${unitLabel(a.view.unit)}`,
    figures: b.rows.map(({ figure, ...row }) => ({ ...row, now: a.rows.find((r) => r.label === row.label)?.figure ?? null, then: figure })),
  };
}

/**
 * What a decision would do. It is tried out in a transaction that is taken back: nothing of it stays, and nobody hears of it. How it
 * stands without it is read afterwards: nobody holds two connections.
 */
export async function effectOf(pool: Pool, tried: DecisionTried, now: Date): Promise<DecisionEffect> {
  const { judged, found: after, series } = await uncollided(() => triedOut(pool, tried, now));
  const [before, was] = [await findingsOnLines(pool, judged), series && (await seriesWith(pool, tried, now))];
  const own = keyOf({ subjectId: tried.subject, finding: tried.finding, part: tried.part });
  const says = (rows: readonly FindingRow[], key: string): string | null => {
    const row = rows.find((r) => keyOf(r) === key);
    return row ? stateAt(row, now.getTime()).says : null;
  };
  const moved = [...new Map([...before, ...after].map((row) => [keyOf(row), row]))].filter(
    ([key]) => key !== own && says(before, key) !== says(after, key),
  );
  const places = await placesOf(
    pool,
    moved.map(([, row]) => row.subjectId),
  );
  return {
    changes: moved.map(([key, row]) => ({
      title: findingById(row.finding)?.title ?? row.finding,
      where: places.get(row.subjectId) ?? '',
      now: says(before, key),
      then: says(after, key),
    })),
    series: series && was ? seriesChange(was, series, tried.subject) : null,
    papers: await papersOf(pool, before.find((row) => keyOf(row) === own)?.stoodOn ?? []),
  };
}

/** Papers that stand on what a finding stands on, the newest of each. */
async function papersOf(cx: Cx, testIds: readonly string[]): Promise<DecisionEffect['papers']> {
  const papers = new Map<string, Report>();
  for (const testId of testIds) for (const paper of await reportsOfTest(cx, testId)) papers.set(paper.id, paper);
  return [...papers.values()]
    .filter((p) => p.replacedBy === null)
    .map((p) => ({ id: p.id, says: `${reportCode(p.number)} ${p.title} says it as it stands now: it is to be issued again.` }));
}
