import type { Routes } from '@angular/router';

export const mixesRoutes: Routes = [
  { path: '', title: 'Mixes · Keen Mortar', loadComponent: () => import('./mixes-list').then((m) => m.MixesList) },
  { path: 'import', title: 'Bring in a table · Keen Mortar', loadComponent: () => import('./import-page').then((m) => m.ImportPage) },
  { path: 'new', title: 'New mix · Keen Mortar', loadComponent: () => import('./mix-form').then((m) => m.MixForm) },
  {
    path: 'specifications/new',
    title: 'New specification · Keen Mortar',
    loadComponent: () => import('./specification-form').then((m) => m.SpecificationForm),
  },
  {
    path: 'specifications/:specificationId',
    title: 'Specification · Keen Mortar',
    loadComponent: () => import('./specification-page').then((m) => m.SpecificationPage),
  },
  {
    path: 'specifications/:replacesId/replace',
    title: 'Specification · Keen Mortar',
    loadComponent: () => import('./specification-form').then((m) => m.SpecificationForm),
  },
  { path: ':mixId', title: 'Mix · Keen Mortar', loadComponent: () => import('./mix-page').then((m) => m.MixPage) },
  {
    path: ':mixId/series',
    title: 'Strength series · Keen Mortar',
    loadComponent: () => import('./series/series-page').then((m) => m.SeriesPage),
  },
  { path: ':mixId/revise', title: 'Revise a mix · Keen Mortar', loadComponent: () => import('./mix-form').then((m) => m.MixForm) },
];
