import type { Routes } from '@angular/router';
import { signedIn } from './frame/signed-in.guard';
import { unsavedGuard } from './shared/unsaved.guard';

export const routes: Routes = [
  {
    path: 'sign-in',
    title: 'Sign in · Allomorph',
    loadComponent: () => import('./frame/sign-in').then((m) => m.SignIn),
  },
  {
    path: '',
    loadComponent: () => import('./frame/frame').then((m) => m.Frame),
    canActivate: [signedIn],
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'library' },
      {
        path: 'library',
        title: 'Library · Allomorph',
        loadComponent: () => import('./library/library').then((m) => m.LibraryPlace),
      },
      {
        path: 'edit/:key',
        title: 'Editor · Allomorph',
        loadComponent: () => import('./editor/editor-place').then((m) => m.EditorPlace),
        canDeactivate: [unsavedGuard],
      },
      {
        path: 'variables',
        title: 'Variables · Allomorph',
        loadComponent: () => import('./variables/variables').then((m) => m.VariablesPlace),
        canDeactivate: [unsavedGuard],
      },
      {
        path: 'variation',
        title: 'Variation · Allomorph',
        loadComponent: () => import('./variation/variation').then((m) => m.VariationPlace),
      },
      {
        path: 'publications',
        title: 'Publications · Allomorph',
        loadComponent: () => import('./publications/publications').then((m) => m.PublicationsPlace),
      },
      {
        path: 'publications/:key',
        title: 'Publication · Allomorph',
        loadComponent: () => import('./publications/publication').then((m) => m.PublicationPlace),
        canDeactivate: [unsavedGuard],
      },
      {
        path: 'compare',
        title: 'Compare · Allomorph',
        loadComponent: () => import('./compare/compare').then((m) => m.ComparePlace),
      },
      {
        path: 'builds',
        title: 'Builds · Allomorph',
        loadComponent: () => import('./builds/builds').then((m) => m.BuildsPlace),
      },
    ],
  },
  { path: '**', redirectTo: 'library' },
];
