import { day, dayIn, name, type Item, type NewItem, type Reading, type Voiding } from '@keen-mortar/contract';
import {
  codeOf,
  curing,
  evaluate,
  factsForm,
  fieldAt,
  flatten,
  headOf,
  isIssued,
  ITEM_KINDS,
  itemShape,
  NAME,
  ON,
  mayLieIn,
  reduction,
  pathOnRecord,
  ROW_TAKERS,
  say,
  type AnyInputs,
  type ItemKind,
  type Shape,
  type System,
} from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { v7 as newId } from 'uuid';
import type { Act } from '../actor.js';
import { faultOf, Refused } from '../problems.js';
import { insertEntries, entriesOf } from '../store/entries.js';
import { giversIn } from '../store/gifts.js';
import {
  addToCounts,
  childrenOf,
  insertItem,
  itemCoded,
  lineOf,
  linesIn,
  lockLine,
  nextNumber,
  numberTaken,
  recountAbove,
  setFacts,
  setVoided,
} from '../store/items.js';
import { revisionAt } from '../store/mixes.js';
import { projectOf } from '../store/projects.js';
import { item as used, workOutAgain } from './again.js';
import { mustBeOf, mustFollow, mustHaveBeen, refuse } from './checks.js';
import { waitAgainFor } from './dues.js';
import { explain } from './doubts.js';
import { factsOf, type FactsNow } from './facts.js';
import { tellOf } from './telling.js';
import { checkEntries, entriesFrom, type NewEntries } from './entries.js';

/** Path of the entry that takes an item back. */
const VOID = 'void';

/** Every moment among the facts is one that was. */
function checkMoments(shape: Shape, entries: readonly { readonly field: string; readonly text: string | null }[], act: Act): void {
  for (const { field, text } of entries) {
    const parts = field.split('.');
    const top = shape[parts[0]!];
    const own = top?.kind === 'rows' ? (top.of as Shape)[parts[2] ?? ''] : top;
    if (own?.kind === 'instant' && !own.ahead && text !== null) mustHaveBeen(text, act, field);
  }
}

/** Makes an item: numbered and named by its kind, in its place of the tree. */
export async function makeItem(cx: PoolConnection, act: Act, body: NewItem): Promise<Item[]> {
  const kind = ITEM_KINDS[body.kind];
  if (body.parentId !== null) await lockLine(cx, body.parentId);
  const above = body.parentId === null ? [] : await lineOf(cx, body.parentId);
  const parent = above.at(-1) ?? null;
  if (!mayLieIn(body.kind, parent?.kind ?? null)) {
    const places = kind.parents.map((p) => (p === null ? 'at the top' : `in ${ITEM_KINDS[p].label.toLowerCase()}`)).join(', ');
    throw refuse('wrong-place', 'parentId', `${kind.label} does not lie there: it lies ${places}.`);
  }
  if (parent && parent.projectId !== body.projectId) await mustBeOf(cx, 'item', parent.id, body.projectId, 'parentId');
  const gone = above.find((i) => i.voided);
  if (gone) throw refuse('voided', 'parentId', `${gone.code} was voided: nothing is added to it.`);
  const project = await projectOf(cx, body.projectId);
  const subjectId = await subjectOf(cx, body, parent);
  if (kind.coding.of === 'name' && body.name === undefined) throw refuse('needs-name', 'name', `${kind.label} needs a name.`);

  const base = {
    ...body.facts,
    ...(body.name === undefined ? {} : { name: body.name }),
    ...(body.on === undefined ? {} : { on: body.on }),
  };
  const entries = flatten(itemShape(body.kind), base).map(({ path, text, unit }): Reading => ({
    id: newId(),
    field: path,
    text,
    unit,
    by: act.personId,
    at: act.now.toISOString(),
    receivedAt: act.now.toISOString(),
    device: 'hand',
    supersedes: null,
    reason: null,
  }));
  checkMoments(kind.facts, entries, act);
  const now = factsOf(body.kind, entries);
  checkFacts(body.kind, now.facts, project.system);
  checkOrder(body.kind, above, now.facts);
  const at = new Date(now.at ?? act.now);
  const scopeId = kind.coding.of === 'parent' && parent ? parent.id : body.projectId;
  const number = body.number ?? (await nextNumber(cx, scopeId, body.kind));
  if (body.number !== undefined) await numberTaken(cx, scopeId, body.kind, number);
  if (body.code !== undefined) await checkIssued(cx, body.projectId, body.kind, body.code);
  const made = {
    id: body.id,
    kind: body.kind,
    projectId: body.projectId,
    parentId: body.parentId,
    number,
    code: body.code ?? codeOf(body.kind, number, parent?.code ?? '', now.name),
    subjectId,
    revisionId: await revisionFor(cx, body.kind, subjectId, at),
    by: act.personId,
    name: now.name,
    on: now.on ?? dayIn(project.timezone, at.toISOString()),
    facts: now.facts,
  };
  await insertItem(cx, scopeId, { ...made, lineId: headOf([...above, made]).id, at, madeAt: act.now });
  const explained = await explain(cx, { id: body.id, before: [], added: entries }, body, (path) => path);
  await insertEntries(cx, body.id, explained, new Map());
  const { answered } = factsOf(body.kind, explained);
  if (answered.length > 0) await setFacts(cx, body.id, { ...made, answered, at });
  if (parent) await addToCounts(cx, parent.id, { children: 1 });
  if (body.kind === 'sample') for (const i of above) await addToCounts(cx, i.id, { samples: 1 });
  const line = [...above, { ...made, answered, at: at.toISOString(), voided: false, children: 0, outs: 0, samples: 0, worst: null }];
  await waitAgainFor(cx, made);
  await tellOf(cx, act, line, 'item', body.id);
  return line;
}

/** It was written on a mold without a network: so it is called, where it is a code of such a device and nothing else has it. */
async function checkIssued(cx: PoolConnection, projectId: string, kind: ItemKind, code: string): Promise<void> {
  if (!isIssued(kind, code)) throw refuse('not-issued', 'code', 'No device gives such a code.');
  if (await itemCoded(cx, projectId, code, kind)) throw refuse('code-taken', 'code', `There is a ${code} already.`);
}

/** Amended, both are still what the item was made with: a name that fits, a day that is one. */
function checkNameAndDay({ kind }: Item, now: FactsNow): void {
  if (ITEM_KINDS[kind].coding.of === 'name' && now.name === null)
    throw refuse('needs-name', NAME, `${ITEM_KINDS[kind].label} needs a name.`);
  if (now.name !== null && !name.safeParse(now.name).success) throw refuse('too-long', NAME, 'The name is too long.');
  if (now.on !== null && !day.safeParse(now.on).success) throw refuse('not-a-day', ON, 'The day is like 2026-05-12.');
}

/** What every item of its kind has is there, and can be: by the core, as for the readings of a test. */
function checkFacts(kind: ItemKind, facts: Item['facts'], system: System): void {
  const m = factsForm(kind);
  const { missing, issues } = evaluate(m, facts, { variant: 'facts', system });
  const wrong = issues.filter((issue) => issue.severity === 'impossible');
  if (wrong.length > 0)
    throw new Refused(
      'invalid-input',
      `${m.title}: something is impossible.`,
      wrong.map((issue) => faultOf(m, issue)),
    );
  const path = missing[0];
  if (path !== undefined) throw refuse('needs-fact', path, `${fieldAt(m, path)?.label ?? path} is needed.`);
}

async function subjectOf(cx: PoolConnection, body: NewItem, parent: Item | null): Promise<string | null> {
  const { subject, label } = ITEM_KINDS[body.kind];
  if (subject === undefined) return parent?.subjectId ?? null;
  // A source is its own subject: what is found on anything of it is its history.
  if (subject === 'source') return body.id;
  if (body.subjectId === undefined) throw refuse('needs-mix', 'subjectId', `${label} is of a mix.`);
  await mustBeOf(cx, 'mix', body.subjectId, body.projectId, 'mixId');
  return body.subjectId;
}

/** A load and a trial batch are of the revision that was in force when they were batched. */
async function revisionFor(cx: PoolConnection, kind: ItemKind, mixId: string | null, at: Date): Promise<string | null> {
  if ((kind !== 'load' && kind !== 'trial-batch') || mixId === null) return null;
  const revisionId = await revisionAt(cx, mixId, at);
  if (revisionId === null) throw refuse('no-revision', 'batchedAt', 'No revision of this mix was in force then.');
  return revisionId;
}

/** What is kept of an item, with why what is unlikely of it is so, and when what was known of the record was read. */
export interface Keeping extends NewEntries {
  readonly reason?: string | undefined;
  readonly known?: string | undefined;
}

/** Adds to what is known of an item, or amends it: with a reason, keeping what it amends. What stood on it is worked out again. @param place where a doubt is told, if not at its entry */
export async function amendItem(cx: PoolConnection, act: Act, itemId: string, body: Keeping, place?: string): Promise<Item[]> {
  await lockLine(cx, itemId);
  const line = await lineOf(cx, itemId);
  const item = line.at(-1)!;
  const shape = itemShape(item.kind);
  const before = (await entriesOf(cx, [itemId])).get(itemId)!;
  const turns = checkEntries(ITEM_KINDS[item.kind].label, shape, before, body);
  const added = entriesFrom(act, body);
  checkMoments(shape, added, act);
  const now = factsOf(item.kind, [...before, ...added]);
  checkNameAndDay(item, now);
  const { system, timezone } = await projectOf(cx, item.projectId);
  checkFacts(item.kind, now.facts, system);
  checkOrder(item.kind, line, now.facts);
  await checkBelow(cx, item, now.facts);
  const moved = now.at !== null && now.at !== item.at ? dayIn(timezone, now.at) : item.on;
  const at = new Date(now.at ?? item.at);
  // Batched at another time it is of the revision that was in force then.
  const revisionId = now.at === null || now.at === item.at ? item.revisionId : await revisionFor(cx, item.kind, item.subjectId, at);
  const changed = {
    ...item,
    name: now.name,
    on: now.on ?? moved,
    at: at.toISOString(),
    facts: now.facts,
    answered: now.answered,
    revisionId,
  };
  await setFacts(cx, itemId, { ...changed, at });
  const explained = await explain(cx, { id: itemId, before, added }, body, (path) => place ?? pathOnRecord(changed, path));
  await insertEntries(cx, itemId, explained, turns);
  const { answered } = factsOf(item.kind, [...before, ...explained]);
  if (answered.length !== now.answered.length) await setFacts(cx, itemId, { ...changed, answered, at });
  await waitAgainFor(cx, item);
  await tellOf(cx, act, line, 'entry', act.writeId);
  await workOutAgain(cx, act, used(itemId), { kind: 'facts', id: act.writeId });
  await workOutRows(cx, act, item);
  return [...line.slice(0, -1), { ...changed, answered }];
}

/** Tests of what it was made of that take it as a row. */
async function workOutRows(cx: PoolConnection, act: Act, { kind, parentId }: Item): Promise<void> {
  if (parentId !== null && ITEM_KINDS[kind].gives)
    await workOutAgain(cx, act, used(parentId), { kind: 'facts', id: act.writeId }, ROW_TAKERS);
}

/** What was made of it was not made before it. */
async function checkBelow(cx: PoolConnection, { id, kind }: Item, facts: Item['facts']): Promise<void> {
  if (kind !== 'load') return;
  const batched = Date.parse((facts as { batchedAt?: string }).batchedAt ?? '');
  for (const sample of (await childrenOf(cx, [id])).filter((c) => !c.voided)) {
    const { portions = [] } = sample.facts as { portions?: readonly { at: string }[] };
    if (portions.some((p) => Date.parse(p.at) < batched))
      throw refuse('out-of-order', 'batchedAt', `A portion of ${sample.code} was taken before that.`);
  }
}

/** What follows from each other keeps its order. */
function checkOrder(kind: ItemKind, line: readonly Item[], facts: Item['facts']): void {
  const { portions, finished, molding, water, discharged } = facts as {
    portions?: readonly { at: string }[];
    finished?: string;
    molding?: string;
    water?: readonly { at: string }[];
    discharged?: string;
  };
  const load = kind === 'load' ? facts : line.find((i) => i.kind === 'load')?.facts;
  const batched = new Date((load as { batchedAt?: string } | undefined)?.batchedAt ?? 0);
  if (kind === 'load') {
    for (const w of water ?? []) mustFollow(new Date(w.at), batched, 'at', 'Water cannot be added before the load was batched.');
    if (discharged) mustFollow(new Date(discharged), batched, 'at', 'A load cannot be empty before it was batched.');
  }
  if (kind === 'portion') return checkReduced(facts, line);
  if (kind === 'specimen-set') return checkSet(facts, line);
  if (kind !== 'sample') return;
  const taken = (portions ?? []).map((p) => Date.parse(p.at));
  if (taken.length === 0) throw refuse('needs-portion', 'portions', 'A sample has at least one portion.');
  const [first, last] = [new Date(Math.min(...taken)), new Date(Math.max(...taken))];
  mustFollow(first, batched, 'firstPortionAt', 'A portion cannot be taken before the load was batched.');
  if (finished) mustFollow(new Date(finished), last, 'at', 'The composite cannot be finished before its last portion.');
  if (molding) mustFollow(new Date(molding), first, 'at', 'This cannot be before the first portion.');
}

/** Stone is not reduced as damp sand may be: by the core. */
function checkReduced(facts: Item['facts'], line: readonly Item[]): void {
  const { way } = facts as { way?: string };
  const { kind } = (line.find((i) => i.kind === 'source')?.facts ?? {}) as { kind?: string };
  if (way === undefined || kind !== 'coarse') return;
  const inputs = { material: kind, wet: 'no', wished: way } as AnyInputs;
  const unfit = evaluate(reduction, inputs, { variant: 'c702', system: 'si', offers: false }).issues.find((i) => i.code === 'method-unfit');
  if (unfit) throw new Refused('invalid-input', say(unfit.code, unfit.params), [{ ...faultOf(reduction, unfit), path: 'way' }]);
}

/** A set is molded of what was taken before, and goes through its curing in order: by the core. */
function checkSet(facts: Item['facts'], line: readonly Item[]): void {
  const { madeAt: made, curing: kept, ...rest } = facts as Readonly<Record<string, unknown>>;
  const { portions = [] } = (line.find((i) => i.kind === 'sample')?.facts ?? {}) as { portions?: readonly { at: string }[] };
  const first = Math.min(...portions.map((p) => Date.parse(p.at)));
  if (first < Infinity) mustFollow(new Date(made as string), new Date(first), 'madeAt', 'Nothing is molded before the first portion.');
  const known = Object.fromEntries(Object.entries(rest).filter(([id]) => Object.hasOwn(curing.fields, id)));
  const { issues } = evaluate(curing, { ...known, made, kept } as AnyInputs, { variant: 'c31', system: 'si', offers: false });
  const wrong = issues.filter((issue) => issue.severity === 'impossible');
  if (wrong.length > 0)
    throw new Refused(
      'invalid-input',
      `${curing.title}: something is impossible.`,
      wrong.map((issue) => faultOf(curing, issue)),
    );
}

/** Takes an item back that was made by mistake, or puts it right again: nothing is deleted. */
export async function voidItem(cx: PoolConnection, act: Act, itemId: string, body: Voiding): Promise<void> {
  await lockLine(cx, itemId);
  const line = await lineOf(cx, itemId);
  const item = line.at(-1)!;
  if (item.voided === body.voided) throw refuse('no-change', 'voided', body.voided ? 'It is voided already.' : 'It is not voided.');
  const turn = ((await entriesOf(cx, [itemId])).get(itemId) ?? []).filter((e) => e.field === VOID).length;
  await insertEntries(
    cx,
    itemId,
    [
      {
        id: body.id,
        field: VOID,
        text: body.voided ? 'yes' : null,
        unit: null,
        by: act.personId,
        at: mustHaveBeen(body.at, act, 'at').toISOString(),
        receivedAt: act.now.toISOString(),
        device: 'hand',
        supersedes: null,
        reason: body.reason,
      },
    ],
    new Map([[VOID, turn]]),
  );
  await setVoided(cx, itemId, body.voided);
  await recountAbove(cx, line);
  await workOutRows(cx, act, item);
  // What its tests gave counts no more, or again.
  for (const giver of await giversIn(cx, itemId))
    await workOutAgain(cx, act, { usedId: giver.testId, usedItemId: giver.itemId }, { kind: 'facts', id: act.writeId });
  await tellOf(cx, act, line, 'void', itemId);
  // What lies in it and begins a line of its own counts no more, or again.
  if (ITEM_KINDS[item.kind].holdsLines) for (const id of await linesIn(cx, itemId)) act.touched.set(id, null);
}
