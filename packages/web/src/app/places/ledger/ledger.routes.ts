import type { Routes } from '@angular/router';

export const ledgerRoutes: Routes = [
  { path: '', title: 'Ledger · Keen Mortar', loadComponent: () => import('./ledger-page').then((m) => m.LedgerPlace) },
  { path: 'reports', title: 'Reports · Keen Mortar', loadComponent: () => import('./reports-list').then((m) => m.ReportsList) },
];
