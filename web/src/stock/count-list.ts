import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import type * as z from 'zod';
import * as contract from '@api/stock';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { counted, day, money } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { BeginCountSheet } from './begin-count-sheet';

type Row = z.infer<typeof contract.listCounts.out>['rows'][number];
type Query = z.input<typeof contract.listCounts.query>;

/** Counts of our stock, newest first. // W6 */
@Component({
  selector: 'k-count-list',
  imports: [ListPage, RouterLink],
  template: `<k-list-page [list]="list">
    <span acts>
      <a class="act" routerLink="/stock">Stock</a>
      @if (session.may('goods')) {
        <button type="button" class="act next" (click)="begin()">Begin a count…</button>
      }
    </span>
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CountList {
  private readonly api = inject(Api);
  protected readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  private readonly currency = this.session.company()?.currency ?? '';
  protected readonly list: DocumentList<Query, Row> = new DocumentList<Query, Row>({
    head: 'Counts',
    sub: 'what was counted of our stock, and what it came to',
    looksIn: 'Number, place or item group',
    filters: [
      {
        name: 'state',
        label: 'Which counts',
        chips: [
          ['', 'All'],
          ['open', 'Open'],
          ['posted', 'Posted'],
          ['cancelled', 'Thrown away'],
        ],
      },
    ],
    load: (query) => this.api.call(contract.listCounts, { query }),
    kinds: ['CT'],
    document: ({ document }) => document,
    rowId: ({ document }) => String(document.id),
    columns: () => this.columns(),
    empty: 'Nothing was counted yet. Begin a count of a place, an item group, or some items.',
  });

  private columns(): GridColumn<Row>[] {
    const workDate = this.session.workDate();
    return [
      { id: 'number', head: 'Number', width: 96, text: (row) => row.document.number, link: this.list.pathTo },
      { id: 'place', head: 'Place', width: 170, text: (row) => row.location },
      { id: 'group', head: 'Of', text: (row) => row.group || counted(row.lines, 'item') },
      { id: 'state', head: 'State', width: 100, text: (row) => row.state },
      {
        id: 'counted',
        head: 'Counted',
        width: 90,
        beads: (row) => [
          {
            label: `${row.counted} of ${row.lines} lines counted`,
            share: row.lines === 0 ? 1 : row.state === 'posted' ? 1 : row.counted / row.lines,
          },
        ],
      },
      { id: 'by', head: 'Begun by', width: 120, text: (row) => row.by },
      { id: 'posted', head: 'Posted', width: 120, text: (row) => day(row.postedOn, workDate) },
      ...(this.session.may('see-costs')
        ? [
            {
              id: 'cost',
              head: `Came to, ${this.currency}`,
              width: 130,
              figures: true,
              text: (row: Row) => (row.state === 'posted' ? money(row.cost, this.currency) : '–'),
            },
          ]
        : []),
    ];
  }

  protected begin(): void {
    this.sheets.open(BeginCountSheet, {}).subscribe((done) => {
      if (done?.made[0]) void this.notices.showAndGo('To be counted:', done.made[0]);
    });
  }
}
