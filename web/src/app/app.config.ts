import { provideHttpClient, withFetch, withInterceptors, withXsrfConfiguration } from '@angular/common/http';
import { provideZonelessChangeDetection, type ApplicationConfig } from '@angular/core';
import { provideRouter, TitleStrategy, withComponentInputBinding, withNavigationErrorHandler } from '@angular/router';
import { ConfirmationService, MessageService } from 'primeng/api';
import { providePrimeNG } from 'primeng/config';
import { routes } from './app.routes';
import { paperTheme } from './paper-theme';
import { PageTitle } from './shared/page-title';
import { beginAnew } from './shared/part-missing';
import { resumeAfterSignIn } from './shared/sign-in-again';

const choices = { role: 'region', 'aria-label': 'Choices' };
const scrolled = { tabindex: '0' };

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideRouter(routes, withComponentInputBinding(), withNavigationErrorHandler(beginAnew)),
    provideHttpClient(
      withFetch(),
      withXsrfConfiguration({ cookieName: 'XSRF-TOKEN', headerName: 'X-XSRF-TOKEN' }),
      withInterceptors([resumeAfterSignIn]),
    ),
    providePrimeNG({
      // Icons say nothing that the label beside them does not.
      pt: {
        button: { icon: { 'aria-hidden': 'true' } },
        dialog: {
          title: { role: 'heading', 'aria-level': '2' },
          content: { tabindex: '0' },
          pcCloseButton: { root: { 'aria-label': 'Close' } },
        },
        menu: { root: { role: 'region', 'aria-label': 'You' } },
        // Lists that open over the page are parts of it with a name, and can be scrolled by the keyboard.
        select: { pcOverlay: { root: choices }, listContainer: scrolled },
        autocomplete: { pcOverlay: { root: choices }, listContainer: scrolled },
        listbox: { listContainer: scrolled },
        splitter: {
          panel: {},
          gutter: { role: 'presentation' },
          gutterHandle: { role: 'separator', 'aria-label': 'Width of the panes' },
        },
      },
      theme: { preset: paperTheme, options: { darkModeSelector: '.dark', cssLayer: { name: 'primeng' } } },
    }),
    { provide: TitleStrategy, useExisting: PageTitle },
    MessageService,
    ConfirmationService,
  ],
};
