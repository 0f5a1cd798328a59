import type { Reading } from '@keen-mortar/contract';
import { entriesOf, inForce } from '@keen-mortar/contract';
import { assemble, ITEM_KINDS, itemShape, NAME, NOTES, ON, type AnyInputs, type ItemKind } from '@keen-mortar/core';

/** What the entries of an item say now: its name and day, and its facts with the row and the maker of each row. */
export interface FactsNow {
  readonly name: string | null;
  readonly on: string | null;
  readonly at: string | null;
  readonly facts: AnyInputs;
  /** Where what stands has a reason, by its path. */
  readonly answered: readonly string[];
}

export function factsOf(kind: ItemKind, entries: readonly Reading[]): FactsNow {
  const { inputs, rows } = assemble(itemShape(kind), entriesOf(entries));
  const { [NAME]: name, [ON]: on, [NOTES]: _notes, ...facts } = inputs as Readonly<Record<string, unknown>>;
  const by = new Map(entries.map((e) => [rowOf(e.field), e.by]));
  const named = Object.fromEntries(
    Object.entries(facts).map(([id, value]) => {
      const ids = rows.get(id);
      return [id, ids ? (value as AnyInputs[]).map((row, i) => ({ ...row, row: ids[i]!, by: by.get(`${id}.${ids[i]!}`) })) : value];
    }),
  );
  const at = ITEM_KINDS[kind].at;
  return {
    name: (name as string | undefined) ?? null,
    on: (on as string | undefined) ?? null,
    at: at === undefined ? null : ((facts[at] as string | undefined) ?? null),
    facts: named as AnyInputs,
    answered: [...inForce(entries)].flatMap(([path, e]) => (e.reason === null ? [] : [path])).sort(),
  };
}

const rowOf = (path: string): string => path.split('.').slice(0, 2).join('.');
