import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'stock', loadComponent: () => import('./list').then((m) => m.StockList) },
  { path: 'carriages', loadComponent: () => import('./carriages').then((m) => m.CarriagesPage) },
  { path: 'counts', loadComponent: () => import('./count-list').then((m) => m.CountList) },
  { path: 'counts/:id', loadComponent: () => import('./count').then((m) => m.CountPage) },
  {
    path: 'receipts/:id',
    data: { kind: 'RC' },
    loadComponent: () => import('./movement').then((m) => m.MovementPage),
  },
  {
    path: 'shipments/:id',
    data: { kind: 'SH' },
    loadComponent: () => import('./movement').then((m) => m.MovementPage),
  },
];
