import type { ApplicationConfig } from '@angular/core';
import { inject, provideZonelessChangeDetection } from '@angular/core';
import {
  provideRouter,
  Router,
  RouteReuseStrategy,
  withComponentInputBinding,
  withNavigationErrorHandler,
  withPreloading,
  type CanActivateFn,
  type PreloadingStrategy,
  type Route,
  type Routes,
} from '@angular/router';
import { EMPTY, timer, type Observable } from 'rxjs';
import { catchError, switchMap } from 'rxjs/operators';
import { Session } from '../access/session';
import { Quiet } from '../kit/quiet';
import { PromiseComputer } from '../promise/computer';
import { WorkerComputer } from '../promise/worker-computer';
import { TodayPage } from '../today/today';
import { PageForEachDocument } from './reuse';
import { Shell } from './shell';

/** The other rooms are fetched once the first page has had its time, so that nobody waits for them twice. */
class PreloadLater implements PreloadingStrategy {
  preload(_route: Route, load: () => Observable<unknown>): Observable<unknown> {
    return timer(PRELOAD_AFTER_MS).pipe(
      switchMap(() => load()),
      catchError(() => EMPTY),
    );
  }
}
const PRELOAD_AFTER_MS = 2500;

const signedIn: CanActivateFn = async (_route, state) => {
  const router = inject(Router);
  return (await inject(Session).known()) || router.createUrlTree(['/sign-in'], { queryParams: { to: state.url } });
};

const routes: Routes = [
  {
    path: 'sign-in',
    title: 'Sign in · Kampong',
    loadComponent: () => import('../access/sign-in').then((m) => m.SignIn),
  },
  {
    path: '',
    canActivate: [signedIn],
    component: Shell,
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'today' },
      { path: 'today', component: TodayPage },
      { path: 'agreements', loadComponent: () => import('../agreements/list').then((m) => m.AgreementList) },
      { path: 'agreements/:id', loadComponent: () => import('../agreements/agreement').then((m) => m.AgreementPage) },
      { path: 'orders', loadComponent: () => import('../orders/list').then((m) => m.OrderList) },
      { path: 'orders/:id', loadComponent: () => import('../orders/order').then((m) => m.OrderPage) },
      {
        path: 'orders/:id/threads',
        loadComponent: () => import('../orders/threads').then((m) => m.OrderThreads),
      },
      { path: 'bench', loadComponent: () => import('../bench/bench').then((m) => m.BenchPage) },
      { path: 'ties', loadComponent: () => import('../bench/pairs').then((m) => m.PairsPage) },
      { path: 'purchases', loadComponent: () => import('../purchases/list').then((m) => m.PurchaseList) },
      { path: 'purchases/:id', loadComponent: () => import('../purchases/purchase').then((m) => m.PurchasePage) },
      { path: 'planned', loadComponent: () => import('../promise/planned-list').then((m) => m.PlannedList) },
      { path: 'planned/:id', loadComponent: () => import('../promise/planned').then((m) => m.PlannedPage) },
      { path: 'repromise', loadComponent: () => import('../promise/repromise').then((m) => m.RepromisePage) },
      { path: 'planning', loadComponent: () => import('../promise/planning').then((m) => m.PlanningPage) },
      { path: 'load', loadComponent: () => import('../promise/load').then((m) => m.LoadPage) },
      { path: 'billing', loadComponent: () => import('../billing/list').then((m) => m.InvoiceList) },
      { path: 'billing/:side/:id', loadComponent: () => import('../billing/invoice').then((m) => m.InvoicePage) },
      {
        path: 'credit-notes/:id',
        loadComponent: () => import('../billing/credit-note').then((m) => m.CreditNotePage),
      },
      {
        path: 'prepayments/:id',
        loadComponent: () => import('../billing/prepayment').then((m) => m.PrepaymentPage),
      },
      { path: 'lists', loadComponent: () => import('../upkeep/lists').then((m) => m.KeptLists) },
      { path: 'mail/drafts', loadComponent: () => import('../mail/drafts').then((m) => m.DraftsPage) },
      { path: 'mail', loadComponent: () => import('../mail/mail-room').then((m) => m.MailRoom) },
      { path: 'insight', loadComponent: () => import('../insight/fulfilment').then((m) => m.FulfilmentPage) },
      { path: 'customers/:id', loadComponent: () => import('../parties/customer').then((m) => m.CustomerPage) },
      { path: 'vendors/:id', loadComponent: () => import('../parties/vendor').then((m) => m.VendorPage) },
      { path: 'items/:id', loadComponent: () => import('../parties/item').then((m) => m.ItemPage) },
      {
        path: 'receipts/:id',
        data: { kind: 'RC' },
        loadComponent: () => import('../documents/movement').then((m) => m.MovementPage),
      },
      {
        path: 'shipments/:id',
        data: { kind: 'SH' },
        loadComponent: () => import('../documents/movement').then((m) => m.MovementPage),
      },
      {
        path: 'journals/:id',
        data: { kind: 'JR' },
        loadComponent: () => import('../documents/posting').then((m) => m.PostingPage),
      },
      {
        path: 'payments/:id',
        data: { kind: 'PY' },
        loadComponent: () => import('../documents/posting').then((m) => m.PostingPage),
      },
      { path: '**', loadComponent: () => import('./nowhere').then((m) => m.Nowhere) },
    ],
  },
];

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideRouter(
      routes,
      withComponentInputBinding(),
      withPreloading(PreloadLater),
      withNavigationErrorHandler(() =>
        inject(Quiet).say('That page could not be fetched just now; try again when the connection is back.'),
      ),
    ),
    PreloadLater,
    { provide: RouteReuseStrategy, useClass: PageForEachDocument },
    { provide: PromiseComputer, useClass: WorkerComputer },
  ],
};
