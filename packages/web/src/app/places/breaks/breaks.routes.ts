import type { Routes } from '@angular/router';
import { BreaksPage } from './breaks-page';

export const breaksRoutes: Routes = [
  { path: '', title: 'Breaks · Keen Mortar', component: BreaksPage },
  { path: ':specimenId', title: 'Breaks · Keen Mortar', component: BreaksPage },
];
