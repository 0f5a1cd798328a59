import type { SentTest } from '@keen-mortar/contract';
import type { Command } from '../../device/device-db';
import { newId } from '../../device/ids';
import type { InHandTest } from './begun-with';
import type { Keeping } from './in-hand';

interface Of {
  readonly itemId: string;
  readonly by: string;
  /** Where it is looked at again. */
  readonly opens: string;
  readonly start: Pick<SentTest, 'startedAt' | 'equipmentId' | 'alsoIds' | 'kitReason'>;
}

/** What is written where a test in hand is kept: the test, where it is not on record yet, and its readings. */
export function keepWrites({ key, method, test }: InHandTest, { sent, variant, system, shown }: Keeping, of: Of): Omit<Command, 'order'>[] {
  const { itemId, by, opens, start } = of;
  const base = { itemId, opens, testId: key };
  const id = newId();
  const make = {
    ...base,
    id: key,
    kind: 'test' as const,
    path: `/items/${itemId}/tests`,
    body: { id: key, by, method: method.id, variant, system, ...start, retestOf: null },
  };
  const keep = { ...base, id, kind: 'keep' as const, path: `/tests/${key}/readings`, body: { id, by, readings: sent, shown } };
  return test ? [keep] : [make, keep];
}
