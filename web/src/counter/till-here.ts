import { computed, inject, type Signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Session } from '../access';
import { Counter, type TillNow } from './service';

/** Where a device keeps the till it stands at. */
export const tillKey = (companyId: number | undefined) => `kampong-till-${companyId ?? ''}`;

/** The till one stands at, else the first that is open, else the first; in an injection context. */
export function tillHere(): Signal<TillNow | null> {
  const tills = toSignal(inject(Counter).tills());
  const here = Number(localStorage.getItem(tillKey(inject(Session).company()?.id)) ?? '0');
  return computed(() => {
    const rows = tills()?.rows ?? [];
    return rows.find(({ id }) => id === here) ?? rows.find(({ drawer }) => drawer !== null) ?? rows[0] ?? null;
  });
}
