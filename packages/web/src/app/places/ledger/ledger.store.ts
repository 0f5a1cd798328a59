import { computed, inject } from '@angular/core';
import type { LedgerCounts, LedgerRow, LedgerView, Test, TestTurn, Report } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import type { VerdictState } from '@keen-mortar/core';
import { patchState, signalStore, withComputed, withMethods, withState } from '@ngrx/signals';
import { rxMethod } from '@ngrx/signals/rxjs-interop';
import { catchError, debounceTime, EMPTY, exhaustMap, filter, forkJoin, pipe, switchMap, tap } from 'rxjs';
import { Api, problemOf } from '../../api/api';
import type { Asked } from './asked';

const AT_ONCE = 60;
const TYPING = 150;

interface Question {
  readonly project: string;
  readonly asked: Asked;
}

interface LedgerState {
  readonly question: Question | null;
  readonly rows: readonly LedgerRow[];
  readonly next: string | null;
  readonly counts: LedgerCounts | null;
  readonly views: readonly LedgerView[];
  readonly loading: boolean;
  readonly problem: Problem | null;
  readonly thread: { readonly test: Test; readonly turns: readonly TestTurn[]; readonly reports: readonly Report[] } | null;
}

/** Of the newest: how many there are of each state, and of each week. */
export interface Week {
  readonly week: string;
  readonly count: number;
  readonly outs: number;
}

/** The tests that were asked for, as far as they were looked at; and the thread of the one that is open. */
export const LedgerStore = signalStore(
  withState<LedgerState>({
    question: null,
    rows: [],
    next: null,
    counts: null,
    views: [],
    loading: false,
    problem: null,
    thread: null,
  }),
  withComputed(({ counts }) => ({
    total: computed(() => counts()?.weeks.reduce((sum, w) => sum + w.count, 0) ?? null),
    states: computed(() => {
      const found = new Map<VerdictState, number>();
      for (const w of counts()?.weeks ?? []) found.set(w.state, (found.get(w.state) ?? 0) + w.count);
      return found;
    }),
    marked: computed(() => counts()?.weeks.reduce((sum, w) => sum + (w.marked ? w.count : 0), 0) ?? 0),
    weeks: computed((): Week[] => {
      const found = new Map<string, Week>();
      for (const w of counts()?.weeks ?? []) {
        const before = found.get(w.week) ?? { week: w.week, count: 0, outs: 0 };
        found.set(w.week, { week: w.week, count: before.count + w.count, outs: before.outs + (w.state === 'out' ? w.count : 0) });
      }
      return [...found.values()];
    }),
  })),
  withMethods((store) => {
    const api = inject(Api);
    const failed = (error: unknown) => {
      patchState(store, { problem: problemOf(error), loading: false });
      return EMPTY;
    };
    const page = ({ project, asked }: Question, after?: string) =>
      api.ledger(project, { ...asked, limit: String(AT_ONCE), ...(after === undefined ? {} : { after }) });
    return {
      ask: rxMethod<Question>(
        pipe(
          tap(() => patchState(store, { loading: true, problem: null })),
          debounceTime(TYPING),
          switchMap((question) =>
            page(question).pipe(
              tap(({ rows, next }) => patchState(store, { question, rows, next, loading: false })),
              catchError(failed),
            ),
          ),
        ),
      ),
      /** The next page behind the last row. */
      more: rxMethod<void>(
        pipe(
          filter(() => store.next() !== null && store.question() !== null && !store.loading()),
          exhaustMap(() => {
            const question = store.question()!;
            return page(question, store.next()!).pipe(
              tap(({ rows, next }) => {
                // Something else may have been asked for meanwhile.
                if (store.question() === question) patchState(store, { rows: [...store.rows(), ...rows], next });
              }),
              catchError(failed),
            );
          }),
        ),
      ),
      /** Chips count what they would find: without what they choose themselves. */
      count: rxMethod<Question>(
        pipe(
          debounceTime(TYPING),
          switchMap(({ project, asked }) => {
            const { state: _s, marked: _m, sort: _o, order: _d, ...rest } = asked;
            return api.ledgerCounts(project, rest).pipe(
              tap((counts) => patchState(store, { counts })),
              catchError(() => EMPTY),
            );
          }),
        ),
      ),
      open: rxMethod<string | null>(
        switchMap((testId) => {
          if (testId === null) {
            patchState(store, { thread: null });
            return EMPTY;
          }
          return forkJoin([api.test(testId), api.turns(testId), api.reportsOfTest(testId)]).pipe(
            tap(([test, turns, reports]) => patchState(store, { thread: { test, turns: turns.items, reports: reports.items } })),
            catchError(failed),
          );
        }),
      ),
      loadViews: rxMethod<{ project: string; by: string }>(
        switchMap(({ project, by }) =>
          api.ledgerViews(project, by).pipe(
            tap(({ items }) => patchState(store, { views: items })),
            catchError(() => EMPTY),
          ),
        ),
      ),
    };
  }),
);
