import type { Routes } from '@angular/router';

/** The pages of this room. */
export const routes: Routes = [
  { path: 'mail/drafts', loadComponent: () => import('./drafts').then((m) => m.DraftsPage) },
  { path: 'mail', loadComponent: () => import('./mail-room').then((m) => m.MailRoom) },
];
