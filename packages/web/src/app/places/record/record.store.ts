import { computed, inject } from '@angular/core';
import type { Item, Page, Sheet } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import type { ItemKind } from '@keen-mortar/core';
import { patchState, signalStore, withComputed, withHooks, withMethods, withState } from '@ngrx/signals';
import { rxMethod } from '@ngrx/signals/rxjs-interop';
import {
  catchError,
  EMPTY,
  filter,
  merge,
  mergeMap,
  of,
  pipe,
  Subscription,
  switchMap,
  tap,
  throttleTime,
  timer,
  type Observable,
  debounce,
} from 'rxjs';
import { Api, isAway, problemOf } from '../../api/api';
import { liveMessages } from '../../api/live';
import type { Command } from '../../device/device-db';
import { Outbox } from '../../device/outbox';

export const AT_ONCE = 25;
const TYPING = 180;
const AGAIN_AFTER = 2000;
const LOOKS_AGAIN = 1000;

interface RecordState {
  readonly list: Page<Item> | null;
  readonly sheet: Sheet | null;
  readonly problem: Problem | null;
  /** What was refused of what was written last, and why. */
  readonly refused: { readonly kind: Command['kind']; readonly problem: Problem } | null;
}

/** The record of any item: its list by kinds, and the sheet that is open. */
export const RecordStore = signalStore(
  withState<RecordState>({ list: null, sheet: null, problem: null, refused: null }),
  withComputed(({ sheet }) => {
    const outbox = inject(Outbox);
    return {
      /** What waits to be sent of this sheet. */
      waits: computed(() => outbox.commands().filter((c) => c.itemId === sheet()?.item.id && c.kind !== 'file').length),
      filesOnTheWay: computed(() => outbox.commands().filter((c) => c.itemId === sheet()?.item.id && c.kind === 'file').length),
    };
  }),
  withMethods((store) => {
    const [api, outbox] = [inject(Api), inject(Outbox)];
    const failed = (error: unknown) => {
      patchState(store, { problem: problemOf(error) });
      return EMPTY;
    };
    return {
      find: rxMethod<{ project: string; kind: ItemKind; from: number; seek: string }>(
        pipe(
          tap(() => patchState(store, { problem: null })),
          // While somebody types only the last is asked for.
          debounce(({ seek }) => timer(seek === '' ? 0 : TYPING)),
          switchMap(({ project, kind, from, seek }) =>
            api.items(project, kind, from, AT_ONCE, seek).pipe(
              tap((list) => patchState(store, { list })),
              catchError(failed),
            ),
          ),
        ),
      ),
      /** Asked for at once, and again with whatever is kept of it afterwards; while the server is away, until it is there. */
      open: rxMethod<string>(
        pipe(
          tap(() => patchState(store, { sheet: null, problem: null, refused: null })),
          switchMap((id) => {
            const ask = (): Observable<unknown> =>
              api.item(id).pipe(
                tap((sheet) => patchState(store, { sheet, problem: null })),
                catchError((error: unknown) => {
                  const problem = problemOf(error);
                  patchState(store, { problem });
                  return isAway(problem) ? timer(AGAIN_AFTER).pipe(switchMap(ask)) : EMPTY;
                }),
              );
            // What is made again by the hundred is looked at once in a while.
            const others = liveMessages(`/items/${id}`).pipe(
              filter((m) => m.kind !== 'keying'),
              throttleTime(LOOKS_AGAIN, undefined, { leading: true, trailing: true }),
            );
            return merge(of(null), others).pipe(switchMap(ask));
          }),
        ),
      ),
      refresh: rxMethod<string>(
        mergeMap((id) =>
          api.item(id).pipe(
            tap((sheet) => sheet.item.id === store.sheet()?.item.id && patchState(store, { sheet })),
            catchError(failed),
          ),
        ),
      ),
      write(commands: readonly Omit<Command, 'order'>[]): void {
        patchState(store, { refused: null });
        void outbox.put(commands.map((c) => ({ ...c, order: 0 })));
      },
      refusedWith: (refused: RecordState['refused']) => patchState(store, { refused }),
    };
  }),
  withHooks((store) => {
    const outbox = inject(Outbox);
    const heard = new Subscription();
    return {
      onInit(): void {
        heard.add(
          outbox.answered.subscribe((came) => {
            const id = store.sheet()?.item.id;
            if (came.command.itemId !== id) return;
            // What was written on the sheet of the pour is in hand there, not here: it is set aside for a person.
            if ('problem' in came && !came.command.opens.startsWith('/samples/')) {
              store.refusedWith({ kind: came.command.kind, problem: came.problem });
              // It is in hand here still, with what is wrong: nobody has to look for it elsewhere.
              void outbox.dismiss(...came.fallen.map((c) => c.id));
            }
            store.refresh(id);
          }),
        );
      },
      onDestroy(): void {
        heard.unsubscribe();
      },
    };
  }),
);
