import { inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { catchError, concatMap, EMPTY, forkJoin, Subject } from 'rxjs';
import { Api } from '../../api/api';

/** Nobody breaks more before the network is back. */
const MOST = 60;

/**
 * Sheets of what is in its window are asked for before their turn, one after the other: the network may be away by then, and the
 * device gives again what it was answered last. Made where things are injected.
 */
export class AskedAhead {
  private readonly api = inject(Api);
  private readonly asked = new Set<string>();
  private readonly turn = new Subject<string>();

  constructor() {
    this.turn
      .pipe(
        concatMap((id) =>
          forkJoin([this.api.item(id), this.api.breakBeside(id)]).pipe(
            catchError(() => {
              this.asked.delete(id);
              return EMPTY;
            }),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe();
  }

  /** @param ids what ends first at the top */
  want(ids: readonly string[]): void {
    for (const id of ids.slice(0, MOST)) {
      if (this.asked.has(id)) continue;
      this.asked.add(id);
      this.turn.next(id);
    }
  }
}
