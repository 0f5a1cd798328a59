import {
  entriesOf,
  inForce,
  situation,
  type Entry,
  type Fault,
  type Keep,
  type KeepAnswer,
  type NewTest,
  type Reading,
  type Sample,
  type Test,
} from '@keen-mortar/contract';
import {
  CORE_VERSION,
  evaluate,
  fieldAt,
  judgeAll,
  keyedFields,
  methodById,
  type AnyInputs,
  type AnyMethod,
  type Evaluation,
  type Judged,
} from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { insert, selectOne, type Cx } from '../db.js';
import { faultOf, notFound, Refused } from '../problems.js';
import { mustBeOf, personOf } from './projects.js';
import { sampleOf } from './samples.js';

const refuse = (code: string, path: string, message: string): Refused => new Refused('invalid-input', message, [{ code, path, message }]);

export async function sampleIdOfTest(cx: Cx, testId: string): Promise<string> {
  const row = await selectOne<{ sample_id: string }>(cx, 'SELECT sample_id FROM test WHERE id = ?', [testId]);
  if (!row) throw notFound('test', testId);
  return row.sample_id;
}

const testIn = (sample: Sample, testId: string): Test => {
  const test = sample.tests.find((t) => t.id === testId);
  if (!test) throw notFound('test', testId);
  return test;
};

export async function testOf(cx: Cx, testId: string): Promise<Test> {
  return testIn(await sampleOf(cx, await sampleIdOfTest(cx, testId)), testId);
}

export async function addTest(cx: PoolConnection, sampleId: string, body: NewTest): Promise<void> {
  await personOf(cx, body.by);
  const sample = await sampleOf(cx, sampleId);
  const m = methodById(body.method);
  if (!m) throw refuse('unknown-method', 'method', `There is no method ${body.method}.`);
  if (!Object.hasOwn(m.variants, body.variant)) throw refuse('unknown-variant', 'variant', `${m.title} has no variant ${body.variant}.`);
  if (body.equipmentId !== null) {
    await mustBeOf(cx, 'equipment', body.equipmentId, sample.project.id, 'equipmentId');
    const kind = sample.kit.find((k) => k.id === body.equipmentId)?.kind;
    if (kind !== m.kit) throw refuse('wrong-kind', 'equipmentId', `This equipment does not serve ${m.title.toLowerCase()}.`);
  }
  if (body.retestOf !== null) {
    const before = sample.tests.find((t) => t.id === body.retestOf);
    if (before?.method !== body.method)
      throw refuse('wrong-retest', 'retestOf', 'A repeat belongs to a test of the same method on the same sample.');
  }
  await insert(cx, 'test', {
    id: body.id,
    sample_id: sampleId,
    method: body.method,
    variant: body.variant,
    variant_reason: body.variantReason ?? null,
    unit_system: body.system,
    started_at: new Date(body.startedAt),
    person_id: body.by,
    equipment_id: body.equipmentId,
    retest_of: body.retestOf,
  });
}

/**
 * Keeps readings and computes the test with them. All of it or nothing: an impossible reading, a
 * correction without a reason, or one that somebody else has corrected meanwhile refuses the whole.
 */
export async function keepReadings(cx: PoolConnection, testId: string, body: Keep, now: Date): Promise<void> {
  await personOf(cx, body.by);
  const sample = await sampleOf(cx, await sampleIdOfTest(cx, testId));
  const test = testIn(sample, testId);
  const m = methodById(test.method);
  if (!m) throw new Error(`table holds a test of unknown method ${test.method}`);
  checkFields(m, test, body);
  checkTurns(test, body);

  const added = body.readings.map((r): Reading => ({
    id: r.id,
    field: r.field,
    text: r.text,
    unit: r.unit,
    by: body.by,
    at: r.at,
    receivedAt: now.toISOString(),
    device: 'hand',
    supersedes: r.supersedes ?? null,
    reason: r.reason ?? null,
  }));
  const readings = [...test.readings, ...added];
  const { evaluation, judged, inputs } = compute(sample, { ...test, readings }, entriesOf(readings));
  checkIssues(m, evaluation, readings);

  for (const r of added) {
    await insert(cx, 'reading', {
      id: r.id,
      test_id: testId,
      field: r.field,
      turn: test.readings.filter((old) => old.field === r.field).length,
      value_text: r.text,
      unit: r.unit,
      person_id: r.by,
      read_at: new Date(r.at),
      received_at: now,
      device: r.device,
      supersedes: r.supersedes,
      reason: r.reason,
    });
  }
  await insertEvaluation(cx, test, evaluation, judged, inputs, now);
}

function compute(sample: Sample, test: Test, entries: Map<string, Entry>): { evaluation: Evaluation; judged: Judged[]; inputs: AnyInputs } {
  const now = situation(sample, test, entries);
  if (!now) throw new Error(`no method ${test.method}`);
  const evaluation = evaluate(now.method, now.inputs, now.how);
  return { evaluation, judged: judgeAll(now.method, evaluation, sample.specifications), inputs: now.inputs };
}

/** Each reading is of a field that people key in this variant, once, with a unit exactly where it has one. */
function checkFields(m: AnyMethod, test: Test, body: Keep): void {
  const keyed = new Set(keyedFields(m, test.variant).map(([id]) => id));
  const seen = new Set<string>();
  for (const [i, r] of body.readings.entries()) {
    const path = `readings.${i}`;
    const field = keyed.has(r.field) ? fieldAt(m, r.field) : undefined;
    if (!field) throw refuse('unknown-field', `${path}.field`, `${m.title} has no reading ${r.field} here.`);
    if (seen.has(r.field)) throw refuse('twice', `${path}.field`, `${field.label} is in this twice.`);
    seen.add(r.field);
    if ((field.kind === 'qty') !== (r.unit !== null))
      throw refuse('wrong-unit', `${path}.unit`, field.kind === 'qty' ? `${field.label} needs a unit.` : `${field.label} has no unit.`);
  }
}

function checkTurns(test: Test, body: Keep): void {
  const current = inForce(test.readings);
  for (const [i, r] of body.readings.entries()) {
    const old = current.get(r.field);
    if (r.supersedes !== old?.id) {
      const message = old
        ? `Somebody has kept ${old.text}${old.unit ? ` ${old.unit}` : ''} here meanwhile. Look at it, then correct it if it is wrong.`
        : 'The reading to be corrected is not here.';
      throw new Refused(old ? 'already-read' : 'invalid-input', message, [{ code: 'already-read', path: r.field, message }]);
    }
    if (old && r.reason === undefined) {
      const message = 'A correction needs a reason.';
      throw new Refused('needs-reason', message, [{ code: 'needs-reason', path: `readings.${i}.reason`, message }]);
    }
  }
}

function checkIssues(m: AnyMethod, evaluation: Evaluation, readings: readonly Reading[]): void {
  const impossible = evaluation.issues.filter((issue) => issue.severity === 'impossible');
  if (impossible.length > 0)
    throw new Refused(
      'invalid-input',
      `${m.title}: ${impossible.length === 1 ? 'a reading is' : 'readings are'} impossible.`,
      impossible.map((issue) => faultOf(m, issue)),
    );
  const current = inForce(readings);
  // What is unlikely of the whole, or of a value that the record gives, is explained at any reading of the test.
  const explained = [...current.values()].some((r) => r.reason !== null);
  const unexplained = evaluation.issues.filter(({ code, path }) =>
    current.has(path) ? current.get(path)?.reason === null : code === 'unlikely-result' && !explained,
  );
  if (unexplained.length > 0) {
    throw new Refused(
      'needs-reason',
      'An unlikely reading is kept with a reason.',
      unexplained.map((issue): Fault => ({ ...faultOf(m, issue), code: 'needs-reason' })),
    );
  }
}

async function insertEvaluation(
  cx: PoolConnection,
  test: Test,
  evaluation: Evaluation,
  judged: readonly Judged[],
  inputs: AnyInputs,
  now: Date,
): Promise<void> {
  const id = await insert(cx, 'evaluation', {
    test_id: test.id,
    turn: test.kept ? test.kept.turn + 1 : 0,
    core_version: CORE_VERSION,
    validity: evaluation.validity.state,
    inputs: JSON.stringify(inputs),
    evaluation: JSON.stringify(evaluation),
    judged: JSON.stringify(judged),
    computed_at: now,
  });
  for (const r of evaluation.results) {
    await insert(cx, 'result', {
      evaluation_id: id,
      result: r.id,
      state: r.state,
      unit: r.unit,
      exact_text: r.exact,
      unrounded_text: r.unrounded,
      reported_text: r.reported,
    });
  }
  for (const { specification, verdicts } of judged) {
    if (!specification) continue;
    for (const v of verdicts) {
      await insert(cx, 'verdict', {
        evaluation_id: id,
        result: v.result,
        specification_id: specification.id,
        state: v.state,
        limit_id: v.limit ?? null,
        compared_text: v.compared ?? null,
      });
    }
  }
}

/** The kept test, and every digit that the page had shown otherwise. */
export function answerOf(test: Test, shown: Readonly<Record<string, string>>): KeepAnswer {
  const results = test.kept?.evaluation.results ?? [];
  return {
    test,
    differs: results.flatMap((r) => {
      const was = shown[r.id];
      return was !== undefined && r.reported !== null && was !== r.reported ? [{ result: r.id, shown: was, kept: r.reported }] : [];
    }),
  };
}
