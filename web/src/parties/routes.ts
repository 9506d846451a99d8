import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'customers/:id', loadComponent: () => import('./customer').then((m) => m.CustomerPage) },
  { path: 'vendors/:id', loadComponent: () => import('./vendor').then((m) => m.VendorPage) },
];
