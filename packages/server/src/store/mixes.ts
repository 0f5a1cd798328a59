import { airFreeOf, type Ingredient, type Mix, type MixHead, type Page, type Revision } from '@keen-mortar/contract';
import type { UnitId } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { change, insert, insertAll, select, selectOne, type Cx } from '../db.js';
import { notFound } from '../problems.js';
import { unchanging } from './unchanging.js';
import { countOf } from './projects.js';

interface MixRow {
  id: string;
  project_id: string;
  code: string;
  name: string;
}

interface RevisionRow {
  id: string;
  mix_id: string;
  number: number;
  effective_from: Date;
  largest_text: string;
  nominal_text: string;
  size_unit: 'mm' | 'in';
  air_text: string;
  correction_text: string | null;
  correction_on: string | null;
  aggregate: Revision['aggregate'];
  why: string | null;
  person_id: string;
  made_at: Date;
}

interface IngredientRow {
  name: string;
  role: Ingredient['role'];
  mass_text: string;
  mass_unit: UnitId;
  sg_text: string;
  source_id: string | null;
  sg_test_id: string | null;
  found_on: string | null;
  found_code: string | null;
  found_at: Date | null;
}

interface Met {
  revision_id: string;
  specification_id: string;
}

const REVISION = `r.id, r.mix_id, r.number, r.effective_from, r.largest_text, r.nominal_text, r.size_unit, r.air_text, r.correction_text, r.correction_on,
  r.aggregate, r.why, r.person_id, r.made_at, g.name, g.role, g.mass_text, g.mass_unit, g.sg_text, g.source_id, g.sg_test_id,
  i.id AS found_on, i.code AS found_code, t.started_at AS found_at`;

const ingredient = (row: IngredientRow): Ingredient => ({
  name: row.name,
  role: row.role,
  mass: { text: row.mass_text, unit: row.mass_unit },
  sg: row.sg_text,
  ...(row.source_id === null ? {} : { sourceId: row.source_id }),
  ...(row.sg_test_id === null
    ? {}
    : { sgTest: { id: row.sg_test_id, itemId: row.found_on!, code: row.found_code!, at: row.found_at!.toISOString() } }),
});

function revision(own: readonly (RevisionRow & IngredientRow)[], specificationIds: readonly string[]): Revision {
  const row = own[0]!;
  const ingredients = own.map(ingredient);
  return {
    id: row.id,
    mixId: row.mix_id,
    number: row.number,
    effectiveFrom: row.effective_from.toISOString(),
    largest: { text: row.largest_text, unit: row.size_unit },
    nominal: { text: row.nominal_text, unit: row.size_unit },
    air: row.air_text,
    ...(row.correction_text === null ? {} : { correction: row.correction_text }),
    ...(row.correction_on === null ? {} : { correctionOn: row.correction_on }),
    aggregate: row.aggregate,
    ...(row.why === null ? {} : { why: row.why }),
    by: row.person_id,
    madeAt: row.made_at.toISOString(),
    specificationIds: [...specificationIds],
    ingredients,
    theoretical: airFreeOf({ ingredients, air: row.air_text }),
  };
}

/** Revisions with their ingredients and what they must meet. */
async function revisionsWhere(cx: Cx, where: string, values: readonly unknown[]): Promise<Revision[]> {
  const rows = await select<RevisionRow & IngredientRow>(
    cx,
    `SELECT ${REVISION} FROM mix_revision r JOIN ingredient g ON g.revision_id = r.id
     LEFT JOIN test t ON t.id = g.sg_test_id LEFT JOIN item i ON i.id = t.item_id
     WHERE ${where} ORDER BY r.number, r.id, g.position`,
    values,
  );
  const ids = [...new Set(rows.map((row) => row.id))];
  if (ids.length === 0) return [];
  const met = await select<Met>(
    cx,
    'SELECT revision_id, specification_id FROM revision_specification WHERE revision_id IN (?) ORDER BY position',
    [ids],
  );
  return ids.map((id) =>
    revision(
      rows.filter((row) => row.id === id),
      met.filter((m) => m.revision_id === id).map((m) => m.specification_id),
    ),
  );
}

const revisionsOf = (cx: Cx, mixIds: readonly string[]): Promise<Revision[]> =>
  mixIds.length === 0 ? Promise.resolve([]) : revisionsWhere(cx, 'r.mix_id IN (?)', [mixIds]);

export const revisionOf = (cx: Cx, id: string): Promise<Revision> =>
  unchanging('revision', id, async () => {
    const found = (await revisionsWhere(cx, 'r.id = ?', [id]))[0];
    if (!found) throw notFound('revision', id);
    return found;
  });

const head = (row: MixRow): MixHead => ({ id: row.id, projectId: row.project_id, code: row.code, name: row.name });

async function complete(cx: Cx, rows: readonly MixRow[]): Promise<Mix[]> {
  const revisions = await revisionsOf(
    cx,
    rows.map((row) => row.id),
  );
  return rows.map((row) => ({ ...head(row), revisions: revisions.filter((r) => r.mixId === row.id) }));
}

export async function mixes(cx: Cx, projectId: string, offset: number, limit: number): Promise<Page<Mix>> {
  const rows = await select<MixRow>(cx, 'SELECT id, project_id, code, name FROM mix WHERE project_id = ? ORDER BY code LIMIT ? OFFSET ?', [
    projectId,
    limit,
    offset,
  ]);
  return { items: await complete(cx, rows), total: await countOf(cx, 'mix', 'project_id = ?', [projectId]) };
}

export async function mixOf(cx: Cx, id: string): Promise<Mix> {
  const row = await selectOne<MixRow>(cx, 'SELECT id, project_id, code, name FROM mix WHERE id = ?', [id]);
  const mix = row && (await complete(cx, [row]))[0];
  if (!mix) throw notFound('mix', id);
  return mix;
}

/** The revision in force at a moment: a result belongs to it for ever. Null where there was none yet. */
export async function revisionAt(cx: Cx, mixId: string, at: Date): Promise<string | null> {
  const row = await selectOne<{ id: string }>(
    cx,
    'SELECT id FROM mix_revision WHERE mix_id = ? AND effective_from <= ? ORDER BY effective_from DESC, number DESC LIMIT 1',
    [mixId, at],
  );
  return row?.id ?? null;
}

export const insertMix = (cx: PoolConnection, { id, projectId, code, name }: MixHead): Promise<number> =>
  insert(cx, 'mix', { id, project_id: projectId, code, name });

/** The number after the last one of a mix, which is locked until it is used. */
export async function nextNumber(cx: PoolConnection, mixId: string): Promise<number> {
  await selectOne(cx, 'SELECT id FROM mix WHERE id = ? FOR UPDATE', [mixId]);
  const row = await selectOne<{ last: number | null }>(cx, 'SELECT MAX(number) AS last FROM mix_revision WHERE mix_id = ?', [mixId]);
  return (row?.last ?? 0) + 1;
}

export async function insertRevision(cx: PoolConnection, body: Omit<Revision, 'theoretical'>): Promise<void> {
  await insert(cx, 'mix_revision', {
    id: body.id,
    mix_id: body.mixId,
    number: body.number,
    effective_from: new Date(body.effectiveFrom),
    largest_text: body.largest.text,
    nominal_text: body.nominal.text,
    size_unit: body.largest.unit,
    air_text: body.air,
    correction_text: body.correction ?? null,
    correction_on: body.correctionOn ?? null,
    aggregate: body.aggregate,
    why: body.why ?? null,
    person_id: body.by,
    made_at: new Date(body.madeAt),
  });
  await insertAll(
    cx,
    'ingredient',
    body.ingredients.map((i, position) => ({
      revision_id: body.id,
      position,
      name: i.name,
      role: i.role,
      mass_text: i.mass.text,
      mass_unit: i.mass.unit,
      sg_text: i.sg,
      source_id: i.sourceId ?? null,
      sg_test_id: i.sgTest?.id ?? null,
    })),
  );
  await insertAll(
    cx,
    'revision_specification',
    body.specificationIds.map((specificationId, position) => ({ revision_id: body.id, specification_id: specificationId, position })),
  );
}

/** Revisions that ask for a specification. */
export const revisionsMeeting = async (cx: Cx, specificationId: string): Promise<Revision[]> => {
  const rows = await select<{ revision_id: string }>(cx, 'SELECT revision_id FROM revision_specification WHERE specification_id = ?', [
    specificationId,
  ]);
  return rows.length === 0 ? [] : revisionsWhere(cx, 'r.id IN (?)', [rows.map((row) => row.revision_id)]);
};

/** Mixes that a source has ever been part of. */
export const mixesOfSource = async (cx: Cx, sourceId: string): Promise<Mix[]> => {
  const rows = await select<MixRow>(
    cx,
    `SELECT DISTINCT m.id, m.project_id, m.code, m.name FROM ingredient g JOIN mix_revision r ON r.id = g.revision_id
     JOIN mix m ON m.id = r.mix_id WHERE g.source_id = ? ORDER BY m.code LIMIT 200`,
    [sourceId],
  );
  return complete(cx, rows);
};

/** Nobody else judges what a mix gives until this transaction ends. @returns whether there is such a mix */
export const lockMix = async (cx: PoolConnection, mixId: string): Promise<boolean> =>
  (await change(cx, 'UPDATE mix SET writes = writes + 1 WHERE id = ?', [mixId])).affectedRows > 0;

/** A mix without its revisions. */
export async function mixHead(cx: Cx, id: string): Promise<MixHead> {
  const row = await selectOne<MixRow>(cx, 'SELECT id, project_id, code, name FROM mix WHERE id = ?', [id]);
  if (!row) throw notFound('mix', id);
  return head(row);
}

/** Codes and names of some mixes. */
export async function mixHeads(cx: Cx, ids: readonly string[]): Promise<Map<string, Pick<Mix, 'code' | 'name'>>> {
  if (ids.length === 0) return new Map();
  const rows = await select<{ id: string; code: string; name: string }>(cx, 'SELECT id, code, name FROM mix WHERE id IN (?)', [ids]);
  return new Map(rows.map(({ id, ...head }) => [id, head]));
}
