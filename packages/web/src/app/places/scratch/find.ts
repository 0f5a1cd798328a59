import { METHODS, type AnyMethod } from '@keen-mortar/core';
import MiniSearch from 'minisearch';

export interface Found {
  readonly id: string;
  readonly title: string;
  readonly follows: string;
  readonly about: string;
}

const entry = (m: AnyMethod): Found => ({
  id: m.id,
  title: m.title,
  follows: [...new Set(m.follows.map((c) => c.designation))].join(', '),
  about: m.about,
});

/** Not a method: a plan of work, with a page of its own. */
export const PLAN: Found = {
  id: 'plan',
  title: 'Plan backwards',
  follows: '',
  about: 'When to put in the oven, soak, drain, break: from one wished moment, against the opening hours.',
};
const PLAN_NAMES = 'plan planning backwards schedule when soak drain oven break calendar opening hours';

export const ALL: readonly Found[] = [PLAN, ...METHODS.map(entry)];

const index = new MiniSearch<{ id: string; title: string; names: string; follows: string; about: string }>({
  fields: ['title', 'names', 'follows', 'about'],
  searchOptions: {
    prefix: true,
    // `C 39` and `slupm` find what was meant; short words have to be right.
    fuzzy: (term) => (term.length > 4 ? 0.2 : false),
    boost: { title: 4, names: 3, follows: 2, about: 0.5 },
    combineWith: 'AND',
  },
  tokenize: (text) =>
    text
      .toLowerCase()
      // `C 39` is one name, however it is spaced.
      .replace(/\b([a-z]{1,2})\s+(?=\d)/g, '$1')
      .split(/[^a-z0-9µ°]+/)
      .filter(Boolean),
});
index.addAll(
  METHODS.map((m) => ({
    id: m.id,
    title: m.title,
    names: m.names.join(' '),
    follows: m.follows.map((c) => c.designation).join(' '),
    about: m.about,
  })),
);

index.add({ ...PLAN, names: PLAN_NAMES });

const byId = new Map(ALL.map((found) => [found.id, found]));

/** Methods by any of their names, likeliest first; a name typed out comes before everything else. */
export function find(query: string): readonly Found[] {
  const words = query.trim().toLowerCase();
  if (words === '') return ALL;
  const exact = METHODS.filter((m) => [m.id, m.title, ...m.names].some((name) => name.toLowerCase() === words)).map((m) => m.id);
  const found = index.search(words).map(({ id }) => String(id));
  return [...new Set([...exact, ...found])].map((id) => byId.get(id)!);
}
