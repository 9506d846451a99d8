import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { dec, share } from '@core/kernel';
import { Session } from '../access';
import { DocumentDockLazy } from '../documents/lazy';
import { pathOf } from '../kit/documents';
import { day, namedMoney } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { BillingPlaces } from './places';
import { Billing, type PrepaymentQuery, type PrepaymentRow } from './service';

/** Prepayments, newest first, with what is left of each. // A12 */
@Component({
  selector: 'k-prepayment-list',
  imports: [BillingPlaces, DocumentDockLazy, ListPage],
  template: `<k-list-page [list]="list">
    <k-billing-places acts at="/prepayments" />
    <k-document-dock-lazy [document]="list.about()" />
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PrepaymentList {
  private readonly session = inject(Session);
  private readonly billing = inject(Billing);
  protected readonly list: DocumentList<PrepaymentQuery, PrepaymentRow> = new DocumentList({
    head: 'Prepayments',
    sub: 'what customers paid ahead, under agreements or for an order, and what is left of it',
    looksIn: 'Number, agreement, order or customer',
    filters: [
      {
        name: 'left',
        label: 'Used or not',
        chips: [
          ['', 'All'],
          ['yes', 'Something left'],
        ],
      },
    ],
    narrows: [
      { name: 'party', label: 'Customer', kind: 'party', search: (words) => this.billing.parties(false, words) },
      { name: 'taken', label: 'Taken', kind: 'days' },
    ],
    workDate: () => this.session.workDate(),
    sorts: ['number', 'party', 'taken', 'amount'],
    usualSort: ({ taken }) => (taken === undefined ? 'number-down' : 'taken-down'),
    viewed: 'prepayments',
    load: (query) => this.billing.prepayments(query),
    kinds: ['PP', 'CI'],
    document: ({ document }) => document,
    rowId: ({ document }) => String(document.id),
    columns: () => this.columns(),
    empty:
      'No prepayment fits. They are taken on an agreement that is in force, and at the till for what is not taken along.',
  });

  private columns(): GridColumn<PrepaymentRow>[] {
    const own = this.session.company()?.currency ?? '';
    const amount = (of: (row: PrepaymentRow) => string) => (row: PrepaymentRow) =>
      dec(of(row)).eq(0) ? '–' : namedMoney(of(row), row.currency, own);
    return [
      { id: 'number', head: 'Number', width: 96, text: (row) => row.document.number, link: this.list.pathTo },
      { id: 'party', head: 'Customer', text: (row) => row.party.name },
      {
        id: 'agreement',
        head: 'Agreement',
        width: 110,
        text: (row) => row.heldFor.number,
        link: (row) => pathOf(row.heldFor),
      },
      { id: 'taken', head: 'Taken', width: 116, text: (row) => day(row.takenOn, this.session.workDate()) },
      { id: 'amount', head: 'Amount', width: 122, figures: true, text: amount((row) => row.amount) },
      { id: 'drawn', head: 'Drawn', width: 122, figures: true, text: amount((row) => row.drawn) },
      { id: 'gone', head: 'Paid back, carried', width: 132, figures: true, text: amount((row) => row.gone) },
      { id: 'left', head: 'Left', width: 122, figures: true, text: amount((row) => row.left) },
      {
        id: 'used',
        head: 'Used',
        width: 58,
        beads: (row) => [{ label: 'Used', share: 1 - share(row.left, row.amount) }],
      },
    ];
  }
}
