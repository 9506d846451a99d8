import { inject, Injectable } from '@angular/core';
import type * as z from 'zod';
import type { Observable } from 'rxjs';
import { map } from 'rxjs/operators';
import * as catalogue from '@api/catalogue';
import * as promise from '@api/promise';
import * as contract from '@api/sisters';
import { Api, type ActDone } from '../kit/act/api';

export type OfferRow = z.infer<typeof contract.OfferRow>;
export type OfferSheet = z.infer<typeof contract.OfferSheet>;
export type HoldRow = contract.HoldRow;
export type DueRow = contract.DueRow;
export type SisterRow = z.infer<typeof contract.listSisters.out>['rows'][number];
export type Pair = z.infer<typeof contract.openSister.out>;
export type Books = z.infer<typeof contract.reconcileSister.out>;

/** The way of sister companies to the server. */
@Injectable({ providedIn: 'root' })
export class Sisters {
  private readonly api = inject(Api);

  tray(query: z.input<typeof contract.listTray.query>) {
    return this.api.call(contract.listTray, { query });
  }

  offer(id: number): Observable<OfferSheet> {
    return this.api.call(contract.openOffer, { params: { id } });
  }

  same({ id, kind, revision, sameAs }: OfferRow): Observable<ActDone> {
    return this.api.act(contract.sameAsOffer, { id, kind, revision, documentId: sameAs!.id });
  }

  due(show: 'due' | 'sent') {
    return this.api.call(contract.listDue, { query: { show } });
  }

  send({ id, revision, gone }: DueRow, how: 'mail' | 'file'): Observable<ActDone> {
    return this.api.act(contract.sendExchange, { id, revision, gone, how });
  }

  holds(orderId: number) {
    return this.api.call(contract.listHolds, { params: { id: orderId } });
  }

  letGo(id: number): Observable<ActDone> {
    return this.api.act(contract.letHoldGo, { id });
  }

  all() {
    return this.api.call(contract.listSisters);
  }

  pair(id: number): Observable<Pair> {
    return this.api.call(contract.openSister, { params: { id } });
  }

  keep(half: z.input<typeof contract.keepSister.input>): Observable<ActDone> {
    return this.api.act(contract.keepSister, half);
  }

  pairItems(
    sisterId: number,
    pairs: readonly { itemId: number; theirItemId: number; factor: string }[],
    removed: readonly number[] = [],
  ): Observable<ActDone> {
    return this.api.act(contract.pairItems, { sisterId, pairs: [...pairs], removed: [...removed] });
  }

  pairTax(sisterId: number, theirTaxCodeId: number, taxCodeId: number | null): Observable<ActDone> {
    return this.api.act(contract.pairTaxes, { sisterId, taxes: [{ theirTaxCodeId, taxCodeId }] });
  }

  /** Our items by any part of their number or name. */
  items(words: string) {
    return this.api
      .call(catalogue.findItems, { query: { q: words } })
      .pipe(map(({ rows }) => rows.map(({ id, number, name }) => ({ id, number, name, detail: '' }))));
  }

  /** From when lines of an order could ship, by what is here and can be made. // S10 */
  days(lines: z.input<typeof promise.possibleDays.body>['lines']) {
    return this.api.call(promise.possibleDays, { body: { orderId: null, lines } });
  }

  books(id: number): Observable<Books> {
    return this.api.call(contract.reconcileSister, { params: { id } });
  }
}
