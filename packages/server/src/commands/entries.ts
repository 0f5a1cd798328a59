import { lastOf, type keptReading, type Reading } from '@keen-mortar/contract';
import { fieldOnPath, isRowPath, LEFT_EMPTY, momentOf, type Field, type Shape } from '@keen-mortar/core';
import type * as z from 'zod';
import type { Act } from '../actor.js';
import { fault } from '../faults.js';
import { Refused } from '../problems.js';
import { mustHaveBeen, refuse } from './checks.js';

/** What is kept in one go, of a test or of an item. */
export interface NewEntries {
  readonly readings: readonly z.infer<typeof keptReading>[];
}

export const entriesFrom = (act: Act, body: NewEntries): Reading[] =>
  body.readings.map((r, i) => ({
    id: r.id,
    field: r.field,
    text: r.text,
    unit: r.unit,
    by: act.personId,
    at: mustHaveBeen(r.at, act, `readings.${i}.at`).toISOString(),
    receivedAt: act.now.toISOString(),
    device: r.device ?? 'hand',
    supersedes: r.supersedes ?? null,
    reason: r.reason ?? null,
  }));

/**
 * Each is of a field that is there, once, with a unit exactly where it has one; what replaces or strikes out
 * something says which and why, and nobody has done so meanwhile.
 * @param may whether a path may be keyed here
 * @returns how often each path was kept before
 */
export function checkEntries(
  title: string,
  shape: Shape,
  before: readonly Reading[],
  body: NewEntries,
  may: (top: string) => boolean = () => true,
): Map<string, number> {
  const current = lastOf(before);
  const seen = new Set<string>();
  const turns = new Map<string, number>();
  for (const { field } of before) turns.set(field, (turns.get(field) ?? 0) + 1);
  for (const [i, r] of body.readings.entries()) {
    const path = `readings.${i}`;
    const field = may(r.field.split('.')[0]!) ? fieldOnPath(shape, r.field) : undefined;
    if (!field) throw refuse('unknown-field', `${path}.field`, `${title} has no reading ${r.field} here.`);
    if (seen.has(r.field)) throw refuse('twice', `${path}.field`, `${field.label} is in this twice.`);
    seen.add(r.field);
    const row = isRowPath(shape, r.field);
    checkValue(field, r, path, row);
    checkTurn(r, current.get(r.field), path, row);
  }
  return turns;
}

function checkValue(field: Field, r: NewEntries['readings'][number], path: string, row: boolean): void {
  if (field.kind === 'rows') {
    // A row has no value of its own: it can be struck out, or be there and empty.
    if (!row || (r.text !== null && r.text !== LEFT_EMPTY))
      throw refuse('unknown-field', `${path}.field`, `${field.label} are read cell by cell.`);
    return;
  }
  if (r.text === null) return;
  if ((field.kind === 'qty') !== (r.unit !== null))
    throw refuse('wrong-unit', `${path}.unit`, field.kind === 'qty' ? `${field.label} needs a unit.` : `${field.label} has no unit.`);
  if (field.kind === 'instant' && momentOf(r.text) === null)
    throw refuse('not-a-moment', path, `${field.label} is a moment with its offset, like 2026-05-12T07:42:00Z.`);
  if (field.kind === 'pick' && !Object.hasOwn(field.options, r.text))
    throw refuse('unknown-choice', path, `${field.label} has no choice ${r.text}.`);
}

function checkTurn(r: NewEntries['readings'][number], old: Reading | undefined, path: string, row: boolean): void {
  if (r.supersedes !== old?.id && !(row && old === undefined)) {
    const was = old?.text ?? null;
    const message = old
      ? `Somebody has ${was === null ? 'struck this out' : `kept ${was}${old.unit ? ` ${old.unit}` : ''} here`} meanwhile. Look at it, then correct it if it is wrong.`
      : 'The reading to be corrected is not here.';
    throw new Refused(old ? 'already-read' : 'invalid-input', message, [fault('already-read', r.field, message)]);
  }
  if ((old || r.text === null) && r.reason === undefined) {
    const message = r.text === null ? 'What is struck out needs a reason.' : 'A correction needs a reason.';
    throw new Refused('needs-reason', message, [fault('needs-reason', `${path}.reason`, message)]);
  }
}
