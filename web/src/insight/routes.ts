import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'insight', loadComponent: () => import('./fulfilment').then((m) => m.FulfilmentPage) },
];
