import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'purchases', loadComponent: () => import('./list').then((m) => m.PurchaseList) },
  { path: 'purchases/:id', loadComponent: () => import('./purchase').then((m) => m.PurchasePage) },
];
