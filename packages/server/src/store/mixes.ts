import type { Amount, Ingredient, Mix, newMix, newRevision, Page, Revision } from '@keen-mortar/contract';
import { evaluate, fieldAt, methodById, type AnyMethod, type System, type UnitId } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import { insert, select, selectOne, type Cx } from '../db.js';
import { notFound, Refused } from '../problems.js';
import { countOf, mustBeOf, personOf, projectOf } from './projects.js';

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
  revision_id: string;
  name: string;
  role: Ingredient['role'];
  mass_text: string;
  mass_unit: UnitId;
  sg_text: string;
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

async function revisionsOf(cx: Cx, mixIds: readonly string[]): Promise<Revision[]> {
  if (mixIds.length === 0) return [];
  const rows = await select<RevisionRow>(cx, 'SELECT * FROM mix_revision WHERE mix_id IN (?) ORDER BY number', [mixIds]);
  if (rows.length === 0) return [];
  const ingredients = await select<IngredientRow>(cx, 'SELECT * FROM ingredient WHERE revision_id IN (?) ORDER BY position', [
    rows.map((r) => r.id),
  ]);
  return rows.map((row) => {
    const own = ingredients
      .filter((i) => i.revision_id === row.id)
      .map((i): Ingredient => ({ name: i.name, role: i.role, mass: { text: i.mass_text, unit: i.mass_unit }, sg: i.sg_text }));
    return {
      id: row.id,
      mixId: row.mix_id,
      number: row.number,
      effectiveFrom: row.effective_from.toISOString(),
      largest: { text: row.largest_text, unit: row.size_unit },
      nominal: { text: row.nominal_text, unit: row.size_unit },
      air: row.air_text,
      ...(row.correction_text === null ? {} : { correction: row.correction_text }),
      aggregate: row.aggregate,
      ingredients: own,
      theoretical: theoretical(own),
    };
  });
}

async function complete(cx: Cx, rows: readonly MixRow[]): Promise<Mix[]> {
  const ids = rows.map((row) => row.id);
  const revisions = await revisionsOf(cx, ids);
  const links =
    ids.length === 0
      ? []
      : await select<{ mix_id: string; specification_id: string }>(
          cx,
          'SELECT * FROM mix_specification WHERE mix_id IN (?) ORDER BY position',
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
  const rows = await select<MixRow>(cx, 'SELECT * FROM mix WHERE project_id = ? ORDER BY code LIMIT ? OFFSET ?', [
    projectId,
    limit,
    offset,
  ]);
  return { items: await complete(cx, rows), total: await countOf(cx, 'mix', 'project_id = ?', [projectId]) };
}

export async function mixOf(cx: Cx, id: string): Promise<Mix> {
  const row = await selectOne<MixRow>(cx, 'SELECT * FROM mix WHERE id = ?', [id]);
  const mix = row && (await complete(cx, [row]))[0];
  if (!mix) throw notFound('mix', id);
  return mix;
}

/** The revision in force when a load was batched: a result belongs to it for ever. */
export async function revisionAt(cx: Cx, mixId: string, at: Date): Promise<string> {
  const row = await selectOne<{ id: string }>(
    cx,
    'SELECT id FROM mix_revision WHERE mix_id = ? AND effective_from <= ? ORDER BY effective_from DESC, number DESC LIMIT 1',
    [mixId, at],
  );
  if (row) return row.id;
  const message = 'No revision of this mix was in force then.';
  throw new Refused('invalid-input', message, [{ code: 'no-revision', path: 'batchedAt', message }]);
}

export async function addMix(cx: PoolConnection, body: z.infer<typeof newMix>): Promise<void> {
  await personOf(cx, body.by);
  await projectOf(cx, body.projectId);
  await insert(cx, 'mix', { id: body.id, project_id: body.projectId, code: body.code, name: body.name });
  for (const [position, specificationId] of body.specificationIds.entries()) {
    await mustBeOf(cx, 'specification', specificationId, body.projectId, `specificationIds.${position}`);
    await insert(cx, 'mix_specification', { mix_id: body.id, specification_id: specificationId, position });
  }
}

export async function addRevision(cx: PoolConnection, mixId: string, body: z.infer<typeof newRevision>): Promise<void> {
  await personOf(cx, body.by);
  await mixOf(cx, mixId);
  if (body.largest.unit !== body.nominal.unit) {
    const message = 'Both sizes in one unit.';
    throw new Refused('invalid-input', message, [{ code: 'wrong-unit', path: 'nominal.unit', message }]);
  }
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
  for (const [position, i] of body.ingredients.entries()) {
    await insert(cx, 'ingredient', {
      revision_id: body.id,
      position,
      name: i.name,
      role: i.role,
      mass_text: i.mass.text,
      mass_unit: i.mass.unit,
      sg_text: i.sg,
    });
  }
}
