import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import type * as z from 'zod';
import { dec } from '@core/kernel';
import * as contract from '@api/stock';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { Api } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { day, quantity } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { Locations } from '../kit/live/locations';
import { ArriveSheet, openOf, type ArriveData, type Carriage } from './arrive-sheet';
import { ArrivesOnSheet } from './arrives-on-sheet';

type Query = z.input<typeof contract.listCarriages.query>;

/** Goods under way between our places: what, from where to where, and when they arrive. // W6 */
@Component({
  selector: 'k-carriages',
  imports: [DocumentDock, ListPage, RouterLink],
  template: `<k-list-page [list]="list">
    <span acts>
      <a class="act" routerLink="/stock">Stock</a>
      @if (chosen(); as row) {
        <button type="button" class="act" (click)="another(row)">Another day…</button>
        <button type="button" class="act next" (click)="arrive(row)">{{ row.item.number }} arrived…</button>
      }
    </span>
    <k-document-dock [document]="list.about()" />
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CarriagesPage {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  protected readonly list: DocumentList<Query, Carriage> = new DocumentList<Query, Carriage>({
    head: 'Under way',
    sub: 'goods that left one of our places for another',
    looksIn: 'Journal, item number or name',
    filters: [
      {
        name: 'state',
        label: 'Which goods',
        chips: [
          ['under-way', 'Under way'],
          ['all', 'All'],
        ],
      },
    ],
    load: (query) => this.api.call(contract.listCarriages, { query }),
    kinds: ['JR'],
    document: ({ document }) => document,
    rowId: ({ id }) => String(id),
    columns: () => this.columns(),
    empty: 'Nothing is under way between our places. Move an item from its page, with a day it arrives.',
  });
  /** The row that may arrive. */
  protected readonly chosen = computed(() => {
    const row = this.list.row();
    return row?.state === 'under way' && this.session.may('goods') ? row : null;
  });

  constructor() {
    inject(Locations).read();
  }

  private columns(): GridColumn<Carriage>[] {
    const workDate = this.session.workDate();
    const late = (row: Carriage) => row.state === 'under way' && row.dueDate < workDate;
    return [
      { id: 'number', head: 'Left with', width: 110, text: (row) => row.document.number, link: this.list.pathTo },
      { id: 'item', head: 'Item', width: 110, text: (row) => row.item.number },
      { id: 'what', head: 'What', text: (row) => row.item.name },
      { id: 'from', head: 'From', width: 140, text: (row) => row.from.name },
      { id: 'to', head: 'To', width: 140, text: (row) => row.to.name },
      { id: 'sent', head: 'Sent', width: 90, figures: true, text: (row) => quantity(row.quantity) },
      {
        id: 'arrived',
        head: 'Arrived',
        width: 90,
        beads: (row) => [
          {
            label: `${quantity(row.arrived)} of ${quantity(row.quantity)} arrived`,
            share: dec(row.arrived).div(row.quantity).toNumber(),
          },
        ],
      },
      { id: 'left', head: 'Left on', width: 100, text: (row) => day(row.leftOn, workDate) },
      {
        id: 'due',
        head: 'Arrives',
        width: 130,
        text: (row) =>
          row.state === 'taken back' ? 'taken back' : `${day(row.dueDate, workDate)}${late(row) ? ', late' : ''}`,
      },
    ];
  }

  protected arrive(row: Carriage): void {
    const currency = this.session.company()?.currency ?? '';
    this.sheets.open<ArriveData>(ArriveSheet, { row, currency }).subscribe((done) => {
      if (done)
        this.notices.show(`${row.item.number}: ${quantity(openOf(row))} were under way; arrived with`, done.made[0]!);
    });
  }

  protected another(row: Carriage): void {
    this.sheets.open<{ row: Carriage }>(ArrivesOnSheet, { row }).subscribe((done) => {
      if (done) this.notices.show(`The day of ${row.item.number} is kept.`);
    });
  }
}
