import { provideHttpClient, withFetch, withInterceptors } from '@angular/common/http';
import { provideZonelessChangeDetection, type ApplicationConfig } from '@angular/core';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideStore } from '@ngrx/store';
import { providePrimeNG } from 'primeng/config';
import { routes } from './app.routes';
import { lastKnown } from './device/known';
import { preset } from './shell/preset';
import * as sessionEffects from './state/session.effects';
import { hand } from './state/hand';
import { session } from './state/session';

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideHttpClient(withFetch(), withInterceptors([lastKnown])),
    provideRouter(routes, withComponentInputBinding()),
    provideStore({ [session.name]: session.reducer, [hand.name]: hand.reducer }),
    provideEffects(sessionEffects),
    providePrimeNG({
      theme: { preset, options: { darkModeSelector: 'none', cssLayer: { name: 'primeng', order: 'base, primeng, app' } } },
    }),
  ],
};
