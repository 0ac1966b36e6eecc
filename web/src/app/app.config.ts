import { provideHttpClient, withFetch, withInterceptors, withXsrfConfiguration } from '@angular/common/http';
import { provideZonelessChangeDetection, type ApplicationConfig } from '@angular/core';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { ConfirmationService, MessageService, TreeDragDropService } from 'primeng/api';
import { providePrimeNG } from 'primeng/config';
import { routes } from './app.routes';
import { paperTheme } from './paper-theme';
import { resumeAfterSignIn } from './shared/sign-in-again';

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideRouter(routes, withComponentInputBinding()),
    provideHttpClient(
      withFetch(),
      withXsrfConfiguration({ cookieName: 'XSRF-TOKEN', headerName: 'X-XSRF-TOKEN' }),
      withInterceptors([resumeAfterSignIn]),
    ),
    providePrimeNG({
      // Icons say nothing that the label beside them does not.
      pt: {
        button: { icon: { 'aria-hidden': 'true' } },
        splitter: {
          panel: {},
          gutter: { role: 'presentation' },
          gutterHandle: { role: 'separator', 'aria-label': 'Width of the panes' },
        },
      },
      theme: { preset: paperTheme, options: { darkModeSelector: '.dark', cssLayer: { name: 'primeng' } } },
    }),
    MessageService,
    ConfirmationService,
    TreeDragDropService,
  ],
};
