import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { dec, isDecimalText, type DocumentRef } from '@core/kernel';
import * as contract from '@api/stock';
import { Session } from '../access/session';
import { NumberField } from '../kit/fields';
import { counted, money, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/sheet';

export interface MoveData {
  /** The document the person stands at. */
  end: 'purchase' | 'order';
  document: DocumentRef;
  party: string;
  lines: {
    id: number;
    lineNo: number;
    item: { number: string; name: string; unit: string };
    open: string;
    note: string;
  }[];
}

/** Receive on a purchase order, or ship on a sales order: for a drop shipment the same event. // L2 */
@Component({
  selector: 'k-move-sheet',
  imports: [NumberField, Sheet],
  template: `<k-sheet
    [head]="(data.end === 'purchase' ? 'Receive ' : 'Ship ') + data.document.number"
    [sub]="data.party"
    [act]="data.end === 'purchase' ? 'Receive' : 'Ship'"
    [busy]="form.busy()"
    [refusals]="loose()"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <table class="small">
      <thead>
        <tr>
          <th></th>
          <th>Item</th>
          <th>What</th>
          <th class="num">Open</th>
          <th class="num">Now</th>
          <th>How</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.line.id) {
          <tr>
            <td class="faint">{{ row.line.lineNo }}</td>
            <td>{{ row.line.item.number }}</td>
            <td>{{ row.line.item.name }}</td>
            <td class="num">{{ row.open }}</td>
            <td class="narrow">
              <k-number
                [bare]="true"
                [label]="'Quantity of ' + row.line.item.number"
                [value]="row.typed"
                (valueChange)="set($index, $event)"
                [error]="row.refused"
                [attr.data-first]="$index === 0 ? '' : null"
              />
            </td>
            <td class="faint">{{ row.line.note }}</td>
          </tr>
          @if (row.refused) {
            <tr>
              <td colspan="6" class="bad" role="alert">{{ row.refused }}</td>
            </tr>
          }
        }
      </tbody>
    </table>
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MoveSheet {
  protected readonly data = inject<MoveData>(DIALOG_DATA);
  private readonly currency = inject(Session).company()?.currency ?? 'MYR';
  protected readonly typed = signal(this.data.lines.map((line) => (dec(line.open).gt(0) ? line.open : '')));
  private readonly lines = computed(() =>
    this.data.lines.map((line, index) => ({ lineId: line.id, quantity: this.typed()[index]! })),
  );
  protected readonly form = formOf(this.data, this.lines);
  protected readonly rows = computed(() =>
    this.data.lines.map((line, index) => ({
      line,
      open: quantity(line.open),
      typed: this.typed()[index]!,
      refused: this.form.at(`lines.${index}.quantity`, this.typed()[index] !== ''),
    })),
  );
  protected readonly loose = computed(() => this.form.loose([/^lines\.\d+\.quantity$/]));
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const receipts = effects.receipts.length;
    const shipments = effects.shipments.length;
    const moved = shipments > 0 ? effects.shipments : effects.receipts;
    const cost = moved.reduce((sum, document) => sum.plus(document.cost), dec(0));
    const pieces = this.typed().filter((typed) => isDecimalText(typed, 'quantity') && dec(typed).gt(0)).length;
    const documents = [
      ...(receipts > 0 ? [counted(receipts, 'receipt')] : []),
      ...(shipments > 0 ? [counted(shipments, 'shipment')] : []),
    ].join(' and ');
    return `${counted(pieces, 'line')}: ${documents}, cost ${this.currency} ${money(cost.toFixed(), this.currency)}`;
  });

  protected set(index: number, typed: string): void {
    this.typed.update((all) => all.map((each, at) => (at === index ? typed : each)));
  }
}

/** The act's form for whichever end it is. */
function formOf(
  data: MoveData,
  lines: () => { lineId: number; quantity: string }[],
): ActForm<typeof contract.receiveGoods> | ActForm<typeof contract.shipLines> {
  return data.end === 'purchase'
    ? new ActForm(
        contract.receiveGoods,
        computed(() => ({ purchaseId: data.document.id, lines: lines() })),
      )
    : new ActForm(
        contract.shipLines,
        computed(() => ({ orderId: data.document.id, lines: lines() })),
      );
}
