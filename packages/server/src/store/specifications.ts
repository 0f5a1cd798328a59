import type { newSpecification, Page, Specification } from '@keen-mortar/contract';
import { isUnit } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import { insert, insertAll, select, type Cx } from '../db.js';
import { unchanging } from './unchanging.js';
import { countOf } from './projects.js';

interface SpecificationRow {
  id: string;
  project_id: string;
  name: string;
  comparison: Specification['comparison'];
}

interface LimitRow {
  id: string;
  specification_id: string;
  property: string;
  unit: string;
  lower_text: string | null;
  upper_text: string | null;
  target_text: string | null;
  minus_text: string | null;
  plus_text: string | null;
  source: string;
  on_fail: string | null;
}

const LIMIT =
  'l.id, l.specification_id, l.property, l.unit, l.lower_text, l.upper_text, l.target_text, l.minus_text, l.plus_text, l.source, l.on_fail';

/** Drops what is null: optional properties are absent on the wire. */
const present = <T extends object>(row: T): { [K in keyof T]?: NonNullable<T[K]> } =>
  Object.fromEntries(Object.entries(row).filter(([, value]) => value !== null)) as { [K in keyof T]?: NonNullable<T[K]> };

function limit(row: LimitRow): Specification['limits'][number] {
  if (!isUnit(row.unit)) throw new Error(`unknown unit in table: ${row.unit}`);
  const { lower_text: lower, upper_text: upper, target_text: target, minus_text: minus, plus_text: plus, on_fail: onFail } = row;
  return {
    id: row.id,
    property: row.property,
    unit: row.unit,
    source: row.source,
    ...present({ lower, upper, target, minus, plus, onFail }),
  };
}

async function withLimits(cx: Cx, rows: readonly SpecificationRow[]): Promise<Specification[]> {
  if (rows.length === 0) return [];
  const limits = await select<LimitRow>(cx, `SELECT ${LIMIT} FROM spec_limit l WHERE l.specification_id IN (?) ORDER BY l.position`, [
    rows.map((row) => row.id),
  ]);
  return rows.map((row) => ({
    id: row.id,
    projectId: row.project_id,
    name: row.name,
    comparison: row.comparison,
    limits: limits.filter((l) => l.specification_id === row.id).map(limit),
  }));
}

export async function specifications(cx: Cx, projectId: string, offset: number, limitCount: number): Promise<Page<Specification>> {
  const rows = await select<SpecificationRow>(
    cx,
    'SELECT id, project_id, name, comparison FROM specification WHERE project_id = ? ORDER BY name LIMIT ? OFFSET ?',
    [projectId, limitCount, offset],
  );
  return { items: await withLimits(cx, rows), total: await countOf(cx, 'specification', 'project_id = ?', [projectId]) };
}

/** Specifications of a mix, the owner's first, in one statement. */
export const specificationsOfMix = (cx: Cx, mixId: string): Promise<Specification[]> =>
  unchanging('specifications of', mixId, () => ofMix(cx, mixId));

async function ofMix(cx: Cx, mixId: string): Promise<Specification[]> {
  const rows = await select<LimitRow & { head_id: string; project_id: string; name: string; comparison: Specification['comparison'] }>(
    cx,
    `SELECT s.id AS head_id, s.project_id, s.name, s.comparison, ${LIMIT}
     FROM mix_specification ms JOIN specification s ON s.id = ms.specification_id JOIN spec_limit l ON l.specification_id = s.id
     WHERE ms.mix_id = ? ORDER BY ms.position, l.position`,
    [mixId],
  );
  return [...new Set(rows.map((row) => row.head_id))].map((id) => {
    const own = rows.filter((row) => row.head_id === id);
    const { project_id: projectId, name, comparison } = own[0]!;
    return { id, projectId, name, comparison, limits: own.map(limit) };
  });
}

export async function insertSpecification(cx: PoolConnection, body: z.infer<typeof newSpecification>): Promise<void> {
  await insert(cx, 'specification', { id: body.id, project_id: body.projectId, name: body.name, comparison: body.comparison });
  await insertAll(
    cx,
    'spec_limit',
    body.limits.map((l, position) => ({
      id: l.id,
      specification_id: body.id,
      position,
      property: l.property,
      unit: l.unit,
      lower_text: l.lower ?? null,
      upper_text: l.upper ?? null,
      target_text: l.target ?? null,
      minus_text: l.minus ?? null,
      plus_text: l.plus ?? null,
      source: l.source,
      on_fail: l.onFail ?? null,
    })),
  );
}
