import type { ToldFault } from '../faults.js';
import {
  dayIn,
  inputsSchema,
  type Calibration,
  type newCalibration,
  type newEquipment,
  type NewKitFinding,
  type WorkedValue,
} from '@keen-mortar/contract';
import { CALIBRATION, evaluate, fieldAt, KIT_VALUES, kitField, methodById, type KitKind, type Shape } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import type { Act } from '../actor.js';
import { faultOf, fromZod, Refused } from '../problems.js';
import { equipmentOf, heldUntil, insertCalibration, insertEquipment, insertFinding } from '../store/kit.js';
import { madeWith } from '../store/pending.js';
import { projectOf } from '../store/projects.js';
import { workOutChosen } from './again.js';
import { refuse } from './checks.js';
import { tellProject } from './telling.js';

/* What is tested with, and its calibrations. */

export async function makeEquipment(cx: PoolConnection, act: Act, body: z.infer<typeof newEquipment>): Promise<void> {
  await projectOf(cx, body.projectId);
  await insertEquipment(cx, body);
  await tellProject(cx, act, body.projectId, 'equipment', body.id);
}

/** What a calibration found, worked out by the core from what was read. */
function foundBy(kind: KitKind, { item, ...worked }: WorkedValue, path: string, reason: string | undefined): Calibration['values'][number] {
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
  const unlikely = e.issues.filter((issue) => issue.severity !== 'impossible');
  if (unlikely.length > 0 && reason === undefined)
    throw new Refused(
      'needs-reason',
      'An unlikely reading is kept with a reason.',
      unlikely.map((issue): ToldFault => ({ ...faultOf(m, issue), code: 'needs-reason' })),
    );
  const found = e.results.find((r) => r.id === by.result);
  const text = found?.reported ?? found?.unrounded;
  if (!found || !text)
    throw refuse('needs-reading', `${path}.inputs.${e.missing[0] ?? ''}`, `${fieldAt(m, e.missing[0] ?? '')?.label ?? m.title} is needed.`);
  return { item, value: { text, unit: found.unit }, worked };
}

/** All that a calibration of such a kind finds, each once: keyed as it was found, or worked out from what was read. */
function valuesFound(
  kind: KitKind,
  { values, worked, reason }: Pick<z.infer<typeof newCalibration>, 'values' | 'worked' | 'reason'>,
): Calibration['values'] {
  const fits = KIT_VALUES[kind].calibrated;
  for (const [list, of] of Object.entries({ values, worked }))
    for (const [i, { item }] of of.entries())
      if (!fits.includes(item)) throw refuse('wrong-kind', `${list}.${i}.item`, `${CALIBRATION[kind].label} has no ${item}.`);
  const found = [...values.map((v) => ({ ...v, worked: null })), ...worked.map((w, i) => foundBy(kind, w, `worked.${i}`, reason))];
  const twice = found.find((v, i) => found.some((other, j) => j < i && other.item === v.item));
  if (twice) throw refuse('twice', 'values', `${twice.item} is in this twice.`);
  const missing = fits.find((item) => !found.some((v) => v.item === item));
  if (missing) throw refuse('needs-value', 'values', `A calibration finds ${kitField(missing).label.toLowerCase()}.`);
  return found;
}

/** A day ahead is a slip: it would be in force on no test until then. */
export async function calibrate(cx: PoolConnection, act: Act, equipmentId: string, body: z.infer<typeof newCalibration>): Promise<void> {
  const { projectId, kind } = await equipmentOf(cx, equipmentId, body.on);
  // Somewhere it is tomorrow already.
  const latest = new Date(act.now.getTime() + 14 * 3_600_000).toISOString().slice(0, 10);
  if (body.on > latest) throw refuse('not-yet', 'on', 'A calibration is keyed once it was made: this day has not come yet.');
  const most = heldUntil(kind, body.on, null);
  if (body.due !== undefined && body.due <= body.on)
    throw refuse('out-of-order', 'due', 'It is due again after the day on which it was calibrated.');
  if (body.due !== undefined && most !== null && body.due > most)
    throw refuse('too-late', 'due', `${CALIBRATION[kind].source} lets it hold to ${most} at the most: the lab may ask for less, not more.`);
  const values = valuesFound(kind, body);
  await insertCalibration(cx, equipmentId, act, { ...body, values });
  await tellProject(cx, act, projectId, 'calibration', body.id);
}

/**
 * An instrument was found wrong: it is out of use until it is calibrated, and what was tested with it since a moment is
 * worked out again, with the remark that it is in question.
 */
export async function findWrong(cx: PoolConnection, act: Act, equipmentId: string, body: NewKitFinding): Promise<void> {
  const { projectId } = await equipmentOf(cx, equipmentId, body.since.slice(0, 10));
  const { timezone } = await projectOf(cx, projectId);
  const since = new Date(body.since);
  if (since > act.now) throw refuse('not-yet', 'since', 'It was wrong since a moment that has come.');
  await insertFinding(cx, equipmentId, act, dayIn(timezone, act.now.toISOString()), body);
  await workOutChosen(
    cx,
    act,
    { usedId: equipmentId, usedItemId: equipmentId },
    { kind: 'kit', id: body.id },
    madeWith(equipmentId, since, act.now),
  );
  await tellProject(cx, act, projectId, 'kit-finding', body.id);
}
