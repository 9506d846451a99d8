import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import * as contract from '@api/serial';
import { ActForm, Sheet } from '../kit/act/sheet';
import { ChoiceField } from '../kit/fields';
import type { PieceSheet } from './words';

/** Which product of its order a used piece is part of. // P6 */
@Component({
  selector: 'k-part-sheet',
  imports: [ChoiceField, Sheet],
  template: `<k-sheet
    [head]="'What ' + piece.number + ' is part of'"
    [sub]="piece.item.number + ', used in ' + (piece.work?.number ?? '')"
    act="It is in this one"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="fields">
      <k-choice data-first label="Product" [(value)]="product" [options]="products" [error]="form.at('productId')" />
    </div>
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PartSheet {
  protected readonly piece = inject<PieceSheet>(DIALOG_DATA);
  protected readonly products = [
    { value: '', label: 'none of them' },
    ...this.piece.products.map(({ id, number }) => ({ value: String(id), label: number })),
  ];
  protected readonly product = signal(String(this.piece.within?.id ?? ''));
  protected readonly fields = [/^productId$/];
  protected readonly form = new ActForm(
    contract.putPart,
    computed(() => ({
      serialId: this.piece.id,
      productId: this.product() === '' ? null : Number(this.product()),
    })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    return effects.product
      ? `${this.piece.number} is in ${effects.product}`
      : `${this.piece.number} is in none of them`;
  });
}
