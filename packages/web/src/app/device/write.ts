import { DestroyRef, inject, signal } from '@angular/core';
import type { Problem } from '@keen-mortar/contract/problem';
import { Subscription } from 'rxjs';
import type { Command } from './device-db';
import { Outbox } from './outbox';

/** One write of a form, through the outbox: on its way, waiting for the server, or refused with why. */
export class Write<T> {
  private readonly outbox = inject(Outbox);
  readonly busy = signal(false);
  readonly waits = signal(false);
  readonly problem = signal<Problem | null>(null);
  /** How this device calls what it makes without a network; null where the server will say. */
  readonly code = signal<string | null>(null);
  /** Whoever has gone on is not called back by an answer that comes later; what is refused then is set aside. */
  private heard = new Subscription();

  constructor() {
    inject(DestroyRef).onDestroy(() => this.heard.unsubscribe());
  }

  /** @param heard what else there is to do once it is kept here or on record, and where it is refused */
  send(
    command: Omit<Command, 'order'>,
    done: (answer: T) => void,
    heard: { readonly kept?: () => void; readonly refused?: (why: Problem) => void } = {},
  ): void {
    this.busy.set(true);
    this.problem.set(null);
    this.heard = this.outbox.sends<T>(command).subscribe({
      next: (came) => {
        heard.kept?.();
        this.waits.set(came === 'waits');
        this.code.set(came === 'waits' ? this.outbox.codeOf(command.id) : null);
        if (came !== 'waits') done(came.answer);
      },
      error: (why: Problem) => {
        this.busy.set(false);
        this.waits.set(false);
        this.problem.set(why);
        heard.refused?.(why);
      },
    });
  }
}
