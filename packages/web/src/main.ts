import { bootstrapApplication } from '@angular/platform-browser';
import { Shell } from './app/shell/shell';
import { appConfig } from './app/app.config';

bootstrapApplication(Shell, appConfig).catch((error: unknown) => console.error(error));

/** It can be installed, and opens without a network: what that takes is fetched once the page has what it needs to begin with. */
const AFTER_LOAD = 10_000;
if ('serviceWorker' in navigator && isSecureContext)
  setTimeout(() => {
    document.head.append(Object.assign(document.createElement('link'), { rel: 'manifest', href: '/manifest.webmanifest' }));
    void navigator.serviceWorker.register('/ngsw-worker.js').catch(() => undefined);
  }, AFTER_LOAD);
