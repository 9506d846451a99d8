import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { MAIN_LOCATION } from '@core/kernel';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { pathOf } from '../kit/documents';
import { counted, day, money } from '../kit/formats';
import { Grid } from '../kit/grid';
import { comingOf, PurchaseActs } from './purchase-acts';
import { purchaseColumns } from './purchase-columns';
import { Purchases, type PurchaseLine, type PurchaseSheet } from './service';

/** One purchase order: who it is for, what came, what the vendor invoiced. */
@Component({
  selector: 'k-purchase',
  imports: [DocumentDock, DocumentTitle, Grid, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page" />
    @if (page.sheet(); as shown) {
      <div class="head">
        <div>
          <small>Vendor</small
          ><a class="link" [routerLink]="pathOf({ kind: 'vendor', id: shown.vendor.id })">{{ shown.vendor.name }}</a>
        </div>
        @if (shown.customer; as customer) {
          <div>
            <small>Drop shipped to</small
            ><a class="link" [routerLink]="pathOf({ kind: 'customer', id: customer.id })">{{ customer.name }}</a
            >, {{ shown.shipTo?.label }}
          </div>
        }
        @if (shown.location; as place) {
          <div><small>Comes to</small>{{ place.name }}</div>
        }
        @if (shown.openedAs) {
          <div><small>Before Kampong</small>{{ shown.openedAs }}</div>
        }
        <div><small>Placed</small>{{ day(shown.orderDate) }}</div>
        <div><small>First due</small>{{ day(shown.firstDueDate) }}</div>
        <div><small>Their answer</small>{{ shown.answeredOn ? 'came ' + day(shown.answeredOn) : 'not yet' }}</div>
        <div><small>Terms</small>{{ shown.terms }}</div>
        @if (shown.revision > 0) {
          <div><small>Revision</small>{{ shown.revision }}</div>
        }
      </div>
      <div class="sheet">
        <k-grid
          label="Lines of the purchase order"
          [natural]="shown.lines.length < 7"
          [rows]="shown.lines"
          [columns]="columns()"
          [rowId]="page.rowId"
          [standOn]="at() ?? null"
          (opened)="toOrder($event)"
          (selected)="page.select($event)"
        />
        <div class="totals">
          <b>{{ shown.currency }}</b><b>{{ money(shown.net) }}</b>
        </div>
      </div>
      <k-document-dock
        [document]="page.document()"
        [orderLineId]="page.line()?.ties?.[0]?.orderLineId ?? null"
        [itemId]="page.line()?.item?.id ?? null"
        [asking]="asking()"
        [related]="shown.documents"
      />
    }
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PurchasePage {
  private readonly purchases = inject(Purchases);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  readonly id = input.required<string>();
  /** A side sheet to open at once. */
  readonly do = input<string>();
  /** The line to stand on. */
  readonly at = input<string>();
  protected readonly page: DocumentPage<string, PurchaseSheet, PurchaseLine> = new DocumentPage({
    key: this.id,
    name: 'Purchase order',
    open: (id) => this.purchases.open(Number(id)),
    document: ({ id, number }) => ({ kind: 'PO', id, number }),
    heading: (sheet) => ({
      strong: sheet.number,
      rest: ` from ${sheet.vendor.name}`,
      sub: `${sheet.state} · ${counted(sheet.lines.length, 'line')}${sheet.firstDueDate && comingOf(sheet).length > 0 ? ` · first due ${this.day(sheet.firstDueDate)}` : ''}`,
    }),
    lines: (sheet) => sheet.lines,
    doing: this.do,
    acts: () => this.acts.all(),
  });
  private readonly acts: PurchaseActs = new PurchaseActs(this.page);
  /** Where it comes to; nobody asks for anything. */
  protected readonly asking = computed(() => ({
    lineId: null,
    locationId: this.page.sheet()?.location?.id ?? MAIN_LOCATION,
    quantity: '',
    by: null,
  }));
  protected readonly columns = computed(() => {
    const sheet = this.page.sheet();
    return sheet ? purchaseColumns(sheet, this.session.workDate()) : [];
  });

  /** To the sales order a line is for, and to its line there: Enter goes there and back. // L5 */
  protected toOrder({ ties: [first] }: PurchaseLine): void {
    if (first) void this.router.navigate([pathOf(first.order)], { queryParams: { at: first.orderLineId } });
  }

  protected readonly day = (value: string | null) => day(value, this.session.workDate());
  protected readonly money = (value: string) => money(value, this.page.sheet()?.currency ?? 'MYR');
  protected readonly pathOf = pathOf;
}
