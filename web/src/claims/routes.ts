import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'support', loadComponent: () => import('./support-list').then((m) => m.SupportList) },
  { path: 'support/:id', loadComponent: () => import('./support').then((m) => m.SupportPage) },
  { path: 'claims', loadComponent: () => import('./list').then((m) => m.ClaimList) },
  { path: 'claims/:id', loadComponent: () => import('./claim').then((m) => m.ClaimPage) },
];
