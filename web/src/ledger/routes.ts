import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  {
    path: 'journals/:id',
    data: { kind: 'JR' },
    loadComponent: () => import('./posting').then((m) => m.PostingPage),
  },
  {
    path: 'payments/:id',
    data: { kind: 'PY' },
    loadComponent: () => import('./posting').then((m) => m.PostingPage),
  },
  { path: 'months', loadComponent: () => import('./periods').then((m) => m.PeriodsPage) },
];
