import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'lists', loadComponent: () => import('./lists').then((m) => m.KeptLists) },
  { path: 'letterhead', loadComponent: () => import('./letterhead').then((m) => m.LetterheadPage) },
];
