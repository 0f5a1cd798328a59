import type { Item, Sample, Sheet } from '@keen-mortar/contract';
import { dayIn } from '@keen-mortar/contract';
import { testsOn } from '@keen-mortar/core';
import type { Cx } from '../db.js';
import { notFound } from '../problems.js';
import { decisionsOn } from '../store/decisions.js';
import { entriesOf } from '../store/entries.js';
import { filesOf } from '../store/files.js';
import { allIn, childrenOf } from '../store/items.js';
import { kitOf } from '../store/kit.js';
import { mixHead } from '../store/mixes.js';
import { methodsOn } from '../store/tests.js';
import { ownCopiesFrom } from '../store/own-copies.js';
import { frameOf } from './around.js';
import { findingsShown } from './findings.js';
import { historyBefore } from './history.js';
import { pourView } from './pours.js';
import { givenTo } from './given.js';
import { benchShown } from './tests.js';

/** Nobody cuts a field sample into more. */
const MOST_CUT = 120;

async function cutFrom(cx: Cx, { id, kind }: Item): Promise<Sheet['cut']> {
  if (kind !== 'field-sample') return [];
  const items = await allIn(cx, id, MOST_CUT);
  const methods = await methodsOn(
    cx,
    items.map((i) => i.id),
  );
  return items.map((item) => ({ item, methods: methods.get(item.id)! }));
}

/** An item with everything around it that its sheet and its evaluations need. */
export async function sheetOf(cx: Cx, itemId: string, now: Date): Promise<Sheet> {
  const frame = await frameOf(cx, itemId);
  const day = dayIn(frame.project.timezone, now.toISOString());
  const begun = testsOn(frame.item.kind).map(({ id }) => ({ id, method: id, startedAt: now, newest: null }));
  const [{ bench, again }, files, given, kit, ownCopies, mix, history, children, entries, cut, findings, decisions] = await Promise.all([
    benchShown(cx, frame),
    filesOf(cx, itemId),
    givenTo(cx, frame, begun),
    kitOf(cx, frame.project.id, day),
    ownCopiesFrom(cx, frame.project.id, now),
    frame.revision ? mixHead(cx, frame.revision.mixId) : null,
    historyBefore(cx, frame),
    childrenOf(cx, [itemId]),
    entriesOf(cx, [itemId]),
    cutFrom(cx, frame.item),
    findingsShown(
      cx,
      frame.line.map((i) => i.id),
      now,
    ),
    decisionsOn(
      cx,
      frame.line.map((i) => i.id),
    ),
  ]);
  const { records: _records, ...around } = bench;
  return {
    ...around,
    readAt: now.toISOString(),
    files,
    given: Object.fromEntries(given),
    again,
    kit,
    ownCopies,
    mix,
    history,
    children,
    cut,
    entries: entries.get(itemId) ?? [],
    findings,
    decisions,
  };
}

/** A sample of fresh concrete, as the sheet of a pour shows it. */
export async function sampleOf(cx: Cx, id: string, now: Date): Promise<Sample> {
  const {
    item,
    line,
    children: _children,
    cut: _cut,
    entries: _entries,
    again: _again,
    files: _files,
    mix,
    load,
    revision,
    ...around
  } = await sheetOf(cx, id, now);
  const pour = line.find((i) => i.kind === 'pour');
  if (item.kind !== 'sample' || !pour || !mix || !load || !revision) throw notFound('sample', id);
  // Its first portion is when it began.
  const createdAt = around.events.find((e) => e.kind === 'portion')?.at ?? item.at;
  return { ...around, line, id: item.id, label: item.code, createdAt, by: item.by, pour: pourView(pour, mix), mix, load, revision };
}
