import { method, rows, text, type AnyInputs, type AnyMethod, type Shape } from '../methods/definition.js';
import { ITEM_KIND_IDS, ITEM_KINDS, type ItemKind } from './items.js';

/** Rows of text that every kind of item has beside its facts; where they stand in a path. */
export const NOTES = 'notes';
export const NOTES_FIELD = rows('Notes', { text: text('Note') });
export const isNote = (path: string): boolean => path.startsWith(`${NOTES}.`);

/** What every item has beside its kind’s own facts: kept and amended like them. */
export const NAME = 'name';
export const ON = 'on';
const NAME_FIELD = text('Name');
const DAY_FIELD = text('Day', { hint: 'like 2026-05-12', optional: true });

/** All that is kept of an item of a kind. A material’s own name lies in its row: the two do not meet. */
export const itemShape = (kind: ItemKind): Shape => ({
  [NAME]: NAME_FIELD,
  [ON]: DAY_FIELD,
  [NOTES]: NOTES_FIELD,
  ...ITEM_KINDS[kind].facts,
});

/**
 * The facts of a kind as a definition, so that a form of them, its faults and its paste are those of a test. What
 * is not optional is named as missing while it is.
 */
export const factsForm = (kind: ItemKind): AnyMethod => FORMS[kind];

/** What is asked when one is made: what is known only later is added on its sheet. */
export const newForm = (kind: ItemKind): AnyMethod => NEW[kind];

/** The same with its name, where people name it, and with its day, where no fact is its moment. */
export const knownForm = (kind: ItemKind): AnyMethod => KNOWN[kind];

const isNothing = (value: unknown): boolean => (value ?? '') === '' || (Array.isArray(value) && value.length === 0);

const formsOf = (fieldsOf: (kind: ItemKind) => Shape, id: string): Readonly<Record<ItemKind, AnyMethod>> =>
  Object.fromEntries(ITEM_KIND_IDS.map((kind) => [kind, formOf(kind, fieldsOf(kind), id)])) as unknown as Readonly<
    Record<ItemKind, AnyMethod>
  >;

function formOf(kind: ItemKind, facts: Shape, id: string): AnyMethod {
  const { label, check } = ITEM_KINDS[kind];
  const needed = Object.entries(facts).flatMap(([id, f]) => (f.optional ? [] : [id]));
  return method({
    id: `${id}-of-${kind}`,
    title: label,
    names: [],
    follows: [],
    about: '',
    fields: facts,
    results: {},
    variants: { facts: { label: '', source: { designation: '', edition: '' }, params: {} } },
    steps: [],
    example: {},
    run(r) {
      const values = r.x as Readonly<Record<string, unknown>>;
      for (const id of needed) if (isNothing(values[id])) r.missing(id);
      // A row that is there is whole: a weight without its mass would be read by nobody.
      for (const [id, field] of Object.entries(facts))
        if (field.kind === 'rows')
          for (const [i, row] of ((values[id] ?? []) as readonly Readonly<Record<string, unknown>>[]).entries())
            for (const [column, of] of Object.entries(field.of as Shape))
              if (!of.optional && isNothing(row[column])) r.missing(`${id}.${i}.${column}`);
      check?.(r, r.x as AnyInputs);
    },
  });
}

const FORMS = formsOf((kind) => ITEM_KINDS[kind].facts, 'facts');
const NEW = formsOf((kind) => Object.fromEntries(Object.entries(ITEM_KINDS[kind].facts).filter(([, f]) => f.later !== true)), 'new');
const KNOWN = formsOf((kind) => {
  const { coding, at, facts } = ITEM_KINDS[kind];
  return { ...(coding.of === 'name' ? { [NAME]: NAME_FIELD } : {}), ...facts, ...(at === undefined ? { [ON]: DAY_FIELD } : {}) };
}, 'known');
