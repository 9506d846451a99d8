import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'workshop', loadComponent: () => import('./list').then((m) => m.WorkList) },
  { path: 'workshop/days', loadComponent: () => import('./days').then((m) => m.WorkshopDays) },
  { path: 'workshop/at', loadComponent: () => import('./centre').then((m) => m.CentrePage) },
  { path: 'workshop/at/:id', loadComponent: () => import('./centre').then((m) => m.CentrePage) },
  { path: 'workshop/:id', loadComponent: () => import('./work').then((m) => m.WorkPage) },
  { path: 'work-reports/:id', loadComponent: () => import('./work-report').then((m) => m.WorkReportPage) },
];
