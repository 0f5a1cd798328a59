import type { Type } from '@angular/core';

export interface Panel {
  /** `above` the readings, where the panel is the way of keying them; `beside` them, where it shows what comes of them. */
  readonly where: 'above' | 'beside';
  load(): Promise<Type<unknown>>;
}

/** Screen parts for methods whose form is not enough, by the panel that their definition names. Each is loaded when it is needed. */
export const PANELS: Readonly<Record<string, Panel>> = {
  sieves: { where: 'beside', load: () => import('./sieves').then((m) => m.Sieves) },
};
