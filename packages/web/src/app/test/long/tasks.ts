import type { AnyInputs, Keyed, System, UnitId } from '@keen-mortar/core';
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

export type Task = SeriesTask | CurveTask;
export type AnswerOf<T extends Task> = T extends SeriesTask ? SeriesAnswer : CurveAnswer;

export type Answer = SeriesAnswer | CurveAnswer;

/** How far it is, from 0 to 1, and with what. */
export type Tell = (share: number, doing: string) => unknown;
