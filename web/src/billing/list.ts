import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { dec, share } from '@core/kernel';
import { Session } from '../access';
import { DocumentDockLazy } from '../documents/lazy';
import { pathOf } from '../kit/documents';
import { day, namedMoney } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { BillingPlaces } from './places';
import { Billing, type InvoiceQuery, type InvoiceRow } from './service';

/** Invoices of customers or vendors, newest first. */
@Component({
  selector: 'k-invoice-list',
  imports: [BillingPlaces, DocumentDockLazy, ListPage],
  template: `<k-list-page [list]="list">
    <k-billing-places acts at="/billing" />
    <k-document-dock-lazy [document]="list.about()" />
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InvoiceList {
  private readonly session = inject(Session);
  private readonly billing = inject(Billing);
  protected readonly list: DocumentList<InvoiceQuery, InvoiceRow> = new DocumentList({
    head: 'Billing',
    sub: () =>
      this.vendors() ? 'what vendors invoiced us, and what we owe' : 'what we invoiced, and what is owed to us',
    looksIn: 'Number, party or order',
    filters: [
      {
        name: 'side',
        label: 'Side',
        chips: [
          ['customer', 'Customers'],
          ['vendor', 'Vendors'],
        ],
      },
      {
        name: 'open',
        label: 'Settled or not',
        chips: [
          ['', 'All'],
          ['yes', 'Still owed'],
        ],
      },
    ],
    narrows: [
      { name: 'party', label: 'Party', kind: 'party', search: (words) => this.billing.parties(this.vendors(), words) },
      { name: 'due', label: 'Due', kind: 'days' },
      { name: 'invoiced', label: 'Invoiced', kind: 'days' },
    ],
    workDate: () => this.session.workDate(),
    sorts: ['number', 'theirs', 'party', 'date', 'due', 'total'],
    usualSort: ({ due, open, invoiced }) =>
      due !== undefined || open ? 'due-up' : invoiced === undefined ? 'number-down' : 'date-down',
    viewed: 'invoices',
    whole: 'All invoices',
    views: [
      { name: 'Owed to us and past due', query: { open: 'yes', due: '..-1' } },
      { name: 'We owe, due within a week', query: { side: 'vendor', open: 'yes', due: '..+7' } },
    ],
    files: '/api/invoices',
    load: (query) => this.billing.list(query),
    kinds: ['CI', 'VI', 'PY'],
    document: (row) => row.document,
    rowId: (row) => `${row.side}${row.document.id}`,
    columns: () => this.columns(),
    empty:
      "No invoice fits. A customer is invoiced from the order once goods went out; a vendor's invoice is entered from the purchase order.",
  });

  private vendors(): boolean {
    return this.list.filterValue('side') === 'vendor';
  }

  private columns(): GridColumn<InvoiceRow>[] {
    const workDate = this.session.workDate();
    const own = this.session.company()?.currency ?? '';
    const vendor = this.vendors();
    return [
      {
        id: 'number',
        head: 'Number',
        width: 96,
        text: (row) => row.document.number,
        link: this.list.pathTo,
      },
      ...(vendor
        ? [{ id: 'theirs', head: 'Their number', width: 130, text: (row: InvoiceRow) => row.vendorNumber ?? '' }]
        : []),
      { id: 'party', head: vendor ? 'Vendor' : 'Customer', text: (row) => row.party.name },
      {
        id: 'source',
        head: vendor ? 'Purchase order' : 'Sales order',
        width: 126,
        text: (row) => row.source.number + (row.alsoFor.length > 0 ? ` and ${row.alsoFor.length} more` : ''),
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
      {
        id: 'total',
        head: 'Total',
        width: 122,
        figures: true,
        text: (row) => namedMoney(row.total, row.currency, own),
      },
      {
        id: 'owed',
        head: 'Owed',
        width: 116,
        figures: true,
        text: (row) => (dec(row.owed).eq(0) ? '–' : namedMoney(row.owed, row.currency, own)),
      },
      {
        id: 'paid',
        head: 'Paid',
        width: 58,
        beads: (row) => [{ label: 'Paid', share: 1 - share(row.owed, row.total) }],
      },
    ];
  }
}
