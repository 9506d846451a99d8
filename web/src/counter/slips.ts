import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Session } from '../access';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { CounterPlaces } from './places';
import { Counter, type SlipQuery, type SlipRow } from './service';

/** Slips, newest first. */
@Component({
  selector: 'k-slip-list',
  imports: [CounterPlaces, ListPage],
  template: `<k-list-page [list]="list"><k-counter-places acts /></k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SlipList {
  private readonly session = inject(Session);
  private readonly counter = inject(Counter);
  protected readonly list: DocumentList<SlipQuery, SlipRow> = new DocumentList({
    head: 'Slips',
    sub: 'what was handed over at the tills, and what was brought back',
    looksIn: 'Number or customer',
    load: (query) => this.counter.slips(query),
    kinds: ['SL'],
    document: ({ document }) => document,
    rowId: ({ document }) => String(document.id),
    columns: () => this.columns(),
    empty: 'No slip fits. They are made at the till.',
  });

  private columns(): GridColumn<SlipRow>[] {
    return [
      { id: 'number', head: 'Number', width: 96, text: (row) => row.document.number, link: this.list.pathTo },
      { id: 'day', head: 'Day', width: 116, text: (row) => day(row.soldOn, this.session.workDate()) },
      {
        id: 'customer',
        head: 'Customer',
        text: (row) => row.customer.name,
        link: (row) => pathOf({ kind: 'customer', id: row.customer.id }),
      },
      { id: 'till', head: 'Till', width: 130, text: (row) => row.till },
      { id: 'by', head: 'By', width: 100, text: (row) => row.soldBy },
      { id: 'paid', head: 'Paid by', width: 150, text: (row) => row.paidBy },
      {
        id: 'deposit',
        head: 'Deposit',
        width: 110,
        figures: true,
        text: (row) => (Number(row.deposited) === 0 ? '–' : money(row.deposited, row.currency)),
      },
      { id: 'total', head: 'Total', width: 120, figures: true, text: (row) => money(row.total, row.currency) },
    ];
  }
}
