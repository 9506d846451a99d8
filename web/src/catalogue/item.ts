import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { ROUTE_NAMES } from '@core/catalogue';
import { switchMap } from 'rxjs/operators';
import { inUnits, UNDER_WAY } from '@core/kernel';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { DocumentPage, DocumentTitle, type DocumentAct } from '../kit/act/document-page';
import { kindName, pathOf } from '../kit/documents';
import { counted, day, money, price, quantity } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { liveDocument, LiveList } from '../kit/live/live';
import { Locations } from '../kit/live/locations';
import { Sheets } from '../kit/act/sheet';
import { KeepSheet, type KeepData } from '../serial';
import { BetweenSheet, type BetweenData } from '../stock';
import { Catalogue, type ItemSheet, type StockEntry as Entry } from './service';

/** An item as a desk: what is here, who has it on order and who bought it, who brings it, what it goes into, what moved it. */
@Component({
  selector: 'k-item',
  imports: [DocumentDock, DocumentTitle, Grid, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page">
      @if (page.sheet(); as shown) {
        <a class="act" [routerLink]="['/kept/item', shown.id]">Units, prices, vendors, how it is made…</a>
        @if (shown.serialPattern !== null) {
          <a class="act" routerLink="/serials" [queryParams]="{ item: shown.id }">Serial numbers</a>
        }
      }
    </k-document-title>
    @if (page.sheet(); as shown) {
      <div class="head">
        <div><small>List price</small>{{ price(shown.listPrice) }}</div>
        <div><small>Tax</small>{{ shown.taxCode }}</div>
        <div><small>On hand</small>{{ inUnits(quantity(shown.onHand), shown.unit) }}</div>
        @if (shown.places.length > 1) {
          @for (place of shown.places; track place.location.id) {
            <div>
              <small>{{ place.location.name }}</small>{{ quantity(place.onHand) }}
              @if (place.location.id !== UNDER_WAY) {
                , {{ quantity(place.free) }} free
              }
            </div>
          }
        }
        <div><small>Stock value</small>{{ money(shown.stockValue) }}</div>
      </div>
      <div class="bands">
        <section>
          <h2>On order</h2>
          <table class="small">
            <tbody>
              @for (row of work()?.onOrder ?? []; track $index) {
                <tr>
                  <td>
                    <a class="link" [routerLink]="pathOf(row.order)">{{ row.order.number }}</a> line {{ row.lineNo }}
                  </td>
                  <td class="name">{{ row.customer.name }}</td>
                  <td class="num">{{ quantity(row.open) }}</td>
                  <td>
                    <span [class.need]="row.shipDate < session.workDate()">{{ day(row.shipDate) }}</span>
                  </td>
                </tr>
              } @empty {
                <tr>
                  <td class="faint">Nobody has it on order.</td>
                </tr>
              }
            </tbody>
          </table>
          <h2>Bought it lately</h2>
          <table class="small">
            <tbody>
              @for (row of work()?.buyers ?? []; track row.customer.id) {
                <tr>
                  <td class="name">
                    <a class="link" [routerLink]="['/customers', row.customer.id]">{{ row.customer.name }}</a>
                  </td>
                  <td class="num">{{ row.times }}×</td>
                  <td class="num">{{ inUnits(quantity(row.quantity), shown.unit) }}</td>
                  <td class="num">{{ row.currency }} {{ priceIn(row.lastPrice, row.currency) }}</td>
                  <td>{{ day(row.lastDay) }}</td>
                </tr>
              } @empty {
                <tr>
                  <td class="faint">Nobody bought it yet.</td>
                </tr>
              }
            </tbody>
          </table>
        </section>
        <section>
          <h2>To come</h2>
          <table class="small">
            <tbody>
              @for (row of work()?.coming ?? []; track $index) {
                <tr>
                  <td>
                    <a class="link" [routerLink]="pathOf(row.purchase)">{{ row.purchase.number }}</a>
                  </td>
                  <td class="name">{{ row.vendor.name }}{{ row.straight ? ', straight to the customer' : '' }}</td>
                  <td class="num">{{ quantity(row.open) }}</td>
                  <td>
                    <span [class.need]="row.dueDate < session.workDate()">{{ day(row.dueDate) }}</span>
                  </td>
                </tr>
              } @empty {
                <tr>
                  <td class="faint">No vendor is to bring it.</td>
                </tr>
              }
            </tbody>
          </table>
          <h2>Vendors</h2>
          <table class="small">
            <tbody>
              @for (vendor of shown.vendors; track vendor.id) {
                <tr>
                  <td class="name">
                    <a class="link" [routerLink]="pathOf({ kind: 'vendor', id: vendor.id })">{{ vendor.name }}</a>
                  </td>
                  <td class="num">
                    {{ vendor.currency }} {{ priceIn(vendor.unitPrice, vendor.currency) }}
                    @if (vendor.currency !== currency && vendor.ownPrice) {
                      <span class="faint">{{ currency }} {{ price(vendor.ownPrice) }}</span>
                    }
                  </td>
                  <td class="num">{{ counted(vendor.leadDays, 'day') }}</td>
                  <td>{{ vendor.preferred ? 'preferred' : '' }}</td>
                </tr>
              } @empty {
                <tr>
                  <td class="faint">Nobody sells it to us.</td>
                </tr>
              }
            </tbody>
          </table>
          @if ((work()?.usedIn ?? []).length > 0) {
            <h2>Goes into</h2>
            <p class="into">
              @for (row of work()!.usedIn; track row.item.id) {
                <span
                  >{{ quantity(row.quantity) }} in
                  <a class="link" [routerLink]="['/items', row.item.id]">{{ row.item.number }}</a></span
                >
              }
            </p>
          }
        </section>
      </div>
      <div class="sheet entries">
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
    }
  </div>`,
  styleUrl: '../kit/desk.scss',
  styles: `
    .bands {
      max-height: 46%;
      flex: none;
    }
    .entries {
      min-height: 120px;
    }
    .into span + span::before {
      content: ' · ';
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ItemPage {
  private readonly catalogue = inject(Catalogue);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly locations = inject(Locations);
  protected readonly UNDER_WAY = UNDER_WAY;
  protected readonly currency = this.session.company()?.currency ?? 'MYR';
  readonly id = input.required<string>();
  /** A side sheet to open at once. */
  readonly do = input<string>();
  protected readonly page: DocumentPage<string, ItemSheet> = new DocumentPage({
    key: this.id,
    name: 'Item',
    open: (id) => this.catalogue.item(Number(id)),
    heading: (sheet) => ({
      strong: sheet.number,
      rest: ` ${sheet.name}`,
      sub: `by ${sheet.unit}, supplied by ${ROUTE_NAMES[sheet.route]}`,
    }),
    touchedBy: (document) => ['SH', 'RC', 'JR'].includes(document.kind),
    doing: this.do,
    acts: (): DocumentAct[] => [
      {
        name: 'move',
        asks: true,
        label: 'Move…',
        // Where there is another place to move it to.
        when:
          this.session.may('goods') && this.locations.all().length > 1 && (this.page.sheet()?.places.length ?? 0) > 0,
        does: () => {
          const item = this.page.sheet()!;
          return this.locations
            .known()
            .pipe(
              switchMap((locations) =>
                this.sheets.open<BetweenData>(BetweenSheet, { item, locations, currency: this.currency }),
              ),
            );
        },
        says: ({ made }) => ['Moved:', made[0]],
      },
      {
        name: 'keep',
        label: this.page.sheet()?.serialPattern === null ? 'Keep it by serial number…' : 'How its numbers are made…',
        place: 'menu',
        when: this.session.may('lists'),
        asks: true,
        does: () => {
          const item = this.page.sheet()!;
          return this.sheets.open<KeepData>(KeepSheet, { item, pattern: item.serialPattern });
        },
        says: () => [`${this.page.sheet()!.number} moves by serial number from now on.`],
      },
    ],
  });
  /** Back from the item to every document that moved it. */
  private readonly query = computed(() => ({ id: Number(this.id()) }));
  protected readonly entries = new LiveList<{ id: number }, Entry>(
    this.query,
    ({ id }, cursor) => this.catalogue.stockEntries(id, cursor),
    ['SH', 'RC', 'CN', 'JR'],
  );
  private readonly worked = liveDocument(
    this.query,
    ({ id }) => this.catalogue.work(id),
    ({ kind }) => ['SO', 'PO', 'SH', 'RC'].includes(kind),
  );
  protected readonly work = computed(() => this.worked.state().value);
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
  protected open(row: Entry): void {
    void this.router.navigateByUrl(pathOf(row.document));
  }

  protected readonly counted = counted;
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly pathOf = pathOf;
  protected readonly quantity = quantity;
  protected readonly inUnits = inUnits;
  protected readonly money = (value: string) => money(value, this.currency);
  protected readonly price = (value: string) => price(value, this.currency);
  protected readonly priceIn = price;

  constructor() {
    this.locations.read();
  }
}
