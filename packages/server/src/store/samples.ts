import { batchOf } from '@keen-mortar/contract';
import type { HistoryPoint, Kept, NewSample, NewSampleEvent, Reading, Sample, SampleEvent, Test } from '@keen-mortar/contract';
import { guidance, methodById, worst, type Sources, type UnitId, type VerdictState } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { insert, isDuplicate, select, selectOne, type Cx } from '../db.js';
import { notFound, Refused } from '../problems.js';
import { kitOf } from './kit.js';
import { mixOf } from './mixes.js';
import { loadOf, pourOf, sampleLabel } from './pours.js';
import { personOf, projectOf } from './projects.js';
import { specificationsOfMix } from './specifications.js';

interface SampleRow {
  id: string;
  project_id: string;
  load_id: string;
  number: number;
  person_id: string;
  created_at: Date;
}

interface EventRow {
  id: string;
  kind: SampleEvent['kind'];
  happened_at: Date;
  part: string | null;
  person_id: string;
}

interface TestRow {
  id: string;
  sample_id: string;
  method: string;
  variant: string;
  variant_reason: string | null;
  unit_system: 'si' | 'us';
  started_at: Date;
  person_id: string;
  equipment_id: string | null;
  retest_of: string | null;
}

interface ReadingRow {
  id: string;
  test_id: string;
  field: string;
  value_text: string;
  unit: UnitId | null;
  person_id: string;
  read_at: Date;
  received_at: Date;
  device: string;
  supersedes: string | null;
  reason: string | null;
}

interface EvaluationRow {
  test_id: string;
  turn: number;
  core_version: string;
  inputs: string;
  evaluation: string;
  judged: string;
  computed_at: Date;
}

const reading = (row: ReadingRow): Reading => ({
  id: row.id,
  field: row.field,
  text: row.value_text,
  unit: row.unit,
  by: row.person_id,
  at: row.read_at.toISOString(),
  receivedAt: row.received_at.toISOString(),
  device: row.device,
  supersedes: row.supersedes,
  reason: row.reason,
});

/** JSON columns stay text (`jsonStrings`), whichever way the server describes them. */
function kept(row: EvaluationRow, method: string): Kept {
  const [evaluation, judged] = [JSON.parse(row.evaluation) as Kept['evaluation'], JSON.parse(row.judged) as Kept['judged']];
  const m = methodById(method);
  return {
    turn: row.turn,
    coreVersion: row.core_version,
    computedAt: row.computed_at.toISOString(),
    inputs: JSON.parse(row.inputs) as Kept['inputs'],
    evaluation,
    judged,
    guidance: m ? guidance(m, evaluation, judged) : [],
  };
}

async function testsOf(cx: Cx, sampleId: string): Promise<Test[]> {
  const rows = await select<TestRow>(cx, 'SELECT * FROM test WHERE sample_id = ? ORDER BY started_at, id', [sampleId]);
  if (rows.length === 0) return [];
  const ids = rows.map((row) => row.id);
  const readings = await select<ReadingRow>(cx, 'SELECT * FROM reading WHERE test_id IN (?) ORDER BY turn, received_at, field', [ids]);
  const evaluations = await select<EvaluationRow>(cx, 'SELECT * FROM evaluation WHERE test_id IN (?) ORDER BY turn', [ids]);
  const newest = new Map(evaluations.map((e) => [e.test_id, e]));
  return rows.map((row) => {
    const own = newest.get(row.id);
    return {
      id: row.id,
      method: row.method,
      variant: row.variant,
      variantReason: row.variant_reason,
      system: row.unit_system,
      startedAt: row.started_at.toISOString(),
      by: row.person_id,
      equipmentId: row.equipment_id,
      retestOf: row.retest_of,
      readings: readings.filter((r) => r.test_id === row.id).map(reading),
      kept: own ? kept(own, row.method) : null,
    };
  });
}

async function rowOf(cx: Cx, id: string): Promise<SampleRow> {
  const row = await selectOne<SampleRow>(cx, 'SELECT * FROM sample WHERE id = ?', [id]);
  if (!row) throw notFound('sample', id);
  return row;
}

/** The sample with everything around it that its sheet and its evaluations need. */
export async function sampleOf(cx: Cx, id: string): Promise<Sample> {
  const row = await rowOf(cx, id);
  const load = await loadOf(cx, row.load_id);
  const pour = await pourOf(cx, load.pourId);
  const { revisions, ...mix } = await mixOf(cx, pour.mixId);
  const revision = revisions.find((r) => r.id === load.revisionId);
  if (!revision) throw new Error(`load ${load.id} has a revision of another mix`);
  const events = (await select<EventRow>(cx, 'SELECT * FROM sample_event WHERE sample_id = ? ORDER BY happened_at, id', [id])).map(
    (e): SampleEvent => ({ id: e.id, kind: e.kind, at: e.happened_at.toISOString(), part: e.part, by: e.person_id }),
  );
  const sources: Sources = {
    'mix.largest': revision.largest,
    'mix.nominal': revision.nominal,
    ...(revision.theoretical ? { 'mix.theoretical': revision.theoretical } : {}),
    ...(revision.correction === undefined ? {} : { 'mix.correction': { text: revision.correction, unit: '%' } }),
    'ticket.design': load.design,
    // Water added after batching is part of the batch: forgetting it is the usual slip in a yield.
    'ticket.batch': batchOf(load, revision),
    'ticket.batched': load.batchedAt,
    'mix.aggregate': revision.aggregate,
    'sample.portions': events.filter((e) => e.kind === 'portion').map((e) => ({ at: e.at, part: e.part })),
    ...finishedSource(events),
  };
  return {
    id: row.id,
    label: sampleLabel(row.number),
    createdAt: row.created_at.toISOString(),
    by: row.person_id,
    project: await projectOf(cx, row.project_id),
    pour,
    mix,
    revision,
    load,
    specifications: await specificationsOfMix(cx, pour.mixId),
    kit: await kitOf(cx, row.project_id),
    sources,
    events,
    tests: await testsOf(cx, id),
    history: await historyOf(cx, pour.mixId, id, row.created_at),
  };
}

function finishedSource(events: readonly SampleEvent[]): Sources {
  const finished = events.find((e) => e.kind === 'finished');
  return finished ? { 'sample.finished': finished.at } : {};
}

interface HistoryRow {
  number: number;
  load_number: number;
  method: string;
  result: string;
  reported_text: string;
  unit: UnitId;
  started_at: Date;
  state: VerdictState | null;
  evaluation_id: number;
}

const HISTORY = 8;

/** The newest results of the same mix before this sample, void ones left out: what is usual here. */
async function historyOf(cx: Cx, mixId: string, sampleId: string, before: Date): Promise<Record<string, HistoryPoint[]>> {
  const rows = await select<HistoryRow>(
    cx,
    `SELECT s.number, l.number AS load_number, t.method, r.result, r.reported_text, r.unit, t.started_at, v.state, e.id AS evaluation_id
     FROM evaluation e
     JOIN (SELECT test_id, MAX(turn) AS turn FROM evaluation GROUP BY test_id) newest ON newest.test_id = e.test_id AND newest.turn = e.turn
     JOIN test t ON t.id = e.test_id JOIN sample s ON s.id = t.sample_id JOIN truck_load l ON l.id = s.load_id JOIN pour p ON p.id = l.pour_id
     JOIN result r ON r.evaluation_id = e.id AND r.state = 'given' AND r.reported_text IS NOT NULL
     LEFT JOIN verdict v ON v.evaluation_id = e.id AND v.result = r.result
     WHERE p.mix_id = ? AND s.id <> ? AND t.started_at <= ? ORDER BY t.started_at DESC LIMIT 400`,
    [mixId, sampleId, before],
  );
  const history: Record<string, HistoryPoint[]> = {};
  const seen = new Set<string>();
  for (const row of rows) {
    const property = methodById(row.method)?.results[row.result]?.property;
    const key = `${row.evaluation_id} ${row.result}`;
    if (property === undefined || seen.has(key)) continue;
    seen.add(key);
    const states = rows.filter((r) => r.evaluation_id === row.evaluation_id && r.result === row.result).map((r) => r.state ?? 'unjudged');
    const list = (history[property] ??= []);
    if (list.length < HISTORY) {
      list.unshift({
        sample: sampleLabel(row.number),
        load: row.load_number,
        reported: row.reported_text,
        unit: row.unit,
        state: worst(states),
        at: row.started_at.toISOString(),
      });
    }
  }
  return history;
}

/** Numbers of a project's samples start after this. */
const FIRST_NUMBER = 100;
const NUMBER_TRIES = 100;

/** Takes the next number; when somebody takes the same one at the same moment, the one after it. */
async function insertNumbered(
  cx: PoolConnection,
  row: Readonly<Record<'id' | 'project_id', string>> & Readonly<Record<string, unknown>>,
): Promise<void> {
  const last = await selectOne<{ n: number | null }>(cx, 'SELECT MAX(number) AS n FROM sample WHERE project_id = ?', [row.project_id]);
  const next = Number(last?.n ?? FIRST_NUMBER) + 1;
  for (let number = next; ; number++) {
    try {
      await insert(cx, 'sample', { ...row, number });
      return;
    } catch (error) {
      if (!isDuplicate(error) || number >= next + NUMBER_TRIES) throw error;
    }
  }
}

export async function addSample(cx: PoolConnection, body: NewSample): Promise<void> {
  await personOf(cx, body.by);
  const load = await loadOf(cx, body.loadId);
  const { projectId } = await pourOf(cx, load.pourId);
  const at = new Date(body.firstPortionAt);
  mustFollow(at, new Date(load.batchedAt), 'firstPortionAt', 'A portion cannot be taken before the load was batched.');
  await insertNumbered(cx, { id: body.id, project_id: projectId, load_id: load.id, person_id: body.by, created_at: at });
  // The first portion has the sample's own id: one write, one id.
  await insert(cx, 'sample_event', {
    id: body.id,
    sample_id: body.id,
    kind: 'portion',
    happened_at: at,
    part: 'middle',
    person_id: body.by,
  });
}

export async function addSampleEvent(cx: PoolConnection, sampleId: string, body: NewSampleEvent): Promise<void> {
  await personOf(cx, body.by);
  const sample = await sampleOf(cx, sampleId);
  const at = new Date(body.at);
  const portions = sample.events.filter((e) => e.kind === 'portion').map((e) => Date.parse(e.at));
  if (body.kind !== 'discharged') mustFollow(at, new Date(Math.min(...portions)), 'at', 'This cannot be before the first portion.');
  if (body.kind === 'finished')
    mustFollow(at, new Date(Math.max(...portions)), 'at', 'The composite cannot be finished before its last portion.');
  const finished = sample.events.some((e) => e.kind === 'finished');
  if (finished && (body.kind === 'portion' || body.kind === 'finished'))
    throw new Refused('already-exists', 'The composite is finished already.');
  if (body.kind !== 'portion' && sample.events.some((e) => e.kind === body.kind))
    throw new Refused('already-exists', 'That has its time already.');
  await insert(cx, 'sample_event', {
    id: body.id,
    sample_id: sampleId,
    kind: body.kind,
    happened_at: at,
    part: body.part ?? null,
    person_id: body.by,
  });
}

function mustFollow(at: Date, earlier: Date, path: string, message: string): void {
  if (at.getTime() >= earlier.getTime()) return;
  throw new Refused('invalid-input', message, [{ code: 'out-of-order', path, message }]);
}
