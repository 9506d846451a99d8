import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'rounds', loadComponent: () => import('./rounds').then((m) => m.RoundsPage) },
  { path: 'rounds/:id/:day', loadComponent: () => import('./run').then((m) => m.RunPage) },
];
