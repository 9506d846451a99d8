import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { dec } from '@core/kernel';
import * as contract from '@api/billing';
import { TextField } from '../kit/fields';
import { money } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import type { InvoiceSheet } from './service';

/** Takes a vendor's invoice back whole: what it was for can be entered again, also under the same number. // P1 */
@Component({
  selector: 'k-take-back-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Take back ' + invoice.document.number"
    [sub]="invoice.party.name + ', their number ' + invoice.vendorNumber"
    act="Take it back"
    [busy]="form.busy()"
    [refusals]="form.loose([reason_])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-text data-first label="Why" [(value)]="reason" [most]="200" [error]="form.at('reason', reason() !== '')" />
    <p class="faint">
      The invoice stays as it was posted. One below zero takes it back; what came is then to be invoiced again, and
      their number is free.
    </p>
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    p {
      margin-top: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TakeBackSheet {
  protected readonly invoice = inject<InvoiceSheet>(DIALOG_DATA);
  protected readonly reason = signal('');
  protected readonly reason_ = /^reason$/;
  protected readonly form: ActForm<typeof contract.takeBackInvoice> = new ActForm(
    contract.takeBackInvoice,
    computed(() => ({ invoiceId: this.invoice.document.id, reason: this.reason() })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const said = (amount: string) => `${effects.currency} ${money(dec(amount).abs().toFixed(), effects.currency)}`;
    const rest = dec(effects.total).abs().minus(effects.setOff);
    return rest.eq(0)
      ? `${said(effects.total)} is no longer owed`
      : `${said(effects.setOff)} is no longer owed, ${said(rest.toFixed())} stands to our credit with them`;
  });
}
