import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import * as contract from '@api/orders';
import { Session } from '../access';
import { TextField } from '../kit/fields';
import { day, money, price, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import type { PurchaseSheet } from './service';

/** A loose drop shipment as the order of the customer it goes to. // L4 */
@Component({
  selector: 'k-make-order-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Make an order of ' + sheet.number"
    [sub]="'For ' + (sheet.customer?.name ?? '') + ', confirmed and tied to it'"
    act="Make the sales order"
    [busy]="form.busy()"
    [refusals]="form.loose([referenceField])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-text
      data-first
      label="Their reference"
      [(value)]="reference"
      [error]="form.at('customerReference')"
      hint="Their own number for this order, if they gave one."
    />
    @if (form.previewed()?.effects; as effects) {
      <table class="small">
        <thead>
          <tr>
            <th>Item</th>
            <th class="num">Quantity</th>
            <th class="num">Price</th>
            <th class="num">Amount</th>
            <th>Ship on</th>
          </tr>
        </thead>
        <tbody>
          @for (line of effects.lines; track $index) {
            <tr>
              <td>{{ line.item }}</td>
              <td class="num">{{ quantity(line.quantity) }}</td>
              <td class="num">{{ price(line.unitPrice, effects.currency) }}</td>
              <td class="num">{{ money(line.amount, effects.currency) }}</td>
              <td>{{ day(line.shipDate) }}</td>
            </tr>
          }
        </tbody>
      </table>
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    k-text {
      display: block;
      max-width: 320px;
      margin-bottom: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MakeOrderSheet {
  protected readonly sheet = inject<PurchaseSheet>(DIALOG_DATA);
  private readonly workDate = inject(Session).workDate;
  protected readonly reference = signal('');
  protected readonly referenceField = /^customerReference$/;
  protected readonly form = new ActForm(
    contract.orderFromPurchase,
    computed(() => ({
      purchaseId: this.sheet.id,
      version: this.sheet.version,
      customerReference: this.reference(),
    })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    return effects ? `${effects.currency} ${money(effects.net, effects.currency)} before tax, at their prices` : '';
  });
  protected readonly money = money;
  protected readonly price = price;
  protected readonly quantity = quantity;
  protected readonly day = (value: string) => day(value, this.workDate());
}
