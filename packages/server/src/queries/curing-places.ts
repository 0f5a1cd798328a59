import type { CuringPlace, Item } from '@keen-mortar/contract';
import { say, type Interval, type Strayed } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { Cx } from '../db.js';
import { itemsOf } from '../store/items.js';
import { markedOf, newestOfItems } from '../store/standing.js';
import { aroundTests } from '../store/tests.js';

/** A laboratory has no more of them. */
const MOST = 20;

/** Readings a day apart, for as long as anything is cured. */
const MOST_READ = 400;

const tanksOf = async (cx: Cx, projectId: string): Promise<Item[]> =>
  (await itemsOf(cx, projectId, 'storage', 0, MOST)).items.filter((i) => !i.voided);

/** Tanks and moist rooms, each with what it was found at last. */
export async function curingPlaces(cx: Cx, projectId: string): Promise<CuringPlace[]> {
  const places = await tanksOf(cx, projectId);
  const newest = await newestOfItems(
    cx,
    places.map((p) => p.id),
  );
  return places.map(({ id, code, name }) => {
    const last = newest.find((s) => s.itemId === id);
    return {
      id,
      name: name ?? code,
      testId: last?.testId ?? null,
      reported: last?.reported ?? null,
      unit: last?.unit ?? null,
      at: last?.at.toISOString() ?? null,
      state: last?.validity ?? 'open',
    };
  });
}

/** Which of them were not as asked between two moments, on which days of the project's zone, and how on the last. */
export async function strayedWithin(cx: Cx, projectId: string, { from, to }: Interval, zone: string): Promise<Strayed[]> {
  const places = await tanksOf(cx, projectId);
  const marked = await markedOf(
    cx,
    places.map((p) => p.id),
    { from: new Date(from), to: new Date(to) },
    MOST_READ,
  );
  const lastOf = (id: string) => marked.findLast((m) => m.itemId === id);
  const around = await aroundTests(
    cx,
    places.flatMap(({ id }) => lastOf(id)?.testId ?? []),
  );
  return places.flatMap(({ id, code, name }) => {
    const last = lastOf(id);
    if (!last) return [];
    const on = (at: Date): string => DateTime.fromJSDate(at, { zone }).toFormat('d LLL yyyy');
    const days = [...new Set(marked.filter((m) => m.itemId === id).map((m) => on(m.at)))];
    const reasons = around.get(last.testId)?.reasons ?? [];
    return { place: name ?? code, days, says: reasons.map((r) => say(r.code, r.params)).join(' ') };
  });
}
