import type { NewMeeting, NewSpecification, Page, Specification } from '@keen-mortar/contract';
import { isUnit, type SchoolId } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { insert, insertAll, select, selectOne, type Cx } from '../db.js';
import { notFound } from '../problems.js';
import { unchanging } from './unchanging.js';
import { countOf } from './projects.js';

interface SpecificationRow {
  id: string;
  project_id: string;
  name: string;
  comparison: Specification['comparison'];
  sampled: string | null;
  school: SchoolId | null;
  replaces_id: string | null;
  why: string | null;
  person_id: string;
  made_at: Date;
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
  at_days: number | null;
  source: string;
  on_fail: string | null;
}

const LIMIT =
  'l.id, l.specification_id, l.property, l.unit, l.lower_text, l.upper_text, l.target_text, l.minus_text, l.plus_text, l.at_days, l.source, l.on_fail';

/** Drops what is null: optional properties are absent on the wire. */
const present = <T extends object>(row: T): { [K in keyof T]?: NonNullable<T[K]> } =>
  Object.fromEntries(Object.entries(row).filter(([, value]) => value !== null)) as { [K in keyof T]?: NonNullable<T[K]> };

function limit(row: LimitRow): Specification['limits'][number] {
  if (!isUnit(row.unit)) throw new Error(`unknown unit in table: ${row.unit}`);
  const {
    lower_text: lower,
    upper_text: upper,
    target_text: target,
    minus_text: minus,
    plus_text: plus,
    at_days: atDays,
    on_fail: onFail,
  } = row;
  return {
    id: row.id,
    property: row.property,
    unit: row.unit,
    source: row.source,
    ...present({ lower, upper, target, minus, plus, atDays, onFail }),
  };
}

const HEAD = 's.id, s.project_id, s.name, s.comparison, s.sampled, s.school, s.replaces_id, s.why, s.person_id, s.made_at';

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
    by: row.person_id,
    madeAt: row.made_at.toISOString(),
    ...present({ sampled: row.sampled, school: row.school }),
    ...(row.replaces_id === null ? {} : { replaces: { id: row.replaces_id, why: row.why! } }),
    limits: limits.filter((l) => l.specification_id === row.id).map(limit),
  }));
}

/** Those of a project that are in use: none whose place another took. */
export async function specifications(cx: Cx, projectId: string, offset: number, limitCount: number): Promise<Page<Specification>> {
  const stands = 'project_id = ? AND id NOT IN (SELECT replaces_id FROM specification WHERE project_id = ? AND replaces_id IS NOT NULL)';
  const rows = await select<SpecificationRow>(
    cx,
    `SELECT ${HEAD} FROM specification s WHERE ${stands} ORDER BY s.name, s.id LIMIT ? OFFSET ?`,
    [projectId, projectId, limitCount, offset],
  );
  return { items: await withLimits(cx, rows), total: await countOf(cx, 'specification', stands, [projectId, projectId]) };
}

export const specificationOf = (cx: Cx, id: string): Promise<Specification> =>
  unchanging('specification', id, async () => {
    const rows = await select<SpecificationRow>(cx, `SELECT ${HEAD} FROM specification s WHERE s.id = ?`, [id]);
    const found = (await withLimits(cx, rows))[0];
    if (!found) throw notFound('specification', id);
    return found;
  });

/** Those of a project that are in use, by their names. */
export const specificationsCalled = (cx: Cx, projectId: string): Promise<{ id: string; name: string }[]> =>
  select<{ id: string; name: string }>(
    cx,
    `SELECT id, name FROM specification WHERE project_id = ?
       AND id NOT IN (SELECT replaces_id FROM specification WHERE project_id = ? AND replaces_id IS NOT NULL) ORDER BY made_at LIMIT 5000`,
    [projectId, projectId],
  );

/** Specifications in the order in which they are named. */
export const specificationsNamed = (cx: Cx, ids: readonly string[]): Promise<Specification[]> =>
  Promise.all(ids.map((id) => specificationOf(cx, id)));

/** What has to be met by some items of no mix at a moment: what was said last by then of the nearest of them. */
export async function metBy(cx: Cx, line: readonly string[], at: Date): Promise<string[]> {
  const newest = await selectOne<{ id: string }>(
    cx,
    `SELECT m.id FROM meeting m WHERE m.item_id IN (?) AND m.from_at <= ?
     ORDER BY FIELD(m.item_id, ?) DESC, m.from_at DESC, m.made_at DESC LIMIT 1`,
    [line, at, line],
  );
  if (!newest) return [];
  const rows = await select<{ specification_id: string }>(
    cx,
    'SELECT specification_id FROM meeting_specification WHERE meeting_id = ? ORDER BY position',
    [newest.id],
  );
  return rows.map((row) => row.specification_id);
}

export async function insertMeeting(cx: PoolConnection, act: Act, itemId: string, body: Omit<NewMeeting, 'by'>): Promise<void> {
  await insert(cx, 'meeting', { id: body.id, item_id: itemId, from_at: new Date(body.from), person_id: act.personId, made_at: act.now });
  await insertAll(
    cx,
    'meeting_specification',
    body.specificationIds.map((specificationId, position) => ({ meeting_id: body.id, specification_id: specificationId, position })),
  );
}

/** Items that have to meet a specification by what was said of them last. */
export const itemsMeeting = async (cx: Cx, specificationId: string): Promise<{ itemId: string; specificationIds: string[] }[]> => {
  const rows = await select<{ item_id: string; specification_id: string }>(
    cx,
    `SELECT m.item_id, s.specification_id FROM meeting m JOIN meeting_specification s ON s.meeting_id = m.id
     WHERE m.item_id IN (SELECT m1.item_id FROM meeting m1 JOIN meeting_specification s1 ON s1.meeting_id = m1.id WHERE s1.specification_id = ?)
       AND m.id = (SELECT n.id FROM meeting n WHERE n.item_id = m.item_id ORDER BY n.from_at DESC, n.made_at DESC LIMIT 1)
     ORDER BY m.item_id, s.position`,
    [specificationId],
  );
  return [...new Set(rows.map((row) => row.item_id))]
    .map((itemId) => ({ itemId, specificationIds: rows.filter((row) => row.item_id === itemId).map((row) => row.specification_id) }))
    .filter((item) => item.specificationIds.includes(specificationId));
};

export async function insertSpecification(cx: PoolConnection, act: Act, body: NewSpecification): Promise<void> {
  await insert(cx, 'specification', {
    id: body.id,
    project_id: body.projectId,
    name: body.name,
    comparison: body.comparison,
    sampled: body.sampled ?? null,
    school: body.school ?? null,
    replaces_id: body.replaces?.id ?? null,
    why: body.replaces?.why ?? null,
    person_id: act.personId,
    made_at: act.now,
  });
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
      at_days: l.atDays ?? null,
      source: l.source,
      on_fail: l.onFail ?? null,
    })),
  );
}
