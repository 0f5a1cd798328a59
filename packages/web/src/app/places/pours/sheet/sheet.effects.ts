import { computed, inject } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import {
  catchError,
  concatMap,
  delay,
  EMPTY,
  filter,
  forkJoin,
  from,
  map,
  merge,
  mergeMap,
  of,
  switchMap,
  takeUntil,
  tap,
  throttleTime,
} from 'rxjs';
import { newId } from '../../../device/ids';
import { Clock } from '../../../device/clock';
import { liveMessages } from '../../../api/live';
import { Api, isAway, problemOf } from '../../../api/api';
import { Device } from '../../../device/device';
import { Outbox } from '../../../device/outbox';
import { session } from '../../../state/session';
import { HandActions } from '../../../state/hand';
import { handOfSheet, taken } from './sheet.hand';
import { sheet, SheetActions } from './sheet.state';
import { rows } from './sheet.view';

const AGAIN_AFTER = 1000;
const KEYING_EVERY = 3000;

/** Drafts and waiting writes of this device first, then the sheet from the server. */
export const restore = createEffect(
  (actions = inject(Actions), device = inject(Device), outbox = inject(Outbox)) =>
    actions.pipe(
      ofType(SheetActions.opened),
      switchMap(({ sampleId }) => forkJoin([device.draftsOf(sampleId), outbox.start()])),
      mergeMap(([drafts]) => [SheetActions.restored({ drafts, commands: outbox.commands() }), SheetActions.asked()]),
    ),
  { functional: true },
);

export const load = createEffect(
  (actions = inject(Actions), store = inject(Store), api = inject(Api), device = inject(Device)) =>
    actions.pipe(
      ofType(SheetActions.asked),
      switchMap(() => {
        const id = store.selectSignal(sheet.selectSampleId)();
        if (id === null) return EMPTY;
        return api.sample(id).pipe(
          tap((sample) => void device.remember(sample)),
          map((sample) => SheetActions.loaded({ sample, fromDevice: false })),
          catchError((error: unknown) => {
            const problem = problemOf(error);
            const failed = SheetActions.loadFailed({ problem });
            if (!isAway(problem) || store.selectSignal(sheet.selectSample)()) return of(failed);
            return from(device.seen(id)).pipe(map((seen) => (seen ? SheetActions.loaded({ sample: seen, fromDevice: true }) : failed)));
          }),
        );
      }),
    ),
  { functional: true },
);

export const loadAgain = createEffect(
  (actions = inject(Actions)) =>
    merge(
      actions.pipe(
        ofType(SheetActions.loadFailed),
        filter(({ problem }) => isAway(problem)),
      ),
      actions.pipe(
        ofType(SheetActions.loaded),
        filter(({ fromDevice }) => fromDevice),
      ),
    ).pipe(
      delay(AGAIN_AFTER),
      map(() => SheetActions.asked()),
    ),
  { functional: true },
);

/** Others' changes, at once. After a lost line the first message is a hello: whatever was missed is asked for. */
export const live = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(SheetActions.opened),
      switchMap(({ sampleId }) =>
        liveMessages(`/samples/${sampleId}`).pipe(
          map((m) =>
            m.kind === 'keying' && m.by && m.testId && m.method
              ? SheetActions.someoneKeying({ by: m.by, testId: m.testId, method: m.method, at: Date.now() })
              : SheetActions.asked(),
          ),
          takeUntil(actions.pipe(ofType(SheetActions.closed))),
        ),
      ),
    ),
  { functional: true },
);

/** Every change of a draft goes to the device's own store at once. */
export const saveDraft = createEffect(
  (actions = inject(Actions), store = inject(Store), device = inject(Device)) =>
    actions.pipe(
      ofType(
        SheetActions.draftBegun,
        SheetActions.draftSet,
        SheetActions.keyed,
        SheetActions.reasoned,
        SheetActions.watchStarted,
        SheetActions.watchStopped,
        SheetActions.correctionBegun,
        SheetActions.queued,
        SheetActions.refused,
      ),
      concatMap((action) => {
        const id =
          'draft' in action
            ? action.draft.testId
            : 'testId' in action
              ? action.testId
              : 'command' in action
                ? action.command.testId
                : action.keeping;
        const draft = id === undefined ? undefined : store.selectSignal(sheet.selectDrafts)()[id];
        return draft ? from(device.putDraft(draft)) : EMPTY;
      }),
    ),
  { functional: true, dispatch: false },
);

export const dropDraft = createEffect(
  (actions = inject(Actions), device = inject(Device)) =>
    merge(
      actions.pipe(
        ofType(SheetActions.draftDropped),
        map(({ testId }) => testId),
      ),
      actions.pipe(
        ofType(SheetActions.sent),
        filter(({ command }) => command.kind === 'keep'),
        map(({ command }) => command.testId),
      ),
    ).pipe(concatMap((testId) => (testId === undefined ? EMPTY : from(device.dropDraft(testId))))),
  { functional: true, dispatch: false },
);

/** What is written here goes the way of every write. With a keep, nothing is held back any longer. */
export const queue = createEffect(
  (actions = inject(Actions), outbox = inject(Outbox)) =>
    actions.pipe(
      ofType(SheetActions.queued),
      concatMap(({ commands, keeping }) => outbox.put(commands, keeping !== undefined)),
    ),
  { functional: true, dispatch: false },
);

/** What was taken back is gone from the device; what was told otherwise is on it as told last. */
export const amendHeld = createEffect(
  (actions = inject(Actions), outbox = inject(Outbox)) =>
    actions.pipe(
      ofType(SheetActions.takenBack, SheetActions.toldOtherwise),
      concatMap((action) => ('at' in action ? outbox.tellOtherwise(action.id, { at: action.at }) : outbox.takeBack(action.id))),
    ),
  { functional: true, dispatch: false },
);

/** What waits, whichever page of this device put it there. */
export const waiting = createEffect(
  (outbox = inject(Outbox)) =>
    toObservable(computed(() => ({ commands: outbox.commands(), away: outbox.away() }))).pipe(map((now) => SheetActions.waiting(now))),
  { functional: true },
);

/** What came of a write; what is given back to its draft here need not be looked at elsewhere. */
export const heard = createEffect(
  (outbox = inject(Outbox), store = inject(Store)) =>
    outbox.answered.pipe(
      tap((came) => {
        const drafts = store.selectSignal(sheet.selectDrafts)();
        if ('fallen' in came)
          void outbox.dismiss(...came.fallen.filter((c) => c.testId !== undefined && drafts[c.testId]).map((c) => c.id));
      }),
      map((came) =>
        'answer' in came
          ? SheetActions.sent({ command: came.command, answer: came.answer })
          : SheetActions.refused({ command: came.command, problem: came.problem }),
      ),
    ),
  { functional: true },
);

/** Somebody else may have kept a reading meanwhile: a refused keep looks again. */
export const lookAgain = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(SheetActions.refused),
      map(() => SheetActions.asked()),
    ),
  { functional: true },
);

export const tellKeying = createEffect(
  (actions = inject(Actions), store = inject(Store), api = inject(Api)) =>
    actions.pipe(
      ofType(SheetActions.keyed),
      throttleTime(KEYING_EVERY),
      mergeMap(({ testId }) => {
        const [sampleId, by] = [store.selectSignal(sheet.selectSampleId)(), store.selectSignal(session.selectPersonId)()];
        const method = store.selectSignal(sheet.selectDrafts)()[testId]?.method;
        return sampleId && by && method ? api.keying(sampleId, { by, testId, method }).pipe(catchError(() => EMPTY)) : EMPTY;
      }),
    ),
  { functional: true, dispatch: false },
);

/** What is in hand here, for Scratch to be filled with. */
export const showHand = createEffect(
  (store = inject(Store)) =>
    store.select(handOfSheet).pipe(
      filter((shown) => shown !== null),
      map((shown) => HandActions.shown({ hand: shown })),
    ),
  { functional: true },
);

export const handGone = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(SheetActions.closed),
      map(() => HandActions.gone()),
    ),
  {
    functional: true,
  },
);

/** Readings taken out of Scratch are keyed here, for the person to look at and keep. */
export const takeFromScratch = createEffect(
  (actions = inject(Actions), store = inject(Store), clock = inject(Clock)) =>
    actions.pipe(
      ofType(HandActions.kept),
      mergeMap(({ hand }) => {
        const sample = store.selectSignal(sheet.selectSample)();
        return sample ? taken(sample, store.selectSignal(rows)(), hand, clock.iso(), newId) : [];
      }),
    ),
  { functional: true },
);
