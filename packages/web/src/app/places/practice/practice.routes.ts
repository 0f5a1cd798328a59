import type { Routes } from '@angular/router';

export const practiceRoutes: Routes = [
  { path: '', title: 'How this lab tests · Keen Mortar', loadComponent: () => import('./practice-page').then((m) => m.PracticePage) },
  {
    path: ':method/:variantId',
    title: 'Own figures · Keen Mortar',
    loadComponent: () => import('./own-copy-page').then((m) => m.OwnCopyPage),
  },
];
