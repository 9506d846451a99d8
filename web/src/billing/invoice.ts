import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { dec } from '@core/kernel';
import { Session } from '../access/session';
import { DocumentDock } from '../documents/dock';
import { PostButtons } from '../documents/post-buttons';
import { pathOf } from '../kit/documents';
import { day, money, price, quantity } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { liveDocument } from '../kit/live';
import { Quiet } from '../kit/quiet';
import { Refusals } from '../kit/refusals';
import { Sheets } from '../kit/sheet';
import { allowanceText } from './allowance-text';
import { CreditSheet } from './credit-sheet';
import { PaymentSheet } from './payment-sheet';
import { TakeBackSheet } from './take-back-sheet';
import { Billing, type InvoiceSheet } from './service';

type Line = InvoiceSheet['lines'][number];

/** One invoice, a customer's or a vendor's. */
@Component({
  selector: 'k-invoice',
  imports: [PostButtons, DocumentDock, Grid, Refusals, RouterLink],
  template: `<div class="page">
    @if (sheet(); as shown) {
      <div class="title">
        <h1>
          <b>{{ shown.document.number }}</b>{{ vendor() ? ' from ' : ' to ' }}{{ shown.party.name
          }}<span>{{ sub() }}</span>
        </h1>
        @if (!vendor()) {
          <k-post-buttons [document]="shown.document" />
        }
        @if (canTakeBack()) {
          <button type="button" class="act" (click)="takeBack()">Take it back…</button>
        }
        @if (canCredit()) {
          <button type="button" class="act" (click)="credit()">Credit…</button>
        }
        @if (owed()) {
          <button type="button" class="act next" (click)="pay()">{{ vendor() ? 'Pay…' : 'They paid…' }}</button>
        }
      </div>
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
          <small>{{ vendor() ? 'Purchase order' : shown.source.kind === 'AG' ? 'Agreement' : 'Sales order' }}</small><a
            class="link"
            [routerLink]="pathOf(shown.source)"
            >{{ shown.source.number }}</a
          >
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
          </div>
        }
      </div>
      <div class="sheet">
        <k-grid
          label="Lines of the invoice"
          [natural]="shown.lines.length < 7"
          [rows]="shown.lines"
          [columns]="columns()"
          [rowId]="rowId"
          (selected)="selected.set(rowId($event))"
        />
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
        </div>
      </div>
      <k-document-dock [document]="shown.document" [orderLineId]="orderLineId()" />
    } @else {
      <k-refusals [refusals]="loaded.state().refusals" />
    }
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InvoicePage {
  private readonly billing = inject(Billing);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly quiet = inject(Quiet);
  private readonly sheets = inject(Sheets);
  private readonly titles = inject(Title);
  readonly id = input.required<string>();
  readonly side = input.required<string>();
  readonly do = input<string>();
  protected readonly vendor = computed(() => this.side() === 'vendor');
  private readonly key = computed(() => ({
    side: this.vendor() ? ('vendor' as const) : ('customer' as const),
    id: Number(this.id()),
  }));
  protected readonly loaded = liveDocument(
    this.key,
    ({ side, id }) => this.billing.open(side, id),
    (document, shown) => shown !== null && document.kind === shown.document.kind && document.id === shown.document.id,
  );
  protected readonly sheet = computed(() => this.loaded.state().value);
  protected readonly selected = signal<string | null>(null);
  protected readonly owed = computed(() => dec(this.sheet()?.owed ?? '0').gt(0));
  protected readonly sub = computed(() => {
    const sheet = this.sheet();
    if (!sheet) return '';
    if (sheet.reverses) return `takes ${sheet.reverses.number} back`;
    if (sheet.reversedBy) return `taken back by ${sheet.reversedBy.number}`;
    if (!this.owed()) return 'paid';
    const late = sheet.dueDate < this.session.workDate();
    return `${sheet.currency} ${money(sheet.owed, sheet.currency)} ${this.vendor() ? 'to pay' : 'owed'}, ${late ? 'was ' : ''}due ${this.day(sheet.dueDate)}`;
  });
  protected readonly rowId = (row: Line) => String(row.id);
  protected readonly orderLineId = computed(() => {
    const lines = this.sheet()?.lines ?? [];
    return (lines.find((line) => this.rowId(line) === this.selected()) ?? lines[0])?.orderLineId ?? null;
  });
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
  protected readonly money = (value: string) => money(value, this.sheet()?.currency ?? 'MYR');
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly pathOf = pathOf;
  protected readonly allowanceText = allowanceText;

  constructor() {
    effect(() => this.titles.setTitle(`${this.sheet()?.document.number ?? 'Invoice'} · Kampong`));
    effect(() => {
      if (this.do() !== 'pay' || !this.sheet()) return;
      untracked(() => {
        void this.router.navigate([], { queryParams: {}, replaceUrl: true });
        this.pay();
      });
    });
  }

  protected readonly canCredit = computed(
    () =>
      !this.vendor() &&
      (this.sheet()?.lines ?? []).some((line) => line.creditable !== null && dec(line.creditable).gt(0)),
  );

  protected readonly canTakeBack = computed(() => {
    const sheet = this.sheet();
    return this.vendor() && sheet !== null && !sheet.reverses && !sheet.reversedBy;
  });

  protected takeBack(): void {
    this.sheets.open(TakeBackSheet, this.sheet()!).subscribe((done) => {
      if (!done) return;
      this.quiet.say('Taken back by', done.made[0]!);
      this.loaded.reload();
    });
  }

  protected credit(): void {
    this.sheets.open(CreditSheet, this.sheet()!).subscribe((done) => {
      const note = done?.made[0];
      if (note) this.quiet.say('Credited:', note);
      if (note) this.loaded.reload();
    });
  }

  protected pay(): void {
    this.sheets.open(PaymentSheet, this.sheet()!).subscribe((done) => {
      const payment = done?.made[0];
      if (payment) this.quiet.say('Recorded:', payment);
    });
  }
}
