import {
  batchOf,
  happenedOn,
  givenBy,
  givenByMix,
  loadView,
  recipeOf,
  strengthAsked,
  type Amount,
  type FoundOfSource,
  type Item,
  type Load,
  type Project,
  type Revision,
  type SampleEvent,
  type Specification,
} from '@keen-mortar/contract';
import { MOISTURE_HOLDS_HOURS, ticketOf, ticketSources, type Given, type Sources } from '@keen-mortar/core';
import type { Cx } from '../db.js';
import { giftsWhere } from '../store/gifts.js';
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

/** What was found last of the sources of a recipe, when it was batched: moisture only of the same shift. */
async function foundOf(cx: Cx, { ingredients }: Revision, at: Date): Promise<Map<string, FoundOfSource>> {
  const sourceIds = [...new Set(ingredients.flatMap((i) => i.sourceId ?? []))];
  const gifts = await giftsWhere(
    cx,
    sourceIds.flatMap((subjectId) =>
      (['source.absorption', 'source.moisture'] as const).map((source) => ({ subjectId, source, before: at })),
    ),
  );
  const of = (subjectId: string, source: Given, since = 0): Amount | undefined => {
    const found = gifts.find((g) => g.subjectId === subjectId && g.source === source && g.at.getTime() >= since);
    return found && { text: found.text, unit: found.unit };
  };
  const since = at.getTime() - MOISTURE_HOLDS_HOURS * 3_600_000;
  return new Map(
    sourceIds.map((id) => {
      const [absorption, moisture] = [of(id, 'source.absorption'), of(id, 'source.moisture', since)];
      return [id, { ...(absorption && { absorption }), ...(moisture && { moisture }) }];
    }),
  );
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
  const [project, specifications, found] = await Promise.all([
    projectOf(cx, item.projectId),
    specificationsNamed(cx, named),
    item.kind === 'trial-batch' && revision ? foundOf(cx, revision, new Date(item.at)) : null,
  ]);
  return {
    line,
    item,
    project,
    load,
    revision,
    specifications,
    sources: {
      ...(revision ? givenByMix(revision) : {}),
      ...strengthAsked(specifications),
      ...givenBy(line),
      // Water added after batching is part of the batch: forgetting it is the usual slip in a yield.
      ...(found && revision ? { 'mix.recipe': recipeOf(revision, project.system, found) } : {}),
      ...(load && revision ? { 'ticket.batch': batchOf(load, revision) } : {}),
      ...(loadItem ? ticketSources(ticketOf(loadItem.facts)) : {}),
    },
    events: happenedOn(line),
  };
}
