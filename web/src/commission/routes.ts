import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'commission', loadComponent: () => import('./commission').then((m) => m.CommissionPage) },
  { path: 'commission/:id', loadComponent: () => import('./statement').then((m) => m.StatementPage) },
];
