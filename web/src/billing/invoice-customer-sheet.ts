import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import { dec } from '@core/kernel';
import * as contract from '@api/billing';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { DayField, NumberField } from '../kit/fields';
import { counted, day, money, price, quantity } from '../kit/formats';
import { allowanceText } from './allowance-text';
import { Billing } from './service';

/**
 * Whom to invoice, and the orders one came from: what went out on them is chosen, the rest of theirs is offered. Without
 * orders all of it is chosen.
 */
export interface InvoiceCustomerData {
  customer: { id: number; name: string };
  orders: readonly { id: number; number: string }[];
  currency: string;
}

type Open = z.infer<typeof contract.Uninvoiced>;

/** Invoice what went out to a customer: which of it and on which day, and the invoice as it will be. // P4 */
@Component({
  selector: 'k-invoice-customer-sheet',
  imports: [DayField, NumberField, Sheet],
  template: `<k-sheet
    [head]="'Invoice ' + data.customer.name"
    [sub]="sub()"
    act="Post the invoice"
    [busy]="form.busy()"
    [refusals]="form.loose([field, dayField])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-day
      data-first
      label="Dated"
      [(value)]="date"
      [workDate]="workDate()"
      [error]="form.at('invoiceDate')"
      [hint]="due()"
    />
    <table class="small">
      <thead>
        <tr>
          <th>Order</th>
          <th>Went out</th>
          <th>Item</th>
          <th class="num">Open</th>
          <th class="num">To invoice</th>
          <th class="num">Price</th>
          <th class="num">Amount</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.line.shipmentLineId) {
          @if (row.first) {
            <tr class="also">
              <td colspan="7">
                Also theirs, and not invoiced
                <button type="button" class="act" (click)="takeAll()">Take all of it</button>
              </td>
            </tr>
          }
          <tr>
            <td>
              {{ row.line.order.number }}<small class="faint"> {{ row.line.reference }}</small>
            </td>
            <td>{{ row.line.shipment.number }}, {{ day(row.line.shippedOn) }}</td>
            <td [title]="row.line.item.name">{{ row.line.item.number }}</td>
            <td class="num">{{ quantity(row.line.open) }}</td>
            <td class="narrow">
              <k-number
                [bare]="true"
                [label]="
                  'To invoice of ' +
                  row.line.order.number +
                  ' line ' +
                  row.line.lineNo +
                  ', ' +
                  row.line.shipment.number
                "
                [value]="row.typed"
                (valueChange)="set(row.line.shipmentLineId, $event)"
                [error]="row.refused"
              />
            </td>
            <td class="num">{{ price(row.line.unitPrice, data.currency) }}</td>
            <td class="num">{{ row.amount === null ? '–' : money(row.amount, data.currency) }}</td>
          </tr>
          @if (row.refused) {
            <tr>
              <td colspan="7" class="bad" role="alert">{{ row.refused }}</td>
            </tr>
          }
        } @empty {
          <tr>
            <td colspan="7" class="faint">{{ read() ? 'Nothing went out that is not invoiced.' : 'Reading …' }}</td>
          </tr>
        }
        @if (form.previewed()?.effects; as effects) {
          @for (each of effects.allowances; track each.measure) {
            <tr class="sum">
              <td colspan="6" class="num">{{ allowanceText(each) }}</td>
              <td class="num">−{{ money(each.amount, effects.currency) }}</td>
            </tr>
          }
          <tr class="sum">
            <td colspan="6" class="num">Net</td>
            <td class="num">{{ money(effects.net, effects.currency) }}</td>
          </tr>
          @for (tax of effects.taxes; track tax.taxCode) {
            <tr class="sum">
              <td colspan="6" class="num">Tax {{ tax.taxRate }} %</td>
              <td class="num">{{ money(tax.tax, effects.currency) }}</td>
            </tr>
          }
          <tr class="sum all">
            <td colspan="6" class="num">{{ effects.currency }}</td>
            <td class="num">{{ money(effects.total, effects.currency) }}</td>
          </tr>
          @if (effects.own; as own) {
            <tr class="sum">
              <td colspan="6" class="num">posted as {{ own.currency }} at {{ own.rate }}</td>
              <td class="num">{{ money(own.total, own.currency) }}</td>
            </tr>
          }
          @if (effects.drawn !== '0') {
            <tr class="sum">
              <td colspan="6" class="num">Drawn from what was paid ahead</td>
              <td class="num">−{{ money(effects.drawn, effects.currency) }}</td>
            </tr>
          }
        }
      </tbody>
    </table>
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    k-day {
      display: block;
      width: 260px;
      margin-bottom: 12px;
    }
    .also td {
      padding-top: 14px;
      font: 600 15px var(--serif);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InvoiceCustomerSheet {
  protected readonly data = inject<InvoiceCustomerData>(DIALOG_DATA);
  protected readonly workDate = inject(Session).workDate;
  protected readonly date = signal<string | null>(this.workDate());
  /** All of theirs that is open, in this currency: that of the orders one came from first. */
  private readonly lines = signal<readonly Open[]>([]);
  protected readonly read = signal(false);
  private readonly typed = signal<ReadonlyMap<number, string>>(new Map());
  protected readonly field = /^lines\.\d+\.quantity$/;
  protected readonly dayField = /^invoiceDate$/;

  /** The lines something is typed for, as they are sent. */
  private readonly chosen = computed(() =>
    this.lines().filter(({ shipmentLineId }) => (this.typed().get(shipmentLineId) ?? '').trim() !== ''),
  );
  private readonly input = computed(() => {
    const chosen = this.chosen();
    const named = [...new Set(chosen.map(({ order }) => order.id))];
    const [first = this.data.orders[0]?.id ?? 0, ...others] = named;
    return {
      orderId: first,
      others,
      lines: chosen.map(({ shipmentLineId }) => ({ shipmentLineId, quantity: this.typed().get(shipmentLineId)! })),
      invoiceDate: this.date(),
    };
  });
  protected readonly form = new ActForm(contract.invoiceCustomer, this.input, () => this.input().orderId > 0);

  constructor() {
    const from = new Set(this.data.orders.map(({ id }) => id));
    this.form.begin(inject(Billing).uninvoiced(this.data.customer.id), (rows) => {
      const own = rows.filter(({ currency }) => currency === this.data.currency);
      this.lines.set([
        ...own.filter(({ order }) => from.has(order.id)),
        ...own.filter(({ order }) => !from.has(order.id)),
      ]);
      this.typed.set(
        new Map(
          own
            .filter(({ order }) => from.size === 0 || from.has(order.id))
            .map((each) => [each.shipmentLineId, each.open]),
        ),
      );
      this.read.set(true);
    });
  }

  protected readonly rows = computed(() => {
    const from = new Set(this.data.orders.map(({ id }) => id));
    const effects = this.form.previewed()?.effects;
    const chosen = this.chosen();
    const firstOther = from.size === 0 ? undefined : this.lines().find(({ order }) => !from.has(order.id));
    return this.lines().map((line) => {
      const made = effects?.lines.find(({ shipmentLineId }) => shipmentLineId === line.shipmentLineId);
      const at = chosen.indexOf(line);
      return {
        line,
        first: line === firstOther,
        typed: this.typed().get(line.shipmentLineId) ?? '',
        refused: at < 0 ? '' : this.form.at(`lines.${at}.quantity`),
        // Before what is allowed on the invoice.
        amount: made ? dec(made.net).plus(made.allowance).toFixed() : null,
      };
    });
  });
  protected readonly sub = computed(
    () => `${counted(new Set(this.chosen().map(({ order }) => order.id)).size, 'order')} on one invoice`,
  );
  protected readonly due = computed(() => {
    const effects = this.form.previewed()?.effects;
    return effects ? `due ${this.day(effects.dueDate)}` : '';
  });
  protected readonly effect = computed(() => {
    const left = this.lines().filter((line) => !this.chosen().includes(line)).length;
    return left === 0 ? '' : `${counted(left, 'line')} of theirs ${left === 1 ? 'stays' : 'stay'} to be invoiced.`;
  });

  protected set(shipmentLineId: number, typed: string): void {
    this.typed.update((all) => new Map(all).set(shipmentLineId, typed));
  }

  protected takeAll(): void {
    this.typed.update(
      (all) => new Map([...this.lines().map((each) => [each.shipmentLineId, each.open] as const), ...all]),
    );
  }

  protected readonly day = (value: string) => day(value, this.workDate());
  protected readonly money = money;
  protected readonly price = price;
  protected readonly quantity = quantity;
  protected readonly allowanceText = allowanceText;
}
