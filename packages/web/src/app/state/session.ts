import type { Person, Problem, Project } from '@keen-mortar/contract';
import { createActionGroup, createFeature, createReducer, createSelector, emptyProps, on, props } from '@ngrx/store';

export type Theme = 'light' | 'dark' | 'glare';
export const THEMES: readonly Theme[] = ['light', 'dark', 'glare'];

/** Places that ask nobody who they are: those that need no record, and where a whole one is brought in. */
export const WITHOUT_PERSON = /^\/(scratch|methods|bring)(\/|$)/;

export const SessionActions = createActionGroup({
  source: 'Session',
  events: {
    Opened: emptyProps(),
    Loaded: props<{ people: readonly Person[]; projects: readonly Project[]; offset: number }>(),
    'Load Failed': props<{ problem: Problem }>(),
    'Person Chosen': props<{ personId: string }>(),
    'Project Chosen': props<{ projectId: string }>(),
    'Theme Chosen': props<{ theme: Theme }>(),
    'Guide Begun': emptyProps(),
    'Guide Ended': emptyProps(),
  },
});

interface SessionState {
  readonly people: readonly Person[];
  readonly projects: readonly Project[];
  readonly personId: string | null;
  /** The project whose pours are shown; the first one until another is chosen. */
  readonly projectId: string | null;
  readonly theme: Theme;
  /** Whether somebody is led through a first pour. */
  readonly guide: boolean;
  /** Server's clock less the device's, ms: the server's time decides. */
  readonly offset: number;
  readonly loaded: boolean;
  readonly problem: Problem | null;
}

const remembered = <T extends string>(key: string, allowed?: readonly T[]): T | null => {
  const value = localStorage.getItem(key) as T | null;
  return value !== null && (!allowed || allowed.includes(value)) ? value : null;
};

const initial: SessionState = {
  people: [],
  projects: [],
  personId: remembered('km.person'),
  projectId: remembered('km.project'),
  theme: remembered('km.theme', THEMES) ?? 'light',
  guide: remembered('km.guide') === 'on',
  offset: 0,
  loaded: false,
  problem: null,
};

export const session = createFeature({
  name: 'session',
  reducer: createReducer(
    initial,
    on(SessionActions.loaded, (state, { people, projects, offset }) => ({
      ...state,
      people,
      projects,
      offset,
      loaded: true,
      problem: null,
      // A person remembered from another database is nobody here.
      personId: people.some((p) => p.id === state.personId) ? state.personId : null,
    })),
    on(SessionActions.loadFailed, (state, { problem }) => ({ ...state, problem })),
    on(SessionActions.personChosen, (state, { personId }) => ({ ...state, personId })),
    on(SessionActions.projectChosen, (state, { projectId }) => ({ ...state, projectId })),
    on(SessionActions.themeChosen, (state, { theme }) => ({ ...state, theme })),
    on(SessionActions.guideBegun, (state) => ({ ...state, guide: true })),
    on(SessionActions.guideEnded, (state) => ({ ...state, guide: false })),
  ),
});

export const chosenPerson = session.selectPersonId;
export const project = createSelector(
  session.selectProjects,
  session.selectProjectId,
  (projects, id) => projects.find((p) => p.id === id) ?? projects[0] ?? null,
);
/** `Rosalind Oakhanger` → `R. Oakhanger`: as names stand on a shelf and in a row. */
export const initialed = (name: string): string => name.replace(/^(\p{L})\p{L}+\s+(?=\S)/u, '$1. ');

export const nameOf = createSelector(session.selectPeople, (people) => {
  const names = new Map(people.map((p) => [p.id, p.name]));
  return (id: string): string => names.get(id) ?? 'somebody';
});
