import type { Equipment, newCalibration, newEquipment, Page } from '@keen-mortar/contract';
import { CALIBRATION, type KitKind, type Source, type Sources, type UnitId } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
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
}

/** The last day on which a calibration holds: so many calendar months later. */
function until(kind: KitKind, on: string): string | null {
  const { months } = CALIBRATION[kind];
  return months === null ? null : DateTime.fromISO(on, { zone: 'utc' }).plus({ months }).toISODate();
}

/** Calibrations with what each found. */
async function calibrationsWhere(cx: Cx, where: string, values: readonly unknown[]): Promise<(CalibrationRow & { sources: Sources })[]> {
  const rows = await select<CalibrationRow & ValueRow & { item: Source | null }>(
    cx,
    `SELECT c.id, c.equipment_id, c.calibrated_on, v.item, v.value_text, v.unit
     FROM calibration c LEFT JOIN calibration_value v ON v.calibration_id = c.id WHERE ${where} ORDER BY c.calibrated_on, c.id`,
    values,
  );
  const found = new Map<string, CalibrationRow & { sources: Record<string, unknown> }>();
  for (const row of rows) {
    const c = found.get(row.id) ?? { id: row.id, equipment_id: row.equipment_id, calibrated_on: row.calibrated_on, sources: {} };
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
): Equipment => ({
  id: row.id,
  projectId: row.project_id,
  kind: row.kind,
  name: row.name,
  calibratedOn: calibration?.calibrated_on ?? null,
  until: calibration ? until(row.kind, calibration.calibrated_on) : null,
  sources: {
    ...Object.fromEntries(values.filter((v) => v.owner === row.id).map((v) => [v.item, { text: v.value_text, unit: v.unit }])),
    ...calibration?.sources,
  },
});

/** With the calibration of each that is in force on a day. */
async function complete(cx: Cx, rows: readonly EquipmentRow[], day: string): Promise<Equipment[]> {
  if (rows.length === 0) return [];
  const calibrations = await calibrationsWhere(
    cx,
    `c.id IN (SELECT (SELECT n.id FROM calibration n WHERE n.equipment_id = q.id AND n.calibrated_on <= ?
       ORDER BY n.calibrated_on DESC, n.id DESC LIMIT 1) FROM equipment q WHERE q.id IN (?))`,
    [day, rows.map((row) => row.id)],
  );
  const values = await ownValues(cx, rows);
  return rows.map((row) =>
    equipmentFrom(
      row,
      values,
      calibrations.find((c) => c.equipment_id === row.id),
    ),
  );
}

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
    return equipmentFrom(row, await ownValues(cx, [row]), calibration);
  });

/** The calibration that was in force on a day, of those that are known; null where there is none. */
export async function calibrationOn(cx: Cx, equipmentId: string, day: string): Promise<string | null> {
  const row = await selectOne<{ id: string }>(
    cx,
    'SELECT id FROM calibration WHERE equipment_id = ? AND calibrated_on <= ? ORDER BY calibrated_on DESC, id DESC LIMIT 1',
    [equipmentId, day],
  );
  return row?.id ?? null;
}

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
  personId: string,
  body: z.infer<typeof newCalibration>,
): Promise<void> {
  await insert(cx, 'calibration', { id: body.id, equipment_id: equipmentId, calibrated_on: body.on, person_id: personId });
  await insertAll(
    cx,
    'calibration_value',
    body.values.map(({ item, value }) => ({ calibration_id: body.id, item, value_text: value.text, unit: value.unit })),
  );
}
