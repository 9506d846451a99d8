import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { isDay } from '@core/kernel';
import * as contract from '@api/purchasing';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { ChoiceField, DayField, LookupField, NumberField, TextField } from '../kit/fields';
import { fieldShown, money, price } from '../kit/formats';
import { Locations } from '../kit/live/locations';
import { forWhom } from './purchase-columns';
import { Purchases, type ItemChoice, type PurchaseSheet } from './service';

interface Row {
  key: string;
  /** Null for one that is added. */
  id: number | null;
  item: Pick<ItemChoice, 'id' | 'number'> | null;
  quantity: string;
  price: string;
  dueDate: string | null;
}

/** What of a placed purchase order is to be another, line by line, what that moves, and why. // S8 */
@Component({
  selector: 'k-change-purchase-sheet',
  imports: [ChoiceField, DayField, LookupField, NumberField, Sheet, TextField],
  template: `<k-sheet
    [head]="'Change ' + sheet.number"
    [sub]="'placed with ' + sheet.vendor.name + '; kept as its next revision'"
    act="Change it"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="looseWarnings()"
    (done)="form.do()"
  >
    <table class="small">
      <thead>
        <tr>
          <th></th>
          <th>Item</th>
          <th>For</th>
          <th class="num">Quantity</th>
          <th class="num">Price</th>
          <th>Due on</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        @for (row of shown(); track row.typed.key) {
          <tr>
            <td class="faint">{{ row.no }}</td>
            <td class="item">
              @if (row.typed.id === null) {
                <k-lookup
                  [label]="'Item of line ' + row.no"
                  [chosen]="row.typed.item?.number ?? ''"
                  [search]="findItems"
                  (picked)="set($index, { item: $event })"
                  [error]="row.itemRefused"
                />
              } @else {
                {{ row.typed.item?.number }}
              }
            </td>
            <td class="faint">{{ row.whom }}</td>
            <td class="quantity">
              <k-number
                [bare]="true"
                [label]="'Quantity of line ' + row.no"
                [value]="row.typed.quantity"
                (valueChange)="set($index, { quantity: $event })"
                [error]="row.quantityRefused"
                [attr.data-first]="$index === 0 ? '' : null"
              />
            </td>
            <td class="quantity">
              <k-number
                [bare]="true"
                [label]="'Price of line ' + row.no"
                [value]="row.typed.price"
                (valueChange)="set($index, { price: $event })"
                [placeholder]="row.priceNow"
                [error]="row.priceRefused"
              />
            </td>
            <td class="day">
              <k-day
                [bare]="true"
                [label]="'Due on, line ' + row.no"
                [value]="row.typed.dueDate"
                (valueChange)="set($index, { dueDate: $event })"
                [workDate]="workDate()"
                [error]="row.dayRefused"
              />
            </td>
            <td>
              @if (row.typed.id === null) {
                <button type="button" class="act" (click)="remove($index)" [attr.aria-label]="'Remove line ' + row.no">
                  −
                </button>
              }
            </td>
          </tr>
          @if (row.refused || row.word) {
            <tr>
              <td></td>
              <td colspan="6">
                @if (row.refused) {
                  <span class="bad" role="alert">{{ row.refused }}</span>
                } @else {
                  <span class="word">{{ row.word }}</span>
                }
              </td>
            </tr>
          }
        }
      </tbody>
    </table>
    <button type="button" class="act" (click)="more()">Another line</button>
    <div class="fields">
      @if (places().length > 1) {
        <k-choice label="Comes to" [(value)]="place" [options]="places()" [error]="form.at('locationId')" />
      }
      <k-text label="Why" [(value)]="reason" [most]="200" [error]="form.at('reason', reason() !== '')" />
    </div>
    @if (changed(); as effects) {
      <table class="small told">
        <thead>
          <tr>
            <th>What</th>
            <th>As it was</th>
            <th>As it will be</th>
          </tr>
        </thead>
        <tbody>
          @for (field of effects.fields; track field.what) {
            <tr>
              <td>{{ field.what }}</td>
              <td>{{ value(field.was) }}</td>
              <td>{{ value(field.is) }}</td>
            </tr>
          }
        </tbody>
      </table>
      @for (words of effects.effects; track words) {
        <p>{{ words }}.</p>
      }
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    td.item {
      min-width: 110px;
    }
    td.quantity {
      width: 100px;
    }
    td.day {
      width: 140px;
    }
    .fields {
      margin-top: 14px;
    }
    .told {
      margin: 16px 0 8px;
    }
    p {
      margin: 4px 0;
    }
    .word {
      color: var(--ochre);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ChangePurchaseSheet {
  protected readonly sheet = inject<PurchaseSheet>(DIALOG_DATA);
  private readonly purchases = inject(Purchases);
  private readonly locations = inject(Locations);
  protected readonly workDate = inject(Session).workDate;
  protected readonly reason = signal('');
  protected readonly place = signal(String(this.sheet.location?.id ?? ''));
  protected readonly places = computed(() =>
    this.sheet.location === null
      ? []
      : this.locations.all().map(({ id, name }) => ({ value: String(id), label: name })),
  );
  private added = 0;
  private readonly typed = signal<Row[]>(
    this.sheet.lines.map(({ id, item, quantity, dueDate }) => ({
      key: String(id),
      id,
      item,
      quantity,
      price: '',
      dueDate,
    })),
  );
  /** A line that was begun, or is there already. */
  private readonly sent = computed(() =>
    this.typed().filter(({ id, item, quantity }) => id !== null || item !== null || quantity !== ''),
  );
  protected readonly fields = [/^reason$/, /^locationId$/, /^lines\.\d+\./];
  protected readonly form = new ActForm(
    contract.changePurchase,
    computed(() => ({
      purchaseId: this.sheet.id,
      version: this.sheet.version,
      reason: this.reason(),
      ...(this.sheet.location === null ? {} : { locationId: Number(this.place()) }),
      lines: this.sent().map(({ id, item, quantity, price: asked, dueDate }) => ({
        id,
        itemId: id === null ? (item?.id ?? null) : null,
        quantity,
        price: asked,
        dueDate: dueDate !== null && !isDay(dueDate) ? dueDate.slice(0, 10) : dueDate,
      })),
    })),
  );
  protected readonly shown = computed(() =>
    this.typed().map((typed, index) => {
      const line = this.sheet.lines.find(({ id }) => id === typed.id);
      const place = this.sent().indexOf(typed);
      const at = (field: string) => (place < 0 ? '' : this.form.at(`lines.${place}.${field}`));
      const [itemRefused, quantityRefused, priceRefused, dayRefused, agreementRefused] = [
        at('itemId'),
        at('quantity'),
        at('price'),
        at('dueDate'),
        at('agreementLineId'),
      ];
      return {
        typed,
        no: line?.lineNo ?? Math.max(0, ...this.sheet.lines.map(({ lineNo }) => lineNo)) + this.placeOfAdded(index),
        whom: line ? forWhom(line, this.sheet) : '',
        priceNow: line ? price(line.unitPrice, this.sheet.currency) : 'as they ask',
        itemRefused,
        quantityRefused,
        priceRefused,
        dayRefused,
        refused: [itemRefused, quantityRefused, priceRefused, dayRefused, agreementRefused].filter(Boolean).join(' '),
        word: this.form.warnings.find(({ field }) => field.startsWith(`lines.${place}.`))?.sentence ?? '',
      };
    }),
  );
  protected readonly looseWarnings = computed(() =>
    this.form.warnings.filter(({ field }) => !/^lines\.\d+\./.test(field)),
  );
  protected readonly changed = computed(() => {
    const effects = this.form.previewed()?.effects ?? null;
    return effects && effects.fields.length > 0 ? effects : null;
  });
  protected readonly effect = computed(() => {
    const effects = this.changed();
    if (!effects) return '';
    if (effects.state === 'cancelled') return 'Nothing comes: the purchase order is cancelled';
    if (effects.net === '') return '';
    const amount = (value: string) => money(value, this.sheet.currency);
    return `${this.sheet.currency} ${amount(effects.was)} becomes ${amount(effects.net)}`;
  });

  constructor() {
    this.locations.read();
  }

  private placeOfAdded(index: number): number {
    return this.typed()
      .slice(0, index + 1)
      .filter(({ id }) => id === null).length;
  }

  protected set(index: number, change: Partial<Row>): void {
    this.typed.update((rows) => rows.map((row, at) => (at === index ? { ...row, ...change } : row)));
  }

  protected more(): void {
    this.added += 1;
    const dueDate = this.typed().at(-1)?.dueDate ?? null;
    const row: Row = { key: `added ${this.added}`, id: null, item: null, quantity: '', price: '', dueDate };
    this.typed.update((rows) => [...rows, row]);
  }

  protected remove(index: number): void {
    this.typed.update((rows) => rows.filter((_, at) => at !== index));
  }

  protected readonly findItems = (words: string) => this.purchases.items(words);
  protected readonly value = (text: string) => fieldShown(text, this.workDate());
}
