import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { dec } from '@core/kernel';
import * as contract from '@api/billing';
import { Session } from '../access';
import { DayField, NumberField } from '../kit/fields';
import { exchangeWords, money, ownMoney } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import type { InvoiceSheet } from './service';

/** A customer paid, or we pay: one invoice, all or part. */
@Component({
  selector: 'k-payment-sheet',
  imports: [DayField, NumberField, Sheet],
  template: `<k-sheet
    [head]="(invoice.side === 'vendor' ? 'Pay ' : 'Payment of ') + invoice.document.number"
    [sub]="sub"
    act="Record the payment"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="pair">
      <k-number
        data-first
        kind="price"
        [label]="'Amount, ' + invoice.currency"
        [(value)]="amount"
        [error]="form.at('amount')"
      />
      <k-day label="Paid on" [(value)]="paidOn" [workDate]="workDate()" [error]="form.at('paidOn')" />
    </div>
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    .pair {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PaymentSheet {
  protected readonly invoice = inject<InvoiceSheet>(DIALOG_DATA);
  protected readonly workDate = inject(Session).workDate;
  protected readonly fields = [/^amount$/, /^paidOn$/];
  protected readonly sub = `${this.invoice.party.name}, ${this.invoice.currency} ${money(this.invoice.owed, this.invoice.currency)} owed`;
  protected readonly amount = signal(this.invoice.owed);
  protected readonly paidOn = signal<string | null>(this.workDate());
  protected readonly form = new ActForm(
    contract.recordPayment,
    computed(() => ({ openItemId: this.invoice.openItemId, amount: this.amount(), paidOn: this.paidOn() })),
  );
  /** What it is worth in the company's currency, and what the rate gains or loses meanwhile. // P8 */
  protected readonly effect = computed(() => {
    const own = this.form.previewed()?.effects?.own;
    if (!own) return '';
    const gain = this.invoice.side === 'vendor' ? dec(own.difference).neg().toFixed() : own.difference;
    return [ownMoney(own.paid, own), exchangeWords(gain, own.currency)].filter(Boolean).join(', ');
  });
}
