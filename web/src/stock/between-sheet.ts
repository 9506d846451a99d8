import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { inUnits, UNDER_WAY, type Day } from '@core/kernel';
import * as contract from '@api/stock';
import { Session } from '../access';
import { ChoiceField, DayField, NumberField } from '../kit/fields';
import { day, money, quantity } from '../kit/formats';
import type { Location } from '../kit/live/locations';
import { ActForm, Sheet } from '../kit/act/sheet';
import { NumbersField } from '../serial';
import type * as z from 'zod';
import type { openItem } from '@api/catalogue';

export interface BetweenData {
  item: z.infer<typeof openItem.out>;
  locations: readonly Location[];
  currency: string;
}

/** Goods of an item from one of our places to another. // P3 */
@Component({
  selector: 'k-between-sheet',
  imports: [ChoiceField, DayField, NumberField, NumbersField, Sheet],
  template: `<k-sheet
    [head]="'Move ' + data.item.number"
    [sub]="data.item.name"
    act="Move them"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <dl class="facts">
      @for (place of data.item.places; track place.location.id) {
        <dt>{{ place.location.name }}</dt>
        <dd>
          {{ inUnits(quantity(place.onHand), data.item.unit) }}
          @if (place.location.id !== UNDER_WAY) {
            , {{ quantity(place.free) }} free
          }
        </dd>
      }
    </dl>
    <div class="fields">
      <k-choice label="From" [(value)]="from" [options]="places" [error]="form.at('from')" />
      <k-choice label="To" [(value)]="to" [options]="places" [error]="form.at('to')" />
      <k-number
        data-first
        [label]="'How many, ' + data.item.unit"
        [(value)]="count"
        [error]="form.at('quantity', count() !== '')"
      />
      <k-day
        label="They arrive"
        hint="at once where nothing is typed"
        [(value)]="arrivesOn"
        [workDate]="workDate()"
        [error]="form.at('arrivesOn')"
      />
    </div>
    <k-numbers-field
      [item]="data.item"
      way="out"
      [locationId]="+from()"
      [many]="count()"
      [(value)]="numbers"
      [proposed]="proposed()"
      [error]="form.at('numbers')"
    />
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BetweenSheet {
  protected readonly data = inject<BetweenData>(DIALOG_DATA);
  protected readonly places = this.data.locations.map(({ id, name }) => ({ value: String(id), label: name }));
  /** From where most are free, to the first other. */
  private readonly most = [...this.data.item.places]
    .filter(({ location }) => location.id !== UNDER_WAY)
    .sort((a, b) => Number(b.free) - Number(a.free))[0]?.location.id;
  protected readonly from = signal(String(this.most ?? this.data.locations[0]!.id));
  protected readonly to = signal(this.places.find(({ value }) => value !== this.from())!.value);
  protected readonly count = signal('');
  protected readonly arrivesOn = signal<Day | null>(null);
  protected readonly workDate = inject(Session).workDate;
  protected readonly numbers = signal<readonly string[]>([]);
  protected readonly fields = [/^from$/, /^to$/, /^quantity$/, /^arrivesOn$/, /^numbers$/];
  protected readonly form = new ActForm(
    contract.moveBetween,
    computed(() => ({
      itemId: this.data.item.id,
      from: Number(this.from()),
      to: Number(this.to()),
      quantity: this.count(),
      ...(this.arrivesOn() ? { arrivesOn: this.arrivesOn() } : {}),
      ...(this.numbers().length > 0 ? { numbers: [...this.numbers()] } : {}),
    })),
  );
  protected readonly proposed = computed(
    () => this.form.previewed()?.effects?.numbers.map(({ number }) => number) ?? [],
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const { currency } = this.data;
    const arrives = this.arrivesOn();
    const way = arrives ? `, under way until ${day(arrives, this.workDate())}` : '';
    const worth = effects.value === '' ? '' : ` at what they cost, ${currency} ${money(effects.value, currency)}`;
    return `${quantity(effects.quantity)}${worth}${way}`;
  });
  protected readonly UNDER_WAY = UNDER_WAY;
  protected readonly quantity = quantity;
  protected readonly inUnits = inUnits;
}
