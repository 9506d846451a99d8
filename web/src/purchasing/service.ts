import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type * as z from 'zod';
import { map } from 'rxjs/operators';
import * as catalogue from '@api/catalogue';
import { vendorBasket } from '@api/desk';
import * as parties from '@api/parties';
import * as contract from '@api/purchasing';
import { sisterDays } from '@api/sisters';
import { Api } from '../kit/act/api';

export type PurchaseSheet = z.infer<typeof contract.PurchaseSheet>;
export type PurchaseQuery = z.input<typeof contract.listPurchases.query>;
export type PurchaseRow = z.infer<typeof contract.PurchaseRow>;
export type ItemChoice = z.infer<typeof catalogue.ItemChoice>;
export type PartyChoice = z.infer<typeof parties.PartyChoice>;
export type PurchaseLine = z.infer<typeof contract.PurchaseLine>;

export type SisterDays = z.infer<typeof sisterDays.out>;

/** The purchases room's way to the server. */
@Injectable({ providedIn: 'root' })
export class Purchases {
  private readonly api = inject(Api);

  list(query: PurchaseQuery) {
    return this.api.call(contract.listPurchases, { query });
  }

  open(id: number): Observable<PurchaseSheet> {
    return this.api.call(contract.openPurchase, { params: { id } });
  }

  /** What was bought from a vendor over so many days. */
  basket(vendorId: number, days: number) {
    return this.api.call(vendorBasket, { params: { id: vendorId }, query: { days } }).pipe(map(({ rows }) => rows));
  }

  /** From when a sister company could ship what would be bought of her. // X4 */
  sisterDays(asked: z.input<typeof sisterDays.body>) {
    return this.api.call(sisterDays, { body: asked });
  }

  vendors(words: string): Observable<PartyChoice[]> {
    return this.api.call(parties.findVendors, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }

  customers(words: string): Observable<PartyChoice[]> {
    return this.api.call(parties.findCustomers, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }

  items(words: string): Observable<ItemChoice[]> {
    return this.api.call(catalogue.findItems, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }
}
