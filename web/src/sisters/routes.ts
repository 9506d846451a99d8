import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'tray', loadComponent: () => import('./tray').then((m) => m.TrayPage) },
  { path: 'sisters', loadComponent: () => import('./sisters').then((m) => m.SistersPage) },
  { path: 'sisters/:id', loadComponent: () => import('./pair').then((m) => m.PairPage) },
  {
    path: 'sisters/:id/reconciliation',
    loadComponent: () => import('./reconciliation').then((m) => m.ReconciliationPage),
  },
];
