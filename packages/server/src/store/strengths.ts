import type { FieldCured, StillToBreak, StrengthPair, StrengthTestView, WholeSeries } from '@keen-mortar/contract';
import { NOT_COUNTING, waitsForDecision, type BrokenSpecimen, type Keyed, type NotCounting, type UnitId } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { change, insertAll, select, selectOne, type Cx } from '../db.js';

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

/** What waits until somebody decides. */
const WAITING = (Object.keys(NOT_COUNTING) as NotCounting[]).filter(waitsForDecision);

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
const NOT_GONE = 'NOT i.voided AND NOT COALESCE(p.voided, FALSE)';
const OF_SETS = 'strength s JOIN item i ON i.id = s.item_id LEFT JOIN item p ON p.id = i.parent_id';
const SELECTED = `SELECT s.*, i.code FROM ${OF_SETS} WHERE ${NOT_GONE}`;

interface AtAge {
  readonly property: string;
  readonly ageDays: number;
}

/** What stands as the strength tests of some sets, whatever became of those. */
export const strengthsKept = async (cx: Cx, setIds: readonly string[]): Promise<StrengthRow[]> =>
  setIds.length === 0
    ? []
    : (
        await select<Row & { subject_id: string | null }>(
          cx,
          'SELECT s.*, i.code FROM strength s JOIN item i ON i.id = s.item_id WHERE s.item_id IN (?)',
          [setIds],
        )
      ).map((row) => ({ ...viewOf(row), subjectId: row.subject_id }));

/** Lines of the next strength tests of a mix at an age, by when they were cast: so many whose means one before them enters. */
export const linesAfter = async (
  cx: Cx,
  mixId: string,
  { property, ageDays, after, most }: AtAge & { readonly after: Date; readonly most: number },
): Promise<string[]> =>
  (
    await select<{ line_id: string }>(
      cx,
      `SELECT i.line_id FROM ${OF_SETS} WHERE s.subject_id = ? AND s.property = ? AND s.age_days = ? AND s.cast_at > ? AND ${NOT_GONE}
       ORDER BY s.cast_at, s.item_id LIMIT ?`,
      [mixId, property, ageDays, after, most],
    )
  ).map((row) => row.line_id);

/** The newest of a series up to a moment. */
interface UpTo extends AtAge {
  readonly before: Date;
  readonly most: number;
}

export const strengthsOfSets = async (cx: Cx, setIds: readonly string[]): Promise<StrengthTestView[]> =>
  setIds.length === 0
    ? []
    : (await select<Row>(cx, `${SELECTED} AND s.item_id IN (?) ORDER BY s.age_days, s.property`, [setIds])).map(viewOf);

/** The newest strength tests of a mix at an age, by when they were cast, the oldest first. */
export const strengthsOfMix = async (cx: Cx, mixId: string, { property, ageDays, before, most }: UpTo): Promise<StrengthTestView[]> =>
  (
    await select<Row>(
      cx,
      `${SELECTED} AND s.subject_id = ? AND s.property = ? AND s.age_days = ? AND s.cast_at <= ? ORDER BY s.cast_at DESC, s.item_id DESC LIMIT ?`,
      [mixId, property, ageDays, before, most],
    )
  )
    .map(viewOf)
    .reverse();

/** Strengths of a mix at an age that count, the newest of them, the oldest first. */
export const strengthsBefore = async (cx: Cx, mixId: string, { property, ageDays, before, most }: UpTo): Promise<Keyed[]> =>
  (
    await select<{ text: string; unit: UnitId }>(
      cx,
      `SELECT s.reported_text AS text, s.unit FROM ${OF_SETS}
       WHERE s.subject_id = ? AND s.property = ? AND s.age_days = ? AND s.cast_at <= ? AND s.not_for IS NULL AND s.reported_text IS NOT NULL
         AND ${NOT_GONE}
       ORDER BY s.cast_at DESC, s.item_id DESC LIMIT ?`,
      [mixId, property, ageDays, before, most],
    )
  )
    .map(({ text, unit }) => ({ text, unit }))
    .reverse();

/** 7-day strength tests of a mix that count, with what the same set gave at the age of acceptance: the newest, the oldest first. */
export const pairsOfMix = async (
  cx: Cx,
  mixId: string,
  { property, early, late, before, most }: { property: string; early: number; late: number; before: Date; most: number },
): Promise<StrengthPair[]> =>
  // From an age nothing is foretold of that age, or of one before.
  (early >= late
    ? []
    : await select<{ e: string; e_unit: UnitId; l: string; l_unit: UnitId }>(
        cx,
        `SELECT e.reported_text AS e, e.unit AS e_unit, l.reported_text AS l, l.unit AS l_unit FROM strength l
       JOIN strength e ON e.item_id = l.item_id AND e.property = l.property AND e.age_days = ?
       JOIN item i ON i.id = l.item_id LEFT JOIN item p ON p.id = i.parent_id
       WHERE l.subject_id = ? AND l.property = ? AND l.age_days = ? AND l.cast_at < ? AND NOT i.voided AND NOT COALESCE(p.voided, FALSE)
         AND l.not_for IS NULL AND e.reported_text IS NOT NULL AND l.reported_text IS NOT NULL AND COALESCE(e.not_for, 'few') = 'few'
       ORDER BY l.cast_at DESC LIMIT ?`,
        [early, mixId, property, late, before, most],
      )
  )
    .map((r) => ({ early: { text: r.e, unit: r.e_unit }, late: { text: r.l, unit: r.l_unit } }))
    .reverse();

/** How many strength tests there are, and how many of them count: of those that were cast by a moment, where one is said. */
export async function countStrengths(
  cx: Cx,
  mixId: string,
  { property, ageDays }: AtAge,
  by: Date | null = null,
): Promise<{ readonly total: number; readonly counting: number }> {
  const row = await selectOne<{ n: number; c: number | null }>(
    cx,
    `SELECT COUNT(*) AS n, SUM(s.not_for IS NULL AND s.reported_text IS NOT NULL) AS c
     FROM ${OF_SETS}
     WHERE s.subject_id = ? AND s.property = ? AND s.age_days = ? AND (? IS NULL OR s.cast_at <= ?) AND ${NOT_GONE}`,
    [mixId, property, ageDays, by, by],
  );
  return { total: Number(row?.n ?? 0), counting: Number(row?.c ?? 0) };
}

/** How many of the newest strength tests of a mix at an age wait until somebody decides. */
export const waitingStrengths = async (cx: Cx, mixId: string, { property, ageDays }: AtAge, most: number): Promise<number> =>
  Number(
    (
      await selectOne<{ n: number }>(
        cx,
        `SELECT COUNT(*) AS n FROM (
           SELECT s.not_for FROM ${OF_SETS} WHERE s.subject_id = ? AND s.property = ? AND s.age_days = ? AND ${NOT_GONE}
           ORDER BY s.cast_at DESC LIMIT ?
         ) newest WHERE not_for IN (?)`,
        [mixId, property, ageDays, most, WAITING],
      )
    )?.n ?? 0,
  );

/** Of which kind, and at which ages, specimens of a mix were broken. */
export const agesOfMix = async (cx: Cx, mixId: string): Promise<AtAge[]> =>
  (
    await select<{ property: string; age_days: string }>(
      cx,
      'SELECT property, age_days FROM strength WHERE subject_id = ? GROUP BY property, age_days',
      [mixId],
    )
  ).map((row) => ({ property: row.property, ageDays: Number(row.age_days) }));

/** The revision of which the newest concrete is that was broken at an age; null where that is not known. */
export const newestRevision = async (cx: Cx, mixId: string, { property, ageDays }: AtAge): Promise<string | null> =>
  (
    await selectOne<{ revision_id: string | null }>(
      cx,
      `SELECT head.revision_id FROM ${OF_SETS} JOIN item head ON head.id = i.line_id
       WHERE s.subject_id = ? AND s.property = ? AND s.age_days = ? AND head.revision_id IS NOT NULL AND ${NOT_GONE}
       ORDER BY s.cast_at DESC, s.item_id DESC LIMIT 1`,
      [mixId, property, ageDays],
    )
  )?.revision_id ?? null;

/** All strength tests of a mix that count, in order of casting. */
export async function wholeSeries(cx: Cx, mixId: string, { property, ageDays }: AtAge, most: number): Promise<WholeSeries> {
  const rows = await select<{ at: Date; reported_text: string; unit: UnitId }>(
    cx,
    `SELECT s.cast_at AS at, s.reported_text, s.unit FROM ${OF_SETS}
     WHERE s.subject_id = ? AND s.property = ? AND s.age_days = ? AND s.not_for IS NULL AND s.reported_text IS NOT NULL AND ${NOT_GONE}
     ORDER BY s.cast_at, s.item_id LIMIT ?`,
    [mixId, property, ageDays, most],
  );
  return { unit: rows[0]?.unit ?? 'MPa', at: rows.map((r) => r.at.getTime()), strength: rows.map((r) => r.reported_text) };
}

/** Sets of a mix that have specimens of the late age and nothing broken of it yet, with their early strength; the oldest first. */
export const stillToBreak = async (
  cx: Cx,
  mixId: string,
  { property, early, late, since, most }: { property: string; early: number; late: number; since: Date; most: number },
): Promise<Omit<StillToBreak, 'dueAt'>[]> =>
  (
    await select<{ id: string; code: string; at: Date; reported_text: string | null; unit: UnitId | null }>(
      cx,
      `SELECT i.id, i.code, i.at, e.reported_text, e.unit FROM item i LEFT JOIN item p ON p.id = i.parent_id
       LEFT JOIN strength e ON e.item_id = i.id AND e.property = ? AND e.age_days = ?
       WHERE i.subject_id = ? AND i.kind = 'specimen-set' AND i.at >= ? AND ${NOT_GONE}
         AND JSON_VALUE(i.facts, '$.curing') = 'standard' AND p.kind = 'sample'
         AND EXISTS (SELECT 1 FROM due d JOIN item s ON s.id = d.item_id WHERE s.parent_id = i.id AND d.due = 'break' AND d.done_at IS NULL
           AND TIMESTAMPDIFF(HOUR, i.at, d.opens_at) > ? * 24)
         AND NOT EXISTS (SELECT 1 FROM strength l WHERE l.item_id = i.id AND l.age_days = ?)
       ORDER BY i.at LIMIT ?`,
      [property, early, mixId, since, early, late, most],
    )
  ).map((r) => ({
    setId: r.id,
    code: r.code,
    castAt: r.at.toISOString(),
    early: r.reported_text === null ? null : { text: r.reported_text, unit: r.unit! },
  }));

/** Field-cured strength tests of a mix, the newest first, each beside that of the same sample that was cured as the method asks. */
export const fieldCured = async (cx: Cx, mixId: string, property: string, most: number): Promise<FieldCured[]> =>
  (
    await select<{
      id: string;
      code: string;
      cast_at: Date;
      age_days: string;
      f: string;
      f_unit: UnitId;
      s: string | null;
      s_unit: UnitId | null;
    }>(
      cx,
      `SELECT i.id, i.code, f.cast_at, f.age_days, f.reported_text AS f, f.unit AS f_unit,
         (SELECT n.reported_text FROM strength n JOIN item o ON o.id = n.item_id WHERE o.parent_id = i.parent_id AND n.item_id <> i.id
            AND n.property = f.property AND n.age_days = f.age_days AND COALESCE(n.not_for, '') <> 'field' LIMIT 1) AS s, f.unit AS s_unit
       FROM strength f JOIN item i ON i.id = f.item_id LEFT JOIN item p ON p.id = i.parent_id
       WHERE f.subject_id = ? AND f.property = ? AND f.not_for = 'field' AND f.reported_text IS NOT NULL AND ${NOT_GONE}
       ORDER BY f.cast_at DESC LIMIT ?`,
      [mixId, property, most],
    )
  ).map((r) => ({
    setId: r.id,
    code: r.code,
    castAt: r.cast_at.toISOString(),
    ageDays: Number(r.age_days),
    strength: { text: r.f, unit: r.f_unit },
    standard: r.s === null ? null : { text: r.s, unit: r.s_unit! },
  }));

/** What a mix is accepted by: cubes where it is broken in cubes. */
export async function acceptedBy(cx: Cx, mixId: string, ageDays: number): Promise<'strength' | 'cube-strength'> {
  const rows = await select<{ property: string; n: number }>(
    cx,
    `SELECT property, COUNT(*) AS n FROM strength WHERE subject_id = ? AND age_days = ? AND property IN ('strength', 'cube-strength')
     GROUP BY property`,
    [mixId, ageDays],
  );
  const of = (property: string): number => Number(rows.find((r) => r.property === property)?.n ?? 0);
  return of('cube-strength') > of('strength') ? 'cube-strength' : 'strength';
}
