import type { Equipment, newCalibration, newEquipment, Page } from '@keen-mortar/contract';
import { CALIBRATION, type KitKind, type Source, type UnitId } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import { insert, select, selectOne, type Cx } from '../db.js';
import { notFound } from '../problems.js';
import { countOf, personOf, projectOf } from './projects.js';

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

async function complete(cx: Cx, rows: readonly EquipmentRow[]): Promise<Equipment[]> {
  if (rows.length === 0) return [];
  const ids = rows.map((row) => row.id);
  const values = await select<ValueRow>(
    cx,
    'SELECT equipment_id AS owner, item, value_text, unit FROM equipment_value WHERE equipment_id IN (?)',
    [ids],
  );
  const calibrations = await select<CalibrationRow>(
    cx,
    'SELECT id, equipment_id, calibrated_on FROM calibration WHERE equipment_id IN (?) ORDER BY calibrated_on, id',
    [ids],
  );
  const newest = new Map(calibrations.map((c) => [c.equipment_id, c]));
  const found = [...newest.values()].map((c) => c.id);
  const calibrated =
    found.length === 0
      ? []
      : await select<ValueRow>(
          cx,
          'SELECT calibration_id AS owner, item, value_text, unit FROM calibration_value WHERE calibration_id IN (?)',
          [found],
        );
  return rows.map((row) => {
    const calibration = newest.get(row.id);
    const own = [...values.filter((v) => v.owner === row.id), ...calibrated.filter((v) => v.owner === calibration?.id)];
    return {
      id: row.id,
      projectId: row.project_id,
      kind: row.kind,
      name: row.name,
      calibratedOn: calibration?.calibrated_on ?? null,
      until: calibration ? until(row.kind, calibration.calibrated_on) : null,
      sources: Object.fromEntries(own.map((v) => [v.item, { text: v.value_text, unit: v.unit }])),
    };
  });
}

export async function equipment(cx: Cx, projectId: string, offset: number, limit: number): Promise<Page<Equipment>> {
  const rows = await select<EquipmentRow>(cx, 'SELECT * FROM equipment WHERE project_id = ? ORDER BY kind, name LIMIT ? OFFSET ?', [
    projectId,
    limit,
    offset,
  ]);
  return { items: await complete(cx, rows), total: await countOf(cx, 'equipment', 'project_id = ?', [projectId]) };
}

export const kitOf = async (cx: Cx, projectId: string): Promise<Equipment[]> =>
  complete(cx, await select<EquipmentRow>(cx, 'SELECT * FROM equipment WHERE project_id = ? ORDER BY kind, name', [projectId]));

export async function equipmentOf(cx: Cx, id: string): Promise<Equipment> {
  const row = await selectOne<EquipmentRow>(cx, 'SELECT * FROM equipment WHERE id = ?', [id]);
  const found = row && (await complete(cx, [row]))[0];
  if (!found) throw notFound('equipment', id);
  return found;
}

export async function addEquipment(cx: PoolConnection, body: z.infer<typeof newEquipment>): Promise<void> {
  await personOf(cx, body.by);
  await projectOf(cx, body.projectId);
  await insert(cx, 'equipment', { id: body.id, project_id: body.projectId, kind: body.kind, name: body.name });
  for (const { item, value } of body.values)
    await insert(cx, 'equipment_value', { equipment_id: body.id, item, value_text: value.text, unit: value.unit });
}

export async function addCalibration(cx: PoolConnection, equipmentId: string, body: z.infer<typeof newCalibration>): Promise<void> {
  await personOf(cx, body.by);
  await equipmentOf(cx, equipmentId);
  await insert(cx, 'calibration', { id: body.id, equipment_id: equipmentId, calibrated_on: body.on, person_id: body.by });
  for (const { item, value } of body.values)
    await insert(cx, 'calibration_value', { calibration_id: body.id, item, value_text: value.text, unit: value.unit });
}
