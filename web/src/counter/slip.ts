import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { tap } from 'rxjs/operators';
import { dec } from '@core/kernel';
import { Session } from '../access';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { day, money, price, quantity } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { BackSheet } from './back-sheet';
import { Counter, type SlipSheet } from './service';

type Line = SlipSheet['lines'][number];

const TENDER_NAMES = { cash: 'Cash', card: 'Card', voucher: 'Voucher', account: 'On account' } as const;

/** One slip: what was handed over, how it was paid, what waits, and what came back. // C3 C5 */
@Component({
  selector: 'k-slip',
  imports: [DocumentTitle, Grid, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page" />
    @if (page.sheet(); as shown) {
      <div class="head">
        <div>
          <small>Customer</small
          ><a class="link" [routerLink]="pathOf({ kind: 'customer', id: shown.customer.id })">{{
            shown.named ? shown.customer.name : 'nobody in particular'
          }}</a>
        </div>
        <div>
          <small>Drawer</small><a class="link" [routerLink]="pathOf(shown.drawer)">{{ shown.drawer.number }}</a> at
          {{ shown.till }}
        </div>
        @if (shown.invoice; as invoice) {
          <div>
            <small>Invoice</small><a class="link" [routerLink]="pathOf(invoice)">{{ invoice.number }}</a>
          </div>
        }
        @if (shown.creditNote; as note) {
          <div>
            <small>Credit note</small><a class="link" [routerLink]="pathOf(note)">{{ note.number }}</a>
          </div>
        }
        @if (shown.returns; as slip) {
          <div>
            <small>Brings back</small><a class="link" [routerLink]="pathOf(slip)">{{ slip.number }}</a>
          </div>
        }
        @for (each of shown.orders; track each.id) {
          <div>
            <small>Order</small><a class="link" [routerLink]="pathOf(each)">{{ each.number }}</a>
          </div>
        }
        @for (each of shown.broughtBack; track each.id) {
          <div>
            <small>Brought back</small><a class="link" [routerLink]="pathOf(each)">{{ each.number }}</a>
          </div>
        }
        <div><small>Sold by</small>{{ shown.soldBy }}</div>
      </div>
      <div class="sheet">
        <k-grid label="Lines of the slip" [natural]="true" [rows]="shown.lines" [columns]="columns()" [rowId]="rowId" />
        @if (shown.waiting.length > 0) {
          <p class="waits">
            Not taken along:
            @for (each of shown.waiting; track $index) {
              <span
                >{{ quantity(each.quantity) }} {{ each.item.number }} on {{ day(each.shipDate) }} (<a
                  class="link"
                  [routerLink]="pathOf(each.order)"
                  >{{ each.order.number }}</a
                >)</span
              >
            }
          </p>
        }
        <div class="totals">
          @for (tax of shown.taxes; track tax.taxCode) {
            <span>Tax {{ tax.taxRate }} % of {{ money(tax.base) }}</span
            ><span>{{ money(tax.tax) }}</span>
          }
          <b>{{ shown.currency }}</b><b>{{ money(shown.total) }}</b>
          @if (!isZero(shown.covered)) {
            <span>paid ahead before</span><span>{{ money(shown.covered) }}</span>
          }
          @if (!isZero(shown.deposited)) {
            <span>deposit for what waits</span><span>{{ money(shown.deposited) }}</span>
          }
          @for (each of shown.payments; track $index) {
            <span>{{ names[each.kind] }}{{ each.voucher ? ' ' + each.voucher : '' }}</span
            ><span>{{ money(paid(each)) }}</span>
          }
          @if (!isZero(shown.given)) {
            <span class="faint">given {{ money(shown.given) }}, change</span
            ><span class="faint">{{ money(shown.change) }}</span>
          }
        </div>
      </div>
    }
  </div>`,
  styles: `
    .waits {
      margin: 8px 0;
      color: var(--ochre);
    }
    .waits span + span::before {
      content: ', ';
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SlipPage {
  private readonly counter = inject(Counter);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  readonly id = input.required<string>();
  protected readonly names = TENDER_NAMES;
  protected readonly page: DocumentPage<string, SlipSheet> = new DocumentPage({
    key: this.id,
    name: 'Slip',
    open: (id) => this.counter.slip(Number(id)),
    document: (sheet) => sheet.document,
    heading: (sheet) => ({
      strong: sheet.document.number,
      rest: sheet.named ? ` for ${sheet.customer.name}` : '',
      sub: `${this.day(sheet.soldOn)} at ${sheet.till} · ${sheet.currency} ${this.money(sheet.total)}`,
    }),
    touchedBy: (document, sheet) =>
      document.kind === 'SL' || document.kind === 'SO' || document.id === sheet?.document.id,
    acts: () => {
      const sheet = this.page.sheet();
      if (!sheet) return [];
      return [
        {
          name: 'back',
          label: 'Bring back…',
          place: 'step' as const,
          when:
            sheet.invoice !== null && sheet.lines.some(({ left }) => dec(left).gt(0)) && this.session.may('counter'),
          asks: true as const,
          does: () =>
            this.sheets.open(BackSheet, sheet).pipe(
              tap((done) => {
                // What goes back by card is told to the terminal at once; where it is silent, the till asks again.
                if (done) this.counter.hearBack().subscribe({ error: () => undefined });
              }),
            ),
          says: (done) => {
            const slip = done.made.find(({ kind }) => kind === 'SL');
            return slip ? (['Brought back:', slip] as const) : undefined;
          },
        },
        {
          name: 'paper',
          label: 'Slip on paper',
          place: 'button' as const,
          file: `/api/slips/${sheet.document.id}/slip.pdf`,
        },
      ];
    },
  });
  protected readonly rowId = (row: Line) => String(row.id);
  protected readonly columns = computed<GridColumn<Line>[]>(() => {
    const currency = this.page.sheet()?.currency ?? 'MYR';
    return [
      {
        id: 'item',
        head: 'Item',
        width: 100,
        text: (row) => row.item.number,
        link: (row) => pathOf({ kind: 'item', id: row.item.id }),
      },
      { id: 'what', head: 'What', text: (row) => row.item.name },
      { id: 'numbers', head: 'Numbers', width: 150, text: (row) => row.numbers.join(', ') },
      { id: 'quantity', head: 'Quantity', width: 90, figures: true, text: (row) => quantity(row.quantity) },
      { id: 'unit', head: 'Unit', width: 70, text: (row) => row.item.unit },
      { id: 'price', head: 'Each', width: 100, figures: true, text: (row) => price(row.unitPrice, currency) },
      { id: 'net', head: 'Net', width: 110, figures: true, text: (row) => money(row.net, currency) },
      { id: 'tax', head: 'Tax', width: 60, text: (row) => row.tax },
    ];
  });
  protected readonly paid = ({ invoiced, deposited, rounding }: SlipSheet['payments'][number]) =>
    dec(invoiced).plus(deposited).plus(rounding).toFixed();
  protected readonly isZero = (value: string) => dec(value).eq(0);
  protected readonly money = (value: string) => money(value, this.page.sheet()?.currency ?? 'MYR');
  protected readonly quantity = quantity;
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly pathOf = pathOf;
}
