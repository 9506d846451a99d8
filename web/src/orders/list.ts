import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import type { OrderState } from '@core/orders';
import type { DocumentRef } from '@core/kernel';
import { bringInOrders } from '@api/exchange';
import { Session } from '../access/session';
import { DocumentDockLazy } from '../documents/lazy';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { ImportSheet, type ImportData } from '../kit/import-sheet';
import { ListPage } from '../kit/list-page';
import { LiveList } from '../kit/live';
import { Quiet } from '../kit/quiet';
import { Sheets } from '../kit/sheet';
import { Orders, type OrderRow } from './service';

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
  imports: [DocumentDockLazy, ListPage],
  template: `<k-list-page
    head="Orders"
    sub="what customers asked for, and how far each order is"
    looksIn="Number, reference or customer"
    [q]="q() ?? ''"
    [filters]="filters()"
    [make]="{ label: 'New order', path: '/orders/new' }"
    [list]="list"
    [columns]="columns()"
    [rowId]="rowId"
    [pathTo]="pathTo"
    empty="No order fits. Orders come from releasing an agreement, or are typed with New order."
    (chosen)="chosen.set(rowId($event))"
  >
    <button acts type="button" class="act" (click)="bringIn()">Bring in…</button>
    <k-document-dock-lazy [document]="about()" />
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderList {
  private readonly session = inject(Session);
  private readonly orders = inject(Orders);
  private readonly sheets = inject(Sheets);
  private readonly quiet = inject(Quiet);
  readonly q = input<string>();
  readonly state = input<string>();
  private readonly query = computed(() => ({
    q: this.q() ?? '',
    ...(this.state() ? { state: this.state() as OrderState } : {}),
  }));
  protected readonly list = new LiveList(
    this.query,
    (query, cursor) => this.orders.list({ ...query, ...(cursor ? { cursor } : {}) }),
    ['SO'],
  );
  protected readonly rowId = (row: OrderRow) => String(row.id);
  protected readonly pathTo = (row: OrderRow) => pathOf({ kind: 'SO', id: row.id });
  protected readonly chosen = signal<string | null>(null);
  /** What the dock is about: the row one is on, else the first. */
  protected readonly about = computed<DocumentRef | null>(() => {
    const rows = this.list.rows();
    const row = rows.find((each) => this.rowId(each) === this.chosen()) ?? rows[0];
    return row ? { kind: 'SO', id: row.id, number: row.number } : null;
  });
  /** Orders from a file; they stand first in the list, which follows what is made by itself. */
  protected bringIn(): void {
    this.sheets.open<ImportData>(ImportSheet, IMPORTED).subscribe((done) => {
      if (!done) return;
      this.quiet.say(
        done.made.length > 1 ? `${done.made.length} drafts came in, last` : 'Came in as a draft:',
        done.made.at(-1)!,
      );
    });
  }

  protected readonly filters = computed(() => [
    {
      name: 'state',
      label: 'State',
      value: this.state() ?? '',
      chips: [
        { value: '', label: 'All' },
        { value: 'draft', label: 'Draft' },
        { value: 'confirmed', label: 'Confirmed' },
        { value: 'closed', label: 'Closed' },
        { value: 'cancelled', label: 'Cancelled' },
      ],
    },
  ]);
  protected readonly columns = computed<GridColumn<OrderRow>[]>(() => {
    const workDate = this.session.workDate();
    return [
      {
        id: 'number',
        head: 'Number',
        width: 96,
        text: (row) => row.number,
        link: this.pathTo,
      },
      { id: 'customer', head: 'Customer', text: (row) => row.customer.name },
      { id: 'reference', head: 'Their reference', width: 130, text: (row) => row.customerReference },
      {
        id: 'agreement',
        head: 'Released from',
        width: 116,
        text: (row) => row.agreement?.number ?? '',
        link: (row) => row.agreement && pathOf(row.agreement),
      },
      { id: 'state', head: 'State', width: 96, text: (row) => row.state, need: (row) => row.state === 'draft' },
      { id: 'ordered', head: 'Ordered', width: 110, text: (row) => day(row.orderDate, workDate) },
      {
        id: 'ships',
        head: 'First goes out',
        width: 120,
        text: (row) => day(row.firstShipDate, workDate),
        need: (row) => row.state === 'confirmed' && row.shares.shipped < 1 && (row.firstShipDate ?? '9') < workDate,
      },
      { id: 'net', head: 'Net', width: 112, figures: true, text: (row) => money(row.net, row.currency) },
      {
        id: 'thread',
        head: 'Supply · shipped · invoiced',
        width: 176,
        beads: (row) => [
          { label: 'Supply', share: row.shares.covered, struck: row.state === 'cancelled' },
          { label: 'Shipped', share: row.shares.shipped },
          { label: 'Invoiced', share: row.shares.invoiced },
        ],
      },
    ];
  });

  constructor() {
    inject(Title).setTitle('Orders · Kampong');
  }
}
