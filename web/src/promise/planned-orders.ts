import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { DocumentKind } from '@core/kernel';
import { Session } from '../access';
import { pathOf } from '../kit/documents';
import { day, quantity } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { Promises, type PlannedRow } from './service';

export const KIND_WORDS = { make: 'made', assemble: 'assembled', buy: 'bought' } as const;

/** Who a planned order is for, as a cell says it. */
export function forWhom(row: PlannedRow): string {
  if (!row.for) return 'our own stock';
  return row.for.party ? `${row.for.number}, ${row.for.party}` : row.for.number;
}

/** What is planned to be made, assembled and bought, soonest first, and for whom. */
@Component({
  selector: 'k-planned-list',
  imports: [ListPage, RouterLink],
  template: `<k-list-page [list]="list">
    <span acts
      ><a class="act" routerLink="/load">Load of the work centres</a
      ><a class="act" routerLink="/repromise">Promise again</a
      ><a class="act next" routerLink="/planning">Plan ahead</a></span
    >
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlannedList {
  private readonly promises = inject(Promises);
  private readonly session = inject(Session);
  protected readonly list: DocumentList<{ cursor?: string }, PlannedRow> = new DocumentList({
    head: 'Workshop',
    sub: 'what is planned to be made, assembled and bought, and for whom',
    load: (query) => this.promises.planned(query),
    kinds: ['PR', 'AS', 'PL', 'SO'],
    document: ({ id }) => ({ kind: 'PR', id }),
    columns: () => this.columns(),
    empty: 'Nothing is planned. Promise an order of something that is made, and what it needs stands here.',
  });

  private columns(): GridColumn<PlannedRow>[] {
    const workDate = this.session.workDate();
    return [
      { id: 'number', head: 'Number', width: 96, text: (row) => row.number, link: this.list.pathTo },
      {
        id: 'item',
        head: 'Item',
        width: 110,
        text: (row) => row.item.number,
        link: (row) => pathOf({ kind: 'item', id: row.item.id }),
      },
      { id: 'what', head: 'What', text: (row) => row.item.name },
      { id: 'quantity', head: 'Quantity', width: 86, figures: true, text: (row) => quantity(row.quantity) },
      {
        id: 'how',
        head: 'How',
        width: 190,
        text: (row) => (row.vendor ? `bought from ${row.vendor}` : KIND_WORDS[row.kind]),
      },
      {
        id: 'start',
        head: 'Begun by',
        width: 108,
        text: (row) => day(row.start, workDate),
        need: (row) => row.state !== 'running' && row.start < workDate,
      },
      { id: 'state', head: 'State', width: 80, text: (row) => row.state },
      { id: 'due', head: 'There on', width: 108, text: (row) => day(row.due, workDate) },
      {
        id: 'for',
        head: 'For',
        width: 220,
        text: forWhom,
        link: (row) => row.for && pathOf({ kind: row.for.kind as DocumentKind, id: row.for.id }),
      },
    ];
  }
}
