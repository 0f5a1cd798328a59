import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { catchError, delay, EMPTY, filter, map, of, switchMap, takeUntil } from 'rxjs';
import { Api, isAway, problemOf } from '../../api/api';
import { session, SessionActions } from '../../state/session';
import { liveMessages } from '../../api/live';
import { pours, PoursActions } from './pours.state';

const AGAIN_AFTER = 2000;

export const loadList = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(PoursActions.listAsked),
      switchMap(({ projectId, offset, limit }) =>
        api.pours(projectId, offset, limit).pipe(
          map((page) => PoursActions.listLoaded({ page })),
          catchError((error: unknown) => of(PoursActions.failed({ problem: problemOf(error) }))),
        ),
      ),
    ),
  { functional: true },
);

/** An open pour follows what others keep; its first message asks for it. */
export const livePour = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(PoursActions.pourOpened),
      switchMap(({ pourId }) =>
        liveMessages(`/pours/${pourId}`).pipe(
          map(() => PoursActions.pourAsked()),
          takeUntil(actions.pipe(ofType(PoursActions.pourClosed))),
        ),
      ),
    ),
  { functional: true },
);

export const loadPour = createEffect(
  (actions = inject(Actions), store = inject(Store), api = inject(Api)) =>
    actions.pipe(
      ofType(PoursActions.pourOpened, PoursActions.pourAsked),
      switchMap(() => {
        const id = store.selectSignal(pours.selectPourId)();
        if (id === null) return EMPTY;
        return api.pour(id).pipe(
          map((pour) => PoursActions.pourLoaded({ pour })),
          catchError((error: unknown) => of(PoursActions.failed({ problem: problemOf(error) }))),
        );
      }),
    ),
  { functional: true },
);

export const again = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(PoursActions.failed),
      filter(({ problem }) => isAway(problem) && store.selectSignal(pours.selectPourId)() !== null),
      delay(AGAIN_AFTER),
      map(() => PoursActions.pourAsked()),
    ),
  { functional: true },
);

/** Whoever opens a pour is at its project: the list goes back to where one came from. */
export const atItsProject = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(PoursActions.pourLoaded),
      filter(({ pour }) => store.selectSignal(session.selectProjectId)() !== pour.projectId),
      map(({ pour }) => SessionActions.projectChosen({ projectId: pour.projectId })),
    ),
  { functional: true },
);
