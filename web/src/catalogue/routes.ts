import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [{ path: 'items/:id', loadComponent: () => import('./item').then((m) => m.ItemPage) }];
