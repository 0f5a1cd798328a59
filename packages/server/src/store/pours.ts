import type { Load, Mark, newWater, NewLoad, NewPour, Page, Pour, PourDetail, SampleSummary } from '@keen-mortar/contract';
import { FRESH_TESTS, methodById, unitLabel, worst, type UnitId, type VerdictState } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import { insert, select, selectOne, type Cx } from '../db.js';
import { notFound } from '../problems.js';
import { mixOf, revisionAt } from './mixes.js';
import { countOf, mustBeOf, personOf, projectOf } from './projects.js';
import { specificationsOfMix } from './specifications.js';

interface PourRow {
  id: string;
  project_id: string;
  mix_id: string;
  name: string;
  element: string;
  poured_on: string;
  planned_text: string;
  planned_unit: UnitId;
  mix_code: string;
  mix_name: string;
  loads: number;
  samples: number;
  outs: number;
}

/** Newest evaluation of each test that has no repeat: what stands now. */
const STANDING = `
  evaluation e
  JOIN (SELECT test_id, MAX(turn) AS turn FROM evaluation GROUP BY test_id) newest ON newest.test_id = e.test_id AND newest.turn = e.turn
  JOIN test t ON t.id = e.test_id
  LEFT JOIN test later ON later.retest_of = t.id
  JOIN sample s ON s.id = t.sample_id`;

const POUR = `
  SELECT p.*, m.code AS mix_code, m.name AS mix_name,
    (SELECT COUNT(*) FROM truck_load l WHERE l.pour_id = p.id) AS loads,
    (SELECT COUNT(*) FROM sample s JOIN truck_load l ON l.id = s.load_id WHERE l.pour_id = p.id) AS samples,
    (SELECT COUNT(DISTINCT l.id) FROM ${STANDING} JOIN truck_load l ON l.id = s.load_id
       JOIN verdict v ON v.evaluation_id = e.id AND v.state = 'out' WHERE l.pour_id = p.id AND later.id IS NULL) AS outs
  FROM pour p JOIN mix m ON m.id = p.mix_id`;

const pour = (row: PourRow): Pour => ({
  id: row.id,
  projectId: row.project_id,
  mixId: row.mix_id,
  name: row.name,
  element: row.element,
  on: row.poured_on,
  planned: { text: row.planned_text, unit: row.planned_unit },
  mixCode: row.mix_code,
  mixName: row.mix_name,
  loads: Number(row.loads),
  samples: Number(row.samples),
  out: Number(row.outs),
});

export async function pours(cx: Cx, projectId: string, offset: number, limit: number): Promise<Page<Pour>> {
  const rows = await select<PourRow>(cx, `${POUR} WHERE p.project_id = ? ORDER BY p.poured_on DESC, p.name LIMIT ? OFFSET ?`, [
    projectId,
    limit,
    offset,
  ]);
  return { items: rows.map(pour), total: await countOf(cx, 'pour', 'project_id = ?', [projectId]) };
}

export async function pourOf(cx: Cx, id: string): Promise<Pour> {
  const row = await selectOne<PourRow>(cx, `${POUR} WHERE p.id = ?`, [id]);
  if (!row) throw notFound('pour', id);
  return pour(row);
}

export async function pourDetail(cx: Cx, id: string): Promise<PourDetail> {
  const found = await pourOf(cx, id);
  const loadList = await loadsWhere(cx, 'l.pour_id = ?', [id]);
  return {
    ...found,
    project: await projectOf(cx, found.projectId),
    mix: await mixOf(cx, found.mixId),
    specifications: await specificationsOfMix(cx, found.mixId),
    loadList,
    sampleList: await samplesOfPour(cx, id),
  };
}

export async function addPour(cx: PoolConnection, body: NewPour): Promise<void> {
  await personOf(cx, body.by);
  await projectOf(cx, body.projectId);
  await mustBeOf(cx, 'mix', body.mixId, body.projectId, 'mixId');
  await insert(cx, 'pour', {
    id: body.id,
    project_id: body.projectId,
    mix_id: body.mixId,
    name: body.name,
    element: body.element,
    poured_on: body.on,
    planned_text: body.planned.text,
    planned_unit: body.planned.unit,
  });
}

interface LoadRow {
  id: string;
  pour_id: string;
  revision_id: string;
  revision: number;
  number: number;
  ticket: string;
  truck: string;
  batched_at: Date;
  design_text: string;
  design_unit: UnitId;
}

interface MaterialRow {
  load_id: string;
  name: string;
  role: Load['materials'][number]['role'];
  target_text: string | null;
  actual_text: string;
  unit: Load['materials'][number]['unit'];
  moisture_text: string | null;
  absorption_text: string | null;
}

interface WaterRow {
  id: string;
  load_id: string;
  mass_text: string;
  mass_unit: UnitId;
  added_at: Date;
  person_id: string;
}

async function loadsWhere(cx: Cx, where: string, values: readonly unknown[]): Promise<Load[]> {
  const rows = await select<LoadRow>(
    cx,
    `SELECT l.*, r.number AS revision FROM truck_load l JOIN mix_revision r ON r.id = l.revision_id WHERE ${where} ORDER BY l.number`,
    values,
  );
  if (rows.length === 0) return [];
  const ids = rows.map((row) => row.id);
  const materials = await select<MaterialRow>(cx, 'SELECT * FROM ticket_material WHERE load_id IN (?) ORDER BY position', [ids]);
  const water = await select<WaterRow>(cx, 'SELECT * FROM water_addition WHERE load_id IN (?) ORDER BY added_at, id', [ids]);
  return rows.map((row) => ({
    id: row.id,
    pourId: row.pour_id,
    revisionId: row.revision_id,
    revision: row.revision,
    number: row.number,
    ticket: row.ticket,
    truck: row.truck,
    batchedAt: row.batched_at.toISOString(),
    design: { text: row.design_text, unit: row.design_unit },
    materials: materials
      .filter((m) => m.load_id === row.id)
      .map((m) => ({
        name: m.name,
        role: m.role,
        ...(m.target_text === null ? {} : { target: m.target_text }),
        actual: m.actual_text,
        unit: m.unit,
        ...(m.moisture_text === null ? {} : { moisture: m.moisture_text }),
        ...(m.absorption_text === null ? {} : { absorption: m.absorption_text }),
      })),
    water: water
      .filter((w) => w.load_id === row.id)
      .map((w) => ({ id: w.id, mass: { text: w.mass_text, unit: w.mass_unit }, at: w.added_at.toISOString(), by: w.person_id })),
  }));
}

export async function loadOf(cx: Cx, id: string): Promise<Load> {
  const found = (await loadsWhere(cx, 'l.id = ?', [id]))[0];
  if (!found) throw notFound('load', id);
  return found;
}

export async function loads(cx: Cx, pourId: string, offset: number, limit: number): Promise<Page<Load>> {
  await pourOf(cx, pourId);
  const all = await loadsWhere(cx, 'l.pour_id = ?', [pourId]);
  return { items: all.slice(offset, offset + limit), total: all.length };
}

export async function addLoad(cx: PoolConnection, pourId: string, body: NewLoad): Promise<void> {
  await personOf(cx, body.by);
  const { mixId } = await pourOf(cx, pourId);
  const batchedAt = new Date(body.batchedAt);
  await insert(cx, 'truck_load', {
    id: body.id,
    pour_id: pourId,
    revision_id: await revisionAt(cx, mixId, batchedAt),
    number: body.number,
    ticket: body.ticket,
    truck: body.truck,
    batched_at: batchedAt,
    design_text: body.design.text,
    design_unit: body.design.unit,
  });
  for (const [position, m] of body.materials.entries()) {
    await insert(cx, 'ticket_material', {
      load_id: body.id,
      position,
      name: m.name,
      role: m.role,
      target_text: m.target ?? null,
      actual_text: m.actual,
      unit: m.unit,
      moisture_text: m.moisture ?? null,
      absorption_text: m.absorption ?? null,
    });
  }
}

export async function addWater(cx: PoolConnection, loadId: string, body: z.infer<typeof newWater>): Promise<void> {
  await personOf(cx, body.by);
  await loadOf(cx, loadId);
  await insert(cx, 'water_addition', {
    id: body.id,
    load_id: loadId,
    mass_text: body.mass.text,
    mass_unit: body.mass.unit,
    added_at: new Date(body.at),
    person_id: body.by,
  });
}

interface SampleRow {
  id: string;
  number: number;
  load_id: string;
  created_at: Date;
  person_id: string;
}

export interface StandingRow {
  sample_id: string;
  method: string;
  result: string;
  result_state: string;
  reported_text: string | null;
  unit: UnitId;
  validity: string;
  state: VerdictState | null;
}

async function samplesOfPour(cx: Cx, pourId: string): Promise<SampleSummary[]> {
  const rows = await select<SampleRow>(
    cx,
    'SELECT s.id, s.number, s.load_id, s.created_at, s.person_id FROM sample s JOIN truck_load l ON l.id = s.load_id WHERE l.pour_id = ? ORDER BY s.number',
    [pourId],
  );
  const standing = await select<StandingRow>(
    cx,
    `SELECT s.id AS sample_id, t.method, r.result, r.state AS result_state, r.reported_text, r.unit, e.validity, v.state
     FROM ${STANDING} JOIN truck_load l ON l.id = s.load_id JOIN result r ON r.evaluation_id = e.id
     LEFT JOIN verdict v ON v.evaluation_id = e.id AND v.result = r.result
     WHERE l.pour_id = ? AND later.id IS NULL ORDER BY t.started_at`,
    [pourId],
  );
  return rows.map((row) => ({
    id: row.id,
    label: sampleLabel(row.number),
    loadId: row.load_id,
    createdAt: row.created_at.toISOString(),
    by: row.person_id,
    marks: marksOf(standing.filter((s) => s.sample_id === row.id)),
  }));
}

export const sampleLabel = (number: number): string => `Q-${number}`;

/** In the order of the work, then as the method lists its results. */
function placeOf({ method, result }: StandingRow): number {
  return FRESH_TESTS.indexOf(method) * 100 + Object.keys(methodById(method)?.results ?? {}).indexOf(result);
}

/** One mark for each property that a specification could limit; under two specifications the worse one. */
export function marksOf(standing: readonly StandingRow[]): Mark[] {
  const rows = [...standing].sort((a, b) => placeOf(a) - placeOf(b));
  const byResult = new Map<string, StandingRow[]>();
  for (const row of rows) {
    const key = `${row.method} ${row.result}`;
    byResult.set(key, [...(byResult.get(key) ?? []), row]);
  }
  return [...byResult.values()].flatMap((same) => {
    const field = methodById(same[0]!.method)?.results[same[0]!.result];
    if (field?.property === undefined) return [];
    const state = worst(same.map((s) => s.state ?? 'unjudged'));
    // Value and state are of one test: the newest of those that stand worst.
    const row = same.findLast((s) => (s.state ?? 'unjudged') === state) ?? same[0]!;
    return [
      {
        method: row.method,
        result: row.result,
        label: field.label,
        state,
        validity: row.validity,
        reported: row.reported_text,
        unit: unitLabel(row.unit),
      },
    ];
  });
}
