import { METHODS, type AnyMethod, type Citation } from '@keen-mortar/core';
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
    // A designation is not the beginning of a longer one: `C 39` is not `C 39x`.
    prefix: (term) => !/\d$/.test(term),
    // `slupm` and `slup` find what was meant; numbers, and words shorter than these, have to be right.
    fuzzy: (term) => (/^[a-z]{4,}$/.test(term) ? (term.length > 4 ? 2 : 1) : false),
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

/** A designation as people type it: without its publisher and spaces. */
const plain = (text: string): string =>
  text
    .toLowerCase()
    .replace(/\b(astm|aashto|iso)\b/g, '')
    .replace(/[^a-z0-9]+/g, '');

const named = (c: Citation, bare: string): boolean => [c.designation, c.designation.split('/')[0]!].some((d) => plain(d) === bare);

const byId = new Map(ALL.map((found) => [found.id, found]));

/** Methods by any of their names, likeliest first; a name typed out comes before everything else. */
export function find(query: string): readonly Found[] {
  const words = query.trim().toLowerCase();
  if (words === '') return ALL;
  const exact = METHODS.filter((m) => [m.id, m.title, ...m.names].some((name) => name.toLowerCase() === words)).map((m) => m.id);
  // Typed as a designation: the method that the test is named after comes before those that only follow it too.
  const bare = plain(words);
  const first = METHODS.filter((m) => named(m.follows[0]!, bare)).map((m) => m.id);
  const designated = METHODS.filter((m) => m.follows.some((c) => named(c, bare))).map((m) => m.id);
  const found = index.search(words).map(({ id }) => String(id));
  return [...new Set([...exact, ...first, ...designated, ...found])].map((id) => byId.get(id)!);
}
