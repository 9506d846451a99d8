import type { Provider } from '@angular/core';
import type { Routes } from '@angular/router';
import { PromiseComputer } from './computer';
import { WorkerComputer } from './worker-computer';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'planned', redirectTo: 'workshop', pathMatch: 'full' },
  { path: 'planned/:id', loadComponent: () => import('./planned-order').then((m) => m.PlannedPage) },
  { path: 'repromise', loadComponent: () => import('./repromise').then((m) => m.RepromisePage) },
  { path: 'planning', loadComponent: () => import('./planning').then((m) => m.PlanningPage) },
  { path: 'load', loadComponent: () => import('./load').then((m) => m.LoadPage) },
];

/** Promises are computed in a web worker. */
export const providers: Provider[] = [{ provide: PromiseComputer, useClass: WorkerComputer }];
