import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { dec } from '@core/kernel';
import type * as z from 'zod';
import * as contract from '@api/billing';
import { Session } from '../access';
import { pathOf } from '../kit/documents';
import { DayField, NumberField, TextField } from '../kit/fields';
import { exchangeWords, money, ownMoney, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import { Billing } from './service';

export interface VendorInvoiceData {
  purchaseId: number;
  number: string;
  vendor: string;
}

type Open = z.infer<typeof contract.OpenToInvoice>;

/** Enter the vendor's invoice with its own number; a price difference is shown before it is posted. // P3 P4 */
@Component({
  selector: 'k-vendor-invoice-sheet',
  imports: [DayField, NumberField, Sheet, TextField],
  template: `<k-sheet
    [head]="'Invoice of ' + data.vendor"
    [sub]="'for ' + data.number"
    act="Enter the invoice"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    @if (open()?.customerFirst; as order) {
      <p class="notice warn">
        This company invoices the customer of a drop shipment first.
        <button type="button" class="act" (click)="lead(order)">Invoice {{ order.number }}…</button>
      </p>
    }
    <div class="pair">
      <k-text
        data-first
        label="Their invoice number"
        [(value)]="vendorNumber"
        [error]="numberRefused()"
        hint="As printed on it; once per vendor."
      />
      <k-day label="Invoice date" [(value)]="invoiceDate" [workDate]="workDate()" [error]="form.at('invoiceDate')" />
    </div>
    @if (open(); as shown) {
      <table class="small">
        <thead>
          <tr>
            <th></th>
            <th>Item</th>
            <th class="num">Received, not invoiced</th>
            <th class="num">Quantity</th>
            <th class="num">Their price</th>
          </tr>
        </thead>
        <tbody>
          @for (line of shown.lines; track line.purchaseLineId) {
            <tr>
              <td class="faint">{{ line.lineNo }}</td>
              <td>{{ line.item.number }} {{ line.item.name }}</td>
              <td class="num">{{ quantity(line.open) }}</td>
              <td class="narrow">
                <k-number
                  [bare]="true"
                  [label]="'Quantity of ' + line.item.number"
                  [value]="lines()[$index]!.quantity"
                  (valueChange)="set($index, { quantity: $event })"
                  [error]="form.at('lines.' + $index + '.quantity')"
                />
              </td>
              <td class="narrow">
                <k-number
                  [bare]="true"
                  kind="price"
                  [label]="'Price of ' + line.item.number"
                  [value]="lines()[$index]!.unitPrice"
                  (valueChange)="set($index, { unitPrice: $event })"
                  [error]="form.at('lines.' + $index + '.unitPrice')"
                />
              </td>
            </tr>
            @if (form.at('lines.' + $index + '.quantity') || form.at('lines.' + $index + '.unitPrice'); as refused) {
              <tr>
                <td colspan="5" class="bad" role="alert">{{ refused }}</td>
              </tr>
            }
          }
        </tbody>
      </table>
    }
    @if (effects(); as sums) {
      <div class="totals">
        <span>Net</span><span>{{ money(sums.net) }}</span> <span>Input tax</span><span>{{ money(sums.tax) }}</span>
        <b>{{ sums.currency }}</b><b>{{ money(sums.total) }}</b>
        @if (sums.own; as own) {
          <span>posted as</span><span>{{ ownMoney(own.total, own) }}</span>
          @if (moved(own); as words) {
            <span class="wide">{{ words }} since it came</span>
          }
        }
        @if (difference(); as words) {
          <span class="need">{{ words }}</span>
        }
      </div>
    }
  </k-sheet>`,
  styles: `
    .pair {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 16px;
      margin-bottom: 14px;
    }
    .need,
    .wide {
      grid-column: 1 / 3;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class VendorInvoiceSheet {
  protected readonly data = inject<VendorInvoiceData>(DIALOG_DATA);
  protected readonly workDate = inject(Session).workDate;
  private readonly router = inject(Router);
  private readonly ref = inject(DialogRef);
  protected readonly fields = [/^vendorNumber$/, /^invoiceDate$/, /^lines\.\d+\.(quantity|unitPrice)$/];
  protected readonly open = signal<Open | null>(null);
  protected readonly vendorNumber = signal('');
  protected readonly invoiceDate = signal<string | null>(this.workDate());
  protected readonly lines = signal<{ purchaseLineId: number; quantity: string; unitPrice: string }[]>([]);
  protected readonly form = new ActForm(
    contract.enterVendorInvoice,
    computed(() => ({
      purchaseId: this.data.purchaseId,
      vendorNumber: this.vendorNumber(),
      invoiceDate: this.invoiceDate(),
      lines: this.lines(),
    })),
  );
  protected readonly numberRefused = computed(() => this.form.at('vendorNumber', this.vendorNumber() !== ''));
  protected readonly effects = computed(() => this.form.previewed()?.effects ?? null);
  protected readonly difference = computed(() => {
    const effects = this.effects();
    if (!effects) return '';
    const drop = dec(effects.dropDifference);
    const stock = dec(effects.stockDifference);
    if (drop.eq(0) && stock.eq(0)) return '';
    return `${effects.currency} ${this.money(drop.plus(stock).toFixed())} differs from what was ordered and goes to ${drop.eq(0) ? 'price difference' : 'cost of sales'}`;
  });
  protected readonly ownMoney = ownMoney;
  protected readonly moved = (own: { exchangeDifference: string; currency: string }) =>
    exchangeWords(dec(own.exchangeDifference).neg().toFixed(), own.currency);
  protected readonly quantity = quantity;
  protected readonly money = (value: string) => money(value, this.open()?.currency ?? 'MYR');

  constructor() {
    this.form.begin(inject(Billing).toInvoice(this.data.purchaseId), (open) => {
      this.open.set(open);
      this.lines.set(
        open.lines.map((line) => ({
          purchaseLineId: line.purchaseLineId,
          quantity: line.open,
          unitPrice: line.unitPrice,
        })),
      );
    });
  }

  protected set(index: number, change: { quantity?: string; unitPrice?: string }): void {
    this.lines.update((lines) => lines.map((line, at) => (at === index ? { ...line, ...change } : line)));
  }

  /** To the sales order whose invoice comes first. */
  protected lead(order: { id: number }): void {
    this.ref.close();
    void this.router.navigateByUrl(`${pathOf({ kind: 'SO', id: order.id })}?do=invoice`);
  }
}
