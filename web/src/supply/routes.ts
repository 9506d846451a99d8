import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'bench', loadComponent: () => import('./bench').then((m) => m.BenchPage) },
  { path: 'ties', loadComponent: () => import('./pairs').then((m) => m.PairsPage) },
];
