import { dayIn, type KitSheet, type KitTest } from '@keen-mortar/contract';
import { methodById, unitLabel, worst, type ResultField, type VerdictState } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { Cx } from '../db.js';
import { calibrationsOf, equipmentOf, testsWith, type TestWith } from '../store/kit.js';
import { projectOf } from '../store/projects.js';

/** An instrument, its calibrations, and what was tested with it since the one that is in force: should it be wrong, these are in question. */
export async function kitSheet(cx: Cx, id: string, now: Date, offset: number, limit: number): Promise<KitSheet> {
  const { projectId } = await equipmentOf(cx, id, '1900-01-01');
  const { timezone } = await projectOf(cx, projectId);
  const equipment = await equipmentOf(cx, id, dayIn(timezone, now.toISOString()));
  const since = equipment.calibratedOn;
  const from = since === null ? new Date(0) : DateTime.fromISO(since, { zone: timezone }).toJSDate();
  const [calibrations, tests] = await Promise.all([calibrationsOf(cx, id, equipment.kind), testsWith(cx, id, from, offset, limit)]);
  return { equipment, calibrations, since, tests: { ...tests, items: tests.items.map(shown) } };
}

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
