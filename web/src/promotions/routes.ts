import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'promotions', loadComponent: () => import('./list').then((m) => m.PromotionList) },
  { path: 'promotions/:id', loadComponent: () => import('./promotion').then((m) => m.PromotionPage) },
];
