import type { NewReport, ReportScope } from '@keen-mortar/contract';
import { revisionAt } from '@keen-mortar/contract';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { Refused } from '../problems.js';
import { reportContent } from '../queries/report.js';
import { reportPaper } from '../reports/report.js';
import { nextNumber } from '../store/items.js';
import { mixOf } from '../store/mixes.js';
import { personOf } from '../store/people.js';
import { projectIdOf, projectOf } from '../store/projects.js';
import { insertReport, newestOfScope, scopeKey } from '../store/reports.js';
import { metBy, specificationsNamed } from '../store/specifications.js';
import { mustBeOf, refuse } from './checks.js';
import { tellProject } from './telling.js';

/** Reports are numbered in their project, beside its items. */
const COUNTED = 'report';

/** What is asked of a mix or a source, for the lines of its charts. */
async function limitsOf(cx: PoolConnection, scope: ReportScope, at: Date) {
  if (scope.of !== 'month') return [];
  const mix = await mixOf(cx, scope.subjectId).catch((error: unknown) => {
    if (error instanceof Refused && error.code === 'not-found') return null;
    throw error;
  });
  const ids = mix ? (revisionAt(mix.revisions, at.getTime())?.specificationIds ?? []) : await metBy(cx, [scope.subjectId], at);
  return specificationsNamed(cx, ids);
}

/** Issues a report of what stands on record now; of the same thing it takes the place of the one before. */
export async function issueReport(cx: PoolConnection, act: Act, body: NewReport, address: string): Promise<void> {
  const project = await projectOf(cx, body.projectId);
  const { scope } = body;
  if (scope.of === 'item') await mustBeOf(cx, 'item', scope.itemId, project.id, 'scope.itemId');
  if (scope.of === 'month') {
    const isMix = (await projectIdOf(cx, 'mix', scope.subjectId)) !== undefined;
    await mustBeOf(cx, isMix ? 'mix' : 'item', scope.subjectId, project.id, 'scope.subjectId');
  }
  const key = scopeKey(scope);
  // Numbers are given one after the other, so two reports of one thing are too.
  const number = await nextNumber(cx, project.id, COUNTED);
  const before = await newestOfScope(cx, project.id, key);
  if (before && body.why === undefined)
    throw refuse('needs-why', 'why', `It would take the place of R-${before.number}: say why it is made again.`);
  const content = await reportContent(cx, project, scope, act.now);
  if (content.count === 0) throw refuse('nothing', 'scope', 'Nothing was tested of it yet.');
  const pdf = await reportPaper(content, {
    number,
    at: act.now,
    by: (await personOf(cx, act.personId))?.name ?? '',
    client: body.client ?? null,
    replaces: before?.number ?? null,
    why: body.why ?? null,
    link: `${address}/reports/${body.id}`,
    specifications: await limitsOf(cx, scope, act.now),
  });
  await insertReport(cx, body, {
    number,
    title: content.title,
    key,
    replacesId: before?.id ?? null,
    tests: content.count,
    at: act.now,
    pdf,
  });
  await tellProject(cx, act, project.id, 'report', body.id);
}
