import type { Routes } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState } from '@ngrx/store';
import * as effects from './sheet.effects';
import { Sheet } from './sheet';
import { sheet } from './sheet.state';

export const sheetRoutes: Routes = [{ path: '', component: Sheet, providers: [provideState(sheet), provideEffects(effects)] }];
