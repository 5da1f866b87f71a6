import { provideHttpClient, withFetch } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideRouter, withComponentInputBinding, withRouterConfig } from '@angular/router';
import { MessageService } from 'primeng/api';
import { providePrimeNG } from 'primeng/config';
import { App } from './app/app';
import { routes } from './app/app.routes';
import { theme } from './app/theme';

bootstrapApplication(App, {
  providers: [
    provideZonelessChangeDetection(),
    MessageService,
    provideHttpClient(withFetch()),
    provideRouter(routes, withComponentInputBinding(), withRouterConfig({ paramsInheritanceStrategy: 'always' })),
    providePrimeNG({ theme: { preset: theme, options: { darkModeSelector: '.dark' } } }),
  ],
}).catch((error: unknown) => console.error(error));
