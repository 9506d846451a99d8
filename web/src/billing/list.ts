import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router } from '@angular/router';
import { dec, share } from '@core/kernel';
import { Session } from '../access/session';
import { Chips } from '../kit/chips';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { LiveList } from '../kit/live';
import { Refusals } from '../kit/refusals';
import { Billing, type InvoiceRow } from './service';

/** Invoices of customers or vendors, newest first. */
@Component({
  selector: 'k-invoice-list',
  imports: [Chips, Grid, Refusals],
  template: `<div class="page">
    <div class="title">
      <h1>
        Billing<span>{{
          side() === 'vendor' ? 'what vendors invoiced us, and what we owe' : 'what we invoiced, and what is owed to us'
        }}</span>
      </h1>
    </div>
    <div class="filters">
      <k-chips label="Side" [chips]="sides" [value]="side() ?? 'customer'" (valueChange)="look({ side: $event })" />
      <input
        type="search"
        aria-label="Look in number, party and order"
        placeholder="Number, party or order"
        [value]="q() ?? ''"
        (input)="look({ q: $any($event.target).value })"
      />
      <k-chips label="Settled or not" [chips]="states" [value]="open() ?? ''" (valueChange)="look({ open: $event })" />
    </div>
    <k-refusals [refusals]="list.refusals()" />
    <div class="sheet">
      @if (list.rows().length === 0 && !list.loading()) {
        <p class="empty">
          No invoice fits. A customer is invoiced from the order once goods went out; a vendor's invoice is entered from
          the purchase order.
        </p>
      } @else {
        <k-grid
          label="Invoices"
          [rows]="list.rows()"
          [columns]="columns()"
          [rowId]="rowId"
          (selected)="selected.set(rowId($event))"
          (opened)="go($event)"
          (nearEnd)="list.more()"
        />
      }
    </div>
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InvoiceList {
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  private readonly billing = inject(Billing);
  readonly q = input<string>();
  readonly side = input<string>();
  readonly open = input<string>();
  protected readonly selected = signal<string | null>(null);
  private readonly query = computed(() => ({
    q: this.q() ?? '',
    side: this.side() === 'vendor' ? ('vendor' as const) : ('customer' as const),
    ...(this.open() ? { open: 'yes' as const } : {}),
  }));
  protected readonly list = new LiveList(
    this.query,
    (query, cursor) => this.billing.list({ ...query, ...(cursor ? { cursor } : {}) }),
    ['CI', 'VI', 'PY'],
  );
  protected readonly rowId = (row: InvoiceRow) => `${row.side}${row.document.id}`;
  protected readonly sides = [
    { value: 'customer', label: 'Customers' },
    { value: 'vendor', label: 'Vendors' },
  ];
  protected readonly states = [
    { value: '', label: 'All' },
    { value: 'yes', label: 'Still owed' },
  ];
  protected readonly columns = computed<GridColumn<InvoiceRow>[]>(() => {
    const workDate = this.session.workDate();
    const vendor = this.side() === 'vendor';
    return [
      {
        id: 'number',
        head: 'Number',
        width: 96,
        text: (row) => row.document.number,
        link: (row) => pathOf(row.document),
      },
      ...(vendor
        ? [{ id: 'theirs', head: 'Their number', width: 130, text: (row: InvoiceRow) => row.vendorNumber ?? '' }]
        : []),
      { id: 'party', head: vendor ? 'Vendor' : 'Customer', text: (row) => row.party.name },
      {
        id: 'source',
        head: vendor ? 'Purchase order' : 'Sales order',
        width: 126,
        text: (row) => row.source.number,
        link: (row) => pathOf(row.source),
      },
      { id: 'date', head: 'Invoiced', width: 116, text: (row) => day(row.invoiceDate, workDate) },
      {
        id: 'due',
        head: 'Due',
        width: 116,
        text: (row) => day(row.dueDate, workDate),
        need: (row) => dec(row.owed).gt(0) && row.dueDate < workDate,
      },
      { id: 'total', head: 'Total', width: 116, figures: true, text: (row) => money(row.total, row.currency) },
      {
        id: 'owed',
        head: 'Owed',
        width: 116,
        figures: true,
        text: (row) => (dec(row.owed).eq(0) ? '–' : money(row.owed, row.currency)),
      },
      {
        id: 'paid',
        head: 'Paid',
        width: 58,
        beads: (row) => [{ label: 'Paid', share: 1 - share(row.owed, row.total) }],
      },
    ];
  });

  constructor() {
    inject(Title).setTitle('Billing · Kampong');
  }

  protected look(query: Record<string, string>): void {
    const clean = Object.fromEntries(Object.entries(query).map(([key, value]) => [key, value || null]));
    void this.router.navigate([], { queryParams: clean, queryParamsHandling: 'merge', replaceUrl: true });
  }

  protected go(row: InvoiceRow): void {
    void this.router.navigateByUrl(pathOf(row.document));
  }
}
