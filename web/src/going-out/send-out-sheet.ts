import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { sentOut } from '@core/going-out';
import { dec, isDecimalText } from '@core/kernel';
import * as contract from '@api/stock';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { NumberField } from '../kit/fields';
import { counted, day, money, price, quantity } from '../kit/formats';
import { NumbersField } from '../serial';
import { byDay, type Row } from './by-day';
import { goesOf } from './goes';

export interface SendOutData {
  /** Of each, something can go now. */
  rows: readonly Row[];
}

/** Marked lines go out together: how many of each, with which delivery notes, and what it costs. // S9 */
@Component({
  selector: 'k-send-out-sheet',
  imports: [NumberField, NumbersField, Sheet],
  template: `<k-sheet
    [head]="'Ship ' + counted(sent().lines.length, 'line')"
    [sub]="
      sent().shipments === 1 ? 'with one delivery note' : 'with ' + sent().shipments + ' delivery notes, one an address'
    "
    [act]="'Ship ' + counted(sent().lines.length, 'line')"
    [busy]="form.busy() || sent().lines.length === 0"
    [refusals]="loose()"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    @for (address of addresses; track address.key) {
      <h3>
        {{ address.customer.name }} <small>{{ address.shipTo.label }}, {{ address.shipTo.town }}</small>
      </h3>
      <table class="small">
        <thead>
          <tr>
            <th>Order</th>
            <th>Item</th>
            <th>What</th>
            <th>Ships</th>
            <th class="num">Open</th>
            <th class="num">Now</th>
          </tr>
        </thead>
        <tbody>
          @for (row of address.rows; track row.lineId) {
            <tr>
              <td>{{ row.order.number }} line {{ row.lineNo }}</td>
              <td>{{ row.item.number }}</td>
              <td>{{ row.item.name }}</td>
              <td>{{ day(row.shipDate) }}</td>
              <td class="num">{{ quantity(row.open) }}</td>
              <td class="narrow">
                <k-number
                  [bare]="true"
                  [label]="'Quantity of ' + row.order.number + ' line ' + row.lineNo"
                  [value]="typed().get(row.lineId) ?? ''"
                  (valueChange)="set(row.lineId, $event)"
                  [error]="at(row.lineId, 'quantity')"
                  [attr.data-first]="row === data.rows[0] ? '' : null"
                />
              </td>
            </tr>
            @if (at(row.lineId, 'quantity'); as refused) {
              <tr>
                <td colspan="6" class="bad" role="alert">{{ refused }}</td>
              </tr>
            }
            @if (row.byNumber && goes(row.lineId)) {
              <tr>
                <td></td>
                <td colspan="5">
                  <k-numbers-field
                    [item]="row.item"
                    [label]="'Serial numbers of ' + row.order.number + ' line ' + row.lineNo"
                    way="out"
                    [locationId]="row.location.id"
                    [lineId]="row.lineId"
                    [many]="typed().get(row.lineId) ?? ''"
                    [value]="numbers().get(row.lineId) ?? []"
                    (valueChange)="setNumbers(row.lineId, $event)"
                    [proposed]="proposed(row.lineId)"
                    [error]="at(row.lineId, 'numbers')"
                  />
                </td>
              </tr>
            }
          }
        </tbody>
      </table>
    }
    @if (repriced().length > 0) {
      <h3>Priced on the ship date</h3>
      <table class="small">
        <tbody>
          @for (line of repriced(); track line.orderLineId) {
            <tr>
              <td>{{ line.item }}</td>
              <td class="num faint">{{ line.was }}</td>
              <td class="num">{{ line.is }}</td>
            </tr>
          }
        </tbody>
      </table>
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    h3 small {
      font-weight: 400;
      color: var(--ink-soft);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SendOutSheet {
  protected readonly data = inject<SendOutData>(DIALOG_DATA);
  private readonly session = inject(Session);
  private readonly currency = this.session.company()?.currency ?? 'MYR';
  /** Each address once, whatever days its lines ship. */
  protected readonly addresses = byDay(this.data.rows.map((row) => ({ ...row, shipDate: '' }))).flatMap(
    ({ addresses }) =>
      addresses.map((address) => ({
        ...address,
        rows: address.rows.map(({ lineId }) => this.data.rows.find((row) => row.lineId === lineId)!),
      })),
  );
  protected readonly typed = signal<ReadonlyMap<number, string>>(
    new Map(this.data.rows.map((row) => [row.lineId, row.now])),
  );
  /** The numbers that were said of each line. // P6 */
  protected readonly numbers = signal<ReadonlyMap<number, readonly string[]>>(new Map());
  protected readonly sent = computed(() => sentOut(this.data.rows.map(goesOf), this.typed()));
  protected readonly form = new ActForm(
    contract.sendOut,
    computed(() => ({
      lines: this.sent().lines.map((line) => {
        const numbers = this.numbers().get(line.lineId) ?? [];
        return numbers.length > 0 ? { ...line, numbers: [...numbers] } : line;
      }),
    })),
    () => this.sent().lines.length > 0,
  );
  protected readonly loose = computed(() => this.form.loose([/lines\.\d+\.(quantity|numbers)$/]));
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const first = (effects.assembled ?? []).map(
      (each) => `${quantity(each.quantity)} assembled on ${each.document.number}`,
    );
    const cost = effects.shipments.every((shipment) => shipment.cost !== '')
      ? effects.shipments.reduce((sum, shipment) => sum.plus(shipment.cost), dec(0)).toFixed()
      : '';
    return [
      ...first,
      counted(effects.shipments.length, 'shipment'),
      ...(cost ? [`cost ${this.currency} ${money(cost, this.currency)}`] : []),
    ].join(', ');
  });
  /** Prices found again on the day it ships, before they are. // R3 */
  protected readonly repriced = computed(() =>
    (this.form.previewed()?.effects?.repriced ?? []).map((line) => ({
      ...line,
      was: price(line.was, this.currency),
      is: price(line.is, this.currency),
    })),
  );

  protected at(lineId: number, of: 'quantity' | 'numbers'): string {
    const place = this.sent().lines.findIndex((line) => line.lineId === lineId);
    return place < 0 ? '' : this.form.at(`lines.${place}.${of}`);
  }

  protected set(lineId: number, typed: string): void {
    this.typed.update((all) => new Map(all).set(lineId, typed));
  }

  protected setNumbers(lineId: number, numbers: readonly string[]): void {
    this.numbers.update((all) => new Map(all).set(lineId, numbers));
  }

  /** The pieces the act would take for a line by itself. */
  protected proposed(lineId: number): string[] {
    return (this.form.previewed()?.effects?.numbers ?? [])
      .filter((moved) => moved.lineId === lineId)
      .map(({ number }) => number);
  }

  protected goes(lineId: number): boolean {
    const typed = this.typed().get(lineId) ?? '';
    return isDecimalText(typed, 'quantity') && dec(typed).gt(0);
  }

  protected readonly counted = counted;
  protected readonly quantity = quantity;
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
