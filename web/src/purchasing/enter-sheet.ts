import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { of } from 'rxjs';
import { catchError, debounceTime, switchMap } from 'rxjs/operators';
import { addDays, isDay, MAIN_LOCATION } from '@core/kernel';
import * as contract from '@api/purchasing';
import { Session } from '../access';
import { ChoiceField, DayField, LookupField, NumberField } from '../kit/fields';
import { counted, day, money, price, quantity } from '../kit/formats';
import { Locations } from '../kit/live/locations';
import { PERIODS } from '../kit/controls/periods';
import { ActForm, Sheet } from '../kit/act/sheet';
import { Purchases, type ItemChoice, type PartyChoice, type SisterDays } from './service';

interface Row {
  key: number;
  item: ItemChoice | null;
  quantity: string;
  dueDate: string | null;
}

let keys = 0;

/** The vendor is none of our sisters, or nothing is asked yet. */
const NO_SISTER: SisterDays = { sister: '', lines: [] };

/** A purchase order for nobody's order yet: for our stock, or to a customer before they ordered. // L4 */
@Component({
  selector: 'k-enter-sheet',
  imports: [ChoiceField, DayField, LookupField, NumberField, Sheet],
  template: `<k-sheet
    head="New purchase order"
    sub="For nobody's order yet; it can be tied to one, or made one, later"
    act="Place the purchase order"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="looseWarnings()"
    (done)="form.do()"
  >
    <div class="fields">
      <k-lookup
        data-first
        label="Vendor"
        [chosen]="vendor()?.name ?? ''"
        [search]="findVendors"
        (picked)="vendor.set($event)"
        [error]="form.at('vendorId', false)"
        placeholder="name, number or phone"
      />
      <k-lookup
        label="Goes to"
        [chosen]="goesTo()?.name ?? ''"
        [search]="findCustomers"
        (picked)="takeCustomer($event)"
        placeholder="our place; or a customer"
      />
      @if (goesTo()) {
        <k-choice label="Address" [(value)]="shipToId" [options]="shipTos()" [error]="form.at('shipToId')" />
        <button type="button" class="act" (click)="goesTo.set(null)">To our place instead</button>
      } @else if (places().length > 1) {
        <k-choice label="Comes to" [(value)]="place" [options]="places()" [error]="form.at('locationId')" />
      }
    </div>
    <table class="small">
      <thead>
        <tr>
          <th>Item</th>
          <th class="num">Quantity</th>
          <th>Due on</th>
          <th class="num">Price</th>
          <th class="num">Amount</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        @for (row of shown(); track row.row.key) {
          <tr>
            <td class="item">
              <k-lookup
                [label]="'Item ' + ($index + 1)"
                [chosen]="row.row.item?.number ?? ''"
                [search]="findItems"
                (picked)="set(row.row.key, { item: $event })"
                [error]="row.itemRefused"
              />
            </td>
            <td class="quantity">
              <k-number
                [bare]="true"
                [label]="'Quantity ' + ($index + 1)"
                [value]="row.row.quantity"
                (valueChange)="set(row.row.key, { quantity: $event })"
                [error]="row.quantityRefused"
              />
            </td>
            <td class="day">
              <k-day
                [bare]="true"
                [label]="'Due on ' + ($index + 1)"
                [value]="row.row.dueDate"
                (valueChange)="set(row.row.key, { dueDate: $event })"
                [workDate]="workDate()"
                [error]="row.dayRefused"
              />
            </td>
            <td class="num">{{ row.price }}</td>
            <td class="num">{{ row.amount }}</td>
            <td>
              @if (typed().length > 1) {
                <button
                  type="button"
                  class="act"
                  (click)="remove(row.row.key)"
                  [attr.aria-label]="'Remove line ' + ($index + 1)"
                >
                  −
                </button>
              }
            </td>
          </tr>
          @if (row.sister && !row.quantityRefused && !row.dayRefused && !row.word) {
            <tr>
              <td colspan="6">
                <span [class.word]="row.late" [class.faint]="!row.late">{{ row.sister }}</span>
              </td>
            </tr>
          }
          @if (row.quantityRefused || row.dayRefused || row.word) {
            <tr>
              <td colspan="6">
                @if (row.quantityRefused || row.dayRefused) {
                  <span class="bad" role="alert">{{ row.quantityRefused }} {{ row.dayRefused }}</span>
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
    @if (vendor(); as chosen) {
      <div class="basket">
        <h3>What we usually buy from {{ chosen.name }}</h3>
        <k-choice label="Bought over the last" [options]="periods" [(value)]="days" />
        @if (due().length > 0) {
          <button type="button" class="act" (click)="takeDue()">Buy what is due, {{ due().length }}</button>
        }
      </div>
      <table class="small">
        <thead>
          <tr>
            <th>Item</th>
            <th></th>
            <th class="num">Orders</th>
            <th class="num">Last</th>
            <th class="num">At</th>
            <th>On</th>
            <th>Again</th>
            <th class="num">To come</th>
            <th class="num">Free</th>
            <th class="num">Buy</th>
          </tr>
        </thead>
        <tbody>
          @for (row of basket(); track row.item.id) {
            <tr>
              <td>{{ row.item.number }}</td>
              <td>{{ row.item.name }}</td>
              <td class="num">{{ row.times }}</td>
              <td class="num">{{ amountOf(row.lastQuantity) }}</td>
              <td class="num">{{ priceOf(row.lastPrice) }}</td>
              <td>{{ dayOf(row.lastDay) }}</td>
              <td [class.due]="row.again?.quantity">{{ row.again ? dayOf(row.again.dueOn) : '' }}</td>
              <td class="num">{{ row.open === '0' ? '–' : amountOf(row.open) }}</td>
              <td class="num">{{ row.free === '0' ? '–' : amountOf(row.free) }}</td>
              <td class="quantity">
                <k-number
                  [bare]="true"
                  [label]="'Buy of ' + row.item.number"
                  [value]="quantityOf(row.item.id)"
                  (valueChange)="buy(row.item, $event)"
                />
              </td>
            </tr>
          } @empty {
            <tr>
              <td colspan="10" class="faint">Nothing was bought from them over that time; take a longer one.</td>
            </tr>
          }
        </tbody>
      </table>
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    td.due {
      color: var(--ochre);
    }
    td.item {
      width: 190px;
    }
    td.quantity {
      width: 110px;
    }
    td.day {
      width: 150px;
    }
    .basket {
      display: flex;
      justify-content: space-between;
      align-items: end;
      margin: 22px 0 4px;
    }
    .basket h3 {
      margin: 0;
    }
    .word {
      color: var(--ochre);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EnterSheet {
  private readonly purchases = inject(Purchases);
  /** The number of the vendor it is with, where one came from theirs. */
  private readonly from = inject<string | null>(DIALOG_DATA);
  private readonly session = inject(Session);
  protected readonly workDate = this.session.workDate;
  protected readonly vendor = signal<PartyChoice | null>(null);
  protected readonly goesTo = signal<PartyChoice | null>(null);
  protected readonly shipToId = signal('');
  private readonly locations = inject(Locations);
  protected readonly place = signal(String(MAIN_LOCATION));
  protected readonly places = computed(() =>
    this.locations.all().map((each) => ({ value: String(each.id), label: each.name })),
  );
  protected readonly typed = signal<Row[]>([this.fresh()]);
  protected readonly fields = [/^vendorId$/, /^shipToId$/, /^locationId$/, /^lines\.\d+\.(itemId|quantity|dueDate)$/];
  protected readonly form = new ActForm(
    contract.enterPurchase,
    computed(() => ({
      vendorId: this.vendor()?.id ?? null,
      shipToId: this.goesTo() && this.shipToId() ? Number(this.shipToId()) : null,
      ...(this.goesTo() ? {} : { locationId: Number(this.place()) }),
      lines: this.typed().map((row) => ({
        itemId: row.item?.id ?? null,
        quantity: row.quantity,
        dueDate: row.dueDate !== null && !isDay(row.dueDate) ? row.dueDate.slice(0, 10) : row.dueDate,
      })),
    })),
  );

  protected readonly shipTos = computed(() =>
    (this.goesTo()?.shipTos ?? []).map((each) => ({ value: String(each.id), label: `${each.label}, ${each.town}` })),
  );
  protected readonly looseWarnings = computed(() =>
    this.form.warnings.filter((warning) => !/^lines\.\d+\.quantity$/.test(warning.field)),
  );
  protected readonly shown = computed(() => {
    const effects = this.form.previewed()?.effects ?? null;
    return this.typed().map((row, index) => {
      const at = (field: string, typed: boolean) => this.form.at(`lines.${index}.${field}`, typed);
      const made = effects?.lines[index];
      return {
        row,
        itemRefused: at('itemId', row.item !== null),
        quantityRefused: at('quantity', row.quantity !== ''),
        dayRefused: at('dueDate', row.quantity !== ''),
        word: this.form.warnings.find((each) => each.field === `lines.${index}.quantity`)?.sentence ?? '',
        ...this.sisterWords(row),
        price: made ? price(made.unitPrice, effects!.currency) : '',
        amount: made ? money(made.amount, effects!.currency) : '',
      };
    });
  });
  /** From when a sister could ship it, by what she has and makes; nothing of other vendors. // X4 */
  private sisterWords({ key }: Row): { sister: string; late: boolean } {
    const { sister, lines } = this.sisterDays();
    const found = lines.find((line) => line.key === String(key));
    const first = found?.first ?? null;
    if (!found || first === null) return { sister: '', late: false };
    return { sister: `${sister} could ship it on ${day(first, this.workDate())}`, late: found.late };
  }

  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const where = this.goesTo() ? `to ${this.goesTo()!.name}, for nobody's order yet` : 'to our place';
    return `${counted(this.typed().length, 'line')} ${where}, ${effects.currency} ${money(effects.net, effects.currency)}`;
  });
  protected readonly periods = PERIODS;
  protected readonly days = signal('180');
  private readonly asked = computed(() => ({ vendorId: this.vendor()?.id ?? null, days: Number(this.days()) }));
  /** What was bought from the vendor over a period, how often, and at what price the last time. */
  protected readonly basket = toSignal(
    toObservable(this.asked).pipe(
      switchMap(({ vendorId, days }) =>
        vendorId === null ? of([]) : this.purchases.basket(vendorId, days).pipe(catchError(() => of([]))),
      ),
    ),
    { initialValue: [] },
  );
  private readonly askedOfSister = computed(() => {
    const vendorId = this.vendor()?.id ?? null;
    const lines = this.typed().flatMap(({ key, item, quantity: count, dueDate }) =>
      item && count !== ''
        ? [{ key: String(key), itemId: item.id, quantity: count, due: dueDate?.slice(0, 10) ?? null }]
        : [],
    );
    return vendorId !== null && lines.length > 0 && this.session.current()?.sisters ? { vendorId, lines } : null;
  });
  private readonly sisterDays = toSignal(
    toObservable(this.askedOfSister).pipe(
      debounceTime(200),
      switchMap((asked) =>
        asked ? this.purchases.sisterDays(asked).pipe(catchError(() => of(NO_SISTER))) : of(NO_SISTER),
      ),
    ),
    { initialValue: NO_SISTER },
  );
  /** What is due again by how it was bought before, and not among the lines. */
  protected readonly due = computed(() =>
    this.basket().filter(({ item, again }) => again?.quantity && this.quantityOf(item.id) === ''),
  );
  protected readonly amountOf = quantity;
  protected readonly priceOf = (value: string) => price(value, this.form.previewed()?.effects?.currency ?? '');
  protected readonly dayOf = (value: string) => day(value, this.workDate());
  protected readonly quantityOf = (itemId: number) =>
    this.typed().find((row) => row.item?.id === itemId)?.quantity ?? '';

  /** Takes a quantity of the basket into the lines: into the item's own, the blank one, or one more. */
  protected buy(item: ItemChoice, typed: string): void {
    const own = this.typed().find((row) => row.item?.id === item.id);
    const blank = this.typed().find((row) => row.item === null && row.quantity === '');
    if (own)
      return typed === '' && this.typed().length > 1 ? this.remove(own.key) : this.set(own.key, { quantity: typed });
    if (typed === '') return;
    if (!blank) this.more();
    this.set((blank ?? this.typed().at(-1)!).key, { item, quantity: typed });
  }

  protected takeDue(): void {
    for (const { item, again } of this.due()) this.buy(item, again!.quantity!);
  }

  private takeFrom(): void {
    const number = this.from;
    if (!number) return;
    this.purchases.vendors(number).subscribe((found) => {
      const vendor = found.find((each) => each.number === number);
      if (vendor && this.vendor() === null) this.vendor.set(vendor);
    });
  }

  protected readonly findVendors = (words: string) => this.purchases.vendors(words);
  protected readonly findCustomers = (words: string) => this.purchases.customers(words);
  protected readonly findItems = (words: string) => this.purchases.items(words);

  private fresh(): Row {
    keys += 1;
    return { key: keys, item: null, quantity: '', dueDate: addDays(this.workDate(), 7) };
  }

  protected takeCustomer(customer: PartyChoice): void {
    this.goesTo.set(customer);
    this.shipToId.set(String(customer.shipTos[0]?.id ?? ''));
  }

  protected set(key: number, change: Partial<Row>): void {
    this.typed.update((rows) => rows.map((row) => (row.key === key ? { ...row, ...change } : row)));
  }

  protected more(): void {
    this.typed.update((rows) => [...rows, { ...this.fresh(), dueDate: rows.at(-1)?.dueDate ?? null }]);
  }

  protected remove(key: number): void {
    this.typed.update((rows) => rows.filter((row) => row.key !== key));
  }

  constructor() {
    this.takeFrom();
    this.locations.read();
  }
}
