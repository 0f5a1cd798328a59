import { dayIn, type KitSheet, type KitTest } from '@keen-mortar/contract';
import { methodById, unitLabel, worst, type ResultField, type VerdictState } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { Cx } from '../db.js';
import { notFound } from '../problems.js';
import { calibrationsOf, equipmentOf, findingsOf } from '../store/kit.js';
import { testsWith, type TestWith } from '../store/test-kit.js';
import { projectOf } from '../store/projects.js';

/**
 * An instrument, its calibrations, and what was tested with it since the one that is in force; or, by one of its findings,
 * what that puts in question.
 */
export async function kitSheet(
  cx: Cx,
  id: string,
  findingId: string | null,
  now: Date,
  { offset, limit }: { readonly offset: number; readonly limit: number },
): Promise<KitSheet> {
  const { projectId } = await equipmentOf(cx, id, '1900-01-01');
  const { timezone } = await projectOf(cx, projectId);
  const equipment = await equipmentOf(cx, id, dayIn(timezone, now.toISOString()));
  const [calibrations, findings] = await Promise.all([calibrationsOf(cx, id, equipment.kind), findingsOf(cx, id)]);
  const finding = findings.find((f) => f.id === findingId);
  if (findingId !== null && !finding) throw notFound('finding', findingId);
  const calibrated =
    equipment.calibratedOn === null ? new Date(0) : DateTime.fromISO(equipment.calibratedOn, { zone: timezone }).toJSDate();
  const time = finding ? { since: new Date(finding.since), until: new Date(finding.at) } : { since: calibrated, until: LAST };
  const tests = await testsWith(cx, id, time, offset, limit);
  return { equipment, calibrations, since: equipment.calibratedOn, findings, tests: { ...tests, items: tests.items.map(shown) } };
}

const LAST = new Date('9999-12-31T00:00:00Z');

/** What the test is made for, before what comes with it; the worst that is said of any of it. */
function shown({ standing, ...test }: TestWith): KitTest {
  const results = (methodById(test.method)?.results ?? {}) as Readonly<Record<string, ResultField>>;
  const order = Object.keys(results);
  const main = [...standing].sort(
    (a, b) =>
      Number(results[b.result]?.main ?? false) - Number(results[a.result]?.main ?? false) ||
      order.indexOf(a.result) - order.indexOf(b.result),
  )[0];
  return {
    ...test,
    says: main ? `${main.reported} ${unitLabel(main.unit)}`.trim() : null,
    state: standing.length === 0 ? null : worst(standing.map((s) => s.state as VerdictState)),
  };
}
