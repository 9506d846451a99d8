import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'lists', loadComponent: () => import('./lists').then((m) => m.KeptLists) },
  { path: 'bring-in', loadComponent: () => import('./bring-in').then((m) => m.BringInPage) },
  { path: 'kept/:of/:id', loadComponent: () => import('./kept-of').then((m) => m.KeptOf) },
  { path: 'letterhead', loadComponent: () => import('./letterhead').then((m) => m.LetterheadPage) },
];
