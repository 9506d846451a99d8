import type { Route, Routes } from '@angular/router';

/** The one page without a session. */
export const signIn: Route = {
  path: 'sign-in',
  title: 'Sign in · Kampong',
  loadComponent: () => import('./sign-in').then((m) => m.SignIn),
};

/** The pages of this room behind it. */
export const routes: Routes = [{ path: 'upkeep', loadComponent: () => import('./upkeep').then((m) => m.UpkeepPage) }];
