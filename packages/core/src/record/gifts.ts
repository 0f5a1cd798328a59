import type { AnyInputs, AnyMethod, Field, Gift, Given, Shape, Source } from '../methods/definition.js';
import type { Evaluation } from '../methods/evaluate.js';
import { METHODS } from '../methods/register.js';
import type { Keyed } from '../units/reading.js';

/** What a test gives to others. */
export interface Giving extends Gift {
  readonly value: Keyed;
}

/**
 * What a kept test gives to other tests: results as they are reported, readings as they were keyed; of a test that is
 * void nothing.
 */
export function giftsOf(m: AnyMethod, e: Evaluation, inputs: AnyInputs): Giving[] {
  if (e.validity.state === 'void') return [];
  return Object.entries((m.gives ?? {}) as Readonly<Record<string, Gift>>).flatMap(([id, gift]): Giving[] => {
    const result = e.results.find((r) => r.id === id);
    // A word is given as one: what takes it chooses it.
    const word = result?.state === 'given' ? result.words?.[0] : undefined;
    if (word !== undefined) return [{ ...gift, value: { text: word, unit: '1' } }];
    const text = result?.state === 'given' ? (result.reported ?? result.unrounded) : null;
    if (result) return text === null ? [] : [{ ...gift, value: { text, unit: result.unit } }];
    const keyed = (inputs as Readonly<Record<string, Keyed | null | undefined>>)[id];
    return keyed ? [{ ...gift, value: { text: keyed.text, unit: keyed.unit } }] : [];
  });
}

/** What tests give, and to whom. */
const GIFTS: ReadonlyMap<Given, Gift['to']> = new Map(
  METHODS.flatMap((m) => Object.values((m.gives ?? {}) as Readonly<Record<string, Gift>>).map(({ as, to }) => [as, to] as const)),
);

const isGiven = (source: Source | undefined): source is Given => source !== undefined && GIFTS.has(source as Given);

export interface Taking {
  /** Of the same item, or of what it was made of. */
  readonly item: readonly Given[];
  /** Of the same mix or source, before it. */
  readonly subject: readonly Given[];
  /** Of each item that was made of this one; null where it takes no rows of them. */
  readonly made: readonly Source[] | null;
}

const takingOf = (m: AnyMethod): Taking => {
  const fields = Object.values(m.fields as Shape);
  const own = fields.map((f) => f.from ?? f.takes).filter(isGiven);
  const made = fields.flatMap((f): Source[] =>
    f.kind === 'rows' && f.made ? Object.values(f.of as Shape).flatMap((column: Field) => column.takes ?? []) : [],
  );
  return {
    item: own.filter((source) => GIFTS.get(source) === 'item'),
    subject: own.filter((source) => GIFTS.get(source) === 'subject'),
    made: made.length === 0 ? null : made,
  };
};

const TAKINGS: ReadonlyMap<string, Taking> = new Map(METHODS.map((m) => [m.id, takingOf(m)]));

/** What a method takes of what other tests give. */
export const takenBy = (m: Pick<AnyMethod, 'id'>): Taking => TAKINGS.get(m.id)!;

const given = (m: AnyMethod): readonly Gift[] => Object.values((m.gives ?? {}) as Readonly<Record<string, Gift>>);
const idsOf = (takes: (t: Taking) => boolean): string[] => [...TAKINGS].flatMap(([id, t]) => (takes(t) ? [id] : []));

/** Methods whose tests of the same item, or of what is made of it, take something that this one gives. */
export const takersBelow = (m: AnyMethod): string[] => idsOf((t) => given(m).some(({ as }) => t.item.includes(as)));

/** Methods that take, row by row, something that tests of this one give of each item that was made of theirs. */
export const takersAbove = (m: AnyMethod): string[] => idsOf((t) => given(m).some(({ as }) => t.made?.includes(as) === true));

/** Methods that take rows of the items that were made of theirs. */
export const ROW_TAKERS: readonly string[] = idsOf((t) => t.made !== null);
