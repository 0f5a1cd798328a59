import type { BrokenSpecimen, StrengthPair, StrengthTestView } from '@keen-mortar/contract';
import type { NotCounting, UnitId } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { change, insertAll, select, type Cx } from '../db.js';

/** Strength tests of a set as they are made again, with the mix that they are of. */
export interface StrengthRow extends Omit<StrengthTestView, 'code'> {
  readonly subjectId: string | null;
}

export async function setStrengths(cx: PoolConnection, setId: string, rows: readonly StrengthRow[]): Promise<void> {
  await change(cx, 'DELETE FROM strength WHERE item_id = ?', [setId]);
  await insertAll(
    cx,
    'strength',
    rows.map((r) => ({
      item_id: r.setId,
      property: r.property,
      age_days: r.ageDays,
      subject_id: r.subjectId,
      cast_at: new Date(r.castAt),
      broken_at: new Date(r.brokenAt),
      unit: r.unit,
      mean_text: r.mean,
      reported_text: r.reported,
      count: r.count,
      planned: r.planned,
      range_text: r.range,
      most_text: r.most,
      apart: r.apart,
      not_for: r.notFor,
      specimens: JSON.stringify(r.specimens),
    })),
  );
}

interface Row {
  item_id: string;
  code: string;
  property: string;
  age_days: string;
  cast_at: Date;
  broken_at: Date;
  unit: UnitId;
  mean_text: string | null;
  reported_text: string | null;
  count: number;
  planned: number;
  range_text: string | null;
  most_text: string | null;
  apart: number;
  not_for: NotCounting | null;
  specimens: string;
}

const viewOf = (row: Row): StrengthTestView => ({
  setId: row.item_id,
  code: row.code,
  property: row.property,
  ageDays: Number(row.age_days),
  castAt: row.cast_at.toISOString(),
  brokenAt: row.broken_at.toISOString(),
  unit: row.unit,
  mean: row.mean_text,
  reported: row.reported_text,
  count: row.count,
  planned: row.planned,
  range: row.range_text,
  most: row.most_text,
  apart: row.apart === 1,
  notFor: row.not_for,
  specimens: JSON.parse(row.specimens) as BrokenSpecimen[],
});

/** A set that was taken back, or whose sample was, has no strength tests. */
const SELECTED = `SELECT s.*, i.code FROM strength s JOIN item i ON i.id = s.item_id LEFT JOIN item p ON p.id = i.parent_id
  WHERE NOT i.voided AND NOT COALESCE(p.voided, FALSE)`;

export const strengthsOfSets = async (cx: Cx, setIds: readonly string[]): Promise<StrengthTestView[]> =>
  setIds.length === 0
    ? []
    : (await select<Row>(cx, `${SELECTED} AND s.item_id IN (?) ORDER BY s.age_days, s.property`, [setIds])).map(viewOf);

/** The newest strength tests of a mix at an age, by when they were cast, the oldest first. */
export const strengthsOfMix = async (
  cx: Cx,
  mixId: string,
  { property, ageDays, before, most }: { property: string; ageDays: number; before: Date; most: number },
): Promise<StrengthTestView[]> =>
  (
    await select<Row>(
      cx,
      `${SELECTED} AND s.subject_id = ? AND s.property = ? AND s.age_days = ? AND s.cast_at <= ? ORDER BY s.cast_at DESC, i.code DESC LIMIT ?`,
      [mixId, property, ageDays, before, most],
    )
  )
    .map(viewOf)
    .reverse();

/** 7-day strength tests of a mix that count, with what the same set gave at the age of acceptance: the newest, the oldest first. */
export const pairsOfMix = async (
  cx: Cx,
  mixId: string,
  { early, late, before, most }: { early: number; late: number; before: Date; most: number },
): Promise<StrengthPair[]> =>
  (
    await select<{ e: string; e_unit: UnitId; l: string; l_unit: UnitId }>(
      cx,
      `SELECT e.reported_text AS e, e.unit AS e_unit, l.reported_text AS l, l.unit AS l_unit FROM strength l
       JOIN strength e ON e.item_id = l.item_id AND e.property = l.property AND e.age_days = ?
       JOIN item i ON i.id = l.item_id LEFT JOIN item p ON p.id = i.parent_id
       WHERE l.subject_id = ? AND l.property = 'strength' AND l.age_days = ? AND l.cast_at < ? AND NOT i.voided AND NOT COALESCE(p.voided, FALSE)
         AND l.not_for IS NULL AND e.reported_text IS NOT NULL AND l.reported_text IS NOT NULL AND COALESCE(e.not_for, 'few') = 'few'
       ORDER BY l.cast_at DESC LIMIT ?`,
      [early, mixId, late, before, most],
    )
  )
    .map((r) => ({ early: { text: r.e, unit: r.e_unit }, late: { text: r.l, unit: r.l_unit } }))
    .reverse();
