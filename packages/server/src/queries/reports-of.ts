import { dayIn, type Report, type ReportScope } from '@keen-mortar/contract';
import type { Cx } from '../db.js';
import { lineOf } from '../store/items.js';
import { projectOf } from '../store/projects.js';
import { reportsOfScopes } from '../store/reports.js';
import { itemIdOfTest, testsOfItems } from '../store/tests.js';

/** Papers that a test stands on: of its item or of what that lies in, of its day, of its mix or source in its month. */
export async function reportsOfTest(cx: Cx, testId: string): Promise<Report[]> {
  const itemId = await itemIdOfTest(cx, testId);
  const line = await lineOf(cx, itemId);
  const test = (await testsOfItems(cx, [itemId])).find((t) => t.id === testId)!;
  const { id, timezone } = await projectOf(cx, line.at(-1)!.projectId);
  const day = dayIn(timezone, test.startedAt.toISOString());
  const subjects = new Set(line.flatMap((i) => [i.id, ...(i.subjectId === null ? [] : [i.subjectId])]));
  const scopes: ReportScope[] = [
    ...line.map((i): ReportScope => ({ of: 'item', itemId: i.id })),
    { of: 'day', day },
    ...[...subjects].map((subjectId): ReportScope => ({ of: 'month', subjectId, month: day.slice(0, 7) })),
  ];
  return reportsOfScopes(cx, id, scopes, test.startedAt);
}
