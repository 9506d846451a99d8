import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { ROUTE_NAMES } from '@core/catalogue';
import { inUnits } from '@core/kernel';
import { Session } from '../access/session';
import { DocumentDock } from '../documents/dock';
import { kindName, pathOf } from '../kit/documents';
import { day, money, price, quantity } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { liveDocument, LiveList } from '../kit/live';
import { Locations } from '../kit/locations';
import { Quiet } from '../kit/quiet';
import { Refusals } from '../kit/refusals';
import { Sheets } from '../kit/sheet';
import { BetweenSheet, type BetweenData } from './between-sheet';
import { Parties, type StockEntry as Entry } from './service';

/** An item: how it is supplied, what is on hand, who sells it to us. */
@Component({
  selector: 'k-item',
  imports: [DocumentDock, Grid, Refusals, RouterLink],
  template: `<div class="page">
    @if (sheet(); as shown) {
      <div class="title">
        <h1>
          <b>{{ shown.number }}</b> {{ shown.name
          }}<span>by {{ shown.unit }}, supplied by {{ routes[shown.route] }}</span>
        </h1>
        <a class="act" routerLink="/lists" [queryParams]="{ list: 'prices', q: shown.number }">Kept prices</a>
        <a class="act" routerLink="/lists" [queryParams]="{ list: 'units', q: shown.number }">Units</a>
        @if (movable()) {
          <button type="button" class="act" (click)="move()">Move…</button>
        }
      </div>
      <div class="head">
        <div><small>List price</small>{{ price(shown.listPrice) }}</div>
        <div><small>Tax</small>{{ shown.taxCode }}</div>
        <div><small>On hand</small>{{ inUnits(quantity(shown.onHand), shown.unit) }}</div>
        @if (shown.places.length > 1) {
          @for (place of shown.places; track place.location.id) {
            <div>
              <small>{{ place.location.name }}</small>{{ quantity(place.onHand) }}, {{ quantity(place.free) }} free
            </div>
          }
        }
        <div><small>Stock value</small>{{ money(shown.stockValue) }}</div>
      </div>
      <div class="sheet">
        <table class="small">
          <thead>
            <tr>
              <th>Vendor</th>
              <th class="num">Price</th>
              <th class="num">Lead days</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            @for (vendor of shown.vendors; track vendor.id) {
              <tr>
                <td>
                  <a class="link" [routerLink]="pathOf({ kind: 'vendor', id: vendor.id })">{{ vendor.name }}</a>
                </td>
                <td class="num">{{ price(vendor.unitPrice) }}</td>
                <td class="num">{{ vendor.leadDays }}</td>
                <td>{{ vendor.preferred ? 'preferred' : '' }}</td>
              </tr>
            } @empty {
              <tr>
                <td class="faint">Nobody sells it to us.</td>
              </tr>
            }
          </tbody>
        </table>
        <h2>Stock entries</h2>
        <k-grid
          label="Stock entries"
          [rows]="entries.rows()"
          [columns]="columns()"
          [rowId]="rowId"
          (opened)="open($event)"
          (nearEnd)="entries.more()"
        />
        @if (entries.rows().length === 0 && !entries.loading()) {
          <p class="faint">Nothing of it has moved yet.</p>
        }
      </div>
      <k-document-dock [itemId]="shown.id" />
    } @else {
      <k-refusals [refusals]="loaded.state().refusals" />
    }
  </div>`,
  styles: `
    h2 {
      font: 600 16px var(--serif);
      margin: 16px 0 2px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ItemPage {
  private readonly parties = inject(Parties);
  private readonly titles = inject(Title);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly quiet = inject(Quiet);
  private readonly locations = inject(Locations);
  private readonly currency = this.session.company()?.currency ?? 'MYR';
  readonly id = input.required<string>();
  protected readonly loaded = liveDocument(
    this.id,
    (id) => this.parties.item(Number(id)),
    (document) => document.kind === 'SH' || document.kind === 'RC' || document.kind === 'JR',
  );
  protected readonly sheet = computed(() => this.loaded.state().value);
  /** Back from the item to every document that moved it. */
  private readonly query = computed(() => ({ id: Number(this.id()) }));
  protected readonly entries = new LiveList<{ id: number }, Entry>(
    this.query,
    ({ id }, cursor) => this.parties.stockEntries(id, cursor),
    ['SH', 'RC', 'CN', 'JR'],
  );
  protected readonly rowId = (row: Entry) => String(row.id);
  protected readonly columns = computed<GridColumn<Entry>[]>(() => [
    {
      id: 'document',
      head: 'Document',
      width: 110,
      text: (row) => row.document.number,
      link: (row) => pathOf(row.document),
    },
    { id: 'what', head: 'What', text: (row) => kindName(row.document.kind) },
    { id: 'day', head: 'Day', width: 130, text: (row) => day(row.postedOn, this.session.workDate()) },
    {
      id: 'place',
      head: 'Where',
      width: 160,
      text: (row) => (row.place === 'ours' ? row.location : 'vendor to customer'),
    },
    { id: 'quantity', head: 'Quantity', width: 100, figures: true, text: (row) => quantity(row.quantity) },
    { id: 'cost', head: 'Cost', width: 120, figures: true, text: (row) => this.money(row.cost) },
    { id: 'onHand', head: 'On hand after', width: 120, figures: true, text: (row) => quantity(row.onHand) },
  ]);
  /** Where there is another place to move it to. */
  protected readonly movable = computed(
    () => this.session.may('goods') && this.locations.all().length > 1 && (this.sheet()?.places.length ?? 0) > 0,
  );

  protected move(): void {
    const data = { item: this.sheet()!, locations: this.locations.all(), currency: this.currency };
    this.sheets.open<BetweenData>(BetweenSheet, data).subscribe((done) => {
      if (!done) return;
      this.loaded.reload();
      this.quiet.say('Moved:', done.made[0]!);
    });
  }

  protected open(row: Entry): void {
    void this.router.navigateByUrl(pathOf(row.document));
  }

  protected readonly routes = ROUTE_NAMES;
  protected readonly pathOf = pathOf;
  protected readonly quantity = quantity;
  protected readonly inUnits = inUnits;
  protected readonly money = (value: string) => money(value, this.currency);
  protected readonly price = (value: string) => price(value, this.currency);

  constructor() {
    this.locations.read();
    effect(() => this.titles.setTitle(`${this.sheet()?.number ?? 'Item'} · Kampong`));
  }
}
