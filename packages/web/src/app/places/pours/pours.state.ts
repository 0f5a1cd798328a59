import type { Page, Pour, PourDetail, Problem } from '@keen-mortar/contract';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';

export const PoursActions = createActionGroup({
  source: 'Pours',
  events: {
    'List Asked': props<{ projectId: string; offset: number; limit: number }>(),
    'List Loaded': props<{ page: Page<Pour> }>(),
    'Pour Opened': props<{ pourId: string }>(),
    'Pour Asked': emptyProps(),
    'Pour Loaded': props<{ pour: PourDetail }>(),
    'Pour Closed': emptyProps(),
    Failed: props<{ problem: Problem }>(),
  },
});

interface PoursState {
  readonly list: Page<Pour> | null;
  readonly pourId: string | null;
  readonly pour: PourDetail | null;
  readonly problem: Problem | null;
}

const initial: PoursState = { list: null, pourId: null, pour: null, problem: null };

export const pours = createFeature({
  name: 'pours',
  reducer: createReducer(
    initial,
    on(PoursActions.listAsked, (state) => ({ ...state, problem: null })),
    on(PoursActions.listLoaded, (state, { page }) => ({ ...state, list: page, problem: null })),
    on(PoursActions.pourOpened, (state, { pourId }) => ({
      ...state,
      pourId,
      pour: state.pour?.id === pourId ? state.pour : null,
      problem: null,
    })),
    on(PoursActions.pourLoaded, (state, { pour }) => ({ ...state, pour, problem: null })),
    on(PoursActions.pourClosed, (state) => ({ ...state, pourId: null })),
    on(PoursActions.failed, (state, { problem }) => ({ ...state, problem })),
  ),
});
