import { inject } from '@angular/core';
import { Router } from '@angular/router';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { catchError, delay, EMPTY, expand, filter, forkJoin, map, of, reduce, switchMap, tap } from 'rxjs';
import type { Project } from '@keen-mortar/contract';
import { Api, isAway, problemOf, PROJECTS_AT_ONCE } from '../api/api';
import { session, SessionActions, WITHOUT_PERSON } from './session';

const AGAIN_AFTER = 2000;

/** Page after page: a lab of many years has more projects than one page holds. */
const allProjects = (api: Api) =>
  api.projects(0).pipe(
    expand((page, i) =>
      page.items.length > 0 && page.total > (i + 1) * PROJECTS_AT_ONCE ? api.projects((i + 1) * PROJECTS_AT_ONCE) : EMPTY,
    ),
    reduce((all: readonly Project[], page) => [...all, ...page.items], []),
  );

/** Without the server this device's clock is as far off as it was. */
const OFFSET = 'km.offset';
const lastOffset = (): number => Number(localStorage.getItem(OFFSET)) || 0;
function kept(offset: number): number {
  localStorage.setItem(OFFSET, String(offset));
  return offset;
}

/** People, projects, and how far this device's clock is off. */
export const load = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(SessionActions.opened),
      switchMap(() => {
        const asked = Date.now();
        return forkJoin({ people: api.people(), projects: allProjects(api), health: api.health().pipe(catchError(() => of(null))) }).pipe(
          map(({ people, projects, health }) =>
            SessionActions.loaded({
              people: people.items,
              projects,
              offset: health ? kept(Date.parse(health.now) - (asked + Date.now()) / 2) : lastOffset(),
            }),
          ),
          catchError((error: unknown) => of(SessionActions.loadFailed({ problem: problemOf(error) }))),
        );
      }),
    ),
  { functional: true },
);

export const loadAgain = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(SessionActions.loadFailed),
      filter(({ problem }) => isAway(problem)),
      delay(AGAIN_AFTER),
      map(() => SessionActions.opened()),
    ),
  { functional: true },
);

export const rememberPerson = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(SessionActions.personChosen),
      tap(({ personId }) => localStorage.setItem('km.person', personId)),
    ),
  { functional: true, dispatch: false },
);

export const rememberProject = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(SessionActions.projectChosen),
      tap(({ projectId }) => localStorage.setItem('km.project', projectId)),
    ),
  { functional: true, dispatch: false },
);

/** A remembered person who is not of this database has to be chosen again. */
export const askWho = createEffect(
  (actions = inject(Actions), store = inject(Store), router = inject(Router)) =>
    actions.pipe(
      ofType(SessionActions.loaded),
      // Scratch keeps no record, so it asks nobody who they are.
      filter(() => store.selectSignal(session.selectPersonId)() === null && !WITHOUT_PERSON.test(location.pathname)),
      tap(() => void router.navigateByUrl('/who')),
    ),
  { functional: true, dispatch: false },
);

export const rememberGuide = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(SessionActions.guideBegun, SessionActions.guideEnded),
      tap(({ type }) => localStorage.setItem('km.guide', type === SessionActions.guideBegun.type ? 'on' : 'ended')),
    ),
  { functional: true, dispatch: false },
);

export const showTheme = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(SessionActions.themeChosen),
      tap(({ theme }) => {
        localStorage.setItem('km.theme', theme);
        document.documentElement.dataset['theme'] = theme;
      }),
    ),
  { functional: true, dispatch: false },
);
