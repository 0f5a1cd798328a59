import type { Offer, UnitId } from '@keen-mortar/core';

/** A reading as it was meant. */
export interface Meant {
  readonly path: string;
  readonly text: string;
  readonly unit: UnitId;
}

/** All that is taken with an offer at a reading. */
export const allMeant = (path: string, { text, unit, also = [] }: Offer): Meant[] => [{ path, text, unit }, ...also];
