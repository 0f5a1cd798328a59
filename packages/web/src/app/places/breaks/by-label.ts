import { inject, signal, type Signal } from '@angular/core';
import type { BreakBeside, BreaksView } from '@keen-mortar/contract';
import { Store } from '@ngrx/store';
import { filter, switchMap, take, type Subscription } from 'rxjs';
import { Api, problemOf } from '../../api/api';
import { project } from '../../state/session';
import { namedBy } from './breaks.view';
import { hearScanner } from './scanner';

interface Known {
  readonly view: Signal<BreaksView | null>;
  readonly beside: Signal<BreakBeside | null>;
}

/** A specimen by its label: scanned, seen by the camera, or keyed. Made where things are injected. */
export class ByLabel {
  private readonly api = inject(Api);
  /** What was asked for before is asked for no longer. */
  private asked: Subscription | null = null;
  /** Waited for, where a label is keyed before it is known. */
  private readonly inProject = inject(Store)
    .select(project)
    .pipe(filter((p) => p !== null));
  /** As it is keyed. */
  readonly code = signal('');
  readonly notFound = signal('');
  /** Whether the camera looks for one. */
  readonly looking = signal(false);

  constructor(
    private readonly known: Known,
    private readonly taken: (specimenId: string) => void,
  ) {
    hearScanner((text) => this.find(text));
  }

  seen(text: string): void {
    this.looking.set(false);
    this.find(text);
  }

  find(text: string): void {
    const named = namedBy(text);
    this.notFound.set('');
    if (named === null) return this.notFound.set(`“${text.trim().slice(0, 40)}” is no code of a specimen: they are like D-12-B.`);
    if ('id' in named) return this.take(named.id);
    const known = [
      ...(this.known.view()?.queue.flatMap((due) => due.specimens) ?? []),
      ...(this.known.view()?.today ?? []),
      ...(this.known.beside()?.companions ?? []),
    ].find((s) => s.code === named.code);
    if (known) return this.take(known.id);
    this.asked?.unsubscribe();
    this.asked = this.inProject
      .pipe(
        take(1),
        switchMap((p) => this.api.items(p.id, 'specimen', 0, 1, named.code)),
      )
      .subscribe({
        next: ({ items }) => {
          const found = items.find((i) => i.code === named.code);
          if (found) this.take(found.id);
          else this.notFound.set(`There is no specimen ${named.code} in this project.`);
        },
        error: (e: unknown) => this.notFound.set(problemOf(e).detail),
      });
  }

  /** Nothing more is keyed where its label was: the next keys are its readings. */
  private take(id: string): void {
    this.asked?.unsubscribe();
    this.code.set('');
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
    this.taken(id);
  }
}
