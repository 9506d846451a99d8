import { inject, Injectable } from '@angular/core';
import { concatMap, from, switchMap, type Observable } from 'rxjs';
import type * as z from 'zod';
import * as contract from '@api/counter';
import { Api, type ActDone } from '../kit/act/api';

export type TillNow = z.infer<typeof contract.Till>;
export type AtTill = z.infer<typeof contract.atTill.out>;
export type TillLine = z.infer<typeof contract.TillLine>;
export type Found = z.infer<typeof contract.counterFind.out>;
export type Waiting = z.infer<typeof contract.listWaiting.out>['rows'][number];
export type SlipSheet = z.infer<typeof contract.SlipSheet>;
export type SlipRow = z.infer<typeof contract.SlipRow>;
export type DrawerSheet = z.infer<typeof contract.DrawerSheet>;
export type DrawerRow = z.infer<typeof contract.listDrawers.out>['rows'][number];
export type KeepInput = z.input<typeof contract.keepAtCounter.input>;
export type SellInput = z.input<typeof contract.sellAtTill.input>;
export type SlipQuery = z.input<typeof contract.listSlips.query>;
export type DrawerQuery = z.input<typeof contract.listDrawers.query>;

/** The counter's way to the server. */
@Injectable({ providedIn: 'root' })
export class Counter {
  private readonly api = inject(Api);

  tills() {
    return this.api.call(contract.listTills);
  }

  find(q: string, customerId: number | null) {
    return this.api.call(contract.counterFind, { query: { q, ...(customerId ? { customerId } : {}) } });
  }

  waiting() {
    return this.api.call(contract.listWaiting);
  }

  /** Orders as they stand at the till. */
  at(orders: readonly number[], take: string | undefined, later: boolean | null): Observable<AtTill> {
    return this.api.call(contract.atTill, {
      query: { orders: orders.join(','), take, later: later === null ? undefined : later ? 'yes' : 'no' },
    });
  }

  shelf() {
    return this.api.call(contract.counterShelf);
  }

  keep(input: KeepInput, key?: string): Observable<ActDone> {
    return this.api.act(contract.keepAtCounter, input, key);
  }

  drop(id: number, version: number): Observable<ActDone> {
    return this.api.act(contract.dropAtCounter, { id, version });
  }

  sell(input: SellInput, key?: string): Observable<ActDone> {
    return this.api.act(contract.sellAtTill, input, key);
  }

  askCard(tillId: number, orderId: number, amount: string): Observable<ActDone> {
    return this.api.act(contract.askCard, { tillId, orderId, amount });
  }

  hearCard(id: number): Observable<ActDone> {
    return this.api.act(contract.hearCard, { id });
  }

  /** Has the terminal hear of everything that goes back and that it has not answered. */
  hearBack(): Observable<unknown> {
    return this.tills().pipe(
      switchMap(({ rows }) => {
        const back = rows.flatMap(({ cards }) => cards.filter((card) => card.back));
        return from(back).pipe(concatMap(({ id }) => this.hearCard(id)));
      }),
    );
  }

  giveBackCard(id: number): Observable<ActDone> {
    return this.api.act(contract.giveBackCard, { id });
  }

  slip(id: number) {
    return this.api.call(contract.openSlip, { params: { id } });
  }

  slips(query: SlipQuery) {
    return this.api.call(contract.listSlips, { query });
  }

  drawer(id: number) {
    return this.api.call(contract.openDrawerSheet, { params: { id } });
  }

  drawers(query: DrawerQuery) {
    return this.api.call(contract.listDrawers, { query });
  }
}
