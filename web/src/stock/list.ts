import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import type * as z from 'zod';
import { inUnits, MAIN_LOCATION, UNDER_WAY } from '@core/kernel';
import * as contract from '@api/stock';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { Api } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { money, quantity } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { Locations } from '../kit/live/locations';
import { AdjustSheet, type AdjustData } from './adjust-sheet';

type Row = z.infer<typeof contract.StockRow>;
type Query = z.input<typeof contract.listStock.query>;

/** What is at our places, item by item: here, held, free, coming, worth. // W6 */
@Component({
  selector: 'k-stock-list',
  imports: [DocumentDock, ListPage, RouterLink],
  template: `<k-list-page [list]="list">
    <span acts>
      <a class="act" routerLink="/serials">Serial numbers</a>
      <a class="act" routerLink="/carriages">Under way</a>
      <a class="act" routerLink="/counts">Counts</a>
      @if (list.row(); as row) {
        <a class="act" [href]="'/api/items/' + row.item.id + '/label.pdf'" target="_blank"
          >Label of {{ row.item.number }}</a
        >
      }
      @if (chosen(); as row) {
        @if (several() && row.free !== '0') {
          <a class="act" [routerLink]="list.pathTo(row)" [queryParams]="{ do: 'move' }">Move…</a>
        }
        <button type="button" class="act next" (click)="adjust(row)">Put {{ row.item.number }} right…</button>
      }
    </span>
    <k-document-dock [itemId]="list.row()?.item?.id ?? null" [asking]="asking()" [about]="about()" />
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StockList {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  private readonly currency = this.session.company()?.currency ?? '';
  protected readonly list: DocumentList<Query, Row> = new DocumentList<Query, Row>({
    head: 'Stock',
    sub: 'what is at our places, for whom it is held, and what it is worth',
    looksIn: 'Item number or name',
    narrows: [{ name: 'location', label: 'Location', kind: 'brought', words: (id) => this.placeNamed(id) }],
    load: (query) => this.api.call(contract.listStock, { query }),
    kinds: ['RC', 'SH', 'CN', 'JR', 'SO', 'PO'],
    document: ({ item }) => ({ kind: 'item', id: item.id }),
    rowId: ({ item, location }) => `${item.id} ${location.id}`,
    columns: () => this.columns(),
    empty: 'Nothing is here. What is received, made or brought in as opening stock stands here.',
  });
  private placeNamed(id: string): string {
    return this.locations.all().find((each) => each.id === Number(id))?.name ?? id;
  }

  /** The row whose stock may be put right. */
  protected readonly chosen = computed(() => {
    const row = this.list.row();
    // What is under way is put right where it arrives.
    return row && row.location.id !== UNDER_WAY && this.session.may('goods') ? row : null;
  });
  private readonly locations = inject(Locations);
  protected readonly several = computed(() => this.locations.all().length > 1);
  protected readonly about = computed(() => {
    const row = this.list.row();
    return row ? `${row.item.number} at ${row.location.name} · ${inUnits(quantity(row.onHand), row.item.unit)}` : '';
  });

  /** When more of it is there, at the row's place. */
  protected readonly asking = computed(() => ({
    lineId: null,
    locationId: this.list.row()?.location.id ?? MAIN_LOCATION,
    quantity: '',
    by: null,
  }));

  constructor() {
    this.locations.read();
  }

  private columns(): GridColumn<Row>[] {
    const counted = (text: string) => (text === '0' ? '–' : quantity(text));
    return [
      { id: 'item', head: 'Item', width: 110, text: (row) => row.item.number, link: this.list.pathTo },
      { id: 'what', head: 'What', text: (row) => row.item.name },
      { id: 'place', head: 'Place', width: 160, text: (row) => row.location.name },
      { id: 'here', head: 'Here', width: 100, figures: true, text: (row) => counted(row.onHand) },
      { id: 'held', head: 'Held', width: 90, figures: true, text: (row) => counted(row.held) },
      { id: 'free', head: 'Free', width: 100, figures: true, text: (row) => counted(row.free) },
      { id: 'coming', head: 'Coming', width: 100, figures: true, text: (row) => counted(row.coming) },
      { id: 'unit', head: 'Unit', width: 80, text: (row) => row.item.unit },
      ...(this.session.may('see-costs')
        ? [
            {
              id: 'worth',
              head: `Worth, ${this.currency}`,
              width: 130,
              figures: true,
              text: (row: Row) => money(row.worth, this.currency),
            },
          ]
        : []),
    ];
  }

  protected adjust(row: Row): void {
    this.sheets.open<AdjustData>(AdjustSheet, { row, currency: this.currency }).subscribe((done) => {
      if (done) this.notices.show('Put right:', done.made[0]!);
    });
  }
}
