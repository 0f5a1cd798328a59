import { Injectable, signal } from '@angular/core';

/** Whether help is shown: asked for on the shelf, by its key, or on the first screen. */
@Injectable({ providedIn: 'root' })
export class Helping {
  /** It was asked for once: what shows it is loaded. */
  readonly asked = signal(false);
  readonly open = signal(false);

  show(): void {
    this.asked.set(true);
    this.open.set(true);
  }
}
