import type { Routes } from '@angular/router';

export const benchRoutes: Routes = [
  { path: '', title: 'Bench · Keen Mortar', loadComponent: () => import('./bench-page').then((m) => m.BenchPage) },
];
