import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import type * as z from 'zod';
import * as contract from '@api/serial';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { pathOf } from '../kit/documents';
import { day } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { forWhom, PLACE_NAMES, whereIs, type Piece } from './words';

type Query = z.input<typeof contract.listSerials.query>;

/** Pieces with numbers of their own: where each is, for whom, and what made or brought it. // W7 */
@Component({
  selector: 'k-serial-list',
  imports: [ListPage, RouterLink],
  template: `<k-list-page [list]="list">
    <a acts class="act" routerLink="/stock">Stock</a>
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SerialList {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  protected readonly list: DocumentList<Query, Piece> = new DocumentList<Query, Piece>({
    head: 'Serial numbers',
    sub: () => {
      const [row] = this.list.rows.rows();
      return this.list.filterValue('item') && row
        ? `of ${row.item.number}, ${row.item.name}`
        : 'where each piece is, for whom, and since when';
    },
    looksIn: 'Number, item, order or customer',
    filters: [
      {
        name: 'place',
        label: 'Where they are',
        chips: [
          ['', 'All'],
          ['ours', 'With us'],
          ['customer', 'At customers'],
          ['used', 'In products'],
          ['out', 'Not with us any more'],
        ],
      },
    ],
    narrows: [{ name: 'item', label: 'Item', kind: 'brought', words: (id) => this.itemNamed(id) }],
    load: (query) => this.api.call(contract.listSerials, { query }),
    kinds: ['RC', 'SH', 'WR', 'CN', 'JR', 'CT', 'SO'],
    document: ({ id }) => ({ kind: 'serial', id }),
    columns: () => this.columns(),
    empty: 'No piece has a number here. An item is kept by number from its own page on.',
  });

  private itemNamed(id: string): string {
    return this.list.rows.rows().find(({ item }) => item.id === Number(id))?.item.number ?? `no. ${id}`;
  }

  private columns(): GridColumn<Piece>[] {
    const workDate = this.session.workDate();
    return [
      { id: 'number', head: 'Number', width: 130, text: (row) => row.number, link: this.list.pathTo },
      {
        id: 'item',
        head: 'Item',
        width: 90,
        text: (row) => row.item.number,
        link: (row) => pathOf({ kind: 'item', id: row.item.id }),
      },
      { id: 'what', head: 'What', text: (row) => row.item.name },
      { id: 'state', head: 'Is', width: 110, text: (row) => PLACE_NAMES[row.place] },
      {
        id: 'where',
        head: 'Where',
        width: 180,
        text: whereIs,
        link: (row) => (row.within && row.place === 'used' ? pathOf({ kind: 'serial', id: row.within.id }) : null),
      },
      {
        id: 'for',
        head: 'For whom',
        width: 230,
        text: forWhom,
        link: (row) => (forWhom(row) && row.line ? pathOf(row.line.order) : null),
      },
      { id: 'born', head: 'Came with', width: 100, text: (row) => row.born.number, link: (row) => pathOf(row.born) },
      { id: 'on', head: 'On', width: 110, text: (row) => day(row.bornOn, workDate) },
    ];
  }
}
