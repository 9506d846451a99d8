import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'counter', loadComponent: () => import('./counter').then((m) => m.CounterPage), data: { sells: false } },
  { path: 'till', loadComponent: () => import('./counter').then((m) => m.CounterPage), data: { sells: true } },
  { path: 'till/away', loadComponent: () => import('./away').then((m) => m.AwayPage) },
  { path: 'till/:order', loadComponent: () => import('./counter').then((m) => m.CounterPage), data: { sells: true } },
  { path: 'slips', loadComponent: () => import('./slips').then((m) => m.SlipList) },
  { path: 'slips/:id', loadComponent: () => import('./slip').then((m) => m.SlipPage) },
  { path: 'drawers', loadComponent: () => import('./drawers').then((m) => m.DrawerList) },
  { path: 'drawers/:id', loadComponent: () => import('./drawer').then((m) => m.DrawerPage) },
];
