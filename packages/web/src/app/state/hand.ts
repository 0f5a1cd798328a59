import type { AnyInputs, System } from '@keen-mortar/core';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';

/** A computation as it stands: what Scratch is filled with, and what it hands back. */
export interface Hand {
  readonly method: string;
  readonly variant: string;
  readonly system: System;
  readonly inputs: AnyInputs;
}

/** What is in hand at the place in use; `keeps`: methods that the place has a record for. */
export interface InHand extends Hand {
  /** As a person names the place: `Load 3, sample Q-118`. */
  readonly where: string;
  readonly keeps: readonly string[];
}

export const HandActions = createActionGroup({
  source: 'Hand',
  events: {
    /** A place says what is in hand there. */
    Shown: props<{ hand: InHand }>(),
    Gone: emptyProps(),
    'Scratch Opened': emptyProps(),
    'Scratch Closed': emptyProps(),
    /** Out of Scratch, into the record of the place in use. */
    Kept: props<{ hand: Hand }>(),
  },
});

interface HandState {
  readonly hand: InHand | null;
  readonly scratch: boolean;
}

const initial: HandState = { hand: null, scratch: false };

export const hand = createFeature({
  name: 'hand',
  reducer: createReducer(
    initial,
    on(HandActions.shown, (state, { hand: shown }) => ({ ...state, hand: shown })),
    on(HandActions.gone, (state) => ({ ...state, hand: null })),
    on(HandActions.scratchOpened, (state) => ({ ...state, scratch: true })),
    on(HandActions.scratchClosed, HandActions.kept, (state) => ({ ...state, scratch: false })),
  ),
});
