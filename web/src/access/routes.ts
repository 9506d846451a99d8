import type { Route } from '@angular/router';

/** The one page without a session. */
export const signIn: Route = {
  path: 'sign-in',
  title: 'Sign in · Kampong',
  loadComponent: () => import('./sign-in').then((m) => m.SignIn),
};
