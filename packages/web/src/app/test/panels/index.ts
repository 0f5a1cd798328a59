import type { Type } from '@angular/core';

export interface Panel {
  /**
   * `above` the readings, where the panel is the way of keying them; `beside` them, where it shows what comes of them;
   * `drawn` above them where there is room, below them where the readings need it.
   */
  readonly where: 'above' | 'beside' | 'drawn';
  load(): Promise<Type<unknown>>;
}

/** Screen parts for methods whose form is not enough, by the panel that their definition names. Each is loaded when it is needed. */
export const PANELS: Readonly<Record<string, Panel>> = {
  scene: { where: 'drawn', load: () => import('./scene/scene').then((m) => m.SceneDrawing) },
  sieves: { where: 'beside', load: () => import('./sieves').then((m) => m.Sieves) },
  shares: { where: 'beside', load: () => import('./shares').then((m) => m.Shares) },
  drying: { where: 'beside', load: () => import('./drying').then((m) => m.Drying) },
  cone: { where: 'above', load: () => import('./cone').then((m) => m.Cone) },
  stones: { where: 'above', load: () => import('./stones').then((m) => m.Stones) },
  tree: { where: 'beside', load: () => import('./tree').then((m) => m.Tree) },
  trace: { where: 'beside', load: () => import('./trace').then((m) => m.Trace) },
  series: { where: 'beside', load: () => import('./series').then((m) => m.Series) },
  scatter: { where: 'beside', load: () => import('./scatter').then((m) => m.Scatter) },
  rebound: { where: 'beside', load: () => import('./rebounds').then((m) => m.Rebounds) },
  map: { where: 'beside', load: () => import('./map').then((m) => m.PotentialMap) },
  prisms: { where: 'beside', load: () => import('./prisms').then((m) => m.Prisms) },
  permeability: { where: 'beside', load: () => import('./flow').then((m) => m.Flow) },
  'weigh-up': { where: 'beside', load: () => import('./weigh-up').then((m) => m.WeighUp) },
};
