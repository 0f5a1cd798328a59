import type { Routes } from '@angular/router';

export const kitRoutes: Routes = [
  { path: '', title: 'Kit · Keen Mortar', loadComponent: () => import('./kit-list').then((m) => m.KitList) },
  { path: 'new', title: 'New in the kit · Keen Mortar', loadComponent: () => import('./new-kit').then((m) => m.NewKit) },
  { path: ':equipmentId', title: 'Kit · Keen Mortar', loadComponent: () => import('./kit-page').then((m) => m.KitPage) },
];
