import type { Reading } from '@keen-mortar/contract';
import type { Evaluation } from '@keen-mortar/core';
import type { Command, Draft, DraftEntry } from '../../../device/device-db';

/** A drafted value that will be kept, and the reading that it corrects if there is one. */
export interface Change {
  readonly field: string;
  readonly entry: DraftEntry;
  readonly kept: Reading | null;
}

interface Keeping {
  readonly draft: Draft;
  readonly changes: readonly Change[];
  /** What the page shows now: the person is told when the server reports another digit. */
  readonly evaluation: Evaluation;
  readonly by: string;
  readonly startedAt: string;
  readonly order: number;
  readonly id: string;
}

/** The writes of a keep, in order: the test, if the server does not know it yet, and its readings. */
export function keepCommands({ draft, changes, evaluation, by, startedAt, order, id }: Keeping): Command[] {
  const base = { itemId: draft.sampleId, opens: `/samples/${draft.sampleId}`, testId: draft.testId };
  const { testId, method, variant, variantReason, system, equipmentId, alsoIds, retestOf } = draft;
  const kitReason = draft.kitReason.trim();
  const test: Command = {
    ...base,
    id: testId,
    order,
    kind: 'test',
    path: `/samples/${draft.sampleId}/tests`,
    body: {
      id: testId,
      by,
      method,
      variant,
      ...(variantReason ? { variantReason } : {}),
      system,
      startedAt,
      equipmentId,
      alsoIds,
      ...(kitReason ? { kitReason } : {}),
      retestOf,
    },
  };
  const readings = changes.map(({ field, entry, kept }) => {
    const reason = entry.reason?.trim();
    const { reading, unit } = entry;
    const at = draft.readAt ?? entry.at;
    return {
      id: reading,
      field,
      text: entry.text.trim(),
      unit,
      at,
      ...(kept ? { supersedes: kept.id } : {}),
      ...(reason ? { reason } : {}),
      ...(entry.device ? { device: entry.device } : {}),
    };
  });
  const shown = Object.fromEntries(evaluation.results.flatMap((r) => (r.reported === null ? [] : [[r.id, r.reported]])));
  const keep: Command = {
    ...base,
    id,
    order: order + 0.5,
    kind: 'keep',
    path: `/tests/${testId}/readings`,
    body: { id, by, readings, shown },
  };
  return draft.exists ? [keep] : [test, keep];
}
