import { inject } from '@angular/core';
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
  timer,
} from 'rxjs';
import { liveMessages } from '../../../api/live';
import { Api, isAway, problemOf } from '../../../api/api';
import { Device } from '../../../device/device';
import { session } from '../../../state/session';
import { HandActions } from '../../../state/hand';
import { handOfSheet, taken } from './sheet.hand';
import { fallsWith, sheet, SheetActions } from './sheet.state';
import { rows } from './sheet.view';

const AGAIN_AFTER = 1000;
const KEYING_EVERY = 3000;

/** Drafts and waiting writes of this device first, then the sheet from the server. */
export const restore = createEffect(
  (actions = inject(Actions), device = inject(Device)) =>
    actions.pipe(
      ofType(SheetActions.opened),
      switchMap(({ sampleId }) => forkJoin([device.draftsOf(sampleId), device.commands()])),
      mergeMap(([drafts, commands]) => [SheetActions.restored({ drafts, commands }), SheetActions.asked()]),
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

/** Writes are on the device before they are sent: pulled plugs lose nothing. */
export const queue = createEffect(
  (actions = inject(Actions), device = inject(Device)) =>
    actions.pipe(
      ofType(SheetActions.queued),
      concatMap(({ commands }) => from(device.putCommands(commands))),
      map(() => SheetActions.drain()),
    ),
  { functional: true },
);

export const drainNext = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(SheetActions.restored, SheetActions.sent, SheetActions.refused),
      map(() => SheetActions.drain()),
    ),
  { functional: true },
);

export const drainAgain = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(SheetActions.away),
      switchMap(() => timer(AGAIN_AFTER)),
      map(() => SheetActions.drain()),
    ),
  { functional: true },
);

/** What was taken back is gone from the device; what was told otherwise is on it as told last. */
export const amendHeld = createEffect(
  (actions = inject(Actions), store = inject(Store), device = inject(Device)) =>
    actions.pipe(
      ofType(SheetActions.takenBack, SheetActions.toldOtherwise),
      concatMap(({ id }) => {
        const command = store
          .selectSignal(sheet.selectCommands)()
          .find((c) => c.id === id);
        return from(command ? device.putCommands([command]) : device.dropCommand(id));
      }),
    ),
  { functional: true, dispatch: false },
);

/** A write that is held back goes when its time is over. */
export const drainHeld = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(SheetActions.drain),
      map(() =>
        Math.min(
          ...store
            .selectSignal(sheet.selectCommands)()
            .map((c) => c.heldUntil ?? Infinity),
        ),
      ),
      filter((first) => Number.isFinite(first) && first > Date.now()),
      switchMap((first) => timer(first - Date.now() + 1)),
      map(() => SheetActions.drain()),
    ),
  { functional: true },
);

/** Sends the oldest write, one at a time and in order: a test is made before its readings are kept. */
export const send = createEffect(
  (actions = inject(Actions), store = inject(Store), api = inject(Api), device = inject(Device)) =>
    actions.pipe(
      ofType(SheetActions.drain),
      concatMap(() => {
        const command = store
          .selectSignal(sheet.selectCommands)()
          .find(({ heldUntil }) => (heldUntil ?? 0) <= Date.now());
        if (!command) return EMPTY;
        return api.write(command.path, command.body).pipe(
          mergeMap((answer) => from(device.dropCommand(command.id)).pipe(map(() => SheetActions.sent({ command, answer })))),
          catchError((error: unknown) => {
            const problem = problemOf(error);
            if (isAway(problem)) return of(SheetActions.away());
            const fallen = store
              .selectSignal(sheet.selectCommands)()
              .filter((c) => fallsWith(command, c));
            return from(Promise.all(fallen.map((c) => device.dropCommand(c.id)))).pipe(
              map(() => SheetActions.refused({ command, problem })),
            );
          }),
        );
      }),
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
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(HandActions.kept),
      mergeMap(({ hand }) => {
        const sample = store.selectSignal(sheet.selectSample)();
        const offset = store.selectSignal(session.selectOffset)();
        const now = new Date(Date.now() + offset).toISOString();
        return sample ? taken(sample, store.selectSignal(rows)(), hand, now, () => crypto.randomUUID()) : [];
      }),
    ),
  { functional: true },
);
