import type { Amount, Ingredient, Mix, newMix, newRevision, Page, Revision } from '@keen-mortar/contract';
import { evaluate, fieldAt, methodById, type AnyMethod, type System, type UnitId } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import { insert, insertAll, select, selectOne, type Cx } from '../db.js';
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
  aggregate: Revision['aggregate'];
}

interface IngredientRow {
  name: string;
  role: Ingredient['role'];
  mass_text: string;
  mass_unit: UnitId;
  sg_text: string;
  source_id: string | null;
  sg_test_id: string | null;
}

/** What a form would be filled with beforehand. */
function usualText(m: AnyMethod | undefined, id: string, system: System): string | undefined {
  const field = m && fieldAt(m, id);
  return field?.kind === 'qty' ? field.usual?.[system] : undefined;
}

/** Air-free density of a revision by the core's own method; null where its ingredients do not give one. */
function theoretical(ingredients: readonly Ingredient[]): Amount | null {
  const m = methodById('theoretical-density');
  const system: System = ingredients[0]?.mass.unit === 'lb' ? 'us' : 'si';
  const water = usualText(m, 'water', system);
  if (!m || water === undefined) return null;
  const unit = system === 'us' ? 'lb/ft3' : 'kg/m3';
  const rows = ingredients.map((i) => ({ name: i.name, mass: i.mass, sg: { text: i.sg, unit: '1' as const } }));
  const e = evaluate(m, { ingredients: rows, water: { text: water, unit } }, { variant: 'c138', system });
  const text = e.results.find((result) => result.id === 'theoretical')?.unrounded;
  return text ? { text, unit } : null;
}

const REVISION =
  'r.id, r.mix_id, r.number, r.effective_from, r.largest_text, r.nominal_text, r.size_unit, r.air_text, r.correction_text, r.aggregate, g.name, g.role, g.mass_text, g.mass_unit, g.sg_text, g.source_id, g.sg_test_id';

/** Revisions with their ingredients, in one statement. */
async function revisionsWhere(cx: Cx, where: string, values: readonly unknown[]): Promise<Revision[]> {
  const rows = await select<RevisionRow & IngredientRow>(
    cx,
    `SELECT ${REVISION} FROM mix_revision r JOIN ingredient g ON g.revision_id = r.id WHERE ${where} ORDER BY r.number, r.id, g.position`,
    values,
  );
  return [...new Set(rows.map((row) => row.id))].map((id) => {
    const own = rows.filter((row) => row.id === id);
    const ingredients = own.map((i): Ingredient => ({
      name: i.name,
      role: i.role,
      mass: { text: i.mass_text, unit: i.mass_unit },
      sg: i.sg_text,
      ...(i.source_id === null ? {} : { sourceId: i.source_id }),
      ...(i.sg_test_id === null ? {} : { sgTestId: i.sg_test_id }),
    }));
    const row = own[0]!;
    return {
      id,
      mixId: row.mix_id,
      number: row.number,
      effectiveFrom: row.effective_from.toISOString(),
      largest: { text: row.largest_text, unit: row.size_unit },
      nominal: { text: row.nominal_text, unit: row.size_unit },
      air: row.air_text,
      ...(row.correction_text === null ? {} : { correction: row.correction_text }),
      aggregate: row.aggregate,
      ingredients,
      theoretical: theoretical(ingredients),
    };
  });
}

const revisionsOf = (cx: Cx, mixIds: readonly string[]): Promise<Revision[]> =>
  mixIds.length === 0 ? Promise.resolve([]) : revisionsWhere(cx, 'r.mix_id IN (?)', [mixIds]);

export const revisionOf = (cx: Cx, id: string): Promise<Revision> =>
  unchanging('revision', id, async () => {
    const found = (await revisionsWhere(cx, 'r.id = ?', [id]))[0];
    if (!found) throw notFound('revision', id);
    return found;
  });

async function complete(cx: Cx, rows: readonly MixRow[]): Promise<Mix[]> {
  const ids = rows.map((row) => row.id);
  const revisions = await revisionsOf(cx, ids);
  const links =
    ids.length === 0
      ? []
      : await select<{ mix_id: string; specification_id: string }>(
          cx,
          'SELECT mix_id, specification_id FROM mix_specification WHERE mix_id IN (?) ORDER BY position',
          [ids],
        );
  return rows.map((row) => ({
    id: row.id,
    projectId: row.project_id,
    code: row.code,
    name: row.name,
    specificationIds: links.filter((link) => link.mix_id === row.id).map((link) => link.specification_id),
    revisions: revisions.filter((revision) => revision.mixId === row.id),
  }));
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

export async function insertMix(cx: PoolConnection, body: z.infer<typeof newMix>): Promise<void> {
  await insert(cx, 'mix', { id: body.id, project_id: body.projectId, code: body.code, name: body.name });
  await insertAll(
    cx,
    'mix_specification',
    body.specificationIds.map((specificationId, position) => ({ mix_id: body.id, specification_id: specificationId, position })),
  );
}

export async function insertRevision(
  cx: PoolConnection,
  mixId: string,
  body: Omit<z.infer<typeof newRevision>, 'ingredients'> & Pick<Revision, 'ingredients'>,
): Promise<void> {
  await insert(cx, 'mix_revision', {
    id: body.id,
    mix_id: mixId,
    number: body.number,
    effective_from: new Date(body.effectiveFrom),
    largest_text: body.largest.text,
    nominal_text: body.nominal.text,
    size_unit: body.largest.unit,
    air_text: body.air,
    correction_text: body.correction ?? null,
    aggregate: body.aggregate,
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
      sg_test_id: i.sgTestId ?? null,
    })),
  );
}

/** A mix without its revisions. */
export async function mixHead(cx: Cx, id: string): Promise<Omit<Mix, 'revisions'>> {
  const rows = await select<MixRow & { specification_id: string | null }>(
    cx,
    `SELECT m.id, m.project_id, m.code, m.name, s.specification_id FROM mix m LEFT JOIN mix_specification s ON s.mix_id = m.id
     WHERE m.id = ? ORDER BY s.position`,
    [id],
  );
  const row = rows[0];
  if (!row) throw notFound('mix', id);
  return {
    id: row.id,
    projectId: row.project_id,
    code: row.code,
    name: row.name,
    specificationIds: rows.flatMap((r) => r.specification_id ?? []),
  };
}

/** Codes and names of some mixes. */
export async function mixHeads(cx: Cx, ids: readonly string[]): Promise<Map<string, Pick<Mix, 'code' | 'name'>>> {
  if (ids.length === 0) return new Map();
  const rows = await select<{ id: string; code: string; name: string }>(cx, 'SELECT id, code, name FROM mix WHERE id IN (?)', [ids]);
  return new Map(rows.map(({ id, ...head }) => [id, head]));
}
