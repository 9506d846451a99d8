import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'billing', loadComponent: () => import('./list').then((m) => m.InvoiceList) },
  { path: 'billing/:side/:id', loadComponent: () => import('./invoice').then((m) => m.InvoicePage) },
  { path: 'credit-notes', loadComponent: () => import('./credits').then((m) => m.CreditList) },
  { path: 'prepayments', loadComponent: () => import('./prepayments').then((m) => m.PrepaymentList) },
  { path: 'open-by-age', loadComponent: () => import('./ageing').then((m) => m.AgeingPage) },
  {
    path: 'credit-notes/:id',
    loadComponent: () => import('./credit-note').then((m) => m.CreditNotePage),
  },
  {
    path: 'prepayments/:id',
    loadComponent: () => import('./prepayment').then((m) => m.PrepaymentPage),
  },
];
