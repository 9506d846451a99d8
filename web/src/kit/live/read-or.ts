import type { Signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { catchError, of, type Observable } from 'rxjs';

/**
 * What is read once for a page to choose from; `fallback` until it is there, and where it cannot be read: a page that is
 * being typed in goes on without it, and what is done says by itself that the server is away.
 */
export const readOr = <T>(read: Observable<T>, fallback: T): Signal<T> =>
  toSignal(read.pipe(catchError(() => of(fallback))), { initialValue: fallback });
