import type { Calibration, Equipment, KitTest, newCalibration, newEquipment, Page } from '@keen-mortar/contract';
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
  body: Pick<z.infer<typeof newCalibration>, 'id' | 'on'> & Pick<Calibration, 'values'>,
): Promise<void> {
  await insert(cx, 'calibration', { id: body.id, equipment_id: equipmentId, calibrated_on: body.on, person_id: personId });
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
  const rows = await select<CalibrationRow & { person_id: string }>(
    cx,
    'SELECT id, equipment_id, calibrated_on, person_id FROM calibration WHERE equipment_id = ? ORDER BY calibrated_on DESC, id DESC LIMIT ?',
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
    until: until(kind, row.calibrated_on),
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

/** A test that was made with an instrument, with what stands of it. */
export interface TestWith extends Pick<KitTest, 'testId' | 'itemId' | 'code' | 'method' | 'startedAt'> {
  readonly standing: readonly { readonly result: string; readonly reported: string; readonly unit: UnitId; readonly state: string }[];
}

/** Tests that were made with an instrument since a moment, the newest first. */
export async function testsWith(cx: Cx, equipmentId: string, since: Date, offset: number, limit: number): Promise<Page<TestWith>> {
  const rows = await select<{ id: string; item_id: string; code: string; method: string; started_at: Date }>(
    cx,
    `SELECT t.id, t.item_id, i.code, t.method, t.started_at FROM test t JOIN item i ON i.id = t.item_id
     WHERE t.equipment_id = ? AND t.started_at >= ? ORDER BY t.started_at DESC, t.id LIMIT ? OFFSET ?`,
    [equipmentId, since, limit, offset],
  );
  const standing =
    rows.length === 0
      ? []
      : await select<{ test_id: string; result: string; reported_text: string; unit: UnitId; state: string }>(
          cx,
          'SELECT test_id, result, reported_text, unit, state FROM standing WHERE (item_id, test_id) IN (?) AND reported_text IS NOT NULL',
          [rows.map((row) => [row.item_id, row.id])],
        );
  return {
    items: rows.map((row) => ({
      testId: row.id,
      itemId: row.item_id,
      code: row.code,
      method: row.method,
      startedAt: row.started_at.toISOString(),
      standing: standing
        .filter((s) => s.test_id === row.id)
        .map((s) => ({ result: s.result, reported: s.reported_text, unit: s.unit, state: s.state })),
    })),
    total: await countOf(cx, 'test', 'equipment_id = ? AND started_at >= ?', [equipmentId, since]),
  };
}
