import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { CreditKind } from '@core/billing';
import * as contract from '@api/billing';
import { ChoiceField, NumberField, TextField } from '../kit/fields';
import { money, ownMoney, price, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import { NumbersField } from '../serial';
import type { InvoiceSheet } from './service';

/** Credit an invoice: what came back, or what the price should have been; the credit note as it will be. // P1 */
@Component({
  selector: 'k-credit-sheet',
  imports: [ChoiceField, NumberField, NumbersField, Sheet, TextField],
  template: `<k-sheet
    [head]="'Credit ' + invoice.document.number"
    [sub]="invoice.party.name"
    act="Post the credit note"
    [busy]="form.busy()"
    [warnings]="form.warnings"
    [refusals]="loose()"
    (done)="form.do()"
  >
    <div class="fields">
      <k-choice
        data-first
        label="What it is for"
        [value]="kind()"
        (valueChange)="kind.set($any($event))"
        [options]="kinds"
      />
      <k-text label="Why" [(value)]="reason" [most]="200" [error]="form.at('reason', started())" />
    </div>
    <table class="small">
      <thead>
        <tr>
          <th>Item</th>
          <th>What</th>
          <th class="num">Not credited</th>
          <th class="num">Price</th>
          <th class="num">{{ heads[kind()] }}</th>
          <th class="num">Credit</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.line.id) {
          <tr>
            <td>{{ row.line.item.number }}</td>
            <td>{{ row.line.item.name }}</td>
            <td class="num">{{ quantity(row.line.creditable ?? '0') }}</td>
            <td class="num">{{ price(row.line.unitPrice, invoice.currency) }}</td>
            <td class="narrow">
              @if (kind() === 'reversal') {
                {{ quantity(row.line.creditable ?? '0') }}
              } @else {
                <k-number
                  [bare]="true"
                  [kind]="kind() === 'return' ? 'quantity' : 'price'"
                  [label]="(kind() === 'return' ? 'Came back of ' : 'Right price of ') + row.line.item.number"
                  [value]="row.typed"
                  (valueChange)="set($index, $event)"
                  [error]="row.refused"
                />
              }
            </td>
            <td class="num">{{ row.credit }}</td>
          </tr>
          @if (row.refused) {
            <tr>
              <td colspan="6" class="bad" role="alert">{{ row.refused }}</td>
            </tr>
          }
          @if (kind() === 'return' && row.out.length > 0 && row.typed !== '') {
            <tr>
              <td colspan="6">
                <k-numbers-field
                  [item]="{ id: row.line.item.id!, number: row.line.item.number, unit: row.line.item.unit }"
                  [label]="'Which of ' + row.line.item.number + ' came back'"
                  way="out"
                  [choices]="row.out"
                  [many]="row.typed"
                  [value]="numbers()[$index]!"
                  (valueChange)="setNumbers($index, $event)"
                  [proposed]="row.proposed"
                  [error]="row.wrong"
                />
              </td>
            </tr>
          }
        }
      </tbody>
    </table>
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CreditSheet {
  protected readonly invoice = inject<InvoiceSheet>(DIALOG_DATA);
  protected readonly kinds: { value: CreditKind; label: string }[] = [
    { value: 'return', label: 'Goods came back' },
    { value: 'price', label: 'The price was too high' },
    { value: 'reversal', label: 'All of it was a mistake' },
  ];
  protected readonly heads: Record<CreditKind, string> = {
    return: 'Came back',
    price: 'Right price',
    reversal: 'To invoice again',
  };
  private readonly lines = this.invoice.lines.filter((line) => line.creditable !== null);
  protected readonly kind = signal<CreditKind>('return');
  protected readonly reason = signal('');
  private readonly typed = signal(this.lines.map(() => ''));
  /** The numbers of what came back, by line. // P6 */
  protected readonly numbers = signal<readonly (readonly string[])[]>(this.lines.map(() => []));
  protected readonly started = computed(() => this.typed().some((text) => text !== ''));
  private readonly input = computed(() => ({
    invoiceId: this.invoice.document.id,
    kind: this.kind(),
    reason: this.reason(),
    lines: this.lines.map((line, index) => ({
      invoiceLineId: line.id,
      quantity: this.kind() === 'return' ? this.typed()[index]! : '',
      unitPrice: this.kind() === 'price' ? this.typed()[index]! : '',
      ...(this.kind() === 'return' && this.numbers()[index]!.length > 0
        ? { numbers: [...this.numbers()[index]!] }
        : {}),
    })),
  }));
  protected readonly form = new ActForm(contract.creditInvoice, this.input);
  private readonly effects = computed(() => this.form.previewed()?.effects ?? null);
  protected readonly rows = computed(() =>
    this.lines.map((line, index) => {
      const made = this.effects()?.lines.find((each) => each.invoiceLineId === line.id);
      const cell = this.kind() === 'return' ? 'quantity' : 'unitPrice';
      return {
        line,
        typed: this.typed()[index]!,
        refused: this.form.at(`lines.${index}.${cell}`, this.typed()[index] !== ''),
        out: line.numbers.filter(({ place }) => place === 'customer'),
        proposed: (this.effects()?.numbers ?? [])
          .filter(
            ({ itemId, number }) => itemId === line.item.id && line.numbers.some((each) => each.number === number),
          )
          .map(({ number }) => number),
        wrong: this.form.at(`lines.${index}.numbers`, true),
        credit: made ? money(made.net, this.invoice.currency) : '',
      };
    }),
  );
  protected readonly loose = computed(() => this.form.loose([/^lines\.\d+\./, /^reason$/]));
  protected readonly effect = computed(() => {
    const effects = this.effects();
    if (!effects) return '';
    const total = `${effects.currency} ${money(effects.total, effects.currency)} with tax`;
    const off = effects.setOff === '0' ? '' : `, ${money(effects.setOff, effects.currency)} set off against it`;
    const rebate = effects.rebates.some((each) => each.accrued !== '0') ? '; its rebate falls' : '';
    const again = this.kind() === 'reversal' ? '; what it covered can be invoiced again' : '';
    const own = effects.own ? `, ${ownMoney(effects.own.total, effects.own)}` : '';
    return `${total}${own}${off}${rebate}${again}`;
  });
  protected readonly price = price;
  protected readonly quantity = quantity;

  protected setNumbers(index: number, numbers: readonly string[]): void {
    this.numbers.update((all) => all.map((each, at) => (at === index ? numbers : each)));
  }

  protected set(index: number, text: string): void {
    this.typed.update((all) => all.map((each, at) => (at === index ? text : each)));
  }
}
