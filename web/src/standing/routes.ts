import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'standing-orders', loadComponent: () => import('./list').then((m) => m.StandingList) },
  { path: 'standing-orders/:id', loadComponent: () => import('./standing').then((m) => m.StandingPage) },
];
