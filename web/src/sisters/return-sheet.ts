import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import * as contract from '@api/sisters';
import { ActForm, Sheet } from '../kit/act/sheet';
import { TextField } from '../kit/fields';
import type { OfferRow } from './service';
import { sentenceOf } from './words';

/** An offer goes back to its sender, with why. // X2 */
@Component({
  selector: 'k-return-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Return ' + data.offer.number"
    [sub]="sentence"
    act="Return it"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-text data-first label="Why" [(value)]="reason" [most]="200" [error]="form.at('reason', reason() !== '')" />
    <p class="faint">
      It stands in Today of {{ data.offer.sister.name }} with this reason. Once they change it, it comes back here.
    </p>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReturnSheet {
  protected readonly data = inject<{ offer: OfferRow }>(DIALOG_DATA);
  protected readonly reason = signal('');
  protected readonly fields = [/^reason$/];
  protected readonly sentence = sentenceOf(this.data.offer);
  protected readonly form = new ActForm(
    contract.returnOffer,
    computed(() => {
      const { id, kind, revision } = this.data.offer;
      return { id, kind, revision, reason: this.reason() };
    }),
  );
}
