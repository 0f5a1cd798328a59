import type { Calibration, Equipment, KitFinding, newCalibration, newEquipment, NewKitFinding, Page } from '@keen-mortar/contract';
import { NOW } from '../clock.js';
import { CALIBRATION, KIT_KINDS, type FoundWrong, type KitKind, type Source, type Sources, type UnitId } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import type { Act } from '../actor.js';
import { insert, insertAll, select, selectOne, type Cx } from '../db.js';
import { notFound } from '../problems.js';
import { countOf } from './projects.js';
import { unchanging } from './unchanging.js';

interface EquipmentRow {
  id: string;
  project_id: string;
  kind: KitKind;
  name: string;
}

interface ValueRow {
  owner: string;
  item: Source;
  value_text: string;
  unit: UnitId;
}

interface CalibrationRow {
  id: string;
  equipment_id: string;
  calibrated_on: string;
  due_on: string | null;
}

/** The last day on which a calibration holds: as the lab said, or so many calendar months later. */
export function heldUntil(kind: KitKind, on: string, due: string | null): string | null {
  const { months } = CALIBRATION[kind];
  if (due !== null) return due;
  return months === null ? null : DateTime.fromISO(on, { zone: 'utc' }).plus({ months }).toISODate();
}

/** Calibrations with what each found. */
async function calibrationsWhere(cx: Cx, where: string, values: readonly unknown[]): Promise<(CalibrationRow & { sources: Sources })[]> {
  const rows = await select<CalibrationRow & ValueRow & { item: Source | null }>(
    cx,
    `SELECT c.id, c.equipment_id, c.calibrated_on, c.due_on, v.item, v.value_text, v.unit
     FROM calibration c LEFT JOIN calibration_value v ON v.calibration_id = c.id WHERE ${where} ORDER BY c.calibrated_on, c.id`,
    values,
  );
  const found = new Map<string, CalibrationRow & { sources: Record<string, unknown> }>();
  for (const row of rows) {
    const c = found.get(row.id) ?? {
      id: row.id,
      equipment_id: row.equipment_id,
      calibrated_on: row.calibrated_on,
      due_on: row.due_on,
      sources: {},
    };
    if (row.item !== null) c.sources[row.item] = { text: row.value_text, unit: row.unit };
    found.set(row.id, c);
  }
  return [...found.values()];
}

const ownValues = (cx: Cx, rows: readonly EquipmentRow[]): Promise<ValueRow[]> =>
  rows.length === 0
    ? Promise.resolve([])
    : select<ValueRow>(cx, 'SELECT equipment_id AS owner, item, value_text, unit FROM equipment_value WHERE equipment_id IN (?)', [
        rows.map((row) => row.id),
      ]);

const equipmentFrom = (
  row: EquipmentRow,
  values: readonly ValueRow[],
  calibration: (CalibrationRow & { sources: Sources }) | undefined,
  wrong: FoundWrong | null,
): Equipment => ({
  id: row.id,
  projectId: row.project_id,
  kind: row.kind,
  name: row.name,
  calibratedOn: calibration?.calibrated_on ?? null,
  until: calibration ? heldUntil(row.kind, calibration.calibrated_on, calibration.due_on) : null,
  wrong,
  sources: {
    ...Object.fromEntries(values.filter((v) => v.owner === row.id).map((v) => [v.item, { text: v.value_text, unit: v.unit }])),
    ...calibration?.sources,
  },
});

export interface WrongRow {
  owner: string;
  found_on: string;
  why: string;
  later: number;
}

export const foundWrong = ({ found_on, why, later }: WrongRow): FoundWrong => ({ on: found_on, why, later: later === 1 });

/** Those that were known to be wrong at a moment, now where none is given, and not calibrated since by a day. */
async function knownWrong(cx: Cx, rows: readonly EquipmentRow[], day: string, at: Date | null): Promise<Map<string, FoundWrong>> {
  const found = await select<WrongRow>(
    cx,
    `SELECT f.equipment_id AS owner, f.found_on, f.why, 0 AS later FROM kit_finding f
     WHERE f.equipment_id IN (?) AND f.found_at <= COALESCE(?, ${NOW}) AND NOT EXISTS (
       SELECT 1 FROM calibration c WHERE c.equipment_id = f.equipment_id AND c.made_at > f.found_at AND c.calibrated_on >= f.found_on AND c.calibrated_on <= ?)
     ORDER BY f.found_at`,
    [rows.map((row) => row.id), at, day],
  );
  return new Map(found.map((row) => [row.owner, foundWrong(row)]));
}

/** Equipment as it was on a day, and which of its calibrations was in force then. */
export interface EquipmentThen extends Equipment {
  readonly calibrationId: string | null;
}

const withoutIds = (all: readonly EquipmentThen[]): Equipment[] => all.map(({ calibrationId: _id, ...equipment }) => equipment);

/** With the calibration of each that is in force on a day. */
const complete = async (cx: Cx, rows: readonly EquipmentRow[], day: string): Promise<Equipment[]> =>
  withoutIds(await completeThen(cx, rows, day));

async function completeThen(cx: Cx, rows: readonly EquipmentRow[], day: string, at: Date | null = null): Promise<EquipmentThen[]> {
  if (rows.length === 0) return [];
  const calibrations = await calibrationsWhere(
    cx,
    `c.id IN (SELECT (SELECT n.id FROM calibration n WHERE n.equipment_id = q.id AND n.calibrated_on <= ?
       ORDER BY n.calibrated_on DESC, n.id DESC LIMIT 1) FROM equipment q WHERE q.id IN (?))`,
    [day, rows.map((row) => row.id)],
  );
  const [values, wrong, used] = [await ownValues(cx, rows), await knownWrong(cx, rows, day, at), await usesSoFar(cx, rows, at)];
  return rows.map((row) => {
    const calibration = calibrations.find((c) => c.equipment_id === row.id);
    const kit = equipmentFrom(row, values, calibration, wrong.get(row.id) ?? null);
    // What is used next is one more.
    return { ...worn(kit, used.get(row.id) ?? 0, 1), calibrationId: calibration?.id ?? null };
  });
}

export const WORN_KINDS = KIT_KINDS.filter((kind) => CALIBRATION[kind].wears);
const wears = (rows: readonly EquipmentRow[]): string[] => rows.filter((row) => CALIBRATION[row.kind].wears).map((row) => row.id);

/** How often what is worn out by its use was used until a moment, now where none is given. */
async function usesSoFar(cx: Cx, rows: readonly EquipmentRow[], at: Date | null): Promise<Map<string, number>> {
  const ids = wears(rows);
  if (ids.length === 0) return new Map();
  const found = await select<{ id: string; n: number }>(
    cx,
    `SELECT equipment_id AS id, COUNT(*) AS n FROM test_kit WHERE equipment_id IN (?) AND at <= COALESCE(?, ${NOW}) GROUP BY equipment_id`,
    [ids, at],
  );
  return new Map(found.map((row) => [row.id, Number(row.n)]));
}

/** With how often it is used, where that wears it out. */
export const worn = (kit: Equipment, used: number, more: number): Equipment =>
  CALIBRATION[kit.kind].wears ? { ...kit, sources: { ...kit.sources, 'pads.uses': { text: String(used + more), unit: '1' } } } : kit;

export async function equipment(cx: Cx, projectId: string, day: string, offset: number, limit: number): Promise<Page<Equipment>> {
  const rows = await select<EquipmentRow>(
    cx,
    'SELECT id, project_id, kind, name FROM equipment WHERE project_id = ? ORDER BY kind, name LIMIT ? OFFSET ?',
    [projectId, limit, offset],
  );
  return { items: await complete(cx, rows, day), total: await countOf(cx, 'equipment', 'project_id = ?', [projectId]) };
}

/** What one can choose of on a sheet. */
const MOST_KIT = 500;

export const kitOf = async (cx: Cx, projectId: string, day: string): Promise<Equipment[]> =>
  complete(
    cx,
    await select<EquipmentRow>(cx, 'SELECT id, project_id, kind, name FROM equipment WHERE project_id = ? ORDER BY kind, name LIMIT ?', [
      projectId,
      MOST_KIT,
    ]),
    day,
  );

/** Whether an instrument of a kind is on record. */
export const hasKit = async (cx: Cx, projectId: string, kind: KitKind): Promise<boolean> =>
  (await selectOne(cx, 'SELECT 1 FROM equipment WHERE project_id = ? AND kind = ? LIMIT 1', [projectId, kind])) !== undefined;

export async function equipmentOf(cx: Cx, id: string, day: string): Promise<Equipment> {
  const row = await selectOne<EquipmentRow>(cx, 'SELECT id, project_id, kind, name FROM equipment WHERE id = ?', [id]);
  const found = row && (await complete(cx, [row], day))[0];
  if (!found) throw notFound('equipment', id);
  return found;
}

/** Equipment with one of its calibrations, or without any: as a test found it. */
export const kitAsOf = (cx: Cx, equipmentId: string, calibrationId: string | null): Promise<Equipment> =>
  unchanging('kit', `${equipmentId} ${calibrationId ?? ''}`, async () => {
    const row = await selectOne<EquipmentRow>(cx, 'SELECT id, project_id, kind, name FROM equipment WHERE id = ?', [equipmentId]);
    if (!row) throw notFound('equipment', equipmentId);
    const calibration = calibrationId === null ? undefined : (await calibrationsWhere(cx, 'c.id = ?', [calibrationId]))[0];
    return equipmentFrom(row, await ownValues(cx, [row]), calibration, null);
  });

/** A piece of kit of a project by what it is called; undefined where none is called so. */
export const equipmentCalled = (cx: Cx, projectId: string, name: string): Promise<Pick<EquipmentRow, 'kind' | 'name'> | undefined> =>
  selectOne<EquipmentRow>(cx, 'SELECT kind, name FROM equipment WHERE project_id = ? AND name = ? LIMIT 1', [projectId, name]);

export const equipmentNames = async (
  cx: Cx,
  ids: readonly string[],
): Promise<Map<string, { readonly kind: KitKind; readonly name: string }>> =>
  new Map(
    ids.length === 0
      ? []
      : (await select<EquipmentRow>(cx, 'SELECT id, project_id, kind, name FROM equipment WHERE id IN (?)', [ids])).map((row) => [
          row.id,
          row,
        ]),
  );

export const insertFinding = (
  cx: PoolConnection,
  equipmentId: string,
  { personId, now }: Pick<Act, 'personId' | 'now'>,
  day: string,
  body: NewKitFinding,
): Promise<number> =>
  insert(cx, 'kit_finding', {
    id: body.id,
    equipment_id: equipmentId,
    since_at: new Date(body.since),
    found_at: now,
    found_on: day,
    why: body.why,
    person_id: personId,
  });

/** So many of one instrument: one that is found wrong more often is put away. */
const MOST_FINDINGS = 50;

/** When an instrument was found wrong, the newest first. */
export async function findingsOf(cx: Cx, equipmentId: string): Promise<KitFinding[]> {
  const rows = await select<{ id: string; since_at: Date; found_at: Date; why: string; person_id: string }>(
    cx,
    'SELECT id, since_at, found_at, why, person_id FROM kit_finding WHERE equipment_id = ? ORDER BY found_at DESC LIMIT ?',
    [equipmentId, MOST_FINDINGS],
  );
  return rows.map((row) => ({
    id: row.id,
    since: row.since_at.toISOString(),
    at: row.found_at.toISOString(),
    why: row.why,
    by: row.person_id,
  }));
}

/** Some equipment as it was on a day, and as it was known at a moment; what is not there is left out. */
export const equipmentNamed = async (cx: Cx, ids: readonly string[], day: string, at: Date): Promise<EquipmentThen[]> =>
  ids.length === 0
    ? []
    : completeThen(cx, await select<EquipmentRow>(cx, 'SELECT id, project_id, kind, name FROM equipment WHERE id IN (?)', [ids]), day, at);

export async function insertEquipment(cx: PoolConnection, body: z.infer<typeof newEquipment>): Promise<void> {
  await insert(cx, 'equipment', { id: body.id, project_id: body.projectId, kind: body.kind, name: body.name });
  await insertAll(
    cx,
    'equipment_value',
    body.values.map(({ item, value }) => ({ equipment_id: body.id, item, value_text: value.text, unit: value.unit })),
  );
}

export async function insertCalibration(
  cx: PoolConnection,
  equipmentId: string,
  { personId, now }: Pick<Act, 'personId' | 'now'>,
  body: Pick<z.infer<typeof newCalibration>, 'id' | 'on' | 'due' | 'reason'> & Pick<Calibration, 'values'>,
): Promise<void> {
  await insert(cx, 'calibration', {
    id: body.id,
    equipment_id: equipmentId,
    calibrated_on: body.on,
    due_on: body.due ?? null,
    reason: body.reason ?? null,
    person_id: personId,
    made_at: now,
  });
  await insertAll(
    cx,
    'calibration_value',
    body.values.map(({ item, value, worked }) => ({
      calibration_id: body.id,
      item,
      value_text: value.text,
      unit: value.unit,
      worked: worked && JSON.stringify(worked),
    })),
  );
}

/** So many of one instrument: what is older is in nobody’s way. */
const MOST_CALIBRATIONS = 200;

/** Calibrations of an instrument, the newest first. */
export async function calibrationsOf(cx: Cx, equipmentId: string, kind: KitKind): Promise<Calibration[]> {
  const rows = await select<CalibrationRow & { person_id: string; reason: string | null }>(
    cx,
    'SELECT id, equipment_id, calibrated_on, due_on, reason, person_id FROM calibration WHERE equipment_id = ? ORDER BY calibrated_on DESC, id DESC LIMIT ?',
    [equipmentId, MOST_CALIBRATIONS],
  );
  if (rows.length === 0) return [];
  const values = await select<ValueRow & { worked: string | null }>(
    cx,
    'SELECT calibration_id AS owner, item, value_text, unit, worked FROM calibration_value WHERE calibration_id IN (?) ORDER BY item',
    [rows.map((row) => row.id)],
  );
  return rows.map((row) => ({
    id: row.id,
    on: row.calibrated_on,
    until: heldUntil(kind, row.calibrated_on, row.due_on),
    reason: row.reason,
    by: row.person_id,
    values: values
      .filter((v) => v.owner === row.id)
      .map((v) => ({
        item: v.item,
        value: { text: v.value_text, unit: v.unit },
        worked: v.worked === null ? null : (JSON.parse(v.worked) as Calibration['values'][number]['worked']),
      })),
  }));
}
