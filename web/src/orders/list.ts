import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { bringInOrders } from '@api/formats';
import { Session } from '../access';
import { DocumentDockLazy } from '../documents/lazy';
import { pathOf } from '../kit/documents';
import { day, namedMoney } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { ImportSheet, type ImportData } from '../kit/act/import-sheet';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { MarkedOrders } from './marked';
import { Orders, type OrderQuery, type OrderRow } from './service';

const IMPORTED: ImportData = {
  endpoint: bringInOrders,
  one: 'order',
  counts: 'orders',
  sub: 'From a CSV or XLSX file, or an order in UBL 2.1; each becomes a draft',
  accept: '.csv,.xlsx,.xml',
  hint:
    'One row for each line: customer, item and quantity, and where you have them order, ship to, reference, unit, ship date, price and route. ' +
    'Rows with the same word in the column “order” are one order; its head stands on the first of them.',
  columns: null,
};

/** Sales orders, newest first, each with how far it is. */
@Component({
  selector: 'k-order-list',
  imports: [DocumentDockLazy, ListPage, RouterLink],
  template: `<k-list-page [list]="list">
    <a acts class="act" routerLink="/standing-orders">Standing orders</a>
    @if (session.may('see-agreements')) {
      <a acts class="act" routerLink="/promotions">Promotions</a>
    }
    <button acts type="button" class="act" (click)="bringIn()">Bring in…</button>
    <k-document-dock-lazy [document]="list.about()" />
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderList {
  protected readonly session = inject(Session);
  private readonly orders = inject(Orders);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  private readonly marked = inject(MarkedOrders);
  protected readonly list: DocumentList<OrderQuery, OrderRow> = new DocumentList({
    head: 'Orders',
    sub: 'what customers asked for, and how far each order is',
    looksIn: 'Number, reference or customer',
    filters: [
      {
        name: 'state',
        label: 'State',
        chips: [
          ['', 'All'],
          ['draft', 'Draft'],
          ['confirmed', 'Confirmed'],
          ['closed', 'Closed'],
          ['cancelled', 'Cancelled'],
        ],
      },
    ],
    narrows: [
      { name: 'customer', label: 'Customer', kind: 'party', search: (words) => this.orders.customers(words) },
      { name: 'ships', label: 'First goes out', kind: 'days' },
      { name: 'ordered', label: 'Ordered', kind: 'days' },
      { name: 'show', label: 'Only', kind: 'brought', words: (value) => (value === 'late' ? 'late' : 'short') },
    ],
    workDate: () => this.session.workDate(),
    sorts: ['number', 'customer', 'reference', 'ordered', 'ships', 'net'],
    usualSort: ({ ships, ordered, show }) =>
      ships !== undefined || show ? 'ships-up' : ordered === undefined ? 'number-down' : 'ordered-down',
    viewed: 'orders',
    views: [
      { name: 'Late', query: { show: 'late' } },
      { name: 'Short of something', query: { show: 'short' } },
      { name: 'Due within a week', query: { state: 'confirmed', ships: 'today..+7' } },
      { name: 'Drafts', query: { state: 'draft' } },
    ],
    files: '/api/orders',
    marks: this.marked.acts,
    make: { label: 'New order', path: '/orders/new' },
    load: (query) => this.orders.list(query),
    kinds: ['SO'],
    document: ({ id, number }) => ({ kind: 'SO', id, number }),
    columns: () => this.columns(),
    empty: 'No order fits. Orders come from releasing an agreement, or are typed with New order.',
  });

  protected bringIn(): void {
    this.sheets.open<ImportData>(ImportSheet, IMPORTED).subscribe((done) => {
      if (!done) return;
      this.notices.show(
        done.made.length > 1 ? `${done.made.length} drafts came in, last` : 'Came in as a draft:',
        done.made.at(-1)!,
      );
    });
  }

  private columns(): GridColumn<OrderRow>[] {
    const workDate = this.session.workDate();
    const own = this.session.company()?.currency ?? '';
    return [
      {
        id: 'number',
        head: 'Number',
        width: 96,
        text: (row) => row.number,
        link: this.list.pathTo,
      },
      { id: 'customer', head: 'Customer', text: (row) => row.customer.name },
      { id: 'reference', head: 'Their reference', width: 116, text: (row) => row.customerReference },
      {
        id: 'agreement',
        head: 'Released from',
        width: 104,
        text: (row) => row.agreement?.number ?? '',
        link: (row) => row.agreement && pathOf(row.agreement),
      },
      { id: 'state', head: 'State', width: 88, text: (row) => row.state, need: (row) => row.state === 'draft' },
      { id: 'ordered', head: 'Ordered', width: 102, text: (row) => day(row.orderDate, workDate) },
      {
        id: 'ships',
        head: 'First goes out',
        width: 120,
        text: (row) => day(row.firstShipDate, workDate),
        need: (row) => row.state === 'confirmed' && row.shares.shipped < 1 && (row.firstShipDate ?? '9') < workDate,
      },
      { id: 'net', head: 'Net', width: 110, figures: true, text: (row) => namedMoney(row.net, row.currency, own) },
      {
        id: 'thread',
        head: 'Supply · shipped · invoiced',
        width: 160,
        beads: (row) => [
          { label: 'Supply', share: row.shares.covered, struck: row.state === 'cancelled' },
          { label: 'Shipped', share: row.shares.shipped },
          { label: 'Invoiced', share: row.shares.invoiced },
        ],
      },
    ];
  }
}
