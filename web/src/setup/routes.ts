import type { Route, Routes } from '@angular/router';

/** The letter of the first visitor: nobody is signed in yet. */
export const begin: Route = {
  path: 'begin',
  loadComponent: () => import('./begin').then((m) => m.BeginPage),
};

/** The pages of this room behind signing in. */
export const routes: Routes = [
  { path: 'companies/new', data: { next: true }, loadComponent: () => import('./begin').then((m) => m.BeginPage) },
  { path: 'numbers', loadComponent: () => import('./numbers').then((m) => m.NumbersPage) },
  { path: 'opening', pathMatch: 'full', redirectTo: 'opening/stock' },
  { path: 'opening/:what', loadComponent: () => import('./opening').then((m) => m.OpeningPage) },
];
