import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import type { DocumentKind } from '@core/kernel';
import { Session } from '../access/session';
import { pathOf } from '../kit/documents';
import { day, quantity } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { ListPage } from '../kit/list-page';
import { LiveList } from '../kit/live';
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
  template: `<k-list-page
    head="Workshop"
    sub="what is planned to be made, assembled and bought, and for whom"
    looksIn=""
    q=""
    [filters]="[]"
    [list]="list"
    [columns]="columns()"
    [rowId]="rowId"
    [pathTo]="pathTo"
    empty="Nothing is planned. Promise an order of something that is made, and what it needs stands here."
  >
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
  protected readonly list = new LiveList<object, PlannedRow>(
    computed(() => ({})),
    (_query, cursor) => this.promises.planned(cursor),
    ['PR', 'AS', 'PL', 'SO'],
  );
  protected readonly rowId = (row: PlannedRow) => String(row.id);
  protected readonly pathTo = (row: PlannedRow) => pathOf({ kind: 'PR', id: row.id });
  protected readonly columns = computed<GridColumn<PlannedRow>[]>(() => {
    const workDate = this.session.workDate();
    return [
      { id: 'number', head: 'Number', width: 96, text: (row) => row.number, link: this.pathTo },
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
        need: (row) => row.state === 'planned' && row.start < workDate,
      },
      { id: 'due', head: 'There on', width: 108, text: (row) => day(row.due, workDate) },
      {
        id: 'for',
        head: 'For',
        width: 240,
        text: forWhom,
        link: (row) => row.for && pathOf({ kind: row.for.kind as DocumentKind, id: row.for.id }),
      },
    ];
  });

  constructor() {
    inject(Title).setTitle('Workshop · Kampong');
  }
}
