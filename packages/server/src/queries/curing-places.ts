import type { CuringPlace, Item } from '@keen-mortar/contract';
import type { Cx } from '../db.js';
import { itemsOf } from '../store/items.js';
import { newestOfItems } from '../store/standing.js';

/** A laboratory has no more of them. */
const MOST = 20;

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
