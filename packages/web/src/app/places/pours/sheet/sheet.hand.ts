import { keyedFields, methodById, type Keyed } from '@keen-mortar/core';
import type { Sample } from '@keen-mortar/contract';
import { createSelector, type Action } from '@ngrx/store';
import type { Hand, InHand } from '../../../state/hand';
import { sheet, SheetActions } from './sheet.state';
import { blankDraft, inputsOfRow, rowInHand, rows, type Row } from './sheet.view';

/** A test that was not kept yet may take readings from Scratch; a kept one is corrected on the sheet, with a reason. */
const mayTake = (row: Row): boolean => row.test === null && row.draft?.state !== 'keeping';

/** What Scratch is filled with over the sheet. */
export const handOfSheet = createSelector(sheet.selectSample, rows, rowInHand, (sample, all, row): InHand | null => {
  if (!sample || !row) return null;
  const { method: m, evaluation } = row;
  return {
    method: m.id,
    variant: evaluation.variant,
    system: evaluation.system,
    inputs: inputsOfRow(sample, row),
    where: `load ${sample.load.number}, sample ${sample.label}`,
    keeps: all.filter(mayTake).map((r) => r.method.id),
  };
});

/** The actions that key what came out of Scratch, as if it had been keyed on the sheet; none where no row may take it. */
export function taken(sample: Sample, all: readonly Row[], hand: Hand, now: string, id: () => string): Action[] {
  const m = methodById(hand.method);
  const row = all.find((r) => r.method.id === hand.method && mayTake(r));
  if (!m || !row) return [];
  const draft = row.draft ?? blankDraft(sample, m, id, now);
  const { testId } = draft;
  const inputs = hand.inputs as Readonly<Record<string, Keyed | string | null | undefined>>;
  const keyed = keyedFields(m, hand.variant).flatMap(([field]): Action[] => {
    const value = inputs[field];
    if (value === null || value === undefined || Array.isArray(value)) return [];
    const [text, unit] = typeof value === 'string' ? [value, null] : [value.text, value.unit];
    return text.trim() === '' ? [] : [SheetActions.keyed({ testId, field, text, unit, at: now, reading: id() })];
  });
  return [
    ...(row.draft ? [] : [SheetActions.draftBegun({ draft })]),
    SheetActions.draftSet({ testId, change: { variant: hand.variant } }),
    ...keyed,
    SheetActions.rowChosen({ key: testId }),
  ];
}
