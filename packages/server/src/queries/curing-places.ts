import type { CuringPlace } from '@keen-mortar/contract';
import type { Cx } from '../db.js';
import { itemsOf } from '../store/items.js';
import { standingOfItems } from '../store/standing.js';

/** A laboratory has no more of them. */
const MOST = 20;

/** Tanks and moist rooms, each with what it was found at last. */
export async function curingPlaces(cx: Cx, projectId: string): Promise<CuringPlace[]> {
  const { items } = await itemsOf(cx, projectId, 'storage', 0, MOST);
  const places = items.filter((i) => !i.voided);
  const standing = await standingOfItems(
    cx,
    places.map((p) => p.id),
  );
  return places.map(({ id, code, name }) => {
    const last = standing.filter((s) => s.itemId === id).at(-1);
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
