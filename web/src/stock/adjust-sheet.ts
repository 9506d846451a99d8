import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import { dec, inUnits, isDecimalText } from '@core/kernel';
import * as contract from '@api/stock';
import { NumberField, TextField } from '../kit/fields';
import { money, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import { NumbersField } from '../serial';

export interface AdjustData {
  row: z.infer<typeof contract.StockRow>;
  currency: string;
}

/** How many there are, and why that is another number than was known. // W6 */
@Component({
  selector: 'k-adjust-sheet',
  imports: [NumberField, NumbersField, Sheet, TextField],
  template: `<k-sheet
    [head]="'Put ' + data.row.item.number + ' right'"
    [sub]="data.row.item.name + ', ' + data.row.location.name"
    act="Put it right"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <dl class="facts">
      <dt>Known to be there</dt>
      <dd>{{ inUnits(quantity(data.row.onHand), data.row.item.unit) }}, {{ quantity(data.row.held) }} held</dd>
    </dl>
    <div class="fields">
      <k-number
        data-first
        [label]="'There are, ' + data.row.item.unit"
        [(value)]="now"
        [error]="form.at('now', now() !== '')"
      />
      @if (more()) {
        <k-number
          kind="price"
          [label]="'What one of them cost, ' + data.currency"
          [(value)]="unitCost"
          [error]="form.at('unitCost')"
        />
      }
      <k-text
        label="Why"
        [(value)]="reason"
        [most]="200"
        [error]="form.at('reason', now() !== '' && reason() !== '')"
      />
    </div>
    @if (change(); as much) {
      <k-numbers-field
        [item]="data.row.item"
        [label]="more() ? 'Serial numbers of those that are more' : 'Serial numbers of those that are gone'"
        [way]="more() ? 'in' : 'out'"
        [locationId]="data.row.location.id"
        [many]="much"
        [(value)]="numbers"
        [proposed]="proposed()"
        [error]="form.at('numbers')"
      />
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AdjustSheet {
  protected readonly data = inject<AdjustData>(DIALOG_DATA);
  protected readonly now = signal('');
  protected readonly unitCost = signal('');
  protected readonly reason = signal('');
  protected readonly numbers = signal<readonly string[]>([]);
  protected readonly fields = [/^now$/, /^unitCost$/, /^reason$/, /^numbers$/];
  /** How many are more or fewer; nothing while that is not known. */
  protected readonly change = computed(() => {
    if (!isDecimalText(this.now(), 'quantity')) return null;
    const change = dec(this.now()).minus(this.data.row.onHand).abs();
    return change.gt(0) ? change.toFixed() : null;
  });
  /** More than was known: what they cost may be told. */
  protected readonly more = computed(
    () => isDecimalText(this.now(), 'quantity') && dec(this.now()).gt(this.data.row.onHand),
  );
  protected readonly form = new ActForm(
    contract.adjustStock,
    computed(() => ({
      itemId: this.data.row.item.id,
      locationId: this.data.row.location.id,
      was: this.data.row.onHand,
      now: this.now(),
      unitCost: this.more() ? this.unitCost() : '',
      reason: this.reason(),
      ...(this.numbers().length > 0 ? { numbers: [...this.numbers()] } : {}),
    })),
  );
  protected readonly proposed = computed(
    () => this.form.previewed()?.effects?.numbers.map(({ number }) => number) ?? [],
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const fewer = effects.quantity.startsWith('-');
    const count = inUnits(quantity(effects.quantity.replace('-', '')), this.data.row.item.unit);
    const worth =
      effects.cost === '' ? '' : `, ${effects.currency} ${money(effects.cost.replace('-', ''), effects.currency)}`;
    return `${count} ${fewer ? 'fewer' : 'more'}${worth} ${fewer ? 'to' : 'from'} stock differences`;
  });
  protected readonly quantity = quantity;
  protected readonly inUnits = inUnits;
}
