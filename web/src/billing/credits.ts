import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { dec } from '@core/kernel';
import { Session } from '../access';
import { DocumentDockLazy } from '../documents/lazy';
import { pathOf } from '../kit/documents';
import { day, namedMoney } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { BillingPlaces } from './places';
import { Billing, type CreditQuery, type CreditRow } from './service';

const KINDS: Record<CreditRow['kind'], string> = {
  return: 'came back',
  price: 'price put right',
  rebate: 'rebate settled',
  reversal: 'taken back',
};

/** Credit notes, newest first, with what stands to the customer's credit. */
@Component({
  selector: 'k-credit-list',
  imports: [BillingPlaces, DocumentDockLazy, ListPage],
  template: `<k-list-page [list]="list">
    <k-billing-places acts at="/credit-notes" />
    <k-document-dock-lazy [document]="list.about()" />
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CreditList {
  private readonly session = inject(Session);
  private readonly billing = inject(Billing);
  protected readonly list: DocumentList<CreditQuery, CreditRow> = new DocumentList({
    head: 'Credit notes',
    sub: 'what we credited customers, and what of it they have not used',
    looksIn: 'Number, reason or customer',
    filters: [
      {
        name: 'left',
        label: 'Used or not',
        chips: [
          ['', 'All'],
          ['yes', 'Stands to their credit'],
        ],
      },
    ],
    narrows: [
      { name: 'party', label: 'Customer', kind: 'party', search: (words) => this.billing.parties(false, words) },
      { name: 'credited', label: 'Credited', kind: 'days' },
    ],
    workDate: () => this.session.workDate(),
    sorts: ['number', 'party', 'credited', 'total'],
    usualSort: ({ credited }) => (credited === undefined ? 'number-down' : 'credited-down'),
    viewed: 'credits',
    load: (query) => this.billing.credits(query),
    kinds: ['CN'],
    document: ({ document }) => document,
    rowId: ({ document }) => String(document.id),
    columns: () => this.columns(),
    empty:
      'No credit note fits. Goods that come back, prices put right and rebates are credited from the invoice or the agreement.',
  });

  private columns(): GridColumn<CreditRow>[] {
    const own = this.session.company()?.currency ?? '';
    return [
      { id: 'number', head: 'Number', width: 96, text: (row) => row.document.number, link: this.list.pathTo },
      { id: 'party', head: 'Customer', text: (row) => row.party.name },
      { id: 'kind', head: 'For', width: 126, text: (row) => KINDS[row.kind] },
      { id: 'reason', head: 'Why', text: (row) => row.reason },
      {
        id: 'against',
        head: 'Against',
        width: 96,
        text: (row) => row.against.number,
        link: (row) => pathOf(row.against),
      },
      { id: 'credited', head: 'Credited', width: 116, text: (row) => day(row.creditDate, this.session.workDate()) },
      {
        id: 'total',
        head: 'Total',
        width: 122,
        figures: true,
        text: (row) => namedMoney(row.total, row.currency, own),
      },
      {
        id: 'left',
        head: 'To their credit',
        width: 122,
        figures: true,
        text: (row) => (dec(row.left).eq(0) ? '–' : namedMoney(row.left, row.currency, own)),
      },
    ];
  }
}
