import type { Routes } from '@angular/router';

export const dayRoutes: Routes = [
  { path: '', title: 'Day · Keen Mortar', loadComponent: () => import('./day-page').then((m) => m.DayPage) },
  { path: 'hours', title: 'Opening hours · Keen Mortar', loadComponent: () => import('./hours-page').then((m) => m.HoursPage) },
  {
    path: 'people',
    title: 'People and certificates · Keen Mortar',
    loadComponent: () => import('./people-page').then((m) => m.PeoplePage),
  },
];
