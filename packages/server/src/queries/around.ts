import {
  batchOf,
  happenedOn,
  givenBy,
  givenByMix,
  loadView,
  type Item,
  type Load,
  type Project,
  type Revision,
  type SampleEvent,
  type Specification,
} from '@keen-mortar/contract';
import type { Sources } from '@keen-mortar/core';
import type { Cx } from '../db.js';
import { lineOf } from '../store/items.js';
import { revisionOf } from '../store/mixes.js';
import { projectOf } from '../store/projects.js';
import { metBy, specificationsNamed } from '../store/specifications.js';

/** What stands around an item, for whatever is worked out on it. */
export interface Frame {
  readonly line: readonly Item[];
  readonly item: Item;
  readonly project: Project;
  readonly load: Load | null;
  readonly revision: Revision | null;
  readonly specifications: readonly Specification[];
  readonly sources: Sources;
  readonly events: readonly SampleEvent[];
}

export async function frameOf(cx: Cx, itemId: string): Promise<Frame> {
  const line = await lineOf(cx, itemId);
  const item = line.at(-1)!;
  const revisionId = line.findLast((i) => i.revisionId !== null)?.revisionId;
  const revision = revisionId ? await revisionOf(cx, revisionId) : null;
  const loadItem = line.find((i) => i.kind === 'load');
  const load = loadItem && revision ? loadView(loadItem, revision) : null;
  const named = revision
    ? revision.specificationIds
    : await metBy(
        cx,
        line.map((i) => i.id),
        new Date(item.at),
      );
  const [project, specifications] = await Promise.all([projectOf(cx, item.projectId), specificationsNamed(cx, named)]);
  return {
    line,
    item,
    project,
    load,
    revision,
    specifications,
    sources: {
      ...(revision ? givenByMix(revision) : {}),
      ...givenBy(line),
      // Water added after batching is part of the batch: forgetting it is the usual slip in a yield.
      ...(load && revision ? { 'ticket.batch': batchOf(load, revision) } : {}),
    },
    events: happenedOn(line),
  };
}
