import { inject } from '@angular/core';
import { Router, type CanActivateFn, type Routes } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState, Store } from '@ngrx/store';
import { chosenPerson } from './state/session';
import { pours } from './places/pours/pours.state';
import * as poursEffects from './places/pours/pours.effects';

/** Every reading carries a person: nobody gets in without saying who is at the device. */
const somebody: CanActivateFn = (_route, state) =>
  inject(Store).selectSignal(chosenPerson)() === null
    ? inject(Router).createUrlTree(['/who'], state.url === '/day' ? {} : { queryParams: { then: state.url } })
    : true;

export const routes: Routes = [
  { path: '', pathMatch: 'full', redirectTo: 'day' },
  { path: 'who', title: 'Who is here · Keen Mortar', loadComponent: () => import('./shell/who').then((m) => m.Who) },
  {
    path: 'scratch',
    title: 'Scratch · Keen Mortar',
    loadComponent: () => import('./places/scratch/scratch-page').then((m) => m.ScratchPage),
  },
  {
    path: 'scratch/plan',
    title: 'Plan backwards · Keen Mortar',
    loadComponent: () => import('./places/scratch/plan/plan-page').then((m) => m.PlanPage),
  },
  {
    path: 'scratch/:method',
    title: 'Scratch · Keen Mortar',
    loadComponent: () => import('./places/scratch/scratch-page').then((m) => m.ScratchPage),
  },
  {
    path: 'bring',
    title: 'Bring in a record · Keen Mortar',
    loadComponent: () => import('./places/ledger/bring-page').then((m) => m.BringPage),
  },
  { path: 'methods/:method', loadComponent: () => import('./places/scratch/method-page').then((m) => m.MethodPage) },
  {
    path: '',
    canActivate: [somebody],
    providers: [provideState(pours), provideEffects(poursEffects)],
    children: [
      { path: 'pours', title: 'Pours · Keen Mortar', loadComponent: () => import('./places/pours/pours-list').then((m) => m.PoursList) },
      {
        path: 'pours/new',
        title: 'New pour · Keen Mortar',
        loadComponent: () => import('./places/pours/pour-form').then((m) => m.PourForm),
      },
      {
        path: 'pours/:pourId',
        title: 'Pour · Keen Mortar',
        loadComponent: () => import('./places/pours/pour-page').then((m) => m.PourPage),
      },
      {
        path: 'pours/:pourId/loads/new',
        title: 'New load · Keen Mortar',
        loadComponent: () => import('./places/pours/load-form').then((m) => m.LoadForm),
      },
      { path: 'day', loadChildren: () => import('./places/day/day.routes').then((m) => m.dayRoutes) },
      { path: 'breaks', loadChildren: () => import('./places/breaks/breaks.routes').then((m) => m.breaksRoutes) },
      { path: 'bench', loadChildren: () => import('./places/bench/bench.routes').then((m) => m.benchRoutes) },
      { path: 'kit', loadChildren: () => import('./places/kit/kit.routes').then((m) => m.kitRoutes) },
      { path: 'ledger', loadChildren: () => import('./places/ledger/ledger.routes').then((m) => m.ledgerRoutes) },
      {
        path: 'reports/:reportId',
        title: 'Report · Keen Mortar',
        loadComponent: () => import('./places/ledger/report-page').then((m) => m.ReportPage),
      },
      {
        path: 'decisions',
        title: 'Decisions · Keen Mortar',
        loadComponent: () => import('./places/decisions/decisions-page').then((m) => m.DecisionsPlace),
      },
      { path: 'practice', loadChildren: () => import('./places/practice/practice.routes').then((m) => m.practiceRoutes) },
      { path: 'mixes', loadChildren: () => import('./places/mixes/mixes.routes').then((m) => m.mixesRoutes) },
      {
        path: 'sources/:sourceId',
        title: 'Source · Keen Mortar',
        loadComponent: () => import('./places/mixes/source-page').then((m) => m.SourcePage),
      },
      { path: 'record', loadChildren: () => import('./places/record/record.routes').then((m) => m.recordRoutes) },
      {
        path: 'samples/:sampleId',
        title: 'Sample · Keen Mortar',
        loadChildren: () => import('./places/pours/sheet/sheet.routes').then((m) => m.sheetRoutes),
      },
    ],
  },
  { path: '**', title: 'Not here · Keen Mortar', loadComponent: () => import('./shell/not-here').then((m) => m.NotHere) },
];
