import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { DocumentRef } from '@core/kernel';
import * as contract from '@api/stock';
import { TextField } from '../kit/fields';
import { ActForm, Sheet } from '../kit/act/sheet';

/** Takes back what a journal put right of stock. // W6 P1 */
@Component({
  selector: 'k-adjust-back-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Take ' + journal.number + ' back'"
    sub="It stays as it was posted; a journal that names it takes it back"
    act="Take it back"
    [busy]="form.busy()"
    [refusals]="form.loose([field])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-text data-first label="Why" [(value)]="reason" [most]="200" [error]="form.at('reason', reason() !== '')" />
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AdjustBackSheet {
  protected readonly journal = inject<DocumentRef>(DIALOG_DATA);
  protected readonly field = /^reason$/;
  protected readonly reason = signal('');
  protected readonly form = new ActForm(
    contract.takeBackAdjustment,
    computed(() => ({ journalId: this.journal.id, reason: this.reason() })),
  );
}
