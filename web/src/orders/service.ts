import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import { map } from 'rxjs/operators';
import type * as z from 'zod';
import * as agreements from '@api/agreements';
import * as billing from '@api/billing';
import * as catalogue from '@api/catalogue';
import * as contract from '@api/orders';
import * as parties from '@api/parties';
import * as desk from '@api/desk';
import * as stock from '@api/stock';
import { Api, type ActDone, type Previewed } from '../kit/act/api';

export type OrderSheet = z.infer<typeof contract.OrderSheet>;
export type OrderQuery = z.input<typeof contract.listOrders.query>;
export type OrderRow = z.infer<typeof contract.OrderRow>;
export type OrderLine = z.infer<typeof contract.OrderLine>;
export type OrderInput = z.input<typeof contract.saveOrder.input>;
export type OrderPreview = Previewed<z.output<typeof contract.saveOrder.preview>>;
export type CustomerDesk = z.infer<typeof desk.CustomerDesk>;
export type BasketRow = z.infer<typeof desk.BasketRow>;
export type ItemChoice = z.infer<typeof catalogue.ItemChoice>;
export type PriceOffer = z.infer<typeof agreements.PriceOffer>;
export type CustomerChoice = z.infer<typeof parties.PartyChoice>;

/** The order room's way to the server. */
@Injectable({ providedIn: 'root' })
export class Orders {
  private readonly api = inject(Api);

  /** Who works here. */
  people() {
    return this.api.call(contract.salesPeople).pipe(map(({ rows }) => rows));
  }

  /** What was bought for an order, and what may become of it where that is cancelled. */
  supplies(id: number) {
    return this.api.call(contract.orderSupplies, { params: { id } }).pipe(map(({ rows }) => rows));
  }

  list(query: OrderQuery) {
    return this.api.call(contract.listOrders, { query });
  }

  open(id: number): Observable<OrderSheet> {
    return this.api.call(contract.openOrder, { params: { id } });
  }

  save(order: OrderInput): Observable<ActDone> {
    return this.api.act(contract.saveOrder, order);
  }

  /** What may be chosen for an item, priced for a customer. // W2 */
  options(id: number, customerId: number | null) {
    return this.api.call(catalogue.itemOptions, {
      params: { id },
      query: customerId === null ? {} : { customerId: String(customerId) },
    });
  }

  /** What saving would do: the prices step by step, and what would stand against confirming. */
  preview(order: OrderInput): Observable<OrderPreview> {
    return this.api.preview(contract.saveOrder, order);
  }

  /** What a change of a confirmed order would do. // S8 */
  previewChange(change: z.input<typeof contract.changeOrder.input>) {
    return this.api.preview(contract.changeOrder, change);
  }

  confirm(id: number, version: number, creditReason: string): Observable<ActDone> {
    return this.api.act(contract.confirmOrder, { id, version, ...(creditReason ? { creditReason } : {}) });
  }

  desk(customerId: number): Observable<CustomerDesk> {
    return this.api.call(desk.customerDesk, { params: { id: customerId } });
  }

  basket(customerId: number, days: number): Observable<BasketRow[]> {
    return this.api
      .call(desk.usualBasket, { params: { id: customerId }, query: { days } })
      .pipe(map(({ rows }) => rows));
  }

  shelf(query: z.input<typeof desk.shelf.query>) {
    return this.api.call(desk.shelf, { query });
  }

  /** Items by their exact numbers, ours or the customer's. */
  named(numbers: readonly string[], customerId: number | null) {
    const query = { numbers: numbers.join('\n'), ...(customerId ? { customerId } : {}) };
    return this.api.call(desk.matchItems, { query }).pipe(map(({ rows }) => rows));
  }

  /** Says again how a line is supplied: what it still wants of what is made to order is begun with it. */
  supply(orderLineId: number, route: OrderLine['route']): Observable<ActDone> {
    return this.api.act(stock.supplyLine, { orderLineId, route, reserve: '', lift: false });
  }

  /** The customer was told on which days lines ship. */
  told(id: number): Observable<ActDone> {
    return this.api.act(contract.customerTold, { id });
  }

  openAgain(id: number, version: number, lineIds: number[]): Observable<ActDone> {
    return this.api.act(contract.openAgain, { id, version, lineIds });
  }

  /** For each line, the agreements that could price its item for a customer, best first. */
  offers(customerId: number, lines: readonly { itemId: number; quantity: string; shipDate?: string }[]) {
    const asked = lines.map(({ quantity, ...line }) => ({ ...line, quantity: quantity || '1' }));
    return this.api.call(agreements.findOffers, { body: { customerId, lines: asked } });
  }

  invoice(orderId: number): Observable<ActDone> {
    return this.api.act(billing.invoiceCustomer, { orderId });
  }

  items(words: string, customerId: number | null): Observable<ItemChoice[]> {
    const query = { q: words, ...(customerId ? { customerId } : {}) };
    return this.api
      .call(catalogue.findItems, { query })
      .pipe(map(({ rows }) => rows.map((row) => ({ ...row, detail: row.theirNumber }))));
  }

  customers(words: string): Observable<CustomerChoice[]> {
    return this.api.call(parties.findCustomers, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }
}
