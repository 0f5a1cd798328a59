import type {
  Ingredient,
  newCalibration,
  newEquipment,
  NewIngredient,
  newMix,
  newProject,
  newRevision,
  newSpecification,
} from '@keen-mortar/contract';
import { inputsSchema, type Calibration, type WorkedValue } from '@keen-mortar/contract';
import { CALIBRATION, evaluate, fieldAt, KIT_VALUES, kitField, methodById, type Given, type KitKind, type Shape } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import type { Act } from '../actor.js';
import { addChange } from '../store/changes.js';
import { giftsWhere } from '../store/gifts.js';
import { itemOf } from '../store/items.js';
import { equipmentOf, insertCalibration, insertEquipment } from '../store/kit.js';
import { insertMix, insertRevision, mixHead } from '../store/mixes.js';
import { insertProject, projectOf } from '../store/projects.js';
import { insertSpecification } from '../store/specifications.js';
import { faultOf, fromZod, Refused } from '../problems.js';
import { mustBeOf, refuse } from './checks.js';

/* What the office makes, and everything hangs on: projects, specifications, mixes, equipment. */

const told = (cx: PoolConnection, act: Act, projectId: string, kind: string, entityId: string): Promise<number> =>
  addChange(cx, { at: act.now, projectId, itemId: null, line: [], kind, entityId, personId: act.personId });

export async function makeProject(cx: PoolConnection, act: Act, body: z.infer<typeof newProject>): Promise<void> {
  await insertProject(cx, body, act.now);
  await told(cx, act, body.id, 'project', body.id);
}

export async function makeSpecification(cx: PoolConnection, act: Act, body: z.infer<typeof newSpecification>): Promise<void> {
  await projectOf(cx, body.projectId);
  await insertSpecification(cx, body);
  await told(cx, act, body.projectId, 'specification', body.id);
}

export async function makeMix(cx: PoolConnection, act: Act, body: z.infer<typeof newMix>): Promise<void> {
  await projectOf(cx, body.projectId);
  for (const [position, id] of body.specificationIds.entries())
    await mustBeOf(cx, 'specification', id, body.projectId, `specificationIds.${position}`);
  await insertMix(cx, body);
  await told(cx, act, body.projectId, 'mix', body.id);
}

export async function makeRevision(cx: PoolConnection, act: Act, mixId: string, body: z.infer<typeof newRevision>): Promise<void> {
  const { projectId } = await mixHead(cx, mixId);
  if (body.largest.unit !== body.nominal.unit) throw refuse('wrong-unit', 'nominal.unit', 'Both sizes in one unit.');
  await insertRevision(cx, mixId, { ...body, ingredients: await withGravities(cx, act, projectId, body.ingredients) });
  await told(cx, act, projectId, 'revision', body.id);
}

/** What the air-free density takes of the aggregates. */
const GRAVITY: Given = 'source.gravity';

/** What the ingredients’ gravities are: as keyed, or as the newest test of the source found it that stands now. */
async function withGravities(
  cx: PoolConnection,
  act: Act,
  projectId: string,
  ingredients: readonly NewIngredient[],
): Promise<Ingredient[]> {
  const sought = ingredients.flatMap(({ sg, sourceId }) =>
    sg === undefined && sourceId !== undefined ? [{ subjectId: sourceId, source: GRAVITY, before: act.now }] : [],
  );
  const found = await giftsWhere(cx, sought);
  const whole: Ingredient[] = [];
  for (const [i, { sg, ...rest }] of ingredients.entries()) {
    const path = `ingredients.${i}.sourceId`;
    if (rest.sourceId !== undefined) {
      await mustBeOf(cx, 'item', rest.sourceId, projectId, path);
      if ((await itemOf(cx, rest.sourceId)).kind !== 'source') throw refuse('wrong-kind', path, 'An ingredient is of a source.');
    }
    const test = found.find((g) => g.subjectId === rest.sourceId);
    if (sg === undefined && !test)
      throw refuse('no-gravity', `ingredients.${i}.sg`, `Nobody has found a specific gravity of ${rest.name} yet: key it.`);
    whole.push(sg === undefined ? { ...rest, sg: test!.text, sgTestId: test!.testId } : { ...rest, sg });
  }
  return whole;
}

export async function makeEquipment(cx: PoolConnection, act: Act, body: z.infer<typeof newEquipment>): Promise<void> {
  await projectOf(cx, body.projectId);
  await insertEquipment(cx, body);
  await told(cx, act, body.projectId, 'equipment', body.id);
}

/** What a calibration found, worked out by the core from what was read. */
function foundBy(kind: KitKind, { item, ...worked }: WorkedValue, path: string): Calibration['values'][number] {
  const by = KIT_VALUES[kind].by?.[item];
  const m = by && methodById(by.method);
  if (!by || !m) throw refuse('not-worked', `${path}.item`, `${item} is keyed as it was found.`);
  if (!Object.hasOwn(m.variants as object, worked.variant))
    throw refuse('unknown-variant', `${path}.variant`, `${m.title} has no variant ${worked.variant}.`);
  const inputs = inputsSchema(m.fields as Shape).safeParse(worked.inputs);
  if (!inputs.success) throw fromZod(inputs.error);
  const e = evaluate(m, inputs.data, { variant: worked.variant, system: worked.system });
  const wrong = e.issues.filter((issue) => issue.severity === 'impossible');
  if (wrong.length > 0)
    throw new Refused(
      'invalid-input',
      `${m.title}: a reading is impossible.`,
      wrong.map((issue) => faultOf(m, issue)),
    );
  const found = e.results.find((r) => r.id === by.result);
  const text = found?.reported ?? found?.unrounded;
  if (!found || !text)
    throw refuse('needs-reading', `${path}.inputs.${e.missing[0] ?? ''}`, `${fieldAt(m, e.missing[0] ?? '')?.label ?? m.title} is needed.`);
  return { item, value: { text, unit: found.unit }, worked };
}

/** A day ahead is a slip: it would be in force on no test until then. */
export async function calibrate(cx: PoolConnection, act: Act, equipmentId: string, body: z.infer<typeof newCalibration>): Promise<void> {
  const { projectId } = await equipmentOf(cx, equipmentId, body.on);
  // Somewhere it is tomorrow already.
  const latest = new Date(act.now.getTime() + 14 * 3_600_000).toISOString().slice(0, 10);
  if (body.on > latest) throw refuse('not-yet', 'on', 'A calibration is keyed once it was made: this day has not come yet.');
  const kind = (await equipmentOf(cx, equipmentId, body.on)).kind;
  const fits = KIT_VALUES[kind].calibrated;
  for (const [list, of] of [
    ['values', body.values],
    ['worked', body.worked],
  ] as const)
    for (const [i, { item }] of of.entries())
      if (!fits.includes(item))
        throw refuse('wrong-kind', `${list}.${i}.item`, `A ${CALIBRATION[kind].label.toLowerCase()} has no ${item}.`);
  const keyed = body.values.map(({ item, value }) => ({ item, value, worked: null }));
  const values = [...keyed, ...body.worked.map((w, i) => foundBy(kind, w, `worked.${i}`))];
  const twice = values.find((v, i) => values.some((other, j) => j < i && other.item === v.item));
  if (twice) throw refuse('twice', 'values', `${twice.item} is in this twice.`);
  const missing = fits.find((item) => !values.some((v) => v.item === item));
  if (missing) throw refuse('needs-value', 'values', `A calibration finds ${kitField(missing).label.toLowerCase()}.`);
  await insertCalibration(cx, equipmentId, act.personId, { ...body, values });
  await told(cx, act, projectId, 'calibration', body.id);
}
