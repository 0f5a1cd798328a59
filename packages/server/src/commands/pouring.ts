import type { newLoad, newPour, newSample, newSampleEvent, newWater, NewItem } from '@keen-mortar/contract';
import { rowIdAt, type AnyInputs } from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { v7 as newId } from 'uuid';
import type { Act } from '../actor.js';
import { Refused } from '../problems.js';
import { lineOf } from '../store/items.js';
import { amendItem, type Keeping } from './items.js';

/* What a pour is made of, and what happens at it, as items and what is known of them. */

/** A ticket as the facts of a load. */
export const loadItem = (
  projectId: string,
  pourId: string,
  { id, by, number, materials, batchedAt, reason, known, ...rest }: NewLoadBody,
): NewItem => ({
  id,
  by,
  reason,
  known,
  kind: 'load',
  projectId,
  parentId: pourId,
  number,
  facts: {
    ...rest,
    batchedAt,
    materials: materials.map((m) => ({
      name: m.name,
      role: m.role,
      target: m.target === undefined ? null : { text: m.target, unit: m.unit },
      actual: { text: m.actual, unit: m.unit },
      moisture: m.moisture === undefined ? null : { text: m.moisture, unit: '%' },
      absorption: m.absorption === undefined ? null : { text: m.absorption, unit: '%' },
    })),
  } as AnyInputs,
});
type NewLoadBody = ReturnType<typeof newLoad.parse>;

export const pourItem = ({ mixId, element, planned, ...rest }: ReturnType<typeof newPour.parse>): NewItem => ({
  ...rest,
  kind: 'pour',
  parentId: null,
  subjectId: mixId,
  facts: { element, planned } as AnyInputs,
});

/** Water added on site, as a row of what is known of the load. */
export function waterEntries({ id, mass, at, reason, known }: ReturnType<typeof newWater.parse>, now: Date): Keeping {
  const row = `water.${rowIdAt(now.getTime(), id)}`;
  return {
    reason,
    known,
    readings: [
      { id, field: `${row}.mass`, text: mass.text, unit: mass.unit, at },
      { id: newId(), field: `${row}.at`, text: at, unit: null, at },
    ],
  };
}

export const sampleItem = (
  projectId: string,
  { id, by, loadId, firstPortionAt, part, code }: ReturnType<typeof newSample.parse>,
): NewItem => ({
  id,
  by,
  ...(code === undefined ? {} : { code }),
  kind: 'sample',
  projectId,
  parentId: loadId,
  facts: { portions: [{ at: firstPortionAt, part }] } as AnyInputs,
});

/** What happened to a sample, as what is known of it or of its load. */
export async function happen(
  cx: PoolConnection,
  act: Act,
  sampleId: string,
  { id, kind, at, part, reason, known }: ReturnType<typeof newSampleEvent.parse>,
): Promise<void> {
  const line = await lineOf(cx, sampleId);
  const [sample, load] = [line.at(-1)!, line.at(-2)!];
  const facts = sample.facts as Readonly<Record<string, unknown>>;
  if (facts['finished'] !== undefined && (kind === 'portion' || kind === 'finished'))
    throw new Refused('already-exists', 'The composite is finished already.');
  const reading = (field: string, text: string) => ({ id: newId(), field, text, unit: null, at });
  if (kind === 'portion') {
    const row = `portions.${rowIdAt(act.now.getTime(), id)}`;
    await amendItem(cx, act, sampleId, { readings: [reading(`${row}.at`, at), ...(part ? [reading(`${row}.part`, part)] : [])] });
    return;
  }
  const owner = kind === 'discharged' ? load : sample;
  if ((owner.facts as Readonly<Record<string, unknown>>)[kind] !== undefined)
    throw new Refused('already-exists', 'That has its time already.');
  await amendItem(cx, act, owner.id, { reason, known, readings: [{ ...reading(kind, at), id }] }, 'at');
}
