import type {
  AnyInputs,
  EarlyLate,
  Foretold,
  Keyed,
  SeriesOf,
  SeriesTest,
  SeriesView,
  ShiftCause,
  System,
  Traced,
  Trait,
  UnitId,
} from '@keen-mortar/core';
import type { Picture, Said } from './picture';

/** A long series of strength tests: pasted text, or a production that is simulated. */
export interface SeriesTask {
  readonly kind: 'series';
  readonly text: string | null;
  readonly simulate: number;
  /** Each line is a test with its companions side by side: there is nothing to accept by, only to describe. */
  readonly companions: boolean;
  readonly specified: Keyed | null;
  readonly system: System;
  readonly unit: UnitId;
}

export interface SeriesAnswer {
  readonly picture: Picture;
  readonly said: readonly Said[];
  /** What was wrong with the text, the first of it. */
  readonly faults: readonly string[];
}

/** A method asked again at places along one of its readings, for the curve that is drawn through the answers. */
export interface CurveTask {
  readonly kind: 'curve';
  readonly method: string;
  readonly variant: string;
  readonly system: System;
  readonly inputs: AnyInputs;
  readonly along: string;
  readonly places: readonly Keyed[];
  readonly results: readonly string[];
}

/** For each result the answers at the places; null where there is none. */
export type CurveAnswer = Readonly<Record<string, readonly (number | null)[]>>;

/** The strength tests of a mix on record, with what may have moved them, and the early strengths of what is still to break. */
export interface MixTask {
  readonly kind: 'mix';
  readonly tests: readonly SeriesTest[];
  readonly of: SeriesOf;
  /** Of each test, in the same order. */
  readonly traced: readonly Traced[];
  readonly traits: readonly Trait[];
  readonly pairs: readonly EarlyLate[];
  readonly early: readonly (Keyed | null)[];
}

export interface MixAnswer {
  readonly view: SeriesView;
  readonly causes: readonly ShiftCause[];
  readonly foretold: readonly (Foretold | null)[];
  readonly soFar: { readonly inside: number; readonly of: number };
}

export type Task = SeriesTask | CurveTask | MixTask;
export type AnswerOf<T extends Task> = T extends SeriesTask ? SeriesAnswer : T extends MixTask ? MixAnswer : CurveAnswer;

export type Answer = SeriesAnswer | CurveAnswer | MixAnswer;

/** How far it is, from 0 to 1, and with what. */
export type Tell = (share: number, doing: string) => unknown;
