import type { NewTest } from '@keen-mortar/contract';
import type { AnyInputs, Evaluation, How, Verdict } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { change, insert, insertAll, select, selectOne, type Cx } from '../db.js';
import { notFound } from '../problems.js';

/** All that an evaluation was worked out from: it can be worked out again from this alone. */
export interface Basis {
  readonly inputs: AnyInputs;
  readonly how: Omit<How, 'working' | 'offers'>;
  readonly specificationIds: readonly string[];
  /** Tests of which it took what its mix or source had then, by what they give. */
  readonly took?: Readonly<Record<string, string>>;
}

/** With it what came of it: another core may work it out otherwise, and what was kept stays as it was kept. */
export interface Frozen extends Basis {
  readonly said: Pick<Evaluation, 'results' | 'validity' | 'issues' | 'missing' | 'notes'>;
}

export interface KeptEvaluation {
  readonly turn: number;
  readonly core: string;
  readonly cause: string | null;
  readonly computedAt: Date;
  readonly frozen: Frozen;
}

export interface TestRecord {
  readonly id: string;
  readonly itemId: string;
  readonly method: string;
  readonly variant: string;
  readonly variantReason: string | null;
  readonly system: NewTest['system'];
  readonly startedAt: Date;
  readonly by: string;
  readonly equipmentId: string | null;
  readonly calibrationId: string | null;
  readonly ownCopyId: string | null;
  readonly kitReason: string | null;
  readonly retestOf: string | null;
  readonly newest: KeptEvaluation | null;
}

interface TestRow {
  id: string;
  item_id: string;
  method: string;
  variant: string;
  variant_reason: string | null;
  unit_system: NewTest['system'];
  started_at: Date;
  person_id: string;
  equipment_id: string | null;
  calibration_id: string | null;
  own_copy_id: string | null;
  kit_reason: string | null;
  retest_of: string | null;
  turn: number | null;
  core: string;
  cause: string | null;
  computed_at: Date;
  frozen: string;
}

/** Tests of some items with the newest evaluation of each, in the order in which they were made. */
/** Methods of the tests on some items, in the order in which they were made. */
export async function methodsOn(cx: Cx, itemIds: readonly string[]): Promise<Map<string, string[]>> {
  const on = new Map<string, string[]>(itemIds.map((id) => [id, []]));
  if (itemIds.length === 0) return on;
  const rows = await select<{ item_id: string; method: string }>(
    cx,
    'SELECT item_id, method FROM test WHERE item_id IN (?) GROUP BY item_id, method ORDER BY MIN(started_at)',
    [itemIds],
  );
  for (const { item_id, method } of rows) on.get(item_id)!.push(method);
  return on;
}

export async function testsOfItems(cx: Cx, itemIds: readonly string[]): Promise<TestRecord[]> {
  if (itemIds.length === 0) return [];
  const rows = await select<TestRow>(
    cx,
    `SELECT t.id, t.item_id, t.method, t.variant, t.variant_reason, t.unit_system, t.started_at, t.person_id, t.equipment_id, t.calibration_id,
       t.own_copy_id, t.kit_reason, t.retest_of, e.turn, e.core, e.cause, e.computed_at, e.frozen
     FROM test t LEFT JOIN evaluation e ON e.test_id = t.id AND e.turn = (SELECT MAX(turn) FROM evaluation WHERE test_id = t.id)
     WHERE t.item_id IN (?) ORDER BY t.started_at, t.id`,
    [itemIds],
  );
  return rows.map((row) => ({
    id: row.id,
    itemId: row.item_id,
    method: row.method,
    variant: row.variant,
    variantReason: row.variant_reason,
    system: row.unit_system,
    startedAt: row.started_at,
    by: row.person_id,
    equipmentId: row.equipment_id,
    calibrationId: row.calibration_id,
    ownCopyId: row.own_copy_id,
    kitReason: row.kit_reason,
    retestOf: row.retest_of,
    newest:
      row.turn === null
        ? null
        : {
            turn: row.turn,
            core: row.core.trim(),
            cause: row.cause,
            computedAt: row.computed_at,
            frozen: JSON.parse(row.frozen) as Frozen,
          },
  }));
}

export async function itemIdOfTest(cx: Cx, testId: string): Promise<string> {
  const row = await selectOne<{ item_id: string }>(cx, 'SELECT item_id FROM test WHERE id = ?', [testId]);
  if (!row) throw notFound('test', testId);
  return row.item_id;
}

export const insertTest = (cx: PoolConnection, test: Omit<TestRecord, 'newest'>): Promise<number> =>
  insert(cx, 'test', {
    id: test.id,
    item_id: test.itemId,
    method: test.method,
    variant: test.variant,
    variant_reason: test.variantReason,
    unit_system: test.system,
    started_at: test.startedAt,
    person_id: test.by,
    equipment_id: test.equipmentId,
    calibration_id: test.calibrationId,
    own_copy_id: test.ownCopyId,
    kit_reason: test.kitReason,
    retest_of: test.retestOf,
  });

/** An evaluation that is kept, with the worst that a specification says of each result. */
export async function insertEvaluation(
  cx: PoolConnection,
  testId: string,
  kept: {
    readonly turn: number;
    readonly core: string;
    readonly frozen: Frozen;
    readonly cause: { readonly kind: string; readonly id: string } | null;
    readonly at: Date;
    readonly evaluation: Evaluation;
    readonly verdicts: ReadonlyMap<string, Verdict>;
  },
): Promise<void> {
  await insert(cx, 'evaluation', {
    test_id: testId,
    turn: kept.turn,
    core: kept.core,
    validity: kept.evaluation.validity.state,
    frozen: JSON.stringify(kept.frozen),
    cause: kept.cause?.kind ?? null,
    cause_id: kept.cause?.id ?? null,
    computed_at: kept.at,
  });
  await insertAll(
    cx,
    'result',
    kept.evaluation.results.map((r) => {
      const verdict = kept.verdicts.get(r.id);
      return {
        test_id: testId,
        turn: kept.turn,
        result: r.id,
        state: r.state,
        unit: r.unit,
        exact_text: r.exact,
        reported_text: r.reported,
        verdict: verdict?.state ?? null,
        lower_text: verdict?.lower ?? null,
        upper_text: verdict?.upper ?? null,
        compared_text: verdict?.compared ?? null,
        limit_unit: verdict?.limit === undefined ? null : (verdict.unit ?? null),
      };
    }),
  );
}

/** What the newest evaluation of a test used. */
export async function setStoodOn(cx: PoolConnection, testId: string, usedIds: readonly string[]): Promise<void> {
  if (usedIds.length === 0) return;
  await change(cx, 'INSERT IGNORE INTO stood_on (test_id, used_id) VALUES ?', [usedIds.map((used) => [testId, used])]);
}

/** What stands beside a test in print. */
export interface PrintedBeside {
  /** What it was made with, each with its calibration of then. */
  readonly kit: string | null;
  /** Why it is void or marked, and what else is said of it. */
  readonly reasons: Frozen['said']['validity']['reasons'];
  readonly notes: Frozen['said']['notes'];
}

export async function aroundTests(cx: Cx, testIds: readonly string[]): Promise<Map<string, PrintedBeside>> {
  if (testIds.length === 0) return new Map();
  const rows = await select<{ id: string; reasons: string | null; notes: string | null }>(
    cx,
    `SELECT l.test_id AS id, JSON_EXTRACT(e.frozen, '$.said.validity.reasons') AS reasons, JSON_EXTRACT(e.frozen, '$.said.notes') AS notes
     FROM ledger l LEFT JOIN evaluation e ON e.test_id = l.test_id AND e.turn = l.turn WHERE l.test_id IN (?)`,
    [testIds],
  );
  const kit = await select<{ test_id: string; name: string; calibrated_on: string | null }>(
    cx,
    `SELECT k.test_id, q.name, c.calibrated_on FROM test_kit k JOIN test t ON t.id = k.test_id JOIN equipment q ON q.id = k.equipment_id
     LEFT JOIN calibration c ON c.id = k.calibration_id WHERE k.test_id IN (?)
     ORDER BY k.test_id, COALESCE(k.equipment_id = t.equipment_id, FALSE) DESC, q.name`,
    [testIds],
  );
  const made = new Map<string, string[]>();
  for (const { test_id: test, name, calibrated_on: on } of kit)
    made.set(test, [...(made.get(test) ?? []), `${name}, ${on === null ? 'not calibrated' : `calibrated ${on}`}`]);
  return new Map(
    rows.map((r) => [
      r.id,
      {
        kit: made.get(r.id)?.join('; ') ?? null,
        reasons: r.reasons === null ? [] : (JSON.parse(r.reasons) as PrintedBeside['reasons']),
        notes: r.notes === null ? [] : (JSON.parse(r.notes) as PrintedBeside['notes']),
      },
    ]),
  );
}
