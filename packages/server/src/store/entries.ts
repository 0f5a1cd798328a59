import type { Reading } from '@keen-mortar/contract';
import type { UnitId } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { insertAll, select, type Cx } from '../db.js';

interface EntryRow {
  owner_id: string;
  path: string;
  turn: number;
  id: string;
  value_text: string | null;
  unit: UnitId | null;
  person_id: string;
  read_at: Date;
  received_at: Date;
  device: string;
  reason: string | null;
}

/** What was kept of some tests or items, each in the order of its turns. */
export async function entriesOf(cx: Cx, ownerIds: readonly string[]): Promise<Map<string, Reading[]>> {
  const found = new Map<string, Reading[]>(ownerIds.map((id) => [id, []]));
  if (ownerIds.length === 0) return found;
  const rows = await select<EntryRow>(
    cx,
    'SELECT owner_id, path, turn, id, value_text, unit, person_id, read_at, received_at, device, reason FROM entry WHERE owner_id IN (?) ORDER BY owner_id, turn, received_at, path',
    [ownerIds],
  );
  const last = new Map<string, string>();
  for (const row of rows) {
    const place = `${row.owner_id} ${row.path}`;
    found.get(row.owner_id)!.push({
      id: row.id,
      field: row.path,
      text: row.value_text,
      unit: row.unit,
      by: row.person_id,
      at: row.read_at.toISOString(),
      receivedAt: row.received_at.toISOString(),
      device: row.device,
      supersedes: last.get(place) ?? null,
      reason: row.reason,
    });
    last.set(place, row.id);
  }
  return found;
}

/** As the tables give them back: by turn, then as they came, then by path. */
export function inOrder(readings: readonly Reading[]): Reading[] {
  const seen = new Map<string, number>();
  const turns = readings.map((r) => {
    const turn = seen.get(r.field) ?? 0;
    seen.set(r.field, turn + 1);
    return { r, turn };
  });
  return turns
    .sort((a, b) => a.turn - b.turn || compare(a.r.receivedAt, b.r.receivedAt) || compare(a.r.field, b.r.field))
    .map(({ r }) => r);
}

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** @param turns how often each path was kept before */
export const insertEntries = (
  cx: PoolConnection,
  ownerId: string,
  added: readonly Reading[],
  turns: ReadonlyMap<string, number>,
): Promise<void> =>
  insertAll(
    cx,
    'entry',
    added.map((r) => ({
      owner_id: ownerId,
      path: r.field,
      turn: turns.get(r.field) ?? 0,
      id: r.id,
      value_text: r.text,
      unit: r.unit,
      person_id: r.by,
      read_at: new Date(r.at),
      received_at: new Date(r.receivedAt),
      device: r.device,
      reason: r.reason,
    })),
  );
