import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import * as contract from '@api/orders';
import { ActForm, Sheet } from '../kit/act/sheet';
import { ChoiceField, TextField } from '../kit/fields';
import { counted } from '../kit/formats';
import { Orders, type OrderSheet } from './service';

type Supply = z.infer<typeof contract.orderSupplies.out>['rows'][number];
type Fate = Supply['fates'][number];

/** What may become of a purchase, in the words of where its goods go. */
const WORDS: Record<Fate, (supply: Supply) => string> = {
  cancel: () => 'cancel it too',
  loose: ({ straight, others }) =>
    others.length > 0
      ? `part it from this order; it stays for ${others.join(', ')}`
      : straight
        ? 'let it hang loose, for another order'
        : 'let it come, for our stock',
  stock: () => 'let it come to our stock instead',
};

/** Cancels an order, with why, and says what becomes of each purchase that was made for it. // S6 S8 */
@Component({
  selector: 'k-cancel-sheet',
  imports: [ChoiceField, Sheet, TextField],
  template: `<k-sheet
    [head]="'Cancel ' + order.number"
    sub="What it held goes back to its agreement and to stock"
    act="Cancel the order"
    [busy]="form.busy()"
    [refusals]="form.loose([fields])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-text data-first label="Why" [(value)]="reason" [most]="200" [error]="form.at('reason', reason() !== '')" />
    @for (supply of supplies(); track supply.purchase.id) {
      <k-choice
        [label]="supply.purchase.number + ' from ' + supply.vendor"
        [value]="fates().get(supply.purchase.id)!"
        (valueChange)="choose(supply, $event)"
        [options]="optionsOf(supply)"
        [error]="form.at('supplies.' + $index + '.fate')"
      />
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    k-choice {
      display: block;
      margin-top: 14px;
      max-width: 440px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CancelSheet {
  protected readonly order = inject<OrderSheet>(DIALOG_DATA);
  protected readonly reason = signal('');
  protected readonly supplies = signal<readonly Supply[]>([]);
  protected readonly fates = signal<ReadonlyMap<number, Fate>>(new Map());
  protected readonly fields = /^(reason|supplies\.\d+\.fate)$/;
  protected readonly form = new ActForm(
    contract.cancelOrder,
    computed(() => ({
      id: this.order.id,
      version: this.order.version,
      reason: this.reason(),
      supplies: this.supplies().map(({ purchase }) => ({
        purchaseId: purchase.id,
        fate: this.fates().get(purchase.id)!,
      })),
    })),
  );

  constructor() {
    this.form.begin(inject(Orders).supplies(this.order.id), (rows) => {
      this.supplies.set(rows);
      // What is least final comes first.
      this.fates.set(
        new Map(rows.map(({ purchase, fates }) => [purchase.id, fates.includes('loose') ? 'loose' : fates[0]!])),
      );
    });
  }

  protected optionsOf(supply: Supply) {
    return supply.fates.map((fate) => ({ value: fate, label: WORDS[fate](supply) }));
  }

  protected choose({ purchase }: Supply, fate: string): void {
    this.fates.update((fates) => new Map(fates).set(purchase.id, fate as Fate));
  }

  protected readonly effect = computed(() => {
    const lines = `${counted(this.order.lines.length, 'line')} for ${this.order.customer.name}`;
    const gone = [...this.fates().values()].filter((fate) => fate === 'cancel').length;
    return gone === 0 ? lines : `${lines}, and ${counted(gone, 'purchase')} cancelled`;
  });
}
