import type { AnyInputs, Keyed, PracticeId, SchoolId, Sources } from '@keen-mortar/core';
import { ACCEPTED_AT_DAYS, acceptedAges, ITEM_KINDS, schoolOf, strengthLimit } from '@keen-mortar/core';
import type { Item } from './items.js';
import type { Revision, Specification } from './office.js';
import type { Amount } from './quantities.js';
import type { Load, SampleEvent } from './resources.js';

type Row = Readonly<Record<string, unknown>> & { readonly row: string; readonly by: string };

const rowsOf = (facts: AnyInputs, id: string): readonly Row[] =>
  ((facts as Readonly<Record<string, unknown>>)[id] as Row[] | undefined) ?? [];
const factOf = <T>(item: Pick<Item, 'facts'>, id: string): T | undefined =>
  (item.facts as Readonly<Record<string, unknown>>)[id] as T | undefined;
const textOf = (keyed: unknown): string | undefined => (keyed as Keyed | undefined)?.text;

/** A load as its ticket, from what is known of the item. */
export function loadView(item: Item, revision: Pick<Revision, 'id' | 'number'>): Load {
  return {
    id: item.id,
    pourId: item.parentId!,
    revisionId: revision.id,
    revision: revision.number,
    number: item.number,
    ticket: factOf<string>(item, 'ticket') ?? '',
    truck: factOf<string>(item, 'truck') ?? '',
    batchedAt: item.at,
    design: factOf<Amount>(item, 'design')!,
    materials: rowsOf(item.facts, 'materials').map((row) => {
      const [target, moisture, absorption] = [textOf(row['target']), textOf(row['moisture']), textOf(row['absorption'])];
      const actual = row['actual'] as Keyed;
      return {
        name: row['name'] as string,
        role: row['role'] as Load['materials'][number]['role'],
        ...(target === undefined ? {} : { target }),
        actual: actual.text,
        unit: actual.unit as Load['materials'][number]['unit'],
        ...(moisture === undefined ? {} : { moisture }),
        ...(absorption === undefined ? {} : { absorption }),
      };
    }),
    water: rowsOf(item.facts, 'water').map((row) => ({ id: row.row, mass: row['mass'] as Amount, at: row['at'] as string, by: row.by })),
    voided: item.voided,
  };
}

/** What happened to an item and to what it was taken from, in its order. */
export function happenedOn(line: readonly Item[]): SampleEvent[] {
  const events = line.flatMap((item): SampleEvent[] => {
    if (item.kind === 'load') {
      const discharged = factOf<string>(item, 'discharged');
      return discharged === undefined ? [] : [{ id: `${item.id} discharged`, kind: 'discharged', at: discharged, part: null }];
    }
    if (item.kind !== 'sample') return [];
    return [
      ...rowsOf(item.facts, 'portions').map((row): SampleEvent => ({
        id: row.row,
        kind: 'portion',
        at: row['at'] as string,
        part: (row['part'] as string | undefined) ?? null,
      })),
      ...(['finished', 'molding'] as const).flatMap((kind): SampleEvent[] => {
        const at = factOf<string>(item, kind);
        return at === undefined ? [] : [{ id: `${item.id} ${kind}`, kind, at, part: null }];
      }),
    ];
  });
  return events.sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));
}

/** What an item and all that it lies in give to tests, by the names that fields of methods use. */
export function givenBy(line: readonly Item[]): Sources {
  const sources: Record<string, unknown> = {};
  for (const item of line) {
    for (const [fact, source] of Object.entries(ITEM_KINDS[item.kind].gives ?? {})) {
      const value = factOf(item, fact);
      if (value !== undefined) sources[source] = value;
    }
  }
  return sources;
}

/** By what the strength of concrete is accepted: how much, at which age, by whose rules. */
export interface Acceptance {
  readonly specified: Keyed | null;
  readonly ageDays: number;
  readonly school: SchoolId;
}

type Asks = readonly Pick<Specification, 'limits' | 'school'>[];

/** What is accepted at each age that specifications ask for, the youngest first; where they say nothing at 28 days, of no strength. */
export function acceptancesBy(specifications: Asks, { practice }: { readonly practice: PracticeId }): Acceptance[] {
  const school = specifications.find((s) => s.school !== undefined)?.school ?? schoolOf(practice);
  const ages = acceptedAges(specifications.flatMap((s) => s.limits));
  return ages.length === 0 ? [{ specified: null, ageDays: ACCEPTED_AT_DAYS, school }] : ages.map((age) => ({ ...age, school }));
}

/** What is accepted at an age; where nothing is at that one, at the first that is. */
export function acceptanceBy(specifications: Asks, project: { readonly practice: PracticeId }, ageDays?: number | null): Acceptance {
  const all = acceptancesBy(specifications, project);
  return all.find((a) => a.ageDays === ageDays) ?? all[0]!;
}

/** The specified strength: the highest that a specification asks at the least. */
export function strengthAsked(specifications: readonly Pick<Specification, 'limits'>[]): Sources {
  const asked = strengthLimit(specifications.flatMap((s) => s.limits));
  return asked ? { 'mix.strength': { text: asked.lower!, unit: asked.unit } } : {};
}

/** What the revision of a mix gives to tests. */
export const givenByMix = (revision: Revision): Sources => ({
  'mix.largest': revision.largest,
  'mix.nominal': revision.nominal,
  ...(revision.theoretical ? { 'mix.theoretical': revision.theoretical } : {}),
  ...(revision.correction === undefined ? {} : { 'mix.correction': { text: revision.correction, unit: '%' } }),
  'mix.aggregate': revision.aggregate,
});
