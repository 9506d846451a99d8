import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'agreements', loadComponent: () => import('./list').then((m) => m.AgreementList) },
  { path: 'agreements/:id', loadComponent: () => import('./agreement').then((m) => m.AgreementPage) },
];
