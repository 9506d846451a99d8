import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'orders', loadComponent: () => import('./list').then((m) => m.OrderList) },
  { path: 'orders/:id', loadComponent: () => import('./order').then((m) => m.OrderPage) },
  {
    path: 'orders/:id/threads',
    loadComponent: () => import('./threads').then((m) => m.OrderThreads),
  },
];
