import { isWornOut, kitMarks, kitOfMethod, type AnyMethod, type Kit, type KitKind } from '@keen-mortar/core';

/** What a test is made with: what enters its result, and what is used beside it. */
export interface TakenKit {
  readonly equipmentId: string | null;
  readonly alsoIds: readonly string[];
}

/** Of a kind the one to take: with nothing against it before one that has; undefined where there is none. */
export function soundKit(kit: readonly Kit[], kind: KitKind, day: string): Kit | undefined {
  const own = kit.filter((k) => k.kind === kind);
  return own.find((k) => kitMarks(k, day).length === 0 && !isWornOut(k)) ?? own.find((k) => k.wrong === null) ?? own[0];
}

/** What a method is made with where nobody chose otherwise. */
export const usualKit = (kit: readonly Kit[], m: AnyMethod, day: string): TakenKit => ({
  equipmentId: (m.kit && soundKit(kit, m.kit, day)?.id) ?? null,
  alsoIds: (m.uses ?? []).flatMap((kind) => soundKit(kit, kind, day)?.id ?? []),
});

/** With another one of a kind. */
export function withKit(m: AnyMethod, kit: readonly Kit[], taken: TakenKit, kind: KitKind, id: string): TakenKit {
  if (kind === m.kit) return { ...taken, equipmentId: id };
  const others = taken.alsoIds.filter((also) => kit.find((k) => k.id === also)?.kind !== kind);
  return { ...taken, alsoIds: kitOfMethod(m).includes(kind) ? [...others, id] : others };
}

/** The equipment itself, what enters the result first. */
export const kitTaken = (kit: readonly Kit[], { equipmentId, alsoIds }: TakenKit): Kit[] =>
  [equipmentId, ...alsoIds].flatMap((id) => kit.find((k) => k.id === id) ?? []);
