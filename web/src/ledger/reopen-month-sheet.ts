import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { monthText } from '@core/kernel';
import * as contract from '@api/ledger';
import { ActForm, Sheet } from '../kit/act/sheet';
import { TextField } from '../kit/fields';

/** The month closed last is opened again, with why. */
@Component({
  selector: 'k-reopen-month',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Open ' + name + ' again'"
    sub="it can be posted into until it is closed anew"
    act="Open the month again"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-text
      data-first
      label="Why, for whoever looks at the books"
      [most]="200"
      [(value)]="reason"
      [error]="form.at('reason', reason() !== '')"
    />
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReopenMonthSheet {
  private readonly month = inject<string>(DIALOG_DATA);
  protected readonly name = monthText(this.month);
  protected readonly reason = signal('');
  protected readonly fields = [/^reason$/];
  protected readonly form = new ActForm(
    contract.reopenMonth,
    computed(() => ({ month: this.month, reason: this.reason() })),
  );
}
