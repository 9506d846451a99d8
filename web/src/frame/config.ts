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
import { Session } from '../access';
import { join, signIn } from '../access/routes';
import { begin } from '../setup/routes';
import { Notices } from '../kit/act/notices';
import { PageForEachDocument } from './reuse';
import { PROVIDERS, ROOMS } from './rooms';
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
  signIn,
  join,
  begin,
  {
    path: '',
    canActivate: [signedIn],
    component: Shell,
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'today' },
      ...ROOMS,
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
        inject(Notices).show('That page could not be fetched just now; try again when the connection is back.'),
      ),
    ),
    PreloadLater,
    { provide: RouteReuseStrategy, useClass: PageForEachDocument },
    ...PROVIDERS,
  ],
};
