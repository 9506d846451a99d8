import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router } from '@angular/router';
import { Session } from '../access/session';
import { Chips } from '../kit/chips';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { LiveList } from '../kit/live';
import { Refusals } from '../kit/refusals';
import { Purchases, type PurchaseRow } from './service';

/** Purchase orders, newest first. */
@Component({
  selector: 'k-purchase-list',
  imports: [Chips, Grid, Refusals],
  template: `<div class="page">
    <div class="title">
      <h1>Purchases<span>what vendors owe us, and for whom</span></h1>
    </div>
    <div class="filters">
      <input
        type="search"
        aria-label="Look in number, vendor and customer"
        placeholder="Number, vendor or customer"
        [value]="q() ?? ''"
        (input)="look({ q: $any($event.target).value })"
      />
      <k-chips label="State" [chips]="chips" [value]="state() ?? ''" (valueChange)="look({ state: $event })" />
    </div>
    <k-refusals [refusals]="list.refusals()" />
    <div class="sheet">
      @if (list.rows().length === 0 && !list.loading()) {
        <p class="empty">No purchase order fits. They are placed on the bench, from the lines that need supply.</p>
      } @else {
        <k-grid
          label="Purchase orders"
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
export class PurchaseList {
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  private readonly purchases = inject(Purchases);
  readonly q = input<string>();
  readonly state = input<string>();
  protected readonly selected = signal<string | null>(null);
  private readonly query = computed(() => ({
    q: this.q() ?? '',
    ...(this.state() ? { state: this.state() as PurchaseRow['state'] } : {}),
  }));
  protected readonly list = new LiveList(
    this.query,
    (query, cursor) => this.purchases.list({ ...query, ...(cursor ? { cursor } : {}) }),
    ['PO'],
  );
  protected readonly rowId = (row: PurchaseRow) => String(row.id);
  protected readonly chips = [
    { value: '', label: 'All' },
    { value: 'placed', label: 'Placed' },
    { value: 'closed', label: 'Closed' },
  ];
  protected readonly columns = computed<GridColumn<PurchaseRow>[]>(() => {
    const workDate = this.session.workDate();
    return [
      {
        id: 'number',
        head: 'Number',
        width: 96,
        text: (row) => row.number,
        link: (row) => pathOf({ kind: 'PO', id: row.id }),
      },
      { id: 'vendor', head: 'Vendor', text: (row) => row.vendor.name },
      { id: 'for', head: 'Drop shipped to', text: (row) => row.customer?.name ?? 'our own stock' },
      { id: 'state', head: 'State', width: 86, text: (row) => row.state },
      { id: 'ordered', head: 'Placed', width: 110, text: (row) => day(row.orderDate, workDate) },
      {
        id: 'due',
        head: 'First due',
        width: 116,
        text: (row) => day(row.firstDueDate, workDate),
        need: (row) => row.state === 'placed' && row.shares.received < 1 && (row.firstDueDate ?? '9') < workDate,
      },
      { id: 'net', head: 'Net', width: 112, figures: true, text: (row) => money(row.net, row.currency) },
      {
        id: 'thread',
        head: 'Received · invoiced',
        width: 140,
        beads: (row) => [
          { label: 'Received', share: row.shares.received },
          { label: 'Vendor invoiced', share: row.shares.invoiced },
        ],
      },
    ];
  });

  constructor() {
    inject(Title).setTitle('Purchases · Kampong');
  }

  protected look(query: { q?: string; state?: string }): void {
    const clean = Object.fromEntries(Object.entries(query).map(([key, value]) => [key, value || null]));
    void this.router.navigate([], { queryParams: clean, queryParamsHandling: 'merge', replaceUrl: true });
  }

  protected open(row: PurchaseRow): void {
    void this.router.navigateByUrl(pathOf({ kind: 'PO', id: row.id }));
  }
}
