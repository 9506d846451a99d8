import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { agreedPrice, leftUnderLimit } from '@core/agreements';
import { addDays, dec, isDecimalText, lineAmount, sum } from '@core/kernel';
import * as contract from '@api/agreements';
import { Session } from '../access/session';
import { ChoiceField, DayField, NumberField, TextField } from '../kit/fields';
import { money, price, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/sheet';
import type { AgreementSheet } from './service';

interface ReleaseLine {
  id: number;
  quantity: string;
  shipDate: string | null;
}

/** Release part of an agreement: quantity and ship date per line, what is left shown as it is typed. // A6 */
@Component({
  selector: 'k-release-sheet',
  imports: [ChoiceField, DayField, NumberField, Sheet, TextField],
  templateUrl: './release-sheet.html',
  styles: `
    .fields {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 16px;
      margin-bottom: 14px;
      align-items: start;
    }
    h3 {
      font: 600 15px var(--serif);
      margin: 16px 0 4px;
    }
    td.quantity {
      width: 110px;
    }
    td.day {
      width: 150px;
    }
    td .error {
      color: var(--brick);
      font-size: 12px;
      font-weight: 600;
    }
    .over {
      color: var(--brick);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReleaseSheet {
  protected readonly sheet = inject<AgreementSheet>(DIALOG_DATA);
  protected readonly workDate = inject(Session).workDate;
  protected readonly shipToId = signal(String(this.sheet.shipTos[0]?.id ?? ''));
  protected readonly reference = signal('');
  protected readonly lines = signal<ReleaseLine[]>(
    this.sheet.lines.map((line) => ({ id: line.id, quantity: '', shipDate: addDays(this.workDate(), 7) })),
  );
  private readonly input = computed(() => ({
    agreementId: this.sheet.id,
    shipToId: this.shipToId() ? Number(this.shipToId()) : null,
    customerReference: this.reference(),
    lines: this.lines().map((line) => ({
      agreementLineId: line.id,
      quantity: line.quantity,
      shipDate: line.shipDate,
    })),
  }));
  protected readonly form = new ActForm(contract.releaseAgreement, this.input);
  protected readonly shipTos = this.sheet.shipTos.map((shipTo) => ({
    value: String(shipTo.id),
    label: `${shipTo.label}, ${shipTo.town}`,
  }));
  protected readonly referenceHint = this.sheet.referenceRequired
    ? `${this.sheet.customer.name} wants their own reference on every order.`
    : 'Their own number for this order, if they gave one.';

  protected readonly rows = computed(() =>
    this.lines().map((typed, index) => {
      const line = this.sheet.lines[index]!;
      const asked = isDecimalText(typed.quantity, 'quantity') ? dec(typed.quantity) : dec(0);
      const unitPrice = agreedPrice(line, asked, line.listPrice);
      const net = lineAmount(asked, unitPrice, this.sheet.currency);
      const left = leftUnderLimit(line.committed, line.released, this.sheet.tolerancePercent).minus(asked);
      return {
        line,
        typed,
        left: quantity(left.toFixed()),
        over: left.lt(0) && this.sheet.limitPolicy === 'refuse',
        price: price(unitPrice.toFixed(), this.sheet.currency),
        net,
        amount: asked.gt(0) ? money(net.toFixed(), this.sheet.currency) : '',
        quantityRefused: this.form.at(`lines.${index}.quantity`, typed.quantity !== ''),
        dayRefused: this.form.at(`lines.${index}.shipDate`, typed.quantity !== ''),
      };
    }),
  );
  /** Net of what the server would make of it; of what is typed where it would make nothing. */
  protected readonly total = computed(() => {
    const made = this.form.previewed()?.effects?.net;
    return money(made ?? sum(this.rows().map((row) => row.net)).toFixed(), this.sheet.currency);
  });
  /** The lines it makes, where they are not the typed ones: an agreement that splits at its limit. */
  protected readonly split = computed(() => {
    const lines = this.form.previewed()?.effects?.lines ?? [];
    if (lines.every((line) => line.agreementLineId !== null)) return [];
    return lines.map((line) => ({
      item: this.sheet.lines.find((each) => each.item.id === line.itemId)?.item.number ?? '',
      quantity: quantity(line.quantity),
      price: price(line.unitPrice, this.sheet.currency),
      amount: money(line.amount, this.sheet.currency),
      from: line.agreementLineId === null ? 'at the list price' : `from ${this.sheet.number}`,
    }));
  });
  /** Once a quantity is typed, the missing reference is said at its field. */
  protected readonly referenceRefused = computed(() =>
    this.form.at(
      'customerReference',
      this.lines().some((line) => line.quantity !== ''),
    ),
  );
  protected readonly loose = computed(() =>
    this.form.loose([/^customerReference$/, /^shipToId$/, /^lines\.\d+\.(quantity|shipDate)$/]),
  );

  protected set(index: number, change: Partial<ReleaseLine>): void {
    this.lines.update((lines) => lines.map((line, at) => (at === index ? { ...line, ...change } : line)));
  }
}
