import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { dec, isDecimalText } from '@core/kernel';
import * as contract from '@api/supply';
import { Session } from '../access';
import { CONTROL, NumberField } from '../kit/fields';
import { counted, day, money, price, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import { Bench, forText, offerPrice, REASONS, type BenchRow } from './service';

export interface PlaceData {
  rows?: readonly BenchRow[];
  /** Place what one order needs, or one planned purchase, read when the sheet opens. */
  orderId?: number;
  plannedId?: number;
}

/** Place lines with their vendors: which purchase orders that makes is shown before it is done. // L8 */
@Component({
  selector: 'k-place-sheet',
  imports: [NumberField, Sheet],
  template: `<k-sheet
    head="Place purchases"
    sub="One order for each vendor and place, tied to its sales lines"
    [act]="act()"
    [busy]="form.busy()"
    [refusals]="form.loose([quantities, vendorFields, typedFields])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <table class="small">
      <thead>
        <tr>
          <th></th>
          <th>For</th>
          <th>Item</th>
          <th class="num">Needs</th>
          <th class="num">Place</th>
          <th class="num">Price</th>
          <th>Needed on</th>
          <th>Vendor</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.key) {
          <tr>
            <td>
              <input
                type="checkbox"
                [attr.data-first]="$index === 0 ? '' : null"
                [checked]="vendors().has(row.key)"
                [disabled]="row.proposal === null"
                [attr.aria-label]="'Place ' + row.item.number + ' for ' + forText(row)"
                (change)="choose(row, $any($event.target).checked ? row.proposal!.vendorId : null)"
              />
            </td>
            <td class="whole">{{ forText(row) }}</td>
            <td class="whole" [title]="row.item.name">{{ row.item.number }}</td>
            <td class="num">{{ quantity(row.quantity) }}</td>
            <td class="part">
              @if (row.route === 'special' && row.planned === null && row.proposal !== null) {
                <k-number
                  [bare]="true"
                  [label]="'Place of ' + row.item.number + ' for ' + forText(row)"
                  [value]="parts().get(row.key) ?? row.quantity"
                  (valueChange)="part(row, $event)"
                  [error]="refusedAt(row)"
                />
              }
            </td>
            <td class="part">
              @if (vendors().has(row.key)) {
                <k-number
                  [bare]="true"
                  kind="price"
                  [placeholder]="foundPrice(row)"
                  [label]="'Price of ' + row.item.number + ' for ' + forText(row)"
                  [value]="prices().get(row.key) ?? ''"
                  (valueChange)="typePrice(row, $event)"
                />
              }
            </td>
            <td class="whole">{{ day(row.shipDate) }}</td>
            <td>
              @if (row.proposal === null) {
                <span class="bad">{{
                  row.offers.length === 0 ? 'nobody sells it to us' : 'nobody who is approved sells it'
                }}</span>
              } @else {
                <select
                  [attr.aria-label]="'Vendor of ' + row.item.number + ' for ' + forText(row)"
                  (change)="choose(row, +$any($event.target).value)"
                >
                  @for (offer of row.offers; track offer.vendorId) {
                    <option
                      [value]="offer.vendorId"
                      [selected]="(vendors().get(row.key) ?? row.proposal.vendorId) === offer.vendorId"
                    >
                      {{ offer.vendor }}, {{ priceOf(offer) }}, {{ offer.leadDays }} days{{
                        offer.approved ? '' : ' (not approved)'
                      }}
                    </option>
                  }
                </select>
                <span class="faint">{{ offerOf(row) }}</span>
              }
            </td>
          </tr>
          @if (vendors().has(row.key) && asksWhy(row)) {
            <tr class="typed">
              <td></td>
              <td colspan="7">
                <input
                  class="why"
                  maxlength="120"
                  placeholder="Why another price, or more than is needed"
                  [attr.aria-label]="'Why, for ' + row.item.number + ' of ' + forText(row)"
                  [value]="whys().get(row.key) ?? ''"
                  (input)="why(row, $any($event.target).value)"
                />
              </td>
            </tr>
          }
          @if (refusedAt(row); as refused) {
            <tr>
              <td colspan="8" class="bad" role="alert">{{ refused }}</td>
            </tr>
          }
        }
      </tbody>
    </table>
    @if (form.previewed()?.effects; as effects) {
      <h3>This makes</h3>
      @for (purchase of effects.purchases; track $index) {
        <p>
          <b>{{ purchase.vendor }}</b> to {{ purchase.shipTo }}: {{ counted(purchase.lines.length, 'line') }},
          {{ purchase.currency }} {{ money(purchase.net, purchase.currency) }}
          @for (line of purchase.lines; track $index) {
            @if (line.spare !== '0') {
              <span class="need"
                >{{ quantity(line.spare) }} of {{ line.item }} more for our stock: they sell
                {{ quantity(line.quantity) }}</span
              >
            }
            @if (line.agreement) {
              <span class="faint">{{ price(line.unitPrice, purchase.currency) }} by {{ line.agreement }}</span>
            }
            @if (line.late) {
              <span class="need">{{ day(line.dueDate) }} is later than the ship date</span>
            }
          }
        </p>
      }
    }
  </k-sheet>`,
  styles: [
    CONTROL,
    `
      select {
        height: 26px;
        margin-top: 5px;
      }
      td .faint {
        display: block;
        padding-bottom: 4px;
      }
      td.whole {
        white-space: nowrap;
      }
      td.part {
        width: 78px;
      }
      tr.typed td {
        border-top: 0;
        padding-top: 0;
      }
      input.why {
        width: 100%;
        height: 26px;
      }
      input[type='checkbox'] {
        width: 16px;
        height: 16px;
        accent-color: var(--deep);
        vertical-align: middle;
      }
      p {
        padding: 4px 0;
      }
    `,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlaceSheet {
  private readonly data = inject<PlaceData>(DIALOG_DATA);
  private readonly session = inject(Session);
  private readonly workDate = this.session.workDate;
  protected readonly rows = signal<readonly BenchRow[]>([]);
  /** The chosen vendor of each row that is to be placed, by its key. */
  protected readonly vendors = signal<ReadonlyMap<string, number>>(new Map());
  /** What is placed of a special order where that is not all of it. // L8 */
  protected readonly parts = signal<ReadonlyMap<string, string>>(new Map());
  /** Prices that were typed over those found, and why, by row. */
  protected readonly prices = signal<ReadonlyMap<string, string>>(new Map());
  protected readonly whys = signal<ReadonlyMap<string, string>>(new Map());
  private readonly chosen = computed(() => this.rows().filter((row) => this.vendors().has(row.key)));
  private readonly lines = computed(() => this.chosen().filter((row) => row.planned === null));
  private readonly planned = computed(() => this.chosen().filter((row) => row.planned !== null));
  protected readonly vendorFields = /^(lines|planned)\.\d+\.vendorId$/;
  protected readonly typedFields = /^(lines|planned)\.\d+\.(price|reason)$/;
  protected readonly quantities = /^lines\.\d+\.quantity$/;
  protected readonly form = new ActForm(
    contract.placePurchases,
    computed(() => ({
      lines: this.lines().map(({ key, orderLineId }) => ({
        orderLineId: orderLineId!,
        vendorId: this.vendors().get(key)!,
        ...(this.parts().has(key) ? { quantity: this.parts().get(key)! } : {}),
        ...this.typedFor(key),
      })),
      planned: this.planned().map(({ key, planned }) => ({
        plannedId: planned!.id,
        vendorId: this.vendors().get(key)!,
        ...this.typedFor(key),
      })),
    })),
  );
  protected readonly act = computed(() => {
    const made = this.form.previewed()?.effects?.purchases.length ?? 0;
    return made > 1 ? `Place ${made} purchase orders` : 'Place the purchase order';
  });
  protected readonly forText = forText;
  protected readonly quantity = quantity;
  protected readonly price = price;
  protected readonly priceOf = (offer: BenchRow['offers'][number]) =>
    offerPrice(offer, this.session.company()?.currency ?? '');
  protected readonly money = money;
  protected readonly counted = counted;
  protected readonly day = (value: string) => day(value, this.workDate());

  constructor() {
    if (this.data.rows) this.take(this.data.rows);
    else this.form.begin(inject(Bench).list(this.data), ({ rows }) => this.take(rows));
  }

  private take(rows: readonly BenchRow[]): void {
    this.rows.set(rows);
    this.vendors.set(new Map(rows.flatMap((row) => (row.proposal ? [[row.key, row.proposal.vendorId] as const] : []))));
  }

  protected part(row: BenchRow, quantity: string): void {
    this.parts.update((parts) => new Map(parts).set(row.key, quantity));
  }

  protected typePrice(row: BenchRow, price: string): void {
    this.prices.update((prices) => new Map(prices).set(row.key, price));
  }

  protected why(row: BenchRow, reason: string): void {
    this.whys.update((reasons) => new Map(reasons).set(row.key, reason));
  }

  /** Another price, or more than is needed, says why. */
  protected asksWhy(row: BenchRow): boolean {
    const part = this.parts().get(row.key) ?? '';
    const more = isDecimalText(part, 'quantity') && dec(part).gt(row.quantity);
    return more || (this.prices().get(row.key) ?? '') !== '';
  }

  private typedFor(key: string): { price?: string; reason?: string } {
    const [price, reason] = [this.prices().get(key) ?? '', this.whys().get(key) ?? ''];
    return { ...(price === '' ? {} : { price }), ...(reason === '' ? {} : { reason }) };
  }

  private chosenOffer(row: BenchRow) {
    const vendorId = this.vendors().get(row.key) ?? row.proposal?.vendorId;
    return row.offers.find((offer) => offer.vendorId === vendorId);
  }

  /** What the chosen vendor asks, as it stands where nothing is typed. */
  protected foundPrice(row: BenchRow): string {
    const offer = this.chosenOffer(row);
    return offer ? price(offer.unitPrice, offer.currency) : '';
  }

  /** What the chosen vendor asks, how long they take, and why they were proposed. */
  protected offerOf(row: BenchRow): string {
    const offer = this.chosenOffer(row);
    if (!offer || !row.proposal) return '';
    const why = offer.vendorId === row.proposal.vendorId ? [REASONS[row.proposal.reason]] : [];
    const own = this.session.company()?.currency ?? '';
    const abroad = offer.currency === own ? [] : [this.priceOf(offer)];
    return [...abroad, counted(offer.leadDays, 'day'), ...why].join(', ');
  }

  protected refusedAt(row: BenchRow): string {
    const line = row.planned ? `planned.${this.planned().indexOf(row)}` : `lines.${this.lines().indexOf(row)}`;
    const reason = this.whys().get(row.key) ?? '';
    return (
      this.form.at(`${line}.quantity`) ||
      this.form.at(`${line}.vendorId`) ||
      this.form.at(`${line}.price`) ||
      this.form.at(`${line}.reason`, reason !== '')
    );
  }

  protected choose(row: BenchRow, vendorId: number | null): void {
    const vendors = new Map(this.vendors());
    if (vendorId === null) vendors.delete(row.key);
    else vendors.set(row.key, vendorId);
    this.vendors.set(vendors);
  }
}
