import type { UnitId } from '@keen-mortar/core';
import * as z from 'zod';

/** A word of the line protocol and what goes with it: PUT 19.31. */
export const instrumentCommand = z.strictObject({
  does: z.string().regex(/^[A-Z]{2,12}$/),
  with: z
    .string()
    .regex(/^-?\d{1,7}(\.\d{1,6})?$|^(ON|OFF)$/)
    .optional(),
});
export type InstrumentCommand = z.infer<typeof instrumentCommand>;

/** A point of what a machine recorded while it was loading: seconds, and the load as it gave it. */
export interface TracePoint {
  readonly time: string;
  readonly load: string;
  readonly unit: UnitId;
}

/** What came of a command; with the points that came before the answer. */
export interface InstrumentAnswer {
  readonly ok: boolean;
  readonly says: string;
  readonly points?: readonly TracePoint[];
}

/** What an instrument shows at a moment. */
export interface InstrumentReading {
  /** Null while it shows none. */
  readonly text: string | null;
  readonly unit: UnitId | null;
  /** Moving: it has not settled; away: it is unplugged, or does not answer. */
  readonly state: 'stable' | 'moving' | 'fault' | 'away';
  readonly says: string | null;
  readonly at: string;
}

export interface Instrument {
  /** Short, and stored with every reading that came from it. */
  readonly id: string;
  readonly kind: string;
  /** As it calls itself: the name of its piece of kit. */
  readonly name: string;
  /** Words that it takes; a stand-in takes some that are done by hand on a real one. */
  readonly can: readonly string[];
  readonly reading: InstrumentReading;
}
