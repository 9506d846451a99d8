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
  { path: 'accounts', loadComponent: () => import('./accounts').then((m) => m.AccountsPage) },
  { path: 'accounts/:id', loadComponent: () => import('./entries').then((m) => m.EntriesPage) },
  { path: 'trail', loadComponent: () => import('./trail-page').then((m) => m.TrailPage) },
  { path: 'months', loadComponent: () => import('./periods').then((m) => m.PeriodsPage) },
];
