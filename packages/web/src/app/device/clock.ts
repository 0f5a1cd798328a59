import { computed, DestroyRef, inject, Injectable, signal, type Signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { session } from '../state/session';

/** What o’clock it is for everybody here: the server’s clock decides, as well as this device knows it. */
@Injectable({ providedIn: 'root' })
export class Clock {
  private readonly offset = inject(Store).selectSignal(session.selectOffset);

  /** ms */
  readonly now = (): number => Date.now() + this.offset();
  readonly iso = (): string => new Date(this.now()).toISOString();

  /**
   * The moment as old as the last tick, for as long as whoever asks is there.
   * @param every ms
   */
  ticking(every: number, gone = inject(DestroyRef)): Signal<number> {
    const device = signal(Date.now());
    const timer = setInterval(() => device.set(Date.now()), every);
    gone.onDestroy(() => clearInterval(timer));
    return computed(() => device() + this.offset());
  }

  /** A moment of the server’s by this device’s own clock: what is held back burns by it. */
  readonly onDevice = (at: number): number => at - this.offset();
}
