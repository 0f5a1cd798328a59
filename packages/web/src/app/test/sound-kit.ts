import type { AnyMethod, Kit } from '@keen-mortar/core';

/** The equipment that a method takes: one that is calibrated and in date before one that is neither. */
export function soundKit(kit: readonly Kit[], m: AnyMethod, now: string): Kit | undefined {
  const own = kit.filter((k) => k.kind === m.kit);
  return own.find((k) => k.calibratedOn !== null && (k.until === null || k.until >= now.slice(0, 10))) ?? own[0];
}
