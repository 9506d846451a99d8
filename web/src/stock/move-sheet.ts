import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { dec, isDecimalText, type DocumentRef } from '@core/kernel';
import type * as z from 'zod';
import * as contract from '@api/stock';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { NumberField } from '../kit/fields';
import { counted, day, money, price, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import { NumbersField } from '../serial';

export interface MoveData {
  /** The document the person stands at. */
  end: 'purchase' | 'order';
  document: DocumentRef;
  party: string;
  lines: {
    id: number;
    lineNo: number;
    item: { id: number; number: string; name: string; unit: string };
    /** Its pieces have numbers; where they come to or leave, null for a drop shipment. // P6 */
    byNumber: boolean;
    locationId: number | null;
    open: string;
    note: string;
  }[];
}

type Waiting = z.infer<typeof contract.alsoWaiting.out>['orders'];

/** Receive on a purchase order, or ship on a sales order: for a drop shipment the same event. // L2 */
@Component({
  selector: 'k-move-sheet',
  imports: [NumberField, NumbersField, Sheet],
  template: `<k-sheet
    [head]="(data.end === 'purchase' ? 'Receive ' : 'Ship ') + data.document.number"
    [sub]="data.party"
    [act]="data.end === 'purchase' ? 'Receive' : 'Ship'"
    [busy]="form.busy()"
    [refusals]="loose()"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <table class="small">
      <thead>
        <tr>
          <th></th>
          <th>Item</th>
          <th>What</th>
          <th class="num">Open</th>
          <th class="num">Now</th>
          <th>How</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.line.id) {
          <tr>
            <td class="faint">{{ row.line.lineNo }}</td>
            <td>{{ row.line.item.number }}</td>
            <td>{{ row.line.item.name }}</td>
            <td class="num">{{ row.open }}</td>
            <td class="narrow">
              <k-number
                [bare]="true"
                [label]="'Quantity of ' + row.line.item.number"
                [value]="row.typed"
                (valueChange)="set($index, $event)"
                [error]="row.refused"
                [attr.data-first]="$index === 0 ? '' : null"
              />
            </td>
            <td class="faint">{{ row.line.note }}</td>
          </tr>
          @if (row.refused) {
            <tr>
              <td colspan="6" class="bad" role="alert">{{ row.refused }}</td>
            </tr>
          }
          @if (row.line.byNumber && row.some) {
            <tr>
              <td></td>
              <td colspan="5">
                <k-numbers-field
                  [item]="row.line.item"
                  [label]="'Serial numbers of ' + row.line.item.number"
                  [way]="row.line.locationId === null || data.end === 'purchase' ? 'in' : 'out'"
                  [locationId]="row.line.locationId ?? 0"
                  [lineId]="data.end === 'order' ? row.line.id : null"
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
    @if (others().length > 0) {
      <h3>Also here for {{ data.party }}, to the same address</h3>
      <table class="small">
        <tbody>
          @for (order of others(); track order.order.id) {
            @for (line of order.lines; track line.id) {
              <tr>
                <td>{{ order.order.number }} line {{ line.lineNo }}</td>
                <td>{{ line.item.number }}</td>
                <td>{{ line.item.name }}</td>
                <td>{{ day(line.shipDate) }}</td>
                <td class="num">{{ quantity(line.open) }}</td>
                <td class="narrow">
                  <k-number
                    [bare]="true"
                    [label]="'Quantity of ' + order.order.number + ' line ' + line.lineNo"
                    [value]="further().get(line.id) ?? ''"
                    (valueChange)="setFurther(line.id, $event)"
                    [error]="furtherError(line.id)"
                  />
                </td>
                <td class="faint">{{ line.held === '0' ? 'from stock' : quantity(line.held) + ' held for it' }}</td>
              </tr>
              @if (line.byNumber && goes(line.id)) {
                <tr>
                  <td></td>
                  <td colspan="6">
                    <k-numbers-field
                      [item]="line.item"
                      [label]="'Serial numbers of ' + order.order.number + ' line ' + line.lineNo"
                      way="out"
                      [locationId]="line.locationId"
                      [lineId]="line.id"
                      [many]="further().get(line.id) ?? ''"
                      [value]="furtherNumbers().get(line.id) ?? []"
                      (valueChange)="setFurtherNumbers(line.id, $event)"
                      [proposed]="proposedFor(line)"
                      [error]="furtherError(line.id, 'numbers')"
                    />
                  </td>
                </tr>
              }
              @if (furtherError(line.id); as refused) {
                <tr>
                  <td colspan="7" class="bad" role="alert">{{ refused }}</td>
                </tr>
              }
            }
          }
        </tbody>
      </table>
      <button type="button" class="act" (click)="takeAll()">All of it goes with it</button>
    }
    @if (repriced().length > 0) {
      <h3>Priced on the ship date</h3>
      <table class="small">
        <tbody>
          @for (line of repriced(); track line.orderLineId) {
            <tr>
              <td>{{ line.item }}</td>
              <td class="num faint">{{ line.was }}</td>
              <td class="num">{{ line.is }}</td>
              <td class="num">{{ line.difference }} on the line</td>
            </tr>
          }
        </tbody>
      </table>
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MoveSheet {
  protected readonly data = inject<MoveData>(DIALOG_DATA);
  private readonly session = inject(Session);
  private readonly currency = this.session.company()?.currency ?? 'MYR';
  protected readonly typed = signal(this.data.lines.map((line) => (dec(line.open).gt(0) ? line.open : '')));
  /** The numbers that were said of each line. // P6 */
  protected readonly numbers = signal<readonly (readonly string[])[]>(this.data.lines.map(() => []));
  private readonly lines = computed(() =>
    this.data.lines.map((line, index) => ({
      lineId: line.id,
      quantity: this.typed()[index]!,
      ...(this.numbers()[index]!.length > 0 ? { numbers: [...this.numbers()[index]!] } : {}),
    })),
  );
  /** Other orders whose goods could go out with it, and what is typed for their lines. // L3 */
  protected readonly others = signal<Waiting>([]);
  protected readonly further = signal<ReadonlyMap<number, string>>(new Map());
  /** The numbers that were said of them. // P6 */
  protected readonly furtherNumbers = signal<ReadonlyMap<number, readonly string[]>>(new Map());
  private readonly sentOthers = computed(() =>
    this.others().map(({ order, lines }) => ({
      orderId: order.id,
      lines: lines.map(({ id }) => ({
        lineId: id,
        quantity: this.further().get(id) ?? '',
        ...(this.furtherNumbers().get(id)?.length ? { numbers: [...this.furtherNumbers().get(id)!] } : {}),
      })),
    })),
  );
  protected readonly form = formOf(this.data, this.lines, this.sentOthers);
  protected readonly rows = computed(() =>
    this.data.lines.map((line, index) => ({
      line,
      open: quantity(line.open),
      typed: this.typed()[index]!,
      refused: this.form.at(`lines.${index}.quantity`, this.typed()[index] !== ''),
      some: isDecimalText(this.typed()[index]!, 'quantity') && dec(this.typed()[index]!).gt(0),
      wrong: this.form.at(`lines.${index}.numbers`, true),
      proposed: this.proposedFor(line),
    })),
  );
  protected readonly loose = computed(() => this.form.loose([/lines\.\d+\.(quantity|numbers)$/]));
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const receipts = effects.receipts.length;
    const shipments = effects.shipments.length;
    const moved = shipments > 0 ? effects.shipments : effects.receipts;
    const told = moved.every(({ cost }) => cost !== '');
    const cost = moved.reduce((sum, document) => sum.plus(document.cost || 0), dec(0));
    const pieces = [...this.typed(), ...this.further().values()].filter(
      (typed) => isDecimalText(typed, 'quantity') && dec(typed).gt(0),
    ).length;
    const documents = [
      ...(receipts > 0 ? [counted(receipts, 'receipt')] : []),
      ...(shipments > 0 ? [counted(shipments, 'shipment')] : []),
    ].join(' and ');
    const first = (effects.assembled ?? []).map(
      (each) => `${quantity(each.quantity)} assembled on ${each.document.number}`,
    );
    const words = [...first, `${counted(pieces, 'line')}: ${documents}`].join(', ');
    return told ? `${words}, cost ${this.currency} ${money(cost.toFixed(), this.currency)}` : words;
  });

  /** Prices found again on the day it ships, before they are. // R3 */
  protected readonly repriced = computed(() =>
    (this.form.previewed()?.effects?.repriced ?? []).map((line) => ({
      ...line,
      was: price(line.was, this.currency),
      is: price(line.is, this.currency),
      difference: `${dec(line.difference).lt(0) ? '−' : '+'}${money(dec(line.difference).abs().toFixed(), this.currency)}`,
    })),
  );

  constructor() {
    if (this.data.end !== 'order') return;
    inject(Api)
      .call(contract.alsoWaiting, { params: { id: this.data.document.id } })
      .pipe(takeUntilDestroyed())
      .subscribe({ next: ({ orders }) => this.others.set(orders), error: () => undefined });
  }

  /** The pieces the act would take or make for a line by itself. */
  protected proposedFor(line: { id: number; item: { id: number } }): string[] {
    const moved = (this.form.previewed()?.effects?.numbers ?? []).filter(({ itemId }) => itemId === line.item.id);
    const own = this.data.end === 'order' ? moved.filter(({ lineId }) => lineId === line.id) : moved;
    return own.map(({ number }) => number);
  }

  protected setNumbers(index: number, numbers: readonly string[]): void {
    this.numbers.update((all) => all.map((each, at) => (at === index ? numbers : each)));
  }

  protected setFurther(lineId: number, typed: string): void {
    this.further.update((further) => new Map(further).set(lineId, typed));
  }

  protected setFurtherNumbers(lineId: number, numbers: readonly string[]): void {
    this.furtherNumbers.update((further) => new Map(further).set(lineId, numbers));
  }

  /** Whether any of it goes along. */
  protected readonly goes = (lineId: number) => {
    const typed = this.further().get(lineId) ?? '';
    return isDecimalText(typed, 'quantity') && dec(typed).gt(0);
  };

  protected takeAll(): void {
    this.further.set(new Map(this.others().flatMap(({ lines }) => lines.map((line) => [line.id, line.open]))));
  }

  protected furtherError(lineId: number, of: 'quantity' | 'numbers' = 'quantity'): string {
    for (const [index, { lines }] of this.others().entries()) {
      const at = lines.findIndex((line) => line.id === lineId);
      if (at >= 0) return this.form.at(`others.${index}.lines.${at}.${of}`, this.further().has(lineId));
    }
    return '';
  }

  protected readonly quantity = quantity;
  protected readonly day = (value: string) => day(value, this.session.workDate());

  protected set(index: number, typed: string): void {
    this.typed.update((all) => all.map((each, at) => (at === index ? typed : each)));
  }
}

/** The act's form for whichever end it is. */
function formOf(
  data: MoveData,
  lines: () => { lineId: number; quantity: string; numbers?: string[] }[],
  others: () => { orderId: number; lines: { lineId: number; quantity: string; numbers?: string[] }[] }[],
): ActForm<typeof contract.receiveGoods> | ActForm<typeof contract.shipLines> {
  return data.end === 'purchase'
    ? new ActForm(
        contract.receiveGoods,
        computed(() => ({ purchaseId: data.document.id, lines: lines() })),
      )
    : new ActForm(
        contract.shipLines,
        computed(() => ({
          orderId: data.document.id,
          lines: lines(),
          ...(others().length > 0 ? { others: others() } : {}),
        })),
      );
}
