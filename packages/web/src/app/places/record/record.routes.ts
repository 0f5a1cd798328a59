import type { Routes } from '@angular/router';

export const recordRoutes: Routes = [
  { path: '', title: 'Record · Keen Mortar', loadComponent: () => import('./record-list').then((m) => m.RecordList) },
  { path: 'new/:kind', title: 'New · Keen Mortar', loadComponent: () => import('./new-item').then((m) => m.NewItem) },
  { path: ':itemId/mold', title: 'Molding · Keen Mortar', loadComponent: () => import('./mold/mold-page').then((m) => m.MoldPage) },
  { path: ':itemId', title: 'Sheet · Keen Mortar', loadComponent: () => import('./item-page').then((m) => m.ItemPage) },
];
