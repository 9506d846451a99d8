import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { dec } from '@core/kernel';
import * as contract from '@api/billing';
import { Session } from '../access';
import { day, money, price, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import { allowanceText } from './allowance-text';

export interface InvoiceCustomerData {
  orderId: number;
  number: string;
  customer: string;
  lines: readonly { id: number; lineNo: number; item: { number: string; name: string } }[];
}

/** Invoice what went out on an order: the invoice as it will be, before it is posted. // P4 */
@Component({
  selector: 'k-invoice-customer-sheet',
  imports: [Sheet],
  template: `<k-sheet
    [head]="'Invoice ' + data.number"
    [sub]="data.customer"
    act="Post the invoice"
    [busy]="form.busy()"
    [refusals]="form.loose([])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    @if (form.previewed()?.effects; as effects) {
      <p>Dated {{ day(effects.invoiceDate) }}, due {{ day(effects.dueDate) }}</p>
      <table class="small">
        <thead>
          <tr>
            <th></th>
            <th>Item</th>
            <th>What</th>
            <th class="num">Quantity</th>
            <th class="num">Price</th>
            <th class="num">Amount</th>
          </tr>
        </thead>
        <tbody>
          @for (line of effects.lines; track $index) {
            <tr>
              <td class="faint">{{ lineOf(line.orderLineId).lineNo }}</td>
              <td>{{ lineOf(line.orderLineId).item.number }}</td>
              <td>{{ lineOf(line.orderLineId).item.name }}</td>
              <td class="num">{{ quantity(line.quantity) }}</td>
              <td class="num">{{ price(line.unitPrice, effects.currency) }}</td>
              <td class="num">{{ money(before(line), effects.currency) }}</td>
            </tr>
          }
          @for (each of effects.allowances; track each.measure) {
            <tr class="sum">
              <td colspan="5" class="num">{{ allowanceText(each) }}</td>
              <td class="num">−{{ money(each.amount, effects.currency) }}</td>
            </tr>
          }
          <tr class="sum">
            <td colspan="5" class="num">Net</td>
            <td class="num">{{ money(effects.net, effects.currency) }}</td>
          </tr>
          @for (tax of effects.taxes; track tax.taxCode) {
            <tr class="sum">
              <td colspan="5" class="num">Tax {{ tax.taxRate }} %</td>
              <td class="num">{{ money(tax.tax, effects.currency) }}</td>
            </tr>
          }
          <tr class="sum all">
            <td colspan="5" class="num">{{ effects.currency }}</td>
            <td class="num">{{ money(effects.total, effects.currency) }}</td>
          </tr>
          @if (effects.own; as own) {
            <tr class="sum">
              <td colspan="5" class="num">posted as {{ own.currency }} at {{ own.rate }}</td>
              <td class="num">{{ money(own.total, own.currency) }}</td>
            </tr>
          }
          @if (effects.drawn !== '0') {
            <tr class="sum">
              <td colspan="5" class="num">Drawn from what was paid ahead</td>
              <td class="num">−{{ money(effects.drawn, effects.currency) }}</td>
            </tr>
          }
        </tbody>
      </table>
    }
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InvoiceCustomerSheet {
  protected readonly data = inject<InvoiceCustomerData>(DIALOG_DATA);
  private readonly workDate = inject(Session).workDate;
  protected readonly form = new ActForm(
    contract.invoiceCustomer,
    computed(() => ({ orderId: this.data.orderId })),
  );
  protected readonly day = (value: string) => day(value, this.workDate());
  protected readonly money = money;
  protected readonly price = price;
  protected readonly quantity = quantity;
  protected readonly allowanceText = allowanceText;
  /** What a line comes to before what is allowed on the invoice. */
  protected readonly before = (line: { net: string; allowance: string }) =>
    dec(line.net).plus(line.allowance).toFixed();
  protected lineOf(id: number) {
    return this.data.lines.find((line) => line.id === id)!;
  }
}
