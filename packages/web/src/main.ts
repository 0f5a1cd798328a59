import { bootstrapApplication } from '@angular/platform-browser';
import { Shell } from './app/shell/shell';
import { appConfig } from './app/app.config';

bootstrapApplication(Shell, appConfig).catch((error: unknown) => console.error(error));
