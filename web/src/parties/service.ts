import { inject, Injectable } from '@angular/core';
import { forkJoin, of, type Observable } from 'rxjs';
import { catchError, map } from 'rxjs/operators';
import type * as z from 'zod';
import { listUninvoiced } from '@api/billing';
import { customerDesk, usualBasket, vendorBasket, type BasketRow, type CustomerDesk } from '@api/desk';
import { openList, type KeptRow } from '@api/lists';
import { listMessages, type MessageRow } from '@api/mail';
import { listOrders, type OrderRow } from '@api/orders';
import * as contract from '@api/parties';
import { listPurchases, type PurchaseRow } from '@api/purchasing';
import { Api } from '../kit/act/api';

export type CustomerSheet = z.infer<typeof contract.openCustomer.out>;
export type VendorSheet = z.infer<typeof contract.openVendor.out>;

/** What one works with for a customer; a band that could not be read, or is not for this person to see, is empty. */
export interface CustomerWork {
  desk: z.infer<typeof CustomerDesk> | null;
  late: z.infer<typeof OrderRow>[];
  open: z.infer<typeof OrderRow>[];
  done: z.infer<typeof OrderRow>[];
  basket: z.infer<typeof BasketRow>[];
  /** Orders with something that went out and is not invoiced. */
  uninvoiced: number;
  prices: z.infer<typeof KeptRow>[];
  messages: z.infer<typeof MessageRow>[];
}

/** What one works with for a vendor. */
export interface VendorWork {
  late: z.infer<typeof PurchaseRow>[];
  open: z.infer<typeof PurchaseRow>[];
  basket: z.infer<typeof BasketRow>[];
  messages: z.infer<typeof MessageRow>[];
}

/** Rows of a band. */
const ROWS = 6;
/** How far back a usual basket looks, in days. */
const BASKET_DAYS = 180;

/** The way to customers and vendors. */
@Injectable({ providedIn: 'root' })
export class Parties {
  private readonly api = inject(Api);

  customer(id: number) {
    return this.api.call(contract.openCustomer, { params: { id } });
  }

  vendor(id: number) {
    return this.api.call(contract.openVendor, { params: { id } });
  }

  customerWork({ id, number, name }: CustomerSheet): Observable<CustomerWork> {
    const orders = (query: object) =>
      rowsOr(this.api.call(listOrders, { query: { customer: number, rows: ROWS, ...query } }));
    return forkJoin({
      desk: this.api.call(customerDesk, { params: { id } }).pipe(catchError(() => of(null))),
      late: orders({ show: 'late' }),
      open: orders({ state: 'confirmed', sort: 'ships-up' }),
      done: orders({ state: 'closed', rows: 3 }),
      basket: rowsOr(this.api.call(usualBasket, { params: { id }, query: { days: BASKET_DAYS } })),
      uninvoiced: rowsOr(this.api.call(listUninvoiced, { params: { id } })).pipe(
        map((rows) => new Set(rows.map(({ order }) => order.id)).size),
      ),
      prices: rowsOr(this.api.call(openList, { params: { list: 'prices' }, query: { q: name, rows: ROWS } })),
      messages: rowsOr(this.api.call(listMessages, { query: { q: name, rows: 4 } })),
    });
  }

  vendorWork({ id, number, name }: VendorSheet): Observable<VendorWork> {
    const purchases = (query: object) =>
      rowsOr(this.api.call(listPurchases, { query: { vendor: number, rows: ROWS, ...query } }));
    return forkJoin({
      late: purchases({ show: 'late' }),
      open: purchases({ state: 'placed', sort: 'due-up' }),
      basket: rowsOr(this.api.call(vendorBasket, { params: { id }, query: { days: BASKET_DAYS } })),
      messages: rowsOr(this.api.call(listMessages, { query: { q: name, rows: 4 } })),
    });
  }
}

function rowsOr<Row>(read: Observable<{ rows: Row[] }>): Observable<Row[]> {
  return read.pipe(
    map(({ rows }) => rows),
    catchError(() => of([])),
  );
}
