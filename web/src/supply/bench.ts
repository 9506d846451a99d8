import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { inUnits } from '@core/kernel';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { pathOf } from '../kit/documents';
import { counted, day, price, quantity } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { LiveList } from '../kit/live/live';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { Sheets } from '../kit/act/sheet';
import { PlaceSheet } from './place-sheet';
import { Bench, forText, offerPrice, REASONS, type BenchRow } from './service';

/** The sourcing bench: lines that still need a purchase, grouped by who would supply them. */
@Component({
  selector: 'k-bench',
  imports: [DocumentDock, Grid, Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>
        Sourcing bench<span>{{ sub() }}</span>
      </h1>
      <a class="act" routerLink="/ties">Ties</a>
      @if (order()) {
        <button type="button" class="act" (click)="all()">Show all orders</button>
      }
      @if (toPlace().length > 0) {
        <button type="button" class="act next" (click)="place(toPlace())">Place {{ words() }}…</button>
      }
    </div>
    <k-refusals [refusals]="list.refusals()" />
    <div class="sheet">
      @if (rows().length === 0 && !list.loading()) {
        <p class="empty">
          Nothing needs a purchase. Confirmed lines that go by drop shipment or special order, and what promises and
          planning mean to buy, stand here until they are placed with a vendor.
        </p>
      } @else {
        <k-grid
          label="Lines that need supply"
          [rows]="rows()"
          [columns]="columns()"
          [rowId]="rowId"
          (selected)="selected.set($event)"
          [heading]="under"
          [marks]="true"
          (marked)="marked.set($event)"
          (opened)="place([$event])"
          (nearEnd)="list.more()"
        />
      }
    </div>
    <k-document-dock
      [orderLineId]="shown()?.orderLineId ?? null"
      [document]="shown()?.planned ?? shown()?.order ?? null"
    />
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BenchPage {
  private readonly bench = inject(Bench);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly sheets = inject(Sheets);
  /** Lines of one order only. */
  readonly order = input<string>();
  private readonly query = computed(() => ({
    ...(this.order() ? { orderId: Number(this.order()) } : {}),
    workDate: this.session.workDate(),
  }));
  protected readonly list = new LiveList(
    this.query,
    ({ orderId }, cursor) => this.bench.list({ ...(orderId ? { orderId } : {}), ...(cursor ? { cursor } : {}) }),
    ['SO', 'PO'],
  );
  protected readonly selected = signal<BenchRow | null>(null);
  protected readonly shown = computed(() => this.selected() ?? this.rows()[0] ?? null);
  protected readonly marked = signal<readonly BenchRow[]>([]);
  /** By proposed vendor and where it goes, as they would be placed, then ship date. */
  protected readonly rows = computed(() =>
    [...this.list.rows()].sort(
      (a, b) =>
        vendorOf(a).localeCompare(vendorOf(b)) ||
        goesTo(a).localeCompare(goesTo(b)) ||
        a.shipDate.localeCompare(b.shipDate) ||
        a.key.localeCompare(b.key),
    ),
  );
  protected readonly under = (row: BenchRow) =>
    row.proposal === null ? 'No vendor' : `${vendorOf(row)}, to ${goesTo(row)}`;
  private readonly placeable = computed(() => this.rows().filter((row) => row.proposal !== null));
  /** Those that are marked, else all. */
  protected readonly toPlace = computed(() => {
    const marked = new Set(this.marked().map(({ key }) => key));
    const chosen = this.placeable().filter(({ key }) => marked.has(key));
    return chosen.length > 0 ? chosen : this.placeable();
  });
  protected readonly words = computed(() => {
    const count = this.toPlace().length;
    if (count === this.placeable().length) return count === 1 ? 'it' : `all ${count}`;
    return counted(count, 'marked row');
  });
  protected readonly sub = computed(() => {
    const rows = this.rows();
    const vendors = new Set(rows.map(vendorOf)).size;
    const planned = rows.filter((row) => row.planned !== null).length;
    const what = [
      ...(planned < rows.length ? [`${counted(rows.length - planned, 'line')} without supply`] : []),
      ...(planned > 0 ? [counted(planned, 'planned purchase')] : []),
      counted(vendors, 'vendor'),
    ].join(', ');
    const order = this.order() ? rows.find((row) => row.order)?.order : null;
    return rows.length === 0 ? '' : `${what}${order ? ` · ${order.number}` : ''}`;
  });
  protected readonly rowId = (row: BenchRow) => row.key;
  protected readonly columns = computed<GridColumn<BenchRow>[]>(() => {
    const workDate = this.session.workDate();
    const own = this.session.company()?.currency ?? '';
    return [
      {
        id: 'item',
        head: 'Item',
        width: 100,
        text: (row) => row.item.number,
      },
      {
        id: 'why',
        head: 'Why this vendor',
        width: 168,
        text: (row) =>
          row.proposal
            ? REASONS[row.proposal.reason]
            : row.offers.length > 0
              ? 'nobody who is approved'
              : 'nobody sells it to us',
        need: (row) => row.proposal === null,
      },
      {
        id: 'quantity',
        head: 'Needs',
        width: 104,
        figures: true,
        text: (row) => inUnits(quantity(row.quantity), row.item.unit),
      },
      {
        id: 'price',
        head: `Price, ${own}`,
        width: 96,
        figures: true,
        text: (row) => {
          const offer = row.offers.find((each) => each.vendorId === row.proposal?.vendorId);
          return offer ? (offer.ownPrice ? price(offer.ownPrice, own) : offerPrice(offer, own)) : '';
        },
      },
      {
        id: 'order',
        head: 'For',
        width: 124,
        text: forText,
        link: (row) => pathOf((row.order ?? row.planned)!),
      },
      { id: 'customer', head: 'Customer', text: (row) => row.customer?.name ?? 'our stock' },
      {
        id: 'by',
        head: 'Order by',
        width: 104,
        text: (row) => (row.orderBy === null ? '' : day(row.orderBy, workDate)),
        link: (row) => (row.planned ? pathOf(row.planned) : null),
        need: (row) => row.orderBy !== null && row.orderBy < workDate,
      },
      { id: 'ships', head: 'Needed on', width: 104, text: (row) => day(row.shipDate, workDate) },
      {
        id: 'due',
        head: 'Could be there',
        width: 122,
        text: (row) => day(row.proposal?.due ?? null, workDate),
        need: (row) => (row.proposal?.due ?? '') > row.shipDate,
      },
    ];
  });

  constructor() {
    inject(Title).setTitle('Sourcing bench · Kampong');
  }

  protected all(): void {
    void this.router.navigateByUrl('/bench');
  }

  protected place(rows: readonly BenchRow[]): void {
    this.sheets.open(PlaceSheet, { rows }).subscribe((done) => {
      const purchase = done?.made[0];
      if (!purchase) return;
      if (done.made.length === 1) void this.notices.showAndGo('Placed:', purchase);
      else this.notices.show(`Placed ${done.made.length} purchase orders, first`, purchase);
    });
  }
}

/** Where it is sent: our place, or the customer's address. */
function goesTo(row: BenchRow): string {
  return row.route === 'special' ? 'our place' : `${row.customer!.name}, ${row.shipTo!.label}`;
}

function vendorOf(row: BenchRow): string {
  return row.offers.find((offer) => offer.vendorId === row.proposal?.vendorId)?.vendor ?? '~';
}
