import type { Route, Routes } from '@angular/router';

/** Pages without a session. */
export const signIn: Route = {
  path: 'sign-in',
  title: 'Sign in · Kampong',
  loadComponent: () => import('./sign-in').then((m) => m.SignIn),
};

/** Where a link of an invitation leads. */
export const join: Route = {
  path: 'join',
  title: 'Invited · Kampong',
  loadComponent: () => import('./join').then((m) => m.JoinPage),
};

/** The pages of this room behind it. */
export const routes: Routes = [
  { path: 'upkeep', loadComponent: () => import('./upkeep').then((m) => m.UpkeepPage) },
  { path: 'people', loadComponent: () => import('./people').then((m) => m.PeoplePage) },
  { path: 'own', loadComponent: () => import('./own').then((m) => m.OwnPage) },
];
