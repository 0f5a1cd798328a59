import { reportCode, type DecisionEffect, type DecisionTried, type MixSeries, type Report } from '@keen-mortar/contract';
import { figuresOf, findingById, seriesView, stateAt, STRENGTH_FINDING, unitLabel } from '@keen-mortar/core';
import type { Pool } from 'mysql2/promise';
import { v7 as newId } from 'uuid';
import type { Act } from '../actor.js';
import { isCollision, transaction, type Cx } from '../db.js';
import { placesOf } from '../queries/findings.js';
import { reportsOfTest } from '../queries/reports-of.js';
import { seriesOf } from '../queries/series.js';
import { findingsAbout, findingsOnLines, type FindingRow } from '../store/findings.js';
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

/** All was worked out, and nothing of it is to be kept. */
class TakenBack extends Error {
  constructor(readonly found: Omit<DecisionEffect, 'papers'>) {
    super('taken back');
  }
}

const keyOf = (f: FindingRow): string => `${f.subjectId} ${f.finding} ${f.part}`;

/** The figures of a mix at an age. */
function figures({ tests, earlier, accepted, project }: MixSeries) {
  const { specified, school } = accepted;
  const view = seriesView(
    tests.filter((t) => t.notFor === null),
    { specified, system: project.system, school, earlier },
  );
  return { unit: view.unit, rows: figuresOf(view, school) };
}

/** The age of the strength test that a finding is about, d; null where it is about something else. */
const ageOf = ({ finding, part }: Pick<DecisionTried, 'finding' | 'part'>): number | null =>
  finding === STRENGTH_FINDING ? Number(part.split('@')[1]) : null;

/** How the series of a mix stands, before and after. */
async function seriesChange(before: Cx, after: Cx, mixId: string, age: number, now: Date): Promise<DecisionEffect['series']> {
  const [was, then] = [await seriesOf(before, mixId, now, age), await seriesOf(after, mixId, now, age)];
  const [a, b] = [figures(was), figures(then)];
  return {
    title: `${was.mix.name}, ${age} days, ${unitLabel(a.unit)}`,
    figures: b.rows.map(({ figure, ...row }) => ({ ...row, now: a.rows.find((r) => r.label === row.label)?.figure ?? null, then: figure })),
  };
}

/**
 * What a decision would do. It is put on record, all that hangs on it is judged by the rules of every other write, and then the
 * transaction is taken back: nothing of it stays, and nobody hears of it.
 */
export async function effectOf(pool: Pool, tried: DecisionTried, now: Date): Promise<DecisionEffect> {
  const { subject, finding, part, decided, by } = tried;
  const item = await itemOf(pool, subject);
  const own = (await findingsAbout(pool, [subject])).find((f) => f.finding === finding && f.part === part);
  const effect = await uncollided(() =>
    transaction(pool, async (cx): Promise<Omit<DecisionEffect, 'papers'>> => {
      const id = newId();
      const act: Act = { personId: by, writeId: id, now, touched: new Map() };
      await decide(cx, act, {
        id,
        by,
        subjectId: subject,
        finding,
        part,
        decided,
        whoId: by,
        why: 'to be looked at',
        at: now.toISOString(),
      });
      const judged = await judgeTouched(cx, act);
      const [before, after] = [await findingsOnLines(pool, judged), await findingsOnLines(cx, judged)];
      const says = (rows: readonly FindingRow[], key: string): string | null => {
        const row = rows.find((r) => keyOf(r) === key);
        return row ? stateAt(row, now.getTime()).says : null;
      };
      const moved = [...new Map([...before, ...after].map((row) => [keyOf(row), row])).entries()].filter(
        ([key, row]) =>
          !(row.subjectId === subject && row.finding === finding && row.part === part) && says(before, key) !== says(after, key),
      );
      const places = await placesOf(
        pool,
        moved.map(([, row]) => row.subjectId),
      );
      const age = ageOf(tried);
      throw new TakenBack({
        changes: moved.map(([key, row]) => ({
          title: findingById(row.finding)?.title ?? row.finding,
          where: places.get(row.subjectId) ?? '',
          now: says(before, key),
          then: says(after, key),
        })),
        series:
          age === null || item.subjectId === null || own?.choices.includes('counts') !== true
            ? null
            : await seriesChange(pool, cx, item.subjectId, age, now),
      });
    }),
  ).catch((error: unknown) => {
    if (error instanceof TakenBack) return error.found;
    throw error;
  });
  return { ...effect, papers: await papersOf(pool, own?.stoodOn ?? []) };
}

/** Papers that stand on what a finding stands on, the newest of each. */
async function papersOf(cx: Cx, testIds: readonly string[]): Promise<DecisionEffect['papers']> {
  const papers = new Map<string, Report>();
  for (const testId of testIds) for (const paper of await reportsOfTest(cx, testId)) papers.set(paper.id, paper);
  return [...papers.values()]
    .filter((p) => p.replacedBy === null)
    .map((p) => ({ id: p.id, says: `${reportCode(p.number)} ${p.title} says it as it stands now: it is to be issued again.` }));
}
