import { inject } from '@angular/core';
import { map, type Observable } from 'rxjs';
import { Session } from '../access';
import { Counter, type TillNow } from './service';

/** Where a device keeps the till it stands at. */
export const tillKey = (companyId: number | undefined) => `kampong-till-${companyId ?? ''}`;

/** The till one stands at, else the first that is open, else the first; in an injection context. */
export function tillHere(): Observable<TillNow | null> {
  const here = Number(localStorage.getItem(tillKey(inject(Session).company()?.id)) ?? '0');
  return inject(Counter)
    .tills()
    .pipe(
      map(
        ({ rows }) =>
          rows.find(({ id }) => id === here) ?? rows.find(({ drawer }) => drawer !== null) ?? rows[0] ?? null,
      ),
    );
}
