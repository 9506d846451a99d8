import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import * as contract from '@api/serial';
import { ActForm, Sheet } from '../kit/act/sheet';
import { TextField } from '../kit/fields';
import type { PieceSheet } from './words';

/** A mistyped number is written as it is. // P6 */
@Component({
  selector: 'k-correct-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Correct ' + piece.number"
    [sub]="piece.item.number + ', ' + piece.item.name"
    act="Write it so"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="fields">
      <k-text
        data-first
        label="The number as it is"
        [(value)]="number"
        [most]="40"
        [error]="form.at('number', number() !== piece.number)"
      />
      <k-text label="Why" [(value)]="reason" [most]="200" [error]="form.at('reason', reason() !== '')" />
    </div>
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CorrectSheet {
  protected readonly piece = inject<PieceSheet>(DIALOG_DATA);
  protected readonly number = signal(this.piece.number);
  protected readonly reason = signal('');
  protected readonly fields = [/^number$/, /^reason$/];
  protected readonly form = new ActForm(
    contract.correctNumber,
    computed(() => ({
      serialId: this.piece.id,
      was: this.piece.number,
      number: this.number(),
      reason: this.reason(),
    })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    return effects ? `${effects.was} is ${effects.number} from now on, wherever it is named` : '';
  });
}
