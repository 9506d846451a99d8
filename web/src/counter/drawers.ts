import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Session } from '../access';
import { day, money } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { CounterPlaces } from './places';
import { Counter, type DrawerQuery, type DrawerRow } from './service';

/** Drawers, newest first: open, or as they were counted. // C4 */
@Component({
  selector: 'k-drawer-list',
  imports: [CounterPlaces, ListPage],
  template: `<k-list-page [list]="list"><k-counter-places acts /></k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DrawerList {
  private readonly session = inject(Session);
  private readonly counter = inject(Counter);
  protected readonly list: DocumentList<DrawerQuery, DrawerRow> = new DocumentList({
    head: 'Drawers',
    sub: 'the money of the tills, opened and counted',
    looksIn: 'Number, till or person',
    load: (query) => this.counter.drawers(query),
    kinds: ['DR', 'SL'],
    document: ({ document }) => document,
    rowId: ({ document }) => String(document.id),
    columns: () => this.columns(),
    empty: 'No drawer fits. They are opened at the till.',
  });

  private columns(): GridColumn<DrawerRow>[] {
    return [
      { id: 'number', head: 'Number', width: 96, text: (row) => row.document.number, link: this.list.pathTo },
      { id: 'till', head: 'Till', width: 150, text: (row) => row.till },
      { id: 'opened', head: 'Opened', width: 116, text: (row) => day(row.openedOn, this.session.workDate()) },
      { id: 'by', head: 'By', width: 120, text: (row) => row.openedBy },
      {
        id: 'closed',
        head: 'Closed',
        width: 116,
        text: (row) => (row.closedOn === null ? 'open' : day(row.closedOn, this.session.workDate())),
      },
      { id: 'cash', head: 'Should hold', width: 120, figures: true, text: (row) => money(row.cash, row.currency) },
      {
        id: 'difference',
        head: 'Difference',
        width: 110,
        figures: true,
        text: (row) =>
          row.difference === null || Number(row.difference) === 0 ? '–' : money(row.difference, row.currency),
      },
      { id: 'reason', head: 'Why', text: (row) => row.reason },
    ];
  }
}
