import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'planned', loadComponent: () => import('./planned-list').then((m) => m.PlannedList) },
  { path: 'planned/:id', loadComponent: () => import('./planned').then((m) => m.PlannedPage) },
  { path: 'repromise', loadComponent: () => import('./repromise').then((m) => m.RepromisePage) },
  { path: 'planning', loadComponent: () => import('./planning').then((m) => m.PlanningPage) },
  { path: 'load', loadComponent: () => import('./load').then((m) => m.LoadPage) },
];
