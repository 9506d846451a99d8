import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { dec } from '@core/kernel';
import * as contract from '@api/counter';
import { Session } from '../access';
import { NumberField, TextField } from '../kit/fields';
import { day, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import type { SlipSheet, TillNow } from './service';
import { tillHere } from './till-here';

/** Goods of a slip are brought back: how many of which line, and why; the money goes back to what it came by. // C5 */
@Component({
  selector: 'k-back-sheet',
  imports: [NumberField, Sheet, TextField],
  template: `<k-sheet
    [head]="'Bring back of ' + slip.document.number"
    [sub]="sub"
    act="Take it back"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    @for (line of lines; track line.id; let index = $index) {
      <div class="line">
        <k-number
          [attr.data-first]="index === 0 ? '' : null"
          kind="quantity"
          [label]="line.item.number + ', at most ' + quantity(line.left) + ' ' + line.item.unit"
          [value]="typed()[index]!.quantity"
          (valueChange)="type(index, 'quantity', $event)"
          [error]="form.at('lines.' + index + '.quantity')"
        />
        @if (line.byNumber) {
          <k-text
            [label]="'Numbers, of ' + line.numbers.join(', ')"
            [value]="typed()[index]!.numbers"
            (valueChange)="type(index, 'numbers', $event)"
            [error]="form.at('lines.' + index + '.numbers')"
          />
        }
      </div>
    }
    <k-text label="Why" [(value)]="reason" [error]="form.at('reason')" />
    <span effect>Credited, on hand again, and paid back at {{ till()?.name ?? 'the till' }}.</span>
  </k-sheet>`,
  styles: `
    .line {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 16px;
      margin-bottom: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BackSheet {
  protected readonly slip = inject<SlipSheet>(DIALOG_DATA);
  private readonly session = inject(Session);
  protected readonly lines = this.slip.lines.filter(({ left }) => dec(left).gt(0));
  protected readonly sub = `goods are taken back until ${day(this.slip.backUntil, this.session.workDate())}`;
  protected readonly fields = [/^lines\.\d+\.(quantity|numbers)/, /^reason$/];
  protected readonly typed = signal(this.lines.map(() => ({ quantity: '', numbers: '' })));
  protected readonly reason = signal('');
  protected readonly till = signal<TillNow | null>(null);
  protected readonly form = new ActForm(
    contract.bringBack,
    computed(() => ({
      tillId: this.till()?.id ?? 0,
      slipId: this.slip.document.id,
      reason: this.reason(),
      lines: this.lines.map(({ id }, index) => {
        const { quantity: typed, numbers } = this.typed()[index]!;
        const named = numbers.split(/[\s,;]+/).filter((each) => each !== '');
        return { invoiceLineId: id, quantity: typed, ...(named.length > 0 ? { numbers: named } : {}) };
      }),
    })),
  );

  constructor() {
    this.form.begin(tillHere(), (till) => this.till.set(till));
  }

  protected type(index: number, name: 'quantity' | 'numbers', value: string): void {
    this.typed.update((all) => all.map((each, at) => (at === index ? { ...each, [name]: value } : each)));
  }
  protected readonly quantity = quantity;
}
