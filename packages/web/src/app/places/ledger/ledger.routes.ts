import type { Routes } from '@angular/router';

export const ledgerRoutes: Routes = [
  { path: '', title: 'Ledger · Keen Mortar', loadComponent: () => import('./ledger-page').then((m) => m.LedgerPlace) },
];
