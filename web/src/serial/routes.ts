import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'serials', loadComponent: () => import('./list').then((m) => m.SerialList) },
  { path: 'serials/:id', loadComponent: () => import('./piece').then((m) => m.PiecePage) },
];
