import type { NewReport, Page, Report, ReportScope } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import { insert, insertBytes, select, selectOne, type Cx } from '../db.js';
import { notFound } from '../problems.js';
import { countOf } from './projects.js';

interface ReportRow {
  id: string;
  project_id: string;
  number: number;
  title: string;
  scope: string;
  person_id: string;
  made_at: Date;
  client: string | null;
  why: string | null;
  replaces: number | null;
  replaced_by: number | null;
  tests: number;
}

const SELECT = `SELECT r.id, r.project_id, r.number, r.title, r.scope, r.person_id, r.made_at, r.client, r.why, r.tests,
   b.number AS replaces, n.number AS replaced_by
   FROM report r LEFT JOIN report b ON b.id = r.replaces_id LEFT JOIN report n ON n.replaces_id = r.id`;

const report = (row: ReportRow): Report => ({
  id: row.id,
  projectId: row.project_id,
  number: row.number,
  title: row.title,
  scope: JSON.parse(row.scope) as ReportScope,
  by: row.person_id,
  at: row.made_at.toISOString(),
  client: row.client,
  why: row.why,
  replaces: row.replaces,
  replacedBy: row.replaced_by,
  tests: row.tests,
});

/** Those of a project, the newest first. */
export async function reports(cx: Cx, projectId: string, offset: number, limit: number): Promise<Page<Report>> {
  const rows = await select<ReportRow>(cx, `${SELECT} WHERE r.project_id = ? ORDER BY r.number DESC LIMIT ? OFFSET ?`, [
    projectId,
    limit,
    offset,
  ]);
  return { items: rows.map(report), total: await countOf(cx, 'report', 'project_id = ?', [projectId]) };
}

export async function reportOf(cx: Cx, id: string): Promise<Report> {
  const row = await selectOne<ReportRow>(cx, `${SELECT} WHERE r.id = ?`, [id]);
  if (!row) throw notFound('report', id);
  return report(row);
}

/** What a report is of, as one text: of the same it takes the place of the one before. */
export const scopeKey = (scope: ReportScope): string =>
  scope.of === 'item' ? `item ${scope.itemId}` : scope.of === 'day' ? `day ${scope.day}` : `month ${scope.subjectId} ${scope.month}`;

/** So many papers of one test are named. */
const MOST_OF_TEST = 20;

/** Those of some scopes that were issued since a moment, the newest first. */
export async function reportsOfScopes(cx: Cx, projectId: string, scopes: readonly ReportScope[], since: Date): Promise<Report[]> {
  const rows = await select<ReportRow>(
    cx,
    `${SELECT} WHERE r.project_id = ? AND r.scope_key IN (?) AND r.made_at >= ? ORDER BY r.number DESC LIMIT ?`,
    [projectId, scopes.map(scopeKey), since, MOST_OF_TEST],
  );
  return rows.map(report);
}

/** The newest report of the same: that one is replaced. */
export const newestOfScope = async (cx: Cx, projectId: string, scope: string): Promise<{ id: string; number: number } | undefined> =>
  selectOne<{ id: string; number: number }>(
    cx,
    'SELECT id, number FROM report WHERE project_id = ? AND scope_key = ? ORDER BY number DESC LIMIT 1',
    [projectId, scope],
  );

export async function insertReport(
  cx: PoolConnection,
  body: NewReport,
  made: {
    readonly number: number;
    readonly title: string;
    readonly key: string;
    readonly replacesId: string | null;
    readonly tests: number;
    readonly at: Date;
    readonly pdf: Buffer;
  },
): Promise<void> {
  await insert(cx, 'report', {
    id: body.id,
    project_id: body.projectId,
    number: made.number,
    title: made.title,
    scope: JSON.stringify(body.scope),
    scope_key: made.key,
    replaces_id: made.replacesId,
    person_id: body.by,
    made_at: made.at,
    client: body.client ?? null,
    why: body.why ?? null,
    tests: made.tests,
  });
  await insertBytes(cx, 'INSERT INTO report_paper (report_id, pdf) VALUES (?, ?)', [body.id, made.pdf]);
}

export async function paperOf(cx: Cx, id: string): Promise<Buffer> {
  const row = await selectOne<{ pdf: Buffer }>(cx, 'SELECT pdf FROM report_paper WHERE report_id = ?', [id]);
  if (!row) throw notFound('report', id);
  return row.pdf;
}
