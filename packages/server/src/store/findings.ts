import type { Finding, FindingAcceptance } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { change, insertAll, select, selectOne, type Cx } from '../db.js';

/** A finding as it is kept: its decision by its id. */
export interface FindingRow extends Omit<Finding, 'decision'> {
  readonly lineId: string;
  readonly projectId: string;
  readonly decisionId: string | null;
}

interface Row {
  subject_id: string;
  finding: string;
  part: string;
  line_id: string;
  project_id: string;
  acceptance: FindingAcceptance | null;
  states: string;
  evidence: string;
  choices: string;
  cannot: string;
  stood_on: string;
  decision_id: string | null;
}

const COLUMNS =
  'f.subject_id, f.finding, f.part, f.line_id, f.project_id, f.acceptance, f.states, f.evidence, f.choices, f.cannot, f.stood_on, f.decision_id';

const findingRow = (row: Row): FindingRow => ({
  subjectId: row.subject_id,
  finding: row.finding,
  part: row.part,
  lineId: row.line_id,
  projectId: row.project_id,
  acceptance: row.acceptance,
  states: JSON.parse(row.states) as Finding['states'],
  evidence: JSON.parse(row.evidence) as Finding['evidence'],
  choices: JSON.parse(row.choices) as Finding['choices'],
  cannot: JSON.parse(row.cannot) as Finding['cannot'],
  stoodOn: JSON.parse(row.stood_on) as string[],
  decisionId: row.decision_id,
});

const written = (f: FindingRow) => ({
  subject_id: f.subjectId,
  finding: f.finding,
  part: f.part,
  line_id: f.lineId,
  project_id: f.projectId,
  asks: f.states.some((s) => s.grade === 'asks'),
  acceptance: f.acceptance,
  states: JSON.stringify(f.states),
  evidence: JSON.stringify(f.evidence),
  choices: JSON.stringify(f.choices),
  cannot: JSON.stringify(f.cannot),
  stood_on: JSON.stringify(f.stoodOn),
  decision_id: f.decisionId,
});

const alike = (row: Row, f: FindingRow): boolean => {
  const now = written(f);
  return (Object.keys(now) as (keyof typeof now)[]).every((key) => key === 'asks' || row[key] === now[key]);
};

const keyOf = ({ subject_id, finding, part }: Pick<Row, 'subject_id' | 'finding' | 'part'>): string => `${subject_id} ${finding} ${part}`;

/** What is found of a line stands in place of what was found of it before: only what is otherwise is written. @returns whether anything was */
export async function setFindings(cx: PoolConnection, lineId: string, found: readonly FindingRow[]): Promise<boolean> {
  const before = await select<Row>(cx, `SELECT ${COLUMNS} FROM finding f WHERE f.line_id = ?`, [lineId]);
  const now = new Map(found.map((f) => [keyOf({ subject_id: f.subjectId, finding: f.finding, part: f.part }), f]));
  const gone = before.filter((row) => {
    const f = now.get(keyOf(row));
    return f === undefined || !alike(row, f);
  });
  const kept = new Set(before.filter((row) => !gone.includes(row)).map(keyOf));
  const added = found.filter((f) => !kept.has(keyOf({ subject_id: f.subjectId, finding: f.finding, part: f.part })));
  if (gone.length > 0)
    await change(cx, 'DELETE FROM finding WHERE (subject_id, finding, part) IN (?)', [gone.map((r) => [r.subject_id, r.finding, r.part])]);
  await insertAll(cx, 'finding', added.map(written));
  return gone.length + added.length > 0;
}

/** A finding as it stands; `again` while its line waits to be judged again. */
export interface StandingFinding extends FindingRow {
  readonly again: boolean;
}

const STANDING = `${COLUMNS}, EXISTS (SELECT 1 FROM pending_line p WHERE p.line_id = f.line_id) AS again`;
const standing = (row: Row & { readonly again: number }): StandingFinding => ({ ...findingRow(row), again: row.again === 1 });

/** Findings about some items, mixes, sources or instruments. */
export const findingsAbout = async (cx: Cx, subjectIds: readonly string[]): Promise<StandingFinding[]> =>
  subjectIds.length === 0
    ? []
    : (
        await select<Row & { again: number }>(
          cx,
          `SELECT ${STANDING} FROM finding f WHERE f.subject_id IN (?) ORDER BY f.finding, f.part`,
          [subjectIds],
        )
      ).map(standing);

/** All that is found on some lines, and of some mixes. */
export const findingsOnLines = async (cx: Cx, lineIds: readonly string[]): Promise<FindingRow[]> =>
  lineIds.length === 0
    ? []
    : (await select<Row>(cx, `SELECT ${COLUMNS} FROM finding f WHERE f.line_id IN (?) ORDER BY f.finding, f.part`, [lineIds])).map(
        findingRow,
      );

/** Findings of a project that somebody has to decide on. */
export const findingsAsking = async (cx: Cx, projectId: string, most: number): Promise<StandingFinding[]> =>
  (
    await select<Row & { again: number }>(cx, `SELECT ${STANDING} FROM finding f WHERE f.project_id = ? AND f.asks LIMIT ?`, [
      projectId,
      most,
    ])
  ).map(standing);

/** Lines of a mix or a source on which something of a kind is found. */
export const linesFinding = async (cx: Cx, finding: string, subjectId: string): Promise<string[]> =>
  (
    await select<{ line_id: string }>(
      cx,
      'SELECT DISTINCT f.line_id FROM finding f JOIN item i ON i.id = f.subject_id WHERE f.finding = ? AND i.subject_id = ? LIMIT 1000',
      [finding, subjectId],
    )
  ).map((row) => row.line_id);

/** A line waits to be judged again. */
export const postponeLines = (cx: PoolConnection, lineIds: readonly string[]): Promise<unknown> =>
  lineIds.length === 0 ? Promise.resolve() : change(cx, 'INSERT IGNORE INTO pending_line (line_id) VALUES ?', [lineIds.map((id) => [id])]);

/** A line that broke so often is for whoever reads the log. */
const TRIES = 5;

export const nextPendingLine = async (cx: Cx, but: readonly string[]): Promise<string | null> =>
  (
    await selectOne<{ line_id: string }>(
      cx,
      `SELECT line_id FROM pending_line WHERE tries < ?${but.length > 0 ? ' AND line_id NOT IN (?)' : ''} ORDER BY tries LIMIT 1`,
      [TRIES, ...(but.length > 0 ? [but] : [])],
    )
  )?.line_id ?? null;

export const lineBroke = (cx: Cx, lineId: string): Promise<unknown> =>
  change(cx, 'UPDATE pending_line SET tries = tries + 1 WHERE line_id = ?', [lineId]);

export const lineDone = (cx: PoolConnection, lineId: string): Promise<unknown> =>
  change(cx, 'DELETE FROM pending_line WHERE line_id = ?', [lineId]);
