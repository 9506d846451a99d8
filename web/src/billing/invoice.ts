import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dec, type DocumentKind } from '@core/kernel';
import * as contract from '@api/billing';
import { Session } from '../access';
import { DocumentDock, PaperActs } from '../documents';
import { DocumentPage, DocumentTitle, type DocumentAct } from '../kit/act/document-page';
import { pathOf } from '../kit/documents';
import { day, exchangeWords, money, ownMoney, price, quantity } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { ReasonSheet, type AsksReason } from '../kit/act/reason-sheet';
import { Sheets } from '../kit/act/sheet';
import { numbersColumn } from '../serial';
import { allowanceText } from './allowance-text';
import { CreditSheet } from './credit-sheet';
import { PaymentSheet } from './payment-sheet';
import { setOffAct } from './set-off-sheet';
import { TakeBackSheet } from './take-back-sheet';
import { Billing, type InvoiceSheet } from './service';

type Line = InvoiceSheet['lines'][number];

/** What an invoice is about, by kind: its order, its agreement, or the journal that opened the books with it. */
const SOURCES: Partial<Record<DocumentKind, string>> = {
  SO: 'Sales order',
  PO: 'Purchase order',
  AG: 'Agreement',
  JR: 'Opened by',
};

/** What was owed before was told wrongly: a credit note takes it back. // U3 P1 */
const openedWrongly = ({ document, party }: InvoiceSheet): AsksReason<typeof contract.creditInvoice> => ({
  head: `Take back ${document.number}`,
  sub: `${party.name}, owed since before Kampong`,
  act: 'Take it back',
  of: contract.creditInvoice,
  input: (reason) => ({ invoiceId: document.id, kind: 'reversal', reason, lines: [] }),
  effect: ({ currency, total }) => `${currency} ${money(total, currency)} against the opening balance.`,
});

/** One invoice, a customer's or a vendor's. */
@Component({
  selector: 'k-invoice',
  imports: [DocumentDock, DocumentTitle, Grid, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page" />
    @if (page.sheet(); as shown) {
      <div class="head">
        <div>
          <small>{{ vendor() ? 'Vendor' : 'Customer' }}</small><a
            class="link"
            [routerLink]="pathOf({ kind: shown.side, id: shown.party.id })"
            >{{ shown.party.name }}</a
          >
        </div>
        @if (shown.vendorNumber) {
          <div><small>Their number</small>{{ shown.vendorNumber }}</div>
        }
        <div>
          <small>{{ SOURCES[shown.source.kind] }}</small><a class="link" [routerLink]="pathOf(shown.source)">{{
            shown.source.number
          }}</a>
        </div>
        <div><small>Invoiced</small>{{ day(shown.invoiceDate) }}</div>
        <div><small>Due</small>{{ day(shown.dueDate) }}, {{ shown.terms }}</div>
        @if (shown.reverses; as reverses) {
          <div>
            <small>Takes back</small><a class="link" [routerLink]="pathOf(reverses)">{{ reverses.number }}</a
            >,
            {{ shown.reason }}
          </div>
        }
        @if (!shown.reverses && shown.reason) {
          <div><small>It</small>{{ shown.reason }}</div>
        }
        @if (shown.reversedBy; as by) {
          <div>
            <small>Taken back by</small><a class="link" [routerLink]="pathOf(by)">{{ by.number }}</a>
          </div>
        }
        @for (each of shown.lessened; track each.document.kind + each.document.id) {
          <div>
            <small>{{ each.how === 'drawn from' ? 'Drawn from' : 'Set off' }} {{ day(each.day) }}</small
            ><a class="link" [routerLink]="pathOf(each.document)">{{ each.document.number }}</a>
            {{ money(each.amount) }}
          </div>
        }
        @for (payment of shown.payments; track payment.document.id) {
          <div>
            <small>Paid {{ day(payment.paidOn) }}</small
            ><a class="link" [routerLink]="pathOf(payment.document)">{{ payment.document.number }}</a>
            {{ money(payment.amount) }}
            @if (gain(payment.difference); as words) {
              <small>{{ words }}</small>
            }
          </div>
        }
      </div>
      <div class="sheet">
        @if (shown.lines.length > 0) {
          <k-grid
            label="Lines of the invoice"
            [natural]="shown.lines.length < 7"
            [rows]="shown.lines"
            [columns]="columns()"
            [rowId]="page.rowId"
            (selected)="page.select($event)"
          />
        }
        <div class="totals">
          @for (each of shown.allowances; track each.measure) {
            <span>{{ allowanceText(each) }}</span><span>−{{ money(each.amount) }}</span>
          }
          <span>Net</span><span>{{ money(shown.net) }}</span>
          @for (tax of shown.taxes; track tax.taxCode) {
            <span>Tax {{ tax.taxRate }} % of {{ money(tax.base) }}</span
            ><span>{{ money(tax.tax) }}</span>
          }
          <b>{{ shown.currency }}</b><b>{{ money(shown.total) }}</b>
          @if (shown.own; as own) {
            <span class="faint">posted as</span><span class="faint">{{ ownMoney(own.total, own) }}</span>
          }
        </div>
      </div>
      <k-document-dock [document]="shown.document" [orderLineId]="page.line()?.orderLineId ?? null" />
    }
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InvoicePage {
  private readonly billing = inject(Billing);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly paper = new PaperActs();
  readonly id = input.required<string>();
  readonly side = input.required<string>();
  readonly do = input<string>();
  protected readonly vendor = computed(() => this.side() === 'vendor');
  protected readonly page: DocumentPage<string, InvoiceSheet, Line> = new DocumentPage({
    key: this.id,
    name: 'Invoice',
    open: (id) => this.billing.open(this.vendor() ? 'vendor' : 'customer', Number(id)),
    document: (sheet) => sheet.document,
    heading: (sheet) => ({
      strong: sheet.document.number,
      rest: `${this.vendor() ? ' from ' : ' to '}${sheet.party.name}`,
      sub: this.standing(sheet),
    }),
    lines: (sheet) => sheet.lines,
    doing: this.do,
    acts: () => this.acts(),
  });
  private readonly sheet = this.page.sheet;

  private standing(sheet: InvoiceSheet): string {
    if (sheet.reverses) return `takes ${sheet.reverses.number} back`;
    if (sheet.reversedBy) return `taken back by ${sheet.reversedBy.number}`;
    if (!dec(sheet.owed).gt(0)) return 'paid';
    const late = sheet.dueDate < this.session.workDate();
    return `${sheet.currency} ${money(sheet.owed, sheet.currency)} ${this.vendor() ? 'to pay' : 'owed'}, ${late ? 'was ' : ''}due ${this.day(sheet.dueDate)}`;
  }

  private acts(): DocumentAct[] {
    const sheet = this.sheet();
    if (!sheet) return [];
    const vendor = this.vendor();
    return [
      // One from before Kampong is on the paper it was sent as.
      ...(vendor || sheet.source.kind === 'JR' ? [] : this.paper.of(sheet.document)),
      {
        name: 'take-back',
        label: 'Take it back…',
        when: vendor && !sheet.reverses && !sheet.reversedBy,
        does: () => this.sheets.open(TakeBackSheet, sheet),
        says: ({ made }) => ['Taken back by', made[0]],
      },
      {
        name: 'credit',
        label: 'Credit…',
        when: !vendor && sheet.lines.some((line) => line.creditable !== null && dec(line.creditable).gt(0)),
        does: () => this.sheets.open(CreditSheet, sheet),
        says: ({ made }) => ['Credited:', made[0]],
      },
      {
        name: 'take-opening-back',
        label: 'Take it back…',
        when: !vendor && sheet.source.kind === 'JR' && sheet.lessened.every(({ document }) => document.kind !== 'CN'),
        does: () => this.sheets.open(ReasonSheet, openedWrongly(sheet)),
        says: ({ made }) => ['Taken back by', made[0]],
      },
      setOffAct(this.sheets, dec(sheet.owed).lt(0), {
        credit: sheet.document,
        openItemId: sheet.openItemId,
        party: sheet.party.name,
      }),
      {
        name: 'pay',
        asks: true,
        label: vendor ? 'Pay…' : 'They paid…',
        place: 'step',
        when: dec(sheet.owed).gt(0),
        does: () => this.sheets.open(PaymentSheet, sheet),
        says: ({ made }) => ['Recorded:', made[0]],
      },
    ];
  }

  protected readonly columns = computed<GridColumn<Line>[]>(() => {
    const currency = this.sheet()?.currency ?? 'MYR';
    return [
      {
        id: 'item',
        head: 'Item',
        width: 100,
        text: (row) => row.item.number,
        link: (row) => (row.item.id === null ? null : pathOf({ kind: 'item', id: row.item.id })),
      },
      { id: 'what', head: 'What', text: (row) => row.item.name },
      ...numbersColumn<Line>(this.page.sheet()?.lines ?? []),
      { id: 'covers', head: 'Covers', width: 100, text: (row) => row.covers.number, link: (row) => pathOf(row.covers) },
      { id: 'quantity', head: 'Quantity', width: 90, figures: true, text: (row) => quantity(row.quantity) },
      { id: 'unit', head: 'Unit', width: 70, text: (row) => row.item.unit },
      { id: 'price', head: 'Price', width: 100, figures: true, text: (row) => price(row.unitPrice, currency) },
      {
        id: 'net',
        head: 'Amount',
        width: 110,
        figures: true,
        text: (row) => money(dec(row.net).plus(row.allowance).toFixed(), currency),
      },
      { id: 'tax', head: 'Tax', width: 60, text: (row) => row.taxCode },
      ...(this.vendor()
        ? [
            {
              id: 'difference',
              head: 'Price difference',
              width: 130,
              figures: true,
              text: (row: Line) =>
                row.difference === null || dec(row.difference).eq(0) ? '–' : money(row.difference, currency),
              need: (row: Line) => row.difference !== null && !dec(row.difference).eq(0),
            },
          ]
        : []),
    ];
  });
  protected readonly SOURCES: Partial<Record<DocumentKind, string>> = SOURCES;
  protected readonly money = (value: string) => money(value, this.sheet()?.currency ?? 'MYR');
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly ownMoney = ownMoney;
  /** What a payment gained by the rate, in words: money that goes out gains where less of it is worth as much. // P8 */
  protected readonly gain = (difference: string) =>
    exchangeWords(
      this.vendor() ? dec(difference).neg().toFixed() : difference,
      this.sheet()?.own?.currency ?? this.sheet()?.currency ?? '',
    );
  protected readonly pathOf = pathOf;
  protected readonly allowanceText = allowanceText;
}
