import type { Routes } from '@angular/router';
import { signedIn } from './frame/signed-in.guard';
import { unsavedGuard } from './shared/unsaved.guard';

/** Places where content is read through the lens say so. */
const lens = { lens: true };

export const routes: Routes = [
  {
    path: 'sign-in',
    title: 'Sign in',
    loadComponent: () => import('./frame/sign-in').then((m) => m.SignIn),
  },
  {
    path: 'join',
    title: 'Come in',
    loadComponent: () => import('./people/join').then((m) => m.Join),
  },
  {
    path: '',
    loadComponent: () => import('./frame/frame').then((m) => m.Frame),
    canActivate: [signedIn],
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'library' },
      {
        path: 'library',
        title: 'Library',
        data: lens,
        loadComponent: () => import('./library/library').then((m) => m.LibraryPlace),
      },
      {
        path: 'checks',
        title: 'Checks',
        loadComponent: () => import('./checks/checks').then((m) => m.ChecksPlace),
        canDeactivate: [unsavedGuard],
      },
      {
        path: 'first-hour',
        title: 'First hour',
        loadComponent: () => import('./first-hour/first-hour').then((m) => m.FirstHourPlace),
      },
      {
        path: 'replace',
        title: 'Find and replace',
        loadComponent: () => import('./library/replace').then((m) => m.ReplacePlace),
      },
      {
        path: 'edit/:key',
        title: 'Editor',
        data: lens,
        loadComponent: () => import('./editor/editor-place').then((m) => m.EditorPlace),
        canDeactivate: [unsavedGuard],
      },
      {
        path: 'variables',
        title: 'Variables',
        data: lens,
        loadComponent: () => import('./variables/variables').then((m) => m.VariablesPlace),
        canDeactivate: [unsavedGuard],
      },
      {
        path: 'variation',
        title: 'Variation',
        loadComponent: () => import('./variation/variation').then((m) => m.VariationPlace),
      },
      {
        path: 'publications',
        title: 'Publications',
        loadComponent: () => import('./publications/publications').then((m) => m.PublicationsPlace),
      },
      {
        path: 'publications/:key',
        title: 'Publication',
        data: lens,
        loadComponent: () => import('./publications/publication').then((m) => m.PublicationPlace),
        canDeactivate: [unsavedGuard],
      },
      {
        path: 'design',
        title: 'Design',
        loadComponent: () => import('./design/design').then((m) => m.DesignPlace),
        canDeactivate: [unsavedGuard],
      },
      {
        path: 'compare',
        title: 'Compare',
        loadComponent: () => import('./compare/compare').then((m) => m.ComparePlace),
      },
      {
        path: 'builds',
        title: 'Builds',
        loadComponent: () => import('./builds/builds').then((m) => m.BuildsPlace),
      },
      {
        path: 'builds/:build/origin',
        title: 'Origin',
        loadComponent: () => import('./builds/origin').then((m) => m.OriginPlace),
      },
      {
        path: 'bin',
        title: 'Bin',
        loadComponent: () => import('./bin/bin').then((m) => m.BinPlace),
      },
      {
        path: 'people',
        title: 'People',
        loadComponent: () => import('./people/people').then((m) => m.PeoplePlace),
      },
      {
        path: 'settings',
        title: 'My settings',
        loadComponent: () => import('./settings/own-settings').then((m) => m.OwnSettingsPlace),
        canDeactivate: [unsavedGuard],
      },
      {
        path: '**',
        title: 'Nothing here',
        loadComponent: () => import('./frame/nothing-here').then((m) => m.NothingHere),
      },
    ],
  },
];
