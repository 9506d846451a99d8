import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import type { OrderState } from '@core/orders';
import { Session } from '../access/session';
import { Chips } from '../kit/chips';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { LiveList } from '../kit/live';
import { Refusals } from '../kit/refusals';
import { Orders, type OrderRow } from './service';

/** Sales orders, newest first, each with how far it is. */
@Component({
  selector: 'k-order-list',
  imports: [Chips, Grid, Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>Orders<span>what customers asked for, and how far each order is</span></h1>
      <a class="act next" routerLink="/orders/new">New order</a>
    </div>
    <div class="filters">
      <input
        type="search"
        aria-label="Look in number, reference and customer"
        placeholder="Number, reference or customer"
        [value]="q() ?? ''"
        (input)="look({ q: $any($event.target).value })"
      />
      <k-chips label="State" [chips]="chips" [value]="state() ?? ''" (valueChange)="look({ state: $event })" />
    </div>
    <k-refusals [refusals]="list.refusals()" />
    <div class="sheet">
      @if (list.rows().length === 0 && !list.loading()) {
        <p class="empty">No order fits. Orders come from releasing an agreement, or are typed with New order.</p>
      } @else {
        <k-grid
          label="Orders"
          [rows]="list.rows()"
          [columns]="columns()"
          [rowId]="rowId"
          (selected)="selected.set(rowId($event))"
          (opened)="open($event)"
          (nearEnd)="list.more()"
        />
      }
    </div>
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderList {
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  private readonly orders = inject(Orders);
  readonly q = input<string>();
  readonly state = input<string>();
  protected readonly selected = signal<string | null>(null);
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
  protected readonly chips = [
    { value: '', label: 'All' },
    { value: 'draft', label: 'Draft' },
    { value: 'confirmed', label: 'Confirmed' },
    { value: 'closed', label: 'Closed' },
    { value: 'cancelled', label: 'Cancelled' },
  ];
  protected readonly columns = computed<GridColumn<OrderRow>[]>(() => {
    const workDate = this.session.workDate();
    return [
      {
        id: 'number',
        head: 'Number',
        width: 96,
        text: (row) => row.number,
        link: (row) => pathOf({ kind: 'SO', id: row.id }),
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

  protected look(query: { q?: string; state?: string }): void {
    const clean = Object.fromEntries(Object.entries(query).map(([key, value]) => [key, value || null]));
    void this.router.navigate([], { queryParams: clean, queryParamsHandling: 'merge', replaceUrl: true });
  }

  protected open(row: OrderRow): void {
    void this.router.navigateByUrl(pathOf({ kind: 'SO', id: row.id }));
  }
}
