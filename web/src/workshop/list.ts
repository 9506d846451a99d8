import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import type * as z from 'zod';
import type * as contract from '@api/workshop';
import { Session } from '../access';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { day, quantity } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { NewWorkSheet } from './new-work-sheet';
import { Workshop, type WorkRow } from './service';
import { forWhom, lacking, madeOf, madeShare } from './words';

type Query = z.input<typeof contract.listWork.query>;

/** Production and assembly orders: what to begin, what runs, whom each is for and what it waits for. // W3 */
@Component({
  selector: 'k-work-list',
  imports: [ListPage, RouterLink],
  template: `<k-list-page [list]="list">
    <span acts
      ><a class="act" routerLink="/workshop/days">By day</a><a class="act" routerLink="/workshop/at">At the bench</a
      ><a class="act" routerLink="/load">Load of the work centres</a
      ><a class="act" routerLink="/repromise">Promise again</a>
      @if (session.may('plan')) {
        <a class="act" routerLink="/planning">Plan ahead</a
        ><button type="button" class="act next" (click)="make()">Make for stock…</button>
      }
    </span>
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WorkList {
  private readonly workshop = inject(Workshop);
  protected readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  protected readonly list: DocumentList<Query, WorkRow> = new DocumentList<Query, WorkRow>({
    head: 'Workshop',
    sub: 'what is made and assembled, for whom, and what it waits for',
    looksIn: 'Number, item, order or customer',
    filters: [
      {
        name: 'state',
        label: 'Which orders',
        chips: [
          ['open', 'Open'],
          ['waiting', 'To begin'],
          ['running', 'Running'],
          ['finished', 'Finished'],
          ['cancelled', 'Cancelled'],
        ],
      },
    ],
    load: (query) => this.workshop.list(query),
    kinds: ['PR', 'AS', 'SO', 'WR', 'RC', 'JR'],
    document: ({ document }) => document,
    rowId: ({ document }) => String(document.id),
    columns: () => this.columns(),
    empty: 'Nothing is here. Promise an order of something that is made, plan ahead, or make something for stock.',
  });

  private columns(): GridColumn<WorkRow>[] {
    const workDate = this.session.workDate();
    const waits = (row: WorkRow) => row.state === 'planned' || row.state === 'firm';
    return [
      { id: 'number', head: 'Number', width: 92, text: (row) => row.document.number, link: this.list.pathTo },
      {
        id: 'item',
        head: 'Item',
        width: 104,
        text: (row) => row.item.number,
        link: (row) => pathOf({ kind: 'item', id: row.item.id }),
      },
      { id: 'quantity', head: 'Quantity', width: 80, figures: true, text: (row) => quantity(row.quantity) },
      { id: 'made', head: 'Made', width: 56, beads: (row) => [{ label: madeOf(row), share: madeShare(row) }] },
      { id: 'state', head: 'State', width: 78, text: (row) => row.state },
      {
        id: 'start',
        head: 'Begin by',
        width: 104,
        text: (row) => day(row.start, workDate),
        need: (row) => waits(row) && row.start < workDate,
      },
      {
        id: 'due',
        head: 'There on',
        width: 104,
        text: (row) => day(row.due, workDate),
        need: (row) =>
          (waits(row) || row.state === 'running') &&
          (row.due < workDate || row.for.some((each) => each.shipDate < row.due)),
      },
      {
        id: 'for',
        head: 'For',
        text: forWhom,
        link: (row) => (row.for[0] ? pathOf(row.for[0].order) : row.above && pathOf(row.above)),
      },
      { id: 'lacks', head: 'Waits for', width: 170, text: lacking, need: (row) => row.lacks.length > 0 },
    ];
  }

  protected make(): void {
    this.sheets.open(NewWorkSheet, {}).subscribe((done) => {
      if (done?.made[0]) void this.notices.showAndGo('To be made:', done.made[0]);
    });
  }
}
