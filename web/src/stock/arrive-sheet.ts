import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import { dec, inUnits, UNDER_WAY } from '@core/kernel';
import * as contract from '@api/stock';
import { ActForm, Sheet } from '../kit/act/sheet';
import { ChoiceField, NumberField } from '../kit/fields';
import { money, quantity } from '../kit/formats';
import { Locations } from '../kit/live/locations';
import { NumbersField } from '../serial';

export type Carriage = z.infer<typeof contract.listCarriages.out>['rows'][number];

export interface ArriveData {
  row: Carriage;
  currency: string;
}

/** How many of a carriage are under way still. */
export const openOf = ({ quantity: sent, arrived }: Carriage) => dec(sent).minus(arrived).toFixed();

/** Goods under way are there, all or some of them. // W6 */
@Component({
  selector: 'k-arrive-sheet',
  imports: [ChoiceField, NumberField, NumbersField, Sheet],
  template: `<k-sheet
    [head]="data.row.item.number + ' arrived'"
    [sub]="data.row.item.name + ', from ' + data.row.from.name"
    act="They are here"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="fields">
      <k-number
        data-first
        [label]="'How many, ' + data.row.item.unit"
        [hint]="'of ' + quantity(open) + ' under way'"
        [(value)]="count"
        [error]="form.at('quantity', count() !== '')"
      />
      <k-choice label="At" [(value)]="to" [options]="places()" [error]="form.at('to')" />
    </div>
    <k-numbers-field
      [item]="data.row.item"
      way="out"
      [locationId]="way"
      [many]="count()"
      [(value)]="numbers"
      [proposed]="proposed()"
      [error]="form.at('numbers')"
    />
    <p class="faint">
      What is not here stays under way. What never comes is put right as stock once it is said to be here.
    </p>
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    p {
      margin: 12px 0 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArriveSheet {
  protected readonly data = inject<ArriveData>(DIALOG_DATA);
  private readonly locations = inject(Locations).all;
  protected readonly open = openOf(this.data.row);
  protected readonly way = UNDER_WAY;
  protected readonly count = signal(this.open);
  protected readonly to = signal(String(this.data.row.to.id));
  protected readonly numbers = signal<readonly string[]>([]);
  protected readonly fields = [/^to$/, /^quantity$/, /^numbers$/];
  protected readonly places = computed(() =>
    this.locations().map(({ id, name }) => ({ value: String(id), label: name })),
  );
  protected readonly form = new ActForm(
    contract.arrive,
    computed(() => ({
      carriageId: this.data.row.id,
      to: Number(this.to()),
      quantity: this.count(),
      ...(this.numbers().length > 0 ? { numbers: [...this.numbers()] } : {}),
    })),
  );
  protected readonly proposed = computed(
    () => this.form.previewed()?.effects?.numbers.map(({ number }) => number) ?? [],
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const { row, currency } = this.data;
    const left = dec(this.open).minus(effects.quantity);
    const worth = effects.value === '' ? '' : `, ${currency} ${money(effects.value, currency)}`;
    return `${inUnits(quantity(effects.quantity), row.item.unit)}${worth}${left.gt(0) ? `; ${quantity(left.toFixed())} stay under way` : ''}`;
  });
  protected readonly quantity = quantity;
}
