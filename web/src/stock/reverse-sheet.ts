import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { DocumentRef } from '@core/kernel';
import * as contract from '@api/stock';
import { TextField } from '../kit/fields';
import { money } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';

export interface ReverseData {
  document: DocumentRef;
  currency: string;
}

/** Takes a receipt or shipment back: why, and every document of the same event that goes with it. // P1 L2 */
@Component({
  selector: 'k-reverse-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Reverse ' + data.document.number"
    sub="It stays as it was posted; a document that names it takes it back"
    act="Reverse it"
    [busy]="form.busy()"
    [refusals]="form.loose([reason_])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-text data-first label="Why" [(value)]="reason" [most]="200" [error]="form.at('reason', reason() !== '')" />
    @if (form.previewed()?.effects; as effects) {
      <table class="small">
        <thead>
          <tr>
            <th>Taken back</th>
            <th></th>
            <th class="num">Cost</th>
          </tr>
        </thead>
        <tbody>
          @for (each of effects.documents; track each.document.number) {
            <tr>
              <td>{{ each.document.number }}</td>
              <td>{{ each.document.kind === 'RC' ? 'receipt' : 'shipment' }}</td>
              <td class="num">{{ money(each.cost) }}</td>
            </tr>
          }
        </tbody>
      </table>
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    k-text {
      display: block;
      margin-bottom: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReverseSheet {
  protected readonly data = inject<ReverseData>(DIALOG_DATA);
  protected readonly reason = signal('');
  protected readonly reason_ = /^reason$/;
  protected readonly form = new ActForm(
    contract.reverseMovement,
    computed(() => ({
      kind: this.data.document.kind as 'RC' | 'SH',
      id: this.data.document.id,
      reason: this.reason(),
    })),
  );
  protected readonly money = (value: string) => money(value, this.data.currency);
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const both = effects.documents.length > 1 ? 'Both halves are taken back' : 'It is taken back whole';
    return effects.difference === '0'
      ? both
      : `${both}; the goods are worth ${this.data.currency} ${this.money(effects.difference)} less by now, a stock difference`;
  });
}
