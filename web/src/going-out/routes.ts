import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'to-go-out', loadComponent: () => import('./going-out').then((m) => m.GoingOut) },
];
