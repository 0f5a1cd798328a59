import type { Judged, Specification, VerdictState } from '../../limits/verdict.js';
import type { AnyInputs, AnyMethod } from '../../methods/definition.js';
import type { Evaluation } from '../../methods/evaluate.js';
import type { PracticeId } from '../../methods/practices.js';
import type { ItemKind } from '../../record/items.js';
import type { KitKind } from '../../record/kit.js';
import type { Designed } from '../ticket.js';
import type { System } from '../../units/units.js';
import type { Keyed } from '../../units/reading.js';
import type { SchoolId } from '../schools.js';
import type { Decision } from '../decisions.js';
import type { HistoryByProperty } from '../../methods/source-history/against-history.js';

/** What came of a test, as far as it is judged together with others. */
export type Outcome = Pick<Evaluation, 'results' | 'validity' | 'notes' | 'issues' | 'missing'>;

/** An item as it lies on a line, with what is known of it. */
export interface LineItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly parentId: string | null;
  readonly code: string;
  readonly at: string;
  readonly facts: AnyInputs;
  readonly voided: boolean;
  /** Where what was kept has a reason, by its path on record; undefined where that is not known. */
  readonly answered?: readonly string[];
}

/** An instrument that a test was made with; `calibratedOn` a day, null where it never was. */
export interface TestedWith {
  readonly id: string;
  readonly kind: KitKind;
  readonly name: string;
  readonly calibratedOn: string | null;
}

/** A test on a line, as it stands or as it is being keyed. */
export interface LineTest {
  readonly id: string;
  readonly itemId: string;
  readonly method: AnyMethod;
  readonly system: System;
  readonly startedAt: string;
  readonly by: string;
  readonly retestOf: string | null;
  readonly kit: readonly TestedWith[];
  readonly inputs: AnyInputs;
  /** Null while nothing was kept of it. */
  readonly outcome: Outcome | null;
  readonly judged: readonly Judged[];
  readonly state: VerdictState;
}

/** How the mix was batched, as far as a load is compared with it. */
export interface LineRevision {
  readonly ingredients: readonly (Designed & { readonly sgTest?: { readonly at: string } | null | undefined })[];
  readonly correction?: string | undefined;
  /** The day on which the correction factor was found, yyyy-mm-dd. */
  readonly correctionOn?: string | undefined;
}

export interface LineSpecification extends Specification {
  readonly school?: SchoolId | undefined;
}

/** Strength tests of a mix at an age that count, the oldest first, as many as its rules read. */
export interface SeriesAt {
  readonly property: string;
  readonly ageDays: number;
  readonly tests: readonly Keyed[];
  /** So many count before those. */
  readonly earlier: number;
  /** So many of the newest wait until somebody decides. */
  readonly waiting: number;
  /** What the concrete of the newest of them must meet. */
  readonly specifications: readonly LineSpecification[];
}

/**
 * Everything that is judged together: an item and all that was made of it (a load with its samples, sets and specimens; a field
 * sample with its portions), the tests on them, and what they stand on.
 */
export interface Line {
  readonly project: { readonly system: System; readonly practice: PracticeId; readonly timezone: string };
  /** What the head lies in, the top first. */
  readonly above: readonly LineItem[];
  /** The head first, each after what it lies in. */
  readonly items: readonly LineItem[];
  /** In the order in which they were made. */
  readonly tests: readonly LineTest[];
  readonly revision: LineRevision | null;
  readonly specifications: readonly LineSpecification[];
  readonly decisions: readonly Decision[];
  /** Strengths of the mix that count, before a set’s own and the oldest first, by set and part: as many as its school needs. */
  readonly series?: Readonly<Record<string, { readonly before: readonly Keyed[]; readonly earlier: number }>>;
  /** Readings of tanks and moist rooms that were not as asked, by name, the oldest first; of those that sets of the line lie in. */
  readonly storage?: Readonly<Record<string, readonly { readonly at: string; readonly day: string; readonly says: string }[]>>;
  /** What it was judged by, where something else holds for its moment by now; in words, with the day from which it does. */
  readonly replaced?: { readonly was: string; readonly now: string; readonly day: string; readonly why: string | null };
  /** What the source of each gravity test gave before it, by test. */
  readonly history?: Readonly<Record<string, HistoryByProperty>>;
  /** Tests of a source that somebody took over for its mixes, or of which a later one was. */
  readonly takenOver?: Readonly<Record<string, 'own' | 'later'>>;
  /** Of what a mix gives alone: no item lies on that line. */
  readonly mix?: { readonly id: string; readonly series: readonly SeriesAt[] };
}

/** A fact of an item, in the shape in which its kind declares it. */
export const factOf = <T>(item: Pick<LineItem, 'facts'>, id: string): T | undefined =>
  (item.facts as Readonly<Record<string, unknown>>)[id] as T | undefined;

/** Taken back itself, or something that it lies in. */
export function isGone(line: Pick<Line, 'above' | 'items'>, item: LineItem): boolean {
  if (item.voided) return true;
  const parent = [...line.items, ...line.above].find((i) => i.id === item.parentId);
  return parent !== undefined && isGone(line, parent);
}

/** Items of a kind that were not taken back. */
export const itemsOf = (line: Line, kind: ItemKind): readonly LineItem[] =>
  line.items.filter((item) => item.kind === kind && !isGone(line, item));

export const testsOf = (line: Line, item: Pick<LineItem, 'id'>): readonly LineTest[] => line.tests.filter((t) => t.itemId === item.id);
