import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { dec, share, type DocumentRef } from '@core/kernel';
import { Session } from '../access/session';
import { DocumentDockLazy } from '../documents/lazy';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { ListPage } from '../kit/list-page';
import { LiveList } from '../kit/live';
import { Billing, type InvoiceRow } from './service';

/** Invoices of customers or vendors, newest first. */
@Component({
  selector: 'k-invoice-list',
  imports: [DocumentDockLazy, ListPage],
  template: `<k-list-page
    head="Billing"
    [sub]="
      side() === 'vendor' ? 'what vendors invoiced us, and what we owe' : 'what we invoiced, and what is owed to us'
    "
    looksIn="Number, party or order"
    [q]="q() ?? ''"
    [filters]="filters()"
    [list]="list"
    [columns]="columns()"
    [rowId]="rowId"
    [pathTo]="pathTo"
    empty="No invoice fits. A customer is invoiced from the order once goods went out; a vendor's invoice is entered from the purchase order."
    (chosen)="chosen.set(rowId($event))"
  >
    <k-document-dock-lazy [document]="about()" />
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InvoiceList {
  private readonly session = inject(Session);
  private readonly billing = inject(Billing);
  readonly q = input<string>();
  readonly side = input<string>();
  readonly open = input<string>();
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
  protected readonly pathTo = (row: InvoiceRow) => pathOf(row.document);
  protected readonly chosen = signal<string | null>(null);
  /** What the dock is about: the row one is on, else the first. */
  protected readonly about = computed<DocumentRef | null>(() => {
    const rows = this.list.rows();
    const row = rows.find((each) => this.rowId(each) === this.chosen()) ?? rows[0];
    return row ? row.document : null;
  });
  protected readonly filters = computed(() => [
    {
      name: 'side',
      label: 'Side',
      value: this.side() ?? 'customer',
      chips: [
        { value: 'customer', label: 'Customers' },
        { value: 'vendor', label: 'Vendors' },
      ],
    },
    {
      name: 'open',
      label: 'Settled or not',
      value: this.open() ?? '',
      chips: [
        { value: '', label: 'All' },
        { value: 'yes', label: 'Still owed' },
      ],
    },
  ]);
  protected readonly columns = computed<GridColumn<InvoiceRow>[]>(() => {
    const workDate = this.session.workDate();
    const vendor = this.side() === 'vendor';
    return [
      {
        id: 'number',
        head: 'Number',
        width: 96,
        text: (row) => row.document.number,
        link: this.pathTo,
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
}
