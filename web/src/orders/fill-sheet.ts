import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { of } from 'rxjs';
import { catchError, debounceTime, map, startWith, switchMap } from 'rxjs/operators';
import { dec, inUnits, MAIN_LOCATION, readTypedDecimal } from '@core/kernel';
import { Session } from '../access';
import { Chips } from '../kit/controls/chips';
import { ChoiceField, NumberField, TextField } from '../kit/fields';
import { counted, day, price, quantity } from '../kit/formats';
import type { Location } from '../kit/live/locations';
import { PERIODS } from '../kit/controls/periods';
import { Sheet } from '../kit/act/sheet';
import { Orders, type BasketRow, type ItemChoice } from './service';
import { atPlace } from './supplied-from';
import { blankLine, ofItem, type TypedLine } from './typed';

export interface FillData {
  customer: { id: number; name: string } | null;
  currency: string;
  from: 'basket' | 'shelf';
}

/** One row that can be taken into the order. */
interface Offered {
  key: string;
  item: ItemChoice;
  unit: string;
  factor: string;
  free: string;
  /** What was bought last, in its unit; empty on the shelf. */
  last: string;
  times: number;
  lastPrice: string;
  lastDay: string | null;
  /** When it is due again, and how much of it, in the item's own unit. */
  again: BasketRow['again'];
  group: string;
  /** Where it is on the shelf. */
  location: Location | null;
}

/** Lines from what this customer usually buys, or from what is on the shelf: a quantity on each that is wanted. */
@Component({
  selector: 'k-fill-sheet',
  imports: [Chips, ChoiceField, NumberField, Sheet, TextField],
  template: `<k-sheet
    head="Fill the order"
    [sub]="data.customer ? data.customer.name : 'From what is on hand'"
    [act]="act()"
    [busy]="chosen().length === 0"
    (done)="take()"
  >
    <div class="top">
      <k-chips label="From" [chips]="sources" [(value)]="from" />
      @if (from() === 'basket') {
        <k-choice label="Bought over the last" [options]="periods" [value]="days()" (valueChange)="days.set($event)" />
      }
      <k-text data-first label="Look for a number or name" [value]="words()" (valueChange)="words.set($event)" />
    </div>
    <table class="small">
      <thead>
        <tr>
          <th>Item</th>
          <th></th>
          @if (from() === 'basket') {
            <th class="num">Orders</th>
            <th class="num">Last</th>
            <th class="num">At</th>
            <th>On</th>
            <th>Again</th>
          }
          <th class="num">Free</th>
          <th class="num">Take</th>
        </tr>
      </thead>
      <tbody>
        @for (row of shown(); track row.key) {
          <tr>
            <td>{{ row.item.number }}</td>
            <td class="name">{{ row.item.name }}</td>
            @if (from() === 'basket') {
              <td class="num">{{ row.times }}</td>
              <td class="num">{{ lastOf(row) }}</td>
              <td class="num">{{ price(row.lastPrice) }}</td>
              <td>{{ day(row.lastDay) }}</td>
              <td [class.due]="row.again?.quantity">{{ row.again ? day(row.again.dueOn) : '' }}</td>
            }
            <td class="num">{{ row.free === '0' ? '–' : quantity(row.free) }}{{ atPlace(row) }}</td>
            <td>
              <span class="take">
                <k-number
                  [bare]="true"
                  [label]="'Take of ' + row.item.number + atPlace(row) + ', ' + row.unit"
                  [value]="taken().get(row.key) ?? ''"
                  (valueChange)="set(row.key, $event)"
                  [error]="problem(row)"
                />
                <small>{{ row.unit }}</small>
              </span>
            </td>
          </tr>
        } @empty {
          <tr>
            <td colspan="9" class="faint">{{ empty() }}</td>
          </tr>
        }
      </tbody>
    </table>
    <span effect>
      @if (from() === 'basket' && shown().length > 0) {
        <button type="button" class="act" (click)="takeLast()">As last time, all {{ shown().length }}</button>
        @if (due().length > 0) {
          <button type="button" class="act" (click)="takeDue()">What is due, {{ due().length }}</button>
        }
      }
    </span>
  </k-sheet>`,
  styles: `
    .top {
      display: flex;
      gap: 16px;
      align-items: end;
      margin-bottom: 12px;
    }
    .top k-text {
      flex: 1;
    }
    table {
      width: 100%;
    }
    .due {
      color: var(--ochre);
    }
    .name {
      max-width: 170px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .take {
      display: flex;
      gap: 6px;
      align-items: center;
      justify-content: flex-end;
    }
    .take k-number {
      width: 84px;
    }
    .take small {
      width: 42px;
      color: var(--ink-faint);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FillSheet {
  protected readonly data = inject<FillData>(DIALOG_DATA);
  private readonly ref = inject(DialogRef<TypedLine[]>);
  private readonly orders = inject(Orders);
  private readonly workDate = inject(Session).workDate;
  protected readonly from = signal<string>(this.data.from);
  protected readonly days = signal('180');
  protected readonly words = signal('');
  /** Typed quantities, by row; they stay while one looks for more. */
  protected readonly taken = signal<ReadonlyMap<string, string>>(new Map());
  private readonly known = new Map<string, Offered>();
  protected readonly sources = [
    ...(this.data.customer ? [{ value: 'basket', label: 'Usual basket' }] : []),
    { value: 'shelf', label: 'Shelf' },
  ];
  protected readonly periods = PERIODS;

  private readonly asked = computed(() => ({
    from: this.from(),
    days: Number(this.days()),
    words: this.from() === 'shelf' ? this.words().trim() : '',
  }));
  private readonly found = toSignal(
    toObservable(this.asked).pipe(
      debounceTime(120),
      switchMap((asked) =>
        this.read(asked).pipe(
          map((rows) => ({ from: asked.from, rows, failed: false })),
          catchError(() => of({ from: asked.from, rows: [] as Offered[], failed: true })),
          // What is there stays while one looks for other words: somebody may be typing in it.
          startWith({ from: asked.from, rows: this.rowsOf(asked.from), failed: false }),
        ),
      ),
    ),
    { initialValue: { from: '', rows: null as Offered[] | null, failed: false } },
  );

  private rowsOf(from: string): Offered[] | null {
    const last = this.found();
    return last.from === from ? last.rows : null;
  }

  private read({ from, days, words }: { from: string; days: number; words: string }) {
    const { customer } = this.data;
    const none = { last: '', times: 0, lastPrice: '0', lastDay: null, group: '', location: null, again: null };
    if (from === 'basket' && customer) {
      return this.orders.basket(customer.id, days).pipe(
        map((rows) =>
          rows.map((row): Offered => ({
            ...none,
            ...row,
            key: `basket ${row.item.id}`,
            last: dec(row.lastQuantity).div(row.factor).toFixed(),
          })),
        ),
      );
    }
    return this.orders.shelf({ q: words, ...(customer ? { customerId: customer.id } : {}) }).pipe(
      map(({ rows }) =>
        rows.map((row): Offered => ({
          ...none,
          ...row,
          key: `shelf ${row.item.id} ${row.location.id}`,
          unit: row.item.unit,
          factor: '1',
        })),
      ),
    );
  }

  protected readonly shown = computed(() => {
    const words = this.words().trim().toLowerCase();
    const rows = this.found().rows ?? [];
    for (const row of rows) this.known.set(row.key, row);
    return rows.filter(({ item }) => `${item.number} ${item.name} ${item.theirNumber}`.toLowerCase().includes(words));
  });
  protected readonly empty = computed(() => {
    const { rows, failed } = this.found();
    if (failed) return 'This could not be read just now; close this and try again.';
    if (rows === null) return 'Reading …';
    return this.from() === 'basket'
      ? 'Nothing was bought over that time; take a longer one, or look on the shelf.'
      : 'Nothing like that is on hand and free.';
  });

  protected set(key: string, typed: string): void {
    this.taken.update((taken) => new Map(taken).set(key, typed));
  }

  protected takeLast(): void {
    this.taken.update((taken) => new Map([...taken, ...this.shown().map((row) => [row.key, row.last] as const)]));
  }

  /** What is due again by how they bought it before. */
  protected readonly due = computed(() => this.shown().filter(({ again }) => again?.quantity));

  protected takeDue(): void {
    this.taken.update(
      (taken) =>
        new Map([
          ...taken,
          ...this.due().map(
            ({ key, again, factor }) => [key, dec(again!.quantity!).div(factor).round(2).toFixed()] as const,
          ),
        ]),
    );
  }

  protected problem(row: Offered): string {
    const typed = (this.taken().get(row.key) ?? '').trim();
    return typed === '' || this.quantityOf(typed) !== null ? '' : 'Not a quantity above zero.';
  }

  private quantityOf(typed: string): string | null {
    const read = readTypedDecimal(typed, 'quantity');
    return read !== null && dec(read).gt(0) ? read : null;
  }

  protected readonly chosen = computed(() =>
    [...this.taken()].flatMap(([key, typed]) => {
      const read = this.quantityOf(typed.trim());
      const row = this.known.get(key);
      return read === null || !row ? [] : [{ row, quantity: read }];
    }),
  );
  protected readonly act = computed(() => `Add ${counted(this.chosen().length, 'line')}`);

  protected take(): void {
    const lines = this.chosen().map(({ row, quantity: typed }): TypedLine => {
      // What is on the shelf goes from there.
      const route = row.key.startsWith('shelf') && row.item.routes.includes('stock') ? 'stock' : row.item.route;
      const locationId = row.location?.id ?? MAIN_LOCATION;
      return {
        ...blankLine(this.workDate()),
        ...ofItem(row.item),
        unit: row.unit,
        quantity: typed,
        route,
        locationId,
      };
    });
    if (lines.length > 0) this.ref.close(lines);
  }

  protected readonly atPlace = atPlace;
  protected readonly lastOf = (row: Offered) => inUnits(quantity(row.last), row.unit);
  protected readonly price = (value: string) => price(value, this.data.currency);
  protected readonly day = (value: string | null) => day(value, this.workDate());
  protected readonly quantity = quantity;
}
